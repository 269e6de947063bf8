-- Pages made of blocks. A page need not be made for an album; the first form of its content is read as blocks.
alter table page alter column album drop not null;

-- What a page is called, whichever form it was written in.
create function page_title(content jsonb) returns text language sql immutable as $$
  select coalesce(content ->> 'title', content ->> 'heading', '')
$$;

-- The things on pages: follows from what is set on them (PageThings), never written by itself.
create table page_thing (
  page uuid not null references page on delete cascade,
  -- Of what visitors have; else of the draft.
  live boolean not null,
  kind text not null check (kind in ('album', 'photo', 'category', 'tag', 'page', 'site')),
  thing uuid not null,
  -- Visitors come upon the thing because it stands there; else it is only named, gone by or led to.
  shows boolean not null,
  -- In which order one comes upon them.
  place int not null,
  primary key (page, live, kind, thing)
);
create index page_thing_thing on page_thing (thing, live);

with content as (
  select id, album, false as live, draft as content from page
  union all
  select id, album, true, published from page where published is not null)
insert into page_thing (page, live, kind, thing, shows, place)
select id, live, 'album', album, true, 0 from content
union
select id, live, 'category', f.value::uuid, false, 1
  from content
 cross join lateral jsonb_array_elements_text(coalesce(content -> 'filterCategories', '[]')) as f(value)
union
select id, live, 'tag', f.value::uuid, false, 2
  from content
 cross join lateral jsonb_array_elements_text(coalesce(content -> 'filterTags', '[]')) as f(value);
