-- The site's menu: one row.
create table menu (
  id uuid primary key,
  entries jsonb not null,
  edited bigint not null default 1
);
insert into menu (id, entries) values ('00000000-0000-7000-8000-00000000f00d', '[]');

-- What it leads to, kept by MenuStore: whatever changes of that changes every page's head.
create table menu_thing (
  thing uuid primary key
);

insert into act_tracked (kind, thing, other, fields, words, gone, ends) values ('menu', 'id', null, '{entries}', '{}', null, null);
select act_track('menu');
