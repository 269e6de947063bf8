-- Where an upload stands is known here and nowhere else. Its bytes lie in the storage in parts, each under a key of its own.
create table upload_part (
  upload uuid not null references upload on delete cascade,
  start bigint not null,
  bytes bigint not null,
  -- Its name among what arrives.
  stored text not null,
  primary key (upload, start)
);

alter table upload
  add column come bigint not null default 0,
  -- Whoever takes it in claims it: one that dies leaves it for so long.
  add column claim uuid,
  add column claimed_until timestamptz;
create index upload_whole on upload (begun) where number is null and come = bytes;

-- In which order an act's statements changed things: what was changed twice is one change in the end.
alter table act_change add column step bigint generated always as identity;

create index held_thing on held (thing);
