-- What lacks something is still shown in the sheet's order, so its index runs in that order.
drop index photo_without_title;
drop index photo_without_alt;
create index photo_without_title on photo (sort_taken, id) where title = '';
create index photo_without_alt on photo (sort_taken, id) where alt = '';

-- look is the perceptual hash; its four bands of 16 bits are what near repeats are found by.
alter table photo drop constraint photo_state_check;
alter table photo
  add constraint photo_state_check check (state in ('waiting', 'ready', 'failed', 'binned')),
  add column failure_cause text,
  add column licence text not null default '',
  add column origin text not null default '',
  add column preview boolean not null default false,
  add column decision text not null default '' check (decision in ('', 'keep', 'doubt', 'leave_out')),
  add column look bigint,
  add column sharpness real,
  add column ready_at timestamptz;
create index photo_look_0 on photo ((look & 65535)) where look is not null;
create index photo_look_1 on photo (((look >> 16) & 65535)) where look is not null;
create index photo_look_2 on photo (((look >> 32) & 65535)) where look is not null;
create index photo_look_3 on photo (((look >> 48) & 65535)) where look is not null;
create index photo_ready_at on photo (ready_at);
create index photo_taken_look on photo (taken) where look is not null;

-- Rows are claimed, finished and described one after another: with room on the page an update that changes no indexed word stays there and touches no index.
alter table photo set (fillfactor = 70);

-- Two photos that look nearly the same; photo came after near. settled: somebody has decided.
create table photo_near (
  photo uuid not null references photo on delete cascade,
  near uuid not null references photo on delete cascade,
  distance smallint not null,
  settled boolean not null default false,
  primary key (photo, near)
);
create index photo_near_near on photo_near (near);
create index photo_near_open on photo_near (photo) where not settled;

-- What was thrown away: its state, and the albums, tags and categories it stood in, so that it comes back as it was.
create table bin (
  photo uuid primary key references photo on delete cascade,
  binned timestamptz not null,
  binned_by text not null,
  state text not null,
  held jsonb not null
);
create index bin_binned on bin (binned desc, photo);

-- Files: sound, video, documents.
create table file (
  id uuid primary key,
  hash bytea not null unique,
  file_name text not null,
  kind text not null check (kind in ('sound', 'video', 'pdf', 'office', 'text')),
  media_type text not null,
  bytes bigint not null,
  arrived timestamptz not null
);
create index file_by_arrival on file (arrived desc, id desc);

create table album_file (
  album uuid not null references album on delete cascade,
  file uuid not null references file on delete cascade,
  place int not null,
  primary key (album, file)
);
create index album_file_file on album_file (file);

-- What is said once of all that an intake brings.
alter table intake
  add column came_by text not null default 'computer' check (came_by in ('computer', 'watched', 'scanner')),
  add column label text not null default '',
  add column credit text not null default '',
  add column copyright text not null default '',
  add column licence text not null default '',
  add column origin text not null default '',
  add column tags text[] not null default '{}',
  add column categories uuid[] not null default '{}',
  add column taken_back timestamptz;

-- A ZIP being unpacked; its files are noted with the entry they were, so that an interrupted one goes on.
create table unpacking (
  id uuid primary key,
  intake uuid not null references intake on delete cascade,
  number int not null,
  file_name text not null,
  stored text not null,
  entries int not null default 0,
  done int not null default 0,
  claimed_until timestamptz,
  attempts smallint not null default 0,
  begun timestamptz not null,
  ended timestamptz
);
create index unpacking_open on unpacking (begun) where ended is null;
create index unpacking_intake on unpacking (intake);

alter table intake_file drop constraint intake_file_outcome_check;
alter table intake_file
  add constraint intake_file_outcome_check check (outcome in ('arrived', 'already_here', 'refused', 'kept', 'archive', 'skipped', 'dropped')),
  add column path text not null default '',
  add column bytes bigint not null default 0,
  add column cause text,
  add column file uuid references file on delete cascade,
  add column unpacking uuid references unpacking on delete cascade,
  add column entry int;
create unique index intake_file_entry on intake_file (unpacking, entry);
create index intake_file_file on intake_file (file);

-- Uploads on their way (tus 1.0.0). How much has come is the length of the file on disk. number: its line in the intake once it is done.
create table upload (
  id uuid primary key,
  intake uuid not null references intake on delete cascade,
  file_name text not null,
  path text not null default '',
  bytes bigint not null,
  begun timestamptz not null,
  expires timestamptz not null,
  number int
);
create index upload_intake on upload (intake) where number is null;
create index upload_expires on upload (expires);

-- Folders on the server that are watched, and what was taken in from them.
create table watched_folder (
  id uuid primary key,
  path text not null unique,
  subfolders boolean not null,
  becomes text not null default '' check (becomes in ('', 'album', 'category')),
  intake uuid references intake on delete set null,
  made timestamptz not null,
  made_by text not null,
  looked timestamptz,
  problem text
);
create table watched_file (
  folder uuid not null references watched_folder on delete cascade,
  path text not null,
  bytes bigint not null,
  changed timestamptz not null,
  primary key (folder, path)
);

alter table site
  add column max_sound_bytes bigint not null default 209715200,
  add column max_video_bytes bigint not null default 2147483648,
  add column max_document_bytes bigint not null default 52428800,
  add column max_archive_bytes bigint not null default 17179869184;
