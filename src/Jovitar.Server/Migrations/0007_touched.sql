-- Photos of which something that they are found by has changed, with the transaction that changed it: the index that every
-- process keeps in memory reads here what it has missed. photo is null after a change of so many that all is read anew.
create table photo_touched (
  tx xid8 not null default pg_current_xact_id(),
  photo uuid,
  at timestamptz not null default now()
);
create index photo_touched_tx on photo_touched (tx);
create index photo_touched_at on photo_touched (at);

-- Notes the photos of a statement: those of a column of the rows that came and went.
create function photo_touch(ids uuid[]) returns void language sql as $$
  insert into photo_touched (photo)
  select id from unnest(ids) as id where cardinality(ids) <= 100000
  union all
  select null where cardinality(ids) > 100000
$$;

create function photo_touch_made() returns trigger language plpgsql as $$
begin
  perform photo_touch(array(select id from became));
  return null;
end $$;

create function photo_touch_changed() returns trigger language plpgsql as $$
begin
  perform photo_touch(array(
    select n.id
      from was as o
      join became as n on n.id = o.id
     where (o.title, o.caption, o.alt, o.credit, o.creator, o.place, o.tag_words, o.file_name, o.rating, o.decision)
             is distinct from (n.title, n.caption, n.alt, n.credit, n.creator, n.place, n.tag_words, n.file_name, n.rating, n.decision)
        or (o.width, o.height, o.taken, o.camera, o.lens, o.arrived, o.binned is null)
             is distinct from (n.width, n.height, n.taken, n.camera, n.lens, n.arrived, n.binned is null)));
  return null;
end $$;

create function photo_touch_gone() returns trigger language plpgsql as $$
begin
  perform photo_touch(array(select id from was));
  return null;
end $$;

create trigger touched_made after insert on photo referencing new table as became for each statement execute function photo_touch_made();
create trigger touched_changed after update on photo referencing old table as was new table as became for each statement execute function photo_touch_changed();
create trigger touched_gone after delete on photo referencing old table as was for each statement execute function photo_touch_gone();

create function photo_touch_linked() returns trigger language plpgsql as $$
begin
  perform photo_touch(array(select distinct photo from became where photo is not null));
  return null;
end $$;

create function photo_touch_unlinked() returns trigger language plpgsql as $$
begin
  perform photo_touch(array(select distinct photo from was where photo is not null));
  return null;
end $$;

create trigger touched_linked after insert on photo_tag referencing new table as became for each statement execute function photo_touch_linked();
create trigger touched_unlinked after delete on photo_tag referencing old table as was for each statement execute function photo_touch_unlinked();
create trigger touched_linked after insert on photo_category referencing new table as became for each statement execute function photo_touch_linked();
create trigger touched_unlinked after delete on photo_category referencing old table as was for each statement execute function photo_touch_unlinked();
create trigger touched_linked after insert on album_photo referencing new table as became for each statement execute function photo_touch_linked();
create trigger touched_unlinked after delete on album_photo referencing old table as was for each statement execute function photo_touch_unlinked();
create trigger touched_linked after insert on intake_file referencing new table as became for each statement execute function photo_touch_linked();
create trigger touched_unlinked after delete on intake_file referencing old table as was for each statement execute function photo_touch_unlinked();

-- How categories stand beneath one another has changed: no photo has this id.
create function photo_touch_tree() returns trigger language plpgsql as $$
begin
  perform photo_touch(array['00000000-0000-0000-0000-000000000000'::uuid]);
  return null;
end $$;
create trigger touched_tree after insert or update or delete on category for each statement execute function photo_touch_tree();

-- What the index finds needs no indexes of its own here.
drop index photo_without_title, photo_without_alt;
alter table photo drop column search, drop column sort_taken, drop column sort_name;

-- Rows of trials of speed, whose bytes are those of another photo.
create table trial_photo (
  hash bytea primary key,
  source bytea not null
);
