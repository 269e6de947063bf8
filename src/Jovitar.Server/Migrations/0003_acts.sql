-- Acts: every change of what people made, with who, when, what, before and after. The rows of act_change are written by the
-- triggers that act_track makes, in the transaction of the change and a statement at a time; without an open act
-- (setting jovitar.act of the transaction) such a change is refused, so nothing is written past them.
create table act (
  id uuid primary key,
  made timestamptz not null,
  -- The account's key; null for a worker, who then is its name.
  account uuid references account on delete set null,
  who text not null,
  kind text not null,
  sentence text not null,
  photos int not null default 0,
  -- One of the photos it concerns, to know it by.
  lead uuid,
  -- What arrives is part of the act that began its intake.
  within uuid references act,
  undoes uuid references act,
  -- Written before the other's own row is.
  undone_by uuid references act deferrable initially deferred
);
create index act_whole on act (id desc) where within is null;
create index act_within on act (within, id) where within is not null;

-- No foreign keys: the act's row is written last, and what a change speaks of may be gone.
create table act_change (
  act uuid not null,
  -- The table, its row, and the other end of a row that links two things.
  kind text not null,
  thing uuid not null,
  other uuid,
  -- Fields that differ; before is null for what was made, after for what was taken away.
  before jsonb,
  after jsonb
);
create index act_change_act on act_change (act, kind);
create index act_change_thing on act_change (thing, act desc);
create index act_change_other on act_change (other, act desc) where other is not null;

-- What is recorded: the table, the columns that name its rows, the fields, and the field that says that a thing is gone.
create table act_tracked (
  kind text primary key,
  thing text not null,
  other text,
  fields text[] not null,
  -- Words whose origin is kept besides them in the column said.
  words text[] not null default '{}',
  gone text,
  -- For a row that links two things: the tables of its ends.
  ends text[]
);

create function act_open() returns uuid language plpgsql stable as $$
declare
  open uuid := nullif(current_setting('jovitar.act', true), '')::uuid;
begin
  if open is null then
    raise exception 'This is written past the acts: open one first.' using errcode = 'JV001';
  end if;
  return open;
end $$;

create function act_track(wanted text) returns void language plpgsql as $make$
declare
  t act_tracked;
  other_of_new text;
  other_of_old text;
  same_row text;
  made text;
  taken text;
  before text;
  after text;
  differs text;
begin
  select * into strict t from act_tracked where kind = wanted;
  other_of_new := case when t.other is null then 'null::uuid' else format('n.%I', t.other) end;
  other_of_old := case when t.other is null then 'null::uuid' else format('o.%I', t.other) end;
  same_row := format('n.%1$I = o.%1$I', t.thing) || case when t.other is null then '' else format(' and n.%1$I = o.%1$I', t.other) end;
  select string_agg(format('%L, n.%I', f, f), ', '), string_agg(format('%L, o.%I', f, f), ', '),
         string_agg(format('o.%1$I is distinct from n.%1$I', f), ' or '),
         string_agg(
           case when f = any(t.words)
             then format('case when o.%1$I is distinct from n.%1$I then jsonb_build_object(%1$L, o.%1$I, %2$L, o.said -> %1$L) else ''{}'' end', f, 'said.' || f)
             else format('case when o.%1$I is distinct from n.%1$I then jsonb_build_object(%1$L, o.%1$I) else ''{}'' end', f) end, ' || '),
         string_agg(format('case when o.%1$I is distinct from n.%1$I then jsonb_build_object(%1$L, n.%1$I) else ''{}'' end', f), ' || ')
    into made, taken, differs, before, after
    from unnest(t.fields) as f;
  -- A photo is made with nothing said of it: what its row holds at first is the file's, not a change.
  made := case when t.kind = 'photo' then '' else made end;

  execute format($f$
    create or replace function act_note_%1$s_made() returns trigger language plpgsql as $t$
    declare
      open uuid;
    begin
      if exists (select from became) then
        open := act_open();
        insert into act_change (act, kind, thing, other, after)
        select open, %1$L, n.%2$I, %3$s, jsonb_build_object(%4$s) from became as n;
      end if;
      return null;
    end $t$
    $f$, t.kind, t.thing, other_of_new, made);
  execute format($f$
    create or replace function act_note_%1$s_taken() returns trigger language plpgsql as $t$
    declare
      open uuid;
    begin
      if exists (select from was) then
        open := act_open();
        insert into act_change (act, kind, thing, other, before)
        select open, %1$L, o.%2$I, %3$s, jsonb_build_object(%4$s) from was as o;
      end if;
      return null;
    end $t$
    $f$, t.kind, t.thing, other_of_old, taken);
  execute format($f$
    create or replace function act_note_%1$s_changed() returns trigger language plpgsql as $t$
    declare
      open uuid;
    begin
      if exists (select from was as o join became as n on %5$s where %6$s) then
        open := act_open();
        insert into act_change (act, kind, thing, other, before, after)
        select open, %1$L, n.%2$I, %3$s, %4$s, %7$s from was as o join became as n on %5$s where %6$s;
      end if;
      return null;
    end $t$
    $f$, t.kind, t.thing, other_of_new, before, same_row, differs, after);
  execute format('create or replace trigger act_made after insert on %1$I referencing new table as became for each statement execute function act_note_%1$s_made()', t.kind);
  execute format('create or replace trigger act_taken after delete on %1$I referencing old table as was for each statement execute function act_note_%1$s_taken()', t.kind);
  execute format('create or replace trigger act_changed after update on %1$I referencing old table as was new table as became for each statement execute function act_note_%1$s_changed()', t.kind);
