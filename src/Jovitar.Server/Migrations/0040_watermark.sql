-- Albums for everyone with their link.
alter table album drop constraint album_audience_check;
alter table album add constraint album_audience_check check (audience in ('Everyone', 'WithLink', 'Holders', 'Members', 'Chosen', 'Staff'));

-- What may be said about an album's photos may be for those alone whom the site knows.
alter table album add column talk_known boolean not null default false;
update act_tracked set fields = fields || '{talk_known}' where kind = 'album';

-- The watermark: one row. What it is, and who gets photos of the whole site without it.
create table watermark (
  id uuid primary key,
  settings jsonb not null,
  -- Names what is made into pictures; empty where there is nothing to be seen of it.
  key text not null default '',
  unmarked text not null default 'Everyone' check (unmarked in ('Everyone', 'Known', 'Members', 'Chosen', 'Nobody')),
  unmarked_for uuid[] not null default '{}',
  edited bigint not null default 1
);
insert into watermark (id, settings)
values ('00000000-0000-7000-8000-00000000c01b',
  '{"kind": "words", "words": "", "lettering": "plain", "picture": null, "place": "bottomRight", "size": 12, "strength": 60, "inset": 4}');

insert into act_tracked (kind, thing, other, fields, words, gone, ends)
values ('watermark', 'id', null, '{settings, key, unmarked, unmarked_for}', '{}', null, null);
select act_track('watermark');

-- Pictures for it, named by their bytes: what a watermark that was taken back names is still there. They are small.
create table watermark_picture (
  picture text primary key,
  webp bytea not null,
  width int not null,
  height int not null
);

-- The watermarks that pictures were made with: when another takes their place these are removed.
create table watermark_made (
  key text primary key,
  removed boolean not null default false
);

-- Who gets the photos of an album or a category without it.
alter table album
  add column unmarked text not null default 'Everyone' check (unmarked in ('Everyone', 'Known', 'Members', 'Chosen', 'Nobody')),
  add column unmarked_for uuid[] not null default '{}';
alter table category
  add column unmarked text not null default 'Everyone' check (unmarked in ('Everyone', 'Known', 'Members', 'Chosen', 'Nobody')),
  add column unmarked_for uuid[] not null default '{}',
  -- Itself and those above it that say so; kept by category_view.
  add column marks uuid[] not null default '{}';
create index album_marking on album (id) where unmarked <> 'Everyone';
create index category_marking on category (id) where unmarked <> 'Everyone';
create index category_marked on category (id) where marks <> '{}';

create or replace function category_view() returns trigger language plpgsql as $$
begin
  with recursive seen as (
    select id, shown and binned is null as in_view,
           case when is_gate then array[id] else '{}'::uuid[] end as gates,
           case when unmarked <> 'Everyone' then array[id] else '{}'::uuid[] end as marks
      from category
     where parent is null
    union all
    select c.id, s.in_view and c.shown and c.binned is null,
           s.gates || case when c.is_gate then array[c.id] else '{}'::uuid[] end,
           s.marks || case when c.unmarked <> 'Everyone' then array[c.id] else '{}'::uuid[] end
      from category as c
      join seen as s on c.parent = s.id)
  update category as c
     set in_view = s.in_view, gates = s.gates, marks = s.marks
    from seen as s
   where s.id = c.id and (c.in_view, c.gates, c.marks) is distinct from (s.in_view, s.gates, s.marks);
  return null;
end $$;
drop trigger category_viewed on category;
create trigger category_viewed after insert or update of parent, shown, binned, audience, seen_from, seen_until, unmarked on category
  for each statement execute function category_view();

update act_tracked set fields = fields || '{unmarked,unmarked_for}' where kind in ('album', 'category');
select act_track(kind) from act_tracked where kind in ('album', 'category');
