-- How the site sells: one row, a value of Core (Shop) as it is written.
create table shop (
  id uuid primary key,
  settings jsonb not null,
  is_open boolean not null default false,
  edited bigint not null default 1
);
insert into shop (id, settings)
values ('00000000-0000-7000-8000-000000005a1e',
  '{"isOpen": false, "currency": "EUR", "postage": {"home": "", "atHome": "", "express": "", "freeFrom": "", "freeIsOver": false, "freeByExpress": false, "freeAbroad": false, "abroad": "no", "abroadCosts": "", "collected": ""}, "tax": {"kind": "none", "percent": "", "name": ""}, "payment": ""}');

insert into act_tracked (kind, thing, fields) values ('shop', 'id', '{settings,is_open}');
select act_track('shop');

-- What visitors are about to buy: of an account, on every device of theirs, or of whoever holds a cookie.
create table basket (
  id uuid primary key,
  account uuid unique references account (id) on delete cascade,
  secret bytea unique,
  changed timestamptz not null,
  check ((account is null) <> (secret is null))
);
create index basket_changed on basket (changed) where account is null;

create table basket_line (
  id uuid primary key,
  basket uuid not null references basket (id) on delete cascade,
  album uuid not null references album (id) on delete cascade,
  photo uuid not null references photo (id) on delete cascade,
  option uuid not null,
  count int not null check (count between 1 and 1000),
  -- What stays in the middle of a print as its buyer moved it, from the upper left corner, 0 to 1.
  middle_x double precision,
  middle_y double precision,
  added timestamptz not null,
  unique (basket, album, photo, option)
);
create index basket_line_album on basket_line (album);
create index basket_line_photo on basket_line (photo);

-- Orders, as they were placed: a value of Core (PlacedOrder), whole; beside it what they are found by and what becomes of them.
create table order_count (
  id boolean primary key default true check (id),
  last bigint not null
);
insert into order_count (last) values (1000);

create table sale_order (
  id uuid primary key,
  number bigint not null unique,
  -- Of the link that opens it.
  secret bytea not null unique,
  basket uuid not null,
  account uuid references account (id) on delete set null,
  placed timestamptz not null,
  name text not null,
  email text not null,
  content jsonb not null,
  currency text not null,
  total bigint not null,
  things int not null,
  delivery text not null check (delivery in ('Files', 'Post', 'Express', 'Collect')),
  state text not null default 'Placed' check (state in ('Placed', 'InWork', 'Sent', 'Collected', 'Cancelled')),
  paid timestamptz,
  note text not null default '',
  version bigint not null default 1
);
create index sale_order_placed on sale_order (placed desc, id desc);
create index sale_order_waiting on sale_order (placed, id) where state in ('Placed', 'InWork');
create index sale_order_unpaid on sale_order (placed, id) where paid is null and state <> 'Cancelled';
create index sale_order_account on sale_order (account) where account is not null;

insert into act_tracked (kind, thing, fields) values ('sale_order', 'id', '{state,paid,note}');
select act_track('sale_order');
-- Buyers place orders; what is done with one is an act.
drop trigger act_made on sale_order;
drop trigger act_taken on sale_order;

-- What was ordered of which photo: for how often a file of it was fetched, and who has what.
create table sale_order_line (
  sale_order uuid not null references sale_order (id) on delete cascade,
  place int not null,
  photo uuid not null,
  fetched int not null default 0,
  primary key (sale_order, place)
);
create index sale_order_line_photo on sale_order_line (photo);