end $make$;

-- The bin holds all kinds of things. A thing in it is marked in its own row, and stands nowhere: the rows that link it to
-- others are held until it, and what they link it to, are both back.
create table held (
  kind text not null,
  thing uuid not null,
  other uuid not null,
  value jsonb not null,
  primary key (kind, thing, other)
);
create index held_other on held (other);

alter table photo
  add column binned timestamptz,
  -- Which word came from where: file, intake:ID, person. A word that is not named: nobody knows any more.
  add column said jsonb not null default '{}';
update photo as p set binned = b.binned, state = b.state from bin as b where b.photo = p.id;
update photo set state = 'waiting' where state = 'binned';
alter table photo drop constraint photo_state_check;
alter table photo add constraint photo_state_check check (state in ('waiting', 'ready', 'failed'));
drop index photo_to_do;
create index photo_to_do on photo (stage, wanted desc, arrived) where stage < 2 and state <> 'failed' and binned is null;

insert into held (kind, thing, other, value)
select 'album_photo', (h ->> 'album')::uuid, b.photo, jsonb_build_object('place', (h ->> 'place')::bigint << 32, 'said_by', 'person')
  from bin as b cross join jsonb_array_elements(b.held -> 'albums') as h where exists (select from album as a where a.id = (h ->> 'album')::uuid)
union all
select 'photo_tag', b.photo, h::uuid, jsonb_build_object('said_by', 'person')
  from bin as b cross join jsonb_array_elements_text(b.held -> 'tags') as h where exists (select from tag as t where t.id = h::uuid)
union all
select 'photo_category', b.photo, h::uuid, jsonb_build_object('said_by', 'person')
  from bin as b cross join jsonb_array_elements_text(b.held -> 'categories') as h where exists (select from category as c where c.id = h::uuid)
union all
select 'cover', h::uuid, b.photo, '{}'
  from bin as b cross join jsonb_array_elements_text(b.held -> 'covers') as h where exists (select from album as a where a.id = h::uuid);

alter table bin rename to bin_before;
create table bin (
  kind text not null,
  thing uuid not null,
  binned timestamptz not null,
  binned_by text not null,
  act uuid,
  -- What it went in with: a page with its album, a category with the one above it.
  within uuid,
  primary key (kind, thing)
);
insert into bin (kind, thing, binned, binned_by) select 'photo', photo, binned, binned_by from bin_before;
drop table bin_before;
create index bin_latest on bin (binned desc, thing) where within is null;
create index bin_within on bin (within) where within is not null;

alter table album add column binned timestamptz;
alter table category add column binned timestamptz;
alter table tag add column binned timestamptz;
alter table page add column binned timestamptz;
alter table file add column binned timestamptz;
create index photo_binned on photo (binned) where binned is not null;
create index category_parent_here on category (parent) where binned is null;

-- An address in the bin is free for others; who comes back finds another when it is taken.
alter table page drop constraint page_address_key;
create unique index page_address on page (address) where binned is null;
-- Whether a draft differs from what visitors have is seen by comparing them.
alter table page drop column published_edit;

-- Places have room between them, so that moving a few photos writes those few.
alter table album_photo alter column place type bigint using place::bigint << 32;
alter table album_file alter column place type bigint using place::bigint << 32;
alter table category alter column place type bigint using place::bigint << 32;
alter table album_photo add column said_by text not null default 'person';
alter table photo_tag add column said_by text not null default 'person';
alter table photo_category add column said_by text not null default 'person';

-- What an intake had said before this was kept: its words, tags, categories and album where they are still as it said.
update photo as p
   set said = (case when i.credit <> '' and p.credit = i.credit then jsonb_build_object('credit', 'intake:' || i.id) else '{}' end)
           || (case when i.copyright <> '' and p.copyright = i.copyright then jsonb_build_object('copyright', 'intake:' || i.id) else '{}' end)
           || (case when i.licence <> '' and p.licence = i.licence then jsonb_build_object('licence', 'intake:' || i.id) else '{}' end)
           || (case when i.origin <> '' and p.origin = i.origin then jsonb_build_object('origin', 'intake:' || i.id) else '{}' end)
  from intake_file as f join intake as i on i.id = f.intake
 where f.photo = p.id and f.outcome = 'arrived' and (i.credit <> '' or i.copyright <> '' or i.licence <> '' or i.origin <> '');
