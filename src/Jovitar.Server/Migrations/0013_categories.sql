-- What visitors read of a category, and whether they see it at all.
alter table category
  add column description text not null default '',
  add column shown boolean not null default true;
update act_tracked set fields = fields || '{description,shown}' where kind = 'category';
select act_track('category');
