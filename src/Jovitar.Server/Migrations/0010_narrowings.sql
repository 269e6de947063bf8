-- Narrowings that are kept under a name: what the address of such a sheet says.
create table narrowing (
  id uuid primary key,
  name text not null,
  search text not null,
  made timestamptz not null,
  version bigint not null default 1,
  -- Let go; it comes back by undo.
  binned timestamptz
);
create unique index narrowing_name on narrowing (lower(name)) where binned is null;

insert into act_tracked (kind, thing, fields, gone) values ('narrowing', 'id', '{name,search,binned}', 'binned');
select act_track('narrowing');
