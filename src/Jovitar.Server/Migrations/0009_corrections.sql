-- How a photo is corrected: a recipe beside its original, with what follows from it for this photo (Core's CorrectionText). The
-- size it is seen at and what names its picture are always read out of the same value, so that whoever puts that back, or takes
-- it away, puts all of it back.
alter table photo rename column width to own_width;
alter table photo rename column height to own_height;
alter table photo
  add column correction jsonb,
  -- 0 is all of the original. Prints found on a scan are photos of their own, counted from 1, each by its correction.
  add column part smallint not null default 0,
  drop constraint photo_hash_key,
  add constraint photo_hash_part unique (hash, part);
alter table photo
  add column width int not null generated always as (coalesce((correction ->> 'width')::int, own_width)) stored,
  add column height int not null generated always as (coalesce((correction ->> 'height')::int, own_height)) stored,
  add column picture text not null generated always as (encode(hash, 'hex') || coalesce('-' || (correction ->> 'key'), '')) stored;

update act_tracked
   set fields = fields || '{correction}'
 where kind = 'photo';
select act_track('photo');

-- Another picture has no larger renditions yet, and whoever is making those of the one before does so in vain. Nobody was at
-- fault where making that one failed.
create function photo_corrected() returns trigger language plpgsql as $$
begin
  new.stage := least(new.stage, 1);
  new.attempts := 0;
  new.claim := null;
  new.claimed_until := null;
  perform pg_notify('photo_waiting', '');
  return new;
end $$;
create trigger photo_corrected before update of correction on photo for each row
  when (old.correction ->> 'key' is distinct from new.correction ->> 'key') execute function photo_corrected();

create or replace function photo_touch_changed() returns trigger language plpgsql set enable_nestloop = off as $$
begin
  perform photo_touch(array(
    select n.id
      from was as o
      join became as n on n.id = o.id
     where (o.title, o.caption, o.alt, o.credit, o.creator, o.people, o.place, o.tag_words, o.file_name, o.rating, o.decision)
             is distinct from (n.title, n.caption, n.alt, n.credit, n.creator, n.people, n.place, n.tag_words, n.file_name, n.rating, n.decision)
        or (o.correction, o.own_width, o.own_height, o.taken, o.camera, o.lens, o.arrived, o.binned is null)
             is distinct from (n.correction, n.own_width, n.own_height, n.taken, n.camera, n.lens, n.arrived, n.binned is null)));
  return null;
end $$;
