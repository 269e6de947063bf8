-- Roles are data: an account without one has no part in the workroom.
alter table account add column role text not null default 'None' check (role in ('None', 'Editor', 'Owner'));
update account set role = 'Owner';

-- Signed-in browsers. A cookie names its row; without the row it is worth nothing.
create table session (
  id uuid primary key,
  account uuid not null references account on delete cascade,
  made timestamptz not null,
  seen timestamptz not null,
  expires timestamptz not null,
  address text not null,
  browser text not null
);
create index session_account on session (account, seen desc);
create index session_expires on session (expires);

-- Tries at signing in are counted before the password is looked at: a row a key and window.
drop table sign_in_try;
create table sign_in_count (
  key text primary key,
  since timestamptz not null,
  tries int not null
);
create index sign_in_count_since on sign_in_count (since);
