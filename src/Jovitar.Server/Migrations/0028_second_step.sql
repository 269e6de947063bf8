-- A second step at signing in: the secret that a phone's codes are made of, the latest of them that was used, and what is kept of
-- the codes on paper. While "since" is null it is being set up and asked for nowhere.
create table second_step (
  account uuid primary key references account on delete cascade,
  secret bytea not null,
  since timestamptz,
  used bigint not null default 0,
  rescue bytea[] not null default '{}'
);
