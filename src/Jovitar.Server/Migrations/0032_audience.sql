-- Audiences: who of the visitors may see a page, an album or a category. What is not said otherwise is for everyone, and what has an
-- audience of its own is a gate, known by the thing's own id.
alter table page
  add column audience text not null default 'Everyone' check (audience in ('Everyone', 'Holders', 'Staff')),
  add column seen_from timestamptz,
  add column seen_until timestamptz,
  add column is_gate boolean not null generated always as (audience <> 'Everyone' or seen_from is not null or seen_until is not null) stored;
alter table album
  add column audience text not null default 'Everyone' check (audience in ('Everyone', 'Holders', 'Staff')),
  add column seen_from timestamptz,
  add column seen_until timestamptz,
  add column is_gate boolean not null generated always as (audience <> 'Everyone' or seen_from is not null or seen_until is not null) stored;
alter table category
  add column audience text not null default 'Everyone' check (audience in ('Everyone', 'Holders', 'Staff')),
  add column seen_from timestamptz,
  add column seen_until timestamptz,
  add column is_gate boolean not null generated always as (audience <> 'Everyone' or seen_from is not null or seen_until is not null) stored,
  -- Its own gate and those of all above it; kept by category_view.
  add column gates uuid[] not null default '{}';
create index page_gate on page (id) where is_gate;
create index album_gate on album (id) where is_gate;
create index category_gate on category (id) where is_gate;
create index category_gated on category (id) where gates <> '{}';

create or replace function category_view() returns trigger language plpgsql as $$
begin
  with recursive seen as (
    select id, shown and binned is null as in_view, case when is_gate then array[id] else '{}'::uuid[] end as gates
      from category
     where parent is null
    union all
    select c.id, s.in_view and c.shown and c.binned is null, s.gates || case when c.is_gate then array[c.id] else '{}'::uuid[] end
      from category as c
      join seen as s on c.parent = s.id)
  update category as c
     set in_view = s.in_view, gates = s.gates
    from seen as s
   where s.id = c.id and (c.in_view, c.gates) is distinct from (s.in_view, s.gates);
  return null;
end $$;
drop trigger category_viewed on category;
create trigger category_viewed after insert or update of parent, shown, binned, audience, seen_from, seen_until on category
  for each statement execute function category_view();

update act_tracked set fields = fields || '{audience,seen_from,seen_until}' where kind in ('page', 'album', 'category');
select act_track(kind) from act_tracked where kind in ('page', 'album', 'category');

-- Entry links and passcodes: each lets its holders through one gate. They are shown again to those who hand them out.
create table entry (
  id uuid primary key,
  -- The page, album or category.
  thing uuid not null,
  -- For whom it is.
  name text not null,
  kind text not null check (kind in ('Link', 'Passcode')),
  secret text not null,
  -- Of the secret as it is compared (SHA-256).
  hash bytea not null unique,
  made timestamptz not null,
  made_by text not null,
  ends timestamptz,
  -- So many browsers may come in with it; null for as many as there are.
  most int check (most > 0),
  uses int not null default 0,
  last_used timestamptz,
  revoked timestamptz
);
create index entry_thing on entry (thing, made);

-- A browser that came in. What it holds is known by the hash of what its cookie says.
create table entry_use (
  id uuid primary key,
  entry uuid not null references entry on delete cascade,
  holder bytea not null,
  at timestamptz not null,
  -- What browser it was, and where it came from, shortened.
  browser text not null,
  network text not null,
  unique (holder, entry)
);
create index entry_use_entry on entry_use (entry, at);
create index entry_use_at on entry_use (at);
