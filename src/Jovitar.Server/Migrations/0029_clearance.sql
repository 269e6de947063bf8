-- Clearance: whether a photo may be shown to visitors at all. Said of the photo itself, and by those whom it shows.
alter table photo
  add column clearance text not null default '' check (clearance in ('', 'cleared', 'not_cleared', 'ended')),
  add column cleared_by text not null default '',
  -- The last day of it.
  add column cleared_until date,
  -- What those say whom it shows, and until when. It follows from people and the list of persons, whoever writes either.
  add column people_say text not null default '' check (people_say in ('', 'yes', 'no')),
  add column people_until date;
alter table site add column clearance_needed boolean not null default false;

-- Names are the same person whatever their case, and whatever the locale of the database; person_keys is what photos are found by.
create function person_key(name text) returns text language sql immutable strict parallel safe as $$
  select lower(normalize(name, nfkc) collate "und-x-icu")
$$;
create function person_keys(names text[]) returns text[] language sql immutable strict parallel safe as $$
  select array(select person_key(n) from unnest(names) as n)
$$;
create index photo_people on photo using gin (person_keys(people)) where people <> '{}';
create index photo_people_no on photo (id) where people_say = 'no';
create index photo_cleared_until on photo (cleared_until) where clearance = 'cleared' and cleared_until is not null;

-- The list of persons: what each says of being shown, wherever a photo shows them.
create table person (
  id uuid primary key,
  name text not null,
  key text not null generated always as (person_key(name)) stored,
  says text not null default '' check (says in ('', 'yes', 'no', 'ended')),
  -- The last day of a yes.
  until date,
  -- Who said it, and how it is known.
  said_by text not null default '',
  version bigint not null default 1,
  -- When it was struck off the list.
  struck timestamptz
);
create unique index person_key_once on person (key) where struck is null;
create index person_until on person (until) where says = 'yes' and until is not null and struck is null;

-- What one photo's people say, from the list.
create function photo_people_say(names text[], out say text, out until date) language sql stable as $$
  select case when bool_or(p.says = 'no') then 'no' when bool_and(coalesce(p.says, '') = 'yes') then 'yes' else '' end,
         case when bool_and(coalesce(p.says, '') = 'yes') then min(p.until) end
    from unnest(names) as n
    left join person as p on p.key = person_key(n) and p.struck is null
$$;

-- Who writes which people a photo shows, and who writes the list, wait for each other: neither overlooks the other. Two who only
-- write people do not.
create function photo_people_follow() returns trigger language plpgsql as $$
begin
  if tg_op = 'UPDATE' and (new.people, new.people_say, new.people_until) is not distinct from (old.people, old.people_say, old.people_until) then
    return new;
  end if;
  if new.people = '{}' then
    new.people_say := '';
    new.people_until := null;
  else
    perform pg_advisory_xact_lock_shared(hashtext('jovitar.persons'));
    select say, until into new.people_say, new.people_until from photo_people_say(new.people);
  end if;
  return new;
end $$;
create trigger people_follow before insert or update of people, people_say, people_until on photo
  for each row execute function photo_people_follow();

create function person_before() returns trigger language plpgsql as $$
begin
  perform pg_advisory_xact_lock(hashtext('jovitar.persons'));
  return null;
end $$;
create trigger alone before insert or update or delete on person for each statement execute function person_before();

-- Few of many photos: each is found by its key, whatever the trigger that asks forbids itself.
create function person_reach(keys text[]) returns void language plpgsql set enable_nestloop = on as $$
begin
  perform from photo where people <> '{}' and person_keys(people) && keys order by id for no key update;
  with reached as materialized (
    select q.id, s.say, s.until
      from photo as q
     cross join lateral photo_people_say(q.people) as s
     where q.people <> '{}' and person_keys(q.people) && keys)
  update photo as p
     set people_say = s.say, people_until = s.until
    from reached as s
   where p.id = s.id and (p.people_say, p.people_until) is distinct from (s.say, s.until);
end $$;
create function person_made() returns trigger language plpgsql as $$
begin
  perform person_reach(array(select key from became));
  return null;
end $$;
create function person_changed() returns trigger language plpgsql set enable_nestloop = off as $$
begin
  perform person_reach(array(select key from was union select key from became));
  return null;
end $$;
create function person_gone() returns trigger language plpgsql as $$
begin
  perform person_reach(array(select key from was));
  return null;
end $$;
create trigger reaches_made after insert on person referencing new table as became for each statement execute function person_made();
create trigger reaches_changed after update on person referencing old table as was new table as became for each statement execute function person_changed();
create trigger reaches_gone after delete on person referencing old table as was for each statement execute function person_gone();

-- Recorded; what follows from something else goes back with that and not by itself.
alter table act_tracked add column follows text[] not null default '{}';
update act_tracked
   set fields = fields || '{clearance,cleared_by,cleared_until,people_say,people_until}', follows = '{people_say,people_until}'
 where kind = 'photo';
update act_tracked set fields = fields || '{clearance_needed}' where kind = 'site';
insert into act_tracked (kind, thing, fields, gone) values ('person', 'id', '{name,says,until,said_by,struck}', 'struck');
select act_track(kind) from act_tracked where kind in ('photo', 'site', 'person');

create or replace function photo_touch_changed() returns trigger language plpgsql set enable_nestloop = off as $$
begin
  perform photo_touch(array(
    select n.id
      from was as o
      join became as n on n.id = o.id
     where (o.title, o.caption, o.alt, o.credit, o.creator, o.people, o.place, o.tag_words, o.file_name, o.rating, o.decision)
             is distinct from (n.title, n.caption, n.alt, n.credit, n.creator, n.people, n.place, n.tag_words, n.file_name, n.rating, n.decision)
        or (o.correction, o.own_width, o.own_height, o.taken, o.camera, o.lens, o.arrived, o.binned is null)
             is distinct from (n.correction, n.own_width, n.own_height, n.taken, n.camera, n.lens, n.arrived, n.binned is null)
        or (o.clearance, o.cleared_until, o.people_say, o.people_until)
             is distinct from (n.clearance, n.cleared_until, n.people_say, n.people_until)));
  return null;
end $$;
