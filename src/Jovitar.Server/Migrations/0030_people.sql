-- Who is asked to work on the site. Of the link in the letter only a hash is kept.
create table letter (
  id uuid primary key,
  to_name text not null,
  to_address text not null,
  subject text not null,
  -- Null once it has left or is given up: what it says lets somebody in.
  body text,
  made timestamptz not null,
  -- When it is tried next; null when nothing more is done.
  due timestamptz,
  -- After this it says nothing that still holds.
  until timestamptz not null,
  tries int not null default 0,
  sent timestamptz,
  fault text not null default ''
);
create index letter_due on letter (due) where due is not null;
create index letter_made on letter (made);

create table invitation (
  id uuid primary key,
  email text not null,
  -- One open invitation an address: another one takes its place.
  email_key text not null unique,
  name text not null,
  role text not null check (role in ('Editor', 'Owner')),
  hash bytea not null unique,
  by_name text not null,
  made timestamptz not null,
  expires timestamptz not null,
  letter uuid references letter on delete set null
);
create index invitation_letter on invitation (letter);

-- Links in letters that sign somebody in, each once.
create table way_in (
  hash bytea primary key,
  account uuid not null references account on delete cascade,
  expires timestamptz not null
);
create index way_in_account on way_in (account);
create index way_in_expires on way_in (expires);

-- That somebody asked for one. Written whether there is such an account or not, so that an answer says and takes the same.
create table way_in_wish (
  id bigint generated always as identity primary key,
  email_key text not null,
  origin text not null,
  made timestamptz not null
);

-- Addresses of the site at which an owner proved who they are: what a letter leads to is never an address that somebody made up.
create table known_origin (
  address text primary key,
  seen timestamptz not null
);
create index known_origin_seen on known_origin (seen desc);
