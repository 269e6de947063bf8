-- Members: visitors whom the site knows. They sign in to it with the accounts that there are, and have no part in the workroom.
alter table account drop constraint account_role_check;
alter table account add constraint account_role_check check (role in ('None', 'Member', 'Editor', 'Owner'));
-- They are listed by name, in windows, and found by any part of their name or address.
create index account_member on account (lower(name), id) where role = 'Member';
create index account_member_words on account using gin ((lower(name || ' ' || email)) gin_trgm_ops) where role = 'Member';

create table member_group (
  id uuid primary key,
  name text not null,
  name_key text not null unique,
  made timestamptz not null
);
create table member_of (
  account uuid not null references account on delete cascade,
  "group" uuid not null references member_group on delete cascade,
  since timestamptz not null,
  primary key (account, "group")
);
create index member_of_group on member_of ("group", account);

-- Whether there are any: the site shows where one signs in. Every page says so, so it is the site's.
alter table site add column has_members boolean not null default false;

alter table page drop constraint page_audience_check;
alter table page add constraint page_audience_check check (audience in ('Everyone', 'Holders', 'Members', 'Chosen', 'Staff'));
alter table album drop constraint album_audience_check;
alter table album add constraint album_audience_check check (audience in ('Everyone', 'Holders', 'Members', 'Chosen', 'Staff'));
alter table category drop constraint category_audience_check;
alter table category add constraint category_audience_check check (audience in ('Everyone', 'Holders', 'Members', 'Chosen', 'Staff'));
-- The groups and members that it is for, where it is for some.
alter table page add column chosen uuid[] not null default '{}';
alter table album add column chosen uuid[] not null default '{}';
alter table category add column chosen uuid[] not null default '{}';
update act_tracked set fields = fields || '{chosen}' where kind in ('page', 'album', 'category');
select act_track(kind) from act_tracked where kind in ('page', 'album', 'category');
