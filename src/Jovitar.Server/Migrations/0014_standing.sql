-- Where albums stand: in categories, in view or out of it, at an address of their own; and what visitors get of categories.
alter table album
  add column address text,
  -- Somebody has said the address; else it follows the title for as long as no visitor knows it.
  add column address_said boolean not null default false,
  -- A date of its own.
  add column dated date,
  add column shown boolean not null default true,
  -- Ahead of the others in every index.
  add column put_first boolean not null default false,
  -- What its cover opens: its own page (its own id), a page; null for the page that was made for it, else its own.
  add column opens uuid;

alter table category
  add column address text,
  add column cover uuid references photo,
  -- Its page shows the albums and photos of those beneath it, too.
  add column beneath boolean not null default true,
  add column sort text not null default 'newest' check (sort in ('newest', 'oldest', 'title', 'hand')),
  -- Neither it nor one above it is out of view or in the bin; kept by category_view.
  add column in_view boolean not null default true;

create table album_category (
  album uuid not null references album,
  category uuid not null references category,
  -- Where somebody has placed it in the category's index; null where nobody did.
  place bigint,
  -- Ahead of the others in this category.
  put_first boolean not null default false,
  said_by text not null default 'person',
  primary key (album, category)
);
create index album_category_category on album_category (category);

create table album_tag (
  album uuid not null references album,
  tag uuid not null references tag,
  said_by text not null default 'person',
  primary key (album, tag)
);
create index album_tag_tag on album_tag (tag);

-- The last part of an address made from a name: accents dropped, other characters turned to hyphens.
create function address_of(name text, otherwise text) returns text language sql immutable as $$
  select coalesce(nullif(trim(both '-' from left(regexp_replace(regexp_replace(
    lower(normalize(name, nfd)), E'[\\u0300-\\u036f''\\u2019]', '', 'g'), '[^a-z0-9]+', '-', 'g'), 70)), ''), otherwise)
$$;
with named as (
  select id, address_of(coalesce(nullif(title, ''), working_name), 'album') as wish,
         row_number() over (partition by address_of(coalesce(nullif(title, ''), working_name), 'album') order by made, id) as n
    from album)
update album as a
   set address = named.wish || case when named.n = 1 then '' else '-' || right(a.id::text, 8) end
  from named
 where named.id = a.id;
with named as (
  select id, address_of(name, 'category') as wish, row_number() over (partition by address_of(name, 'category') order by id) as n
    from category)
update category as c
   set address = named.wish || case when named.n = 1 then '' else '-' || right(c.id::text, 8) end
  from named
 where named.id = c.id;
-- Who makes one without choosing an address gets one that nobody has.
alter table album alter column address set not null, alter column address set default gen_random_uuid()::text;
alter table category alter column address set not null, alter column address set default gen_random_uuid()::text;
create unique index album_address on album (address) where binned is null;
create unique index category_address on category (address) where binned is null;
create index category_cover on category (cover) where cover is not null;

-- Addresses that anything had before lead to where it is now.
create table former_address (
  -- page, album or category: each has addresses of its own.
  kind text not null,
  address text not null,
  thing uuid not null,
  primary key (kind, address)
);
create index former_address_thing on former_address (thing);
insert into former_address (kind, address, thing) select 'page', address, page from page_former_address;
drop table page_former_address;

-- Goes up with everything that changes what visitors see of an album's or a category's own page.
create table shown_version (
  thing uuid primary key,
  version bigint not null
);

-- Whether visitors come upon a category, kept for all of them whenever one moves, goes or comes.
create function category_view() returns trigger language plpgsql as $$
begin
  with recursive seen as (
    select id from category where parent is null and shown and binned is null
    union
    select c.id from category as c join seen as s on c.parent = s.id where c.shown and c.binned is null)
  update category as c
     set in_view = (s.id is not null)
    from category as o
    left join seen as s on s.id = o.id
   where o.id = c.id and c.in_view <> (s.id is not null);
  return null;
end $$;
create trigger category_viewed after insert or update of parent, shown, binned on category for each statement execute function category_view();
update category set shown = shown where false;

update act_tracked set fields = fields || '{address,address_said,dated,shown,put_first,opens}' where kind = 'album';
update act_tracked set fields = fields || '{address,cover,beneath,sort}' where kind = 'category';
insert into act_tracked (kind, thing, other, fields, ends) values
  ('album_category', 'album', 'category', '{place,put_first,said_by}', '{album,category}'),
  ('album_tag', 'album', 'tag', '{said_by}', '{album,tag}');
select act_track('album'), act_track('category'), act_track('album_category'), act_track('album_tag');
