-- Sidecars: what a file of XMP that lay beside a photo says of it. It waits here for the photo where that comes later.
create table sidecar (
  intake uuid not null references intake on delete cascade,
  path text not null,
  -- The photo's name, or its name without ending, in small letters.
  beside text not null,
  words jsonb not null,
  tags text[] not null,
  people text[] not null,
  rating smallint,
  taken timestamp,
  taken_offset_minutes smallint,
  latitude double precision,
  longitude double precision,
  came timestamptz not null,
  -- Whether a photo of its name has been here.
  used boolean not null default false,
  primary key (intake, path, beside)
);

alter table intake_file drop constraint intake_file_outcome_check;
alter table intake_file add constraint intake_file_outcome_check
  check (outcome in ('arrived', 'already_here', 'refused', 'kept', 'archive', 'skipped', 'dropped', 'sidecar'));
create index intake_file_stem on intake_file (intake, path, regexp_replace(lower(file_name), '\.[^.]*$', ''));
