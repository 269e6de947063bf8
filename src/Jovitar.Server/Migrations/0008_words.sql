-- Photos in hand, a person's own on every machine; place is the order in which they were taken up. Photos that are gone by now
-- are passed over when the hand is read.
create table in_hand (
  account uuid not null references account on delete cascade,
  photo uuid not null,
  place bigint generated always as identity,
  primary key (account, photo)
);
create index in_hand_place on in_hand (account, place);

-- People shown, and where a press on the photo may lead.
alter table photo
  add column people text[] not null default '{}',
  add column link text not null default '';

-- A file of words may know photos by the names of their files alone.
create index photo_file_name on photo (lower(file_name));

-- When and where it was taken can be said by people, too.
update act_tracked
   set fields = '{title,caption,alt,credit,creator,copyright,licence,origin,people,place,latitude,longitude,taken,taken_offset_minutes,link,rating,decision,state,binned}',
       words = '{title,caption,alt,credit,creator,copyright,licence,origin,people,place,latitude,taken,link,rating}'
 where kind = 'photo';

-- What notes a change joins rows as they were with rows as they are. Its plan is kept with the connection, and one that was made
-- for a single row would compare every row with every other when a statement changes thousands: so rows are never joined in loops.
do $$
begin
  execute replace(
    pg_get_functiondef('act_track(text)'::regprocedure), 'returns trigger language plpgsql as $t$',
    'returns trigger language plpgsql set enable_nestloop = off as $t$');
end $$;
select act_track(kind) from act_tracked;
drop trigger act_made on photo_near;
drop trigger act_taken on photo_near;

create or replace function photo_touch_changed() returns trigger language plpgsql set enable_nestloop = off as $$
begin
  perform photo_touch(array(
    select n.id
      from was as o
      join became as n on n.id = o.id
     where (o.title, o.caption, o.alt, o.credit, o.creator, o.people, o.place, o.tag_words, o.file_name, o.rating, o.decision)
             is distinct from (n.title, n.caption, n.alt, n.credit, n.creator, n.people, n.place, n.tag_words, n.file_name, n.rating, n.decision)
        or (o.width, o.height, o.taken, o.camera, o.lens, o.arrived, o.binned is null)
             is distinct from (n.width, n.height, n.taken, n.camera, n.lens, n.arrived, n.binned is null)));
  return null;
end $$;
