-- Exceptions: a photo may be for fewer than what it stands in. Photos of which the same is said stand behind one gate, so that there are
-- as many of those as there are different things said, and not as many as photos.
create table photo_gate (
  id uuid primary key,
  audience text not null check (audience in ('Everyone', 'Members', 'Chosen', 'Staff')),
  seen_from timestamptz,
  seen_until timestamptz,
  chosen uuid[] not null default '{}',
  -- What is for everyone at all times is no gate.
  check (audience <> 'Everyone' or seen_from is not null or seen_until is not null),
  unique nulls not distinct (audience, seen_from, seen_until, chosen)
);
alter table photo add column own_gate uuid references photo_gate;
create index photo_own_gate on photo (own_gate) where own_gate is not null;

update act_tracked set fields = fields || '{own_gate}' where kind = 'photo';
select act_track('photo');
