create extension if not exists pg_trgm;

-- People of the workroom, and what signing in needs.
create table account (
  id uuid primary key,
  email text not null,
  email_key text not null unique,
  name text not null,
  password_hash text not null,
  made timestamptz not null
);

create table sign_in_try (
  email_key text not null,
  tried timestamptz not null
);
create index sign_in_try_recent on sign_in_try (email_key, tried);

create table data_protection_key (
  name text primary key,
  xml text not null
);

create table site (
  one boolean primary key default true check (one),
  title text not null,
  tagline text not null default '',
  max_bytes bigint not null default 209715200,
  max_megapixels int not null default 200,
  version bigint not null default 1
);
insert into site (title) values ('A new site');

-- Photos. stage: 0 waits for the sheet's rendition, 1 for the larger ones, 2 has all.
create table photo (
  id uuid primary key,
  hash bytea not null unique,
  file_name text not null,
  media_type text not null,
  bytes bigint not null,
  width int not null,
  height int not null,
  state text not null default 'waiting' check (state in ('waiting', 'ready', 'failed')),
  failure text,
  stage smallint not null default 0,
  -- A published page shows it: its larger renditions go first.
  wanted boolean not null default false,
  attempts smallint not null default 0,
  claimed_until timestamptz,
  title text not null default '',
  caption text not null default '',
  alt text not null default '',
  credit text not null default '',
  creator text not null default '',
  copyright text not null default '',
  place text not null default '',
  rating smallint not null default 0 check (rating between 0 and 5),
  taken timestamp,
  taken_offset_minutes smallint,
  camera text,
  lens text,
  exposure_seconds double precision,
  f_number double precision,
  iso int,
  focal_length double precision,
  latitude double precision,
  longitude double precision,
  arrived timestamptz not null,
  version bigint not null default 1,
  tag_words text not null default '',
  sort_taken timestamp not null generated always as (coalesce(taken, arrived at time zone 'UTC')) stored,
  sort_name text collate "C" not null generated always as (lower(file_name)) stored,
  search text not null generated always as (lower(title || ' ' || caption || ' ' || file_name || ' ' || tag_words)) stored
);
create index photo_by_taken on photo (sort_taken, id);
create index photo_by_arrival on photo (arrived, id);
create index photo_by_name on photo (sort_name, id);
create index photo_search on photo using gin (search gin_trgm_ops);
create index photo_to_do on photo (stage, wanted desc, arrived) where stage < 2 and state <> 'failed';
create index photo_without_title on photo (id) where title = '';
create index photo_without_alt on photo (id) where alt = '';
create index photo_failed on photo (arrived) where state = 'failed';

-- Intakes, and what became of each file.
create table intake (
  id uuid primary key,
  album uuid,
  begun timestamptz not null,
  begun_by text not null
);
create index intake_recent on intake (begun desc);

create table intake_file (
  intake uuid not null references intake on delete cascade,
  number int generated always as identity,
  file_name text not null,
  photo uuid references photo on delete cascade,
  outcome text not null check (outcome in ('arrived', 'already_here', 'refused')),
  reason text,
  came timestamptz not null,
  primary key (intake, number)
);
create index intake_file_photo on intake_file (photo);

-- Tags and the tree of categories.
create table tag (
  id uuid primary key,
  name text not null,
  key text not null unique
);
create index tag_key_start on tag (key text_pattern_ops);

create table photo_tag (
  photo uuid not null references photo on delete cascade,
  tag uuid not null references tag on delete cascade,
  primary key (photo, tag)
);
create index photo_tag_tag on photo_tag (tag, photo);

create table category (
  id uuid primary key,
  parent uuid references category on delete cascade,
  name text not null,
  place int not null,
  version bigint not null default 1
);
create index category_parent on category (parent, place);

create table photo_category (
  photo uuid not null references photo on delete cascade,
  category uuid not null references category on delete cascade,
  primary key (photo, category)
);
create index photo_category_category on photo_category (category, photo);

-- Albums hold photos in an order that matters.
create table album (
  id uuid primary key,
  working_name text not null,
  title text not null default '',
  description text not null default '',
  cover uuid references photo on delete set null,
  made timestamptz not null,
  version bigint not null default 1
);
create index album_name on album (lower(working_name), id);
alter table intake add foreign key (album) references album on delete set null;

create table album_photo (
  album uuid not null references album on delete cascade,
  photo uuid not null references photo on delete cascade,
  place int not null,
  primary key (album, photo)
);
create index album_photo_order on album_photo (album, place);
create index album_photo_photo on album_photo (photo);

-- Pages. published is a copy of draft made by publishing; version goes up with everything that changes what visitors see.
create table page (
  id uuid primary key,
  album uuid not null references album on delete cascade,
  address text not null unique,
  draft jsonb not null,
  published jsonb,
  published_at timestamptz,
  edited bigint not null default 1,
  published_edit bigint,
  version bigint not null default 1,
  made timestamptz not null
);
create index page_album on page (album);

-- Addresses a page had before lead to where it is now.
create table page_former_address (
  address text primary key,
  page uuid not null references page on delete cascade
);
create index page_former_address_page on page_former_address (page);
