-- Albums that keep themselves: which photos, by a rule, and in which order, by what is known of photos. A worker writes what
-- follows into album_photo, in acts of its own.
alter table album
  -- What an address of the sheet says; empty for all photos, null for an album picked by hand.
  add column rule text,
  -- So many the rule may find.
  add column most int check (most between 1 and 50000),
  -- What its photos are kept in the order of; place: made by hand.
  add column sort text not null default 'place' check (sort in ('place', 'taken', 'arrived', 'name', 'title', 'rating')),
  add column reversed boolean not null default false,
  -- The act that said so last: what follows is part of it.
  add column filling_act uuid;
-- Where a photo stood in the order made by hand before the album was kept in another.
alter table album_photo add column by_hand bigint;
create index album_keeping_itself on album (id) where (rule is not null or sort <> 'place') and binned is null;

-- Photos held out of an album that its rule would find.
create table album_without (
  album uuid not null references album,
  photo uuid not null references photo,
  said_by text not null default 'person',
  primary key (album, photo)
);
create index album_without_photo on album_without (photo);

update act_tracked set fields = fields || '{rule,most,sort,reversed}' where kind = 'album';
insert into act_tracked (kind, thing, other, fields, ends) values ('album_without', 'album', 'photo', '{said_by}', '{album,photo}');
select act_track('album'), act_track('album_without');

-- Whoever keeps such albums is told.
create or replace function photo_touch(ids uuid[]) returns void language sql as $$
  insert into photo_touched (photo)
  select id from unnest(ids) as id where cardinality(ids) <= 100000
  union all
  select null where cardinality(ids) > 100000;
  select pg_notify('album_filling', '')
   where cardinality(ids) > 0
     and exists (select from album where (rule is not null or sort <> 'place') and binned is null)
$$;

-- Albums with a rule that something was taken out of, by whomever: there may be room for others.
create table album_touched (
  album uuid not null
);
create function album_touch_unlinked() returns trigger language plpgsql as $$
begin
  insert into album_touched (album)
  select distinct a.id
    from was
    join album as a on a.id = was.album and a.rule is not null;
  return null;
end $$;
create trigger touched_album after delete on album_photo referencing old table as was for each statement execute function album_touch_unlinked();
