-- How the site looks: one row. The draft is what staff work on, the published one what visitors have.
create table theme (
  id uuid primary key,
  draft jsonb not null,
  published jsonb not null,
  edited bigint not null default 1
);
insert into theme (id, draft, published)
select '00000000-0000-7000-8000-00000000c01a', usual, usual
  from (select '{"name": "catalogue", "light": {}, "dark": {}}'::jsonb as usual) as u;

insert into act_tracked (kind, thing, other, fields, words, gone, ends) values ('theme', 'id', null, '{draft, published}', '{}', null, null);
select act_track('theme');
