-- Whether visitors may ask to become members, and those who asked and wait.
alter table site add column joining text not null default 'Closed' check (joining in ('Closed', 'Asked', 'Open'));

create table member_wish (
  id uuid primary key,
  email text not null,
  email_key text not null unique,
  name text not null,
  -- What they say of themselves.
  words text not null,
  -- The site's address where they asked.
  origin text not null,
  made timestamptz not null,
  -- They asked while nobody had to accept it.
  is_free boolean not null
);
create index member_wish_made on member_wish (made, id);
