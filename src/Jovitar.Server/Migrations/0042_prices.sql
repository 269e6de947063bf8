-- Price lists: a value of Core (PriceList) as it is written, whole. Albums that have one are sales galleries.
create table price_list (
  id uuid primary key,
  name text not null,
  currency text not null,
  limits jsonb not null,
  sells_small boolean not null,
  options jsonb not null,
  made timestamptz not null,
  binned timestamptz,
  version bigint not null default 1
);
create unique index price_list_name on price_list (lower(name)) where binned is null;

insert into act_tracked (kind, thing, fields, gone) values ('price_list', 'id', '{name,currency,limits,sells_small,options,binned}', 'binned');
select act_track('price_list');

-- What is not sold of an album or a photo: options of whichever list they are sold by.
alter table album
  add column price_list uuid references price_list (id),
  add column unsold uuid[] not null default '{}';
alter table photo add column unsold uuid[] not null default '{}';
create index album_price_list on album (price_list) where price_list is not null;

update act_tracked set fields = fields || '{price_list,unsold}' where kind = 'album';
update act_tracked set fields = fields || '{unsold}' where kind = 'photo';
select act_track(kind) from act_tracked where kind in ('album', 'photo');
