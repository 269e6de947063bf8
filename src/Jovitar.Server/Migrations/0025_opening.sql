-- The site's front: what it says of itself, and whether visitors may come in. A site that has an owner already has its visitors.
alter table site
  add column id uuid not null default '00000000-0000-7000-8000-00000000f407',
  add column is_open boolean not null default false,
  -- What visitors read while it is closed.
  add column meanwhile text not null default '',
  add column is_listed boolean not null default true,
  -- The page at which visitors begin; none, or one that is gone, for the list of all pages.
  add column starts_at uuid,
  add column edited bigint not null default 1,
  -- Somebody chose how it looks, be it as it was.
  add column is_dressed boolean not null default false,
  -- The path from a new site to an open one lies on the desk.
  add column first_hour boolean not null default true;
update site
   set is_open = true, is_dressed = true, first_hour = false
 where exists (select from account);

insert into act_tracked (kind, thing, other, fields, words, gone, ends) values
  ('site', 'id', null, '{title, tagline, is_open, meanwhile, is_listed, starts_at}', '{}', null, null);
select act_track('site');