update photo_tag as pt set said_by = 'intake:' || i.id
  from intake_file as f join intake as i on i.id = f.intake cross join unnest(i.tags) as w(name) join tag as t on t.key = lower(w.name)
 where f.photo = pt.photo and f.outcome = 'arrived' and pt.tag = t.id;
update photo_category as pc set said_by = 'intake:' || i.id
  from intake_file as f join intake as i on i.id = f.intake
 where f.photo = pc.photo and f.outcome = 'arrived' and pc.category = any(i.categories);
update album_photo as ap set said_by = 'intake:' || i.id
  from intake_file as f join intake as i on i.id = f.intake
 where f.photo = ap.photo and f.outcome = 'arrived' and ap.album = i.album;

-- Nothing that people made goes by itself because something else does.
alter table album_photo drop constraint album_photo_album_fkey, drop constraint album_photo_photo_fkey,
  add foreign key (album) references album, add foreign key (photo) references photo;
alter table photo_tag drop constraint photo_tag_photo_fkey, drop constraint photo_tag_tag_fkey,
  add foreign key (photo) references photo, add foreign key (tag) references tag;
alter table photo_category drop constraint photo_category_photo_fkey, drop constraint photo_category_category_fkey,
  add foreign key (photo) references photo, add foreign key (category) references category;
alter table album_file drop constraint album_file_album_fkey, drop constraint album_file_file_fkey,
  add foreign key (album) references album, add foreign key (file) references file;
alter table category drop constraint category_parent_fkey, add foreign key (parent) references category;
alter table page drop constraint page_album_fkey, add foreign key (album) references album;
alter table album drop constraint album_cover_fkey, add foreign key (cover) references photo;
alter table intake drop constraint intake_album_fkey, add foreign key (album) references album;
alter table intake_file drop constraint intake_file_photo_fkey, drop constraint intake_file_file_fkey,
  add foreign key (photo) references photo on delete set null, add foreign key (file) references file on delete set null;

-- The act that began an intake; what arrives through it is within.
alter table intake add column act uuid references act deferrable initially deferred;
create index intake_act on intake (act);

insert into act_tracked (kind, thing, other, fields, words, gone, ends) values
  ('photo', 'id', null, '{title,caption,alt,credit,creator,copyright,licence,origin,place,rating,decision,state,binned}', '{title,caption,alt,credit,creator,copyright,licence,origin,place,rating}', 'binned', null),
  ('tag', 'id', null, '{name,key,binned}', '{}', 'binned', null),
  ('category', 'id', null, '{parent,name,place,binned}', '{}', 'binned', null),
  ('album', 'id', null, '{working_name,title,description,cover,binned}', '{}', 'binned', null),
  ('page', 'id', null, '{album,address,draft,published,published_at,binned}', '{}', 'binned', null),
  ('file', 'id', null, '{file_name,binned}', '{}', 'binned', null),
  ('intake', 'id', null, '{album,credit,copyright,licence,origin,tags,categories,taken_back}', '{}', 'taken_back', null),
  ('photo_tag', 'photo', 'tag', '{said_by}', '{}', null, '{photo,tag}'),
  ('photo_category', 'photo', 'category', '{said_by}', '{}', null, '{photo,category}'),
  ('album_photo', 'album', 'photo', '{place,said_by}', '{}', null, '{album,photo}'),
  ('album_file', 'album', 'file', '{place}', '{}', null, '{album,file}');
select act_track(kind) from act_tracked;

-- Of near repeats only the decision is people's.
insert into act_tracked (kind, thing, other, fields, ends) values ('photo_near', 'photo', 'near', '{settled}', '{photo,photo}');
select act_track('photo_near');
drop trigger act_made on photo_near;
drop trigger act_taken on photo_near;

-- Originals whose row is about to be written or removed; what a killed process leaves of them is looked after.
create table original_doubt (
  hash bytea primary key,
  since timestamptz not null
);
create index original_doubt_since on original_doubt (since);

-- Who began an intake, by the key of their account; begun_by stays what they were called.
alter table intake add column account uuid references account on delete set null;

-- What the file says where an intake says something else: it comes back when the intake does not say it any more.
alter table photo add column file_words jsonb not null default '{}';

-- Whose claim it is: a worker whose claim ran out cannot finish what another has taken over.
alter table photo add column claim uuid;
alter table unpacking add column claim uuid;

-- Which watched folder an intake is of: two folders may have the same name.
alter table intake add column watched uuid references watched_folder on delete set null;
create index intake_watched on intake (watched, begun desc) where watched is not null;
update watched_folder set path = rtrim(path, '/') where path like '%_/' and not exists (select from watched_folder as w where w.path = rtrim(watched_folder.path, '/'));
delete from watched_folder where path like '%_/';
