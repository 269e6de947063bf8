-- Files stand on pages, too.
alter table page_thing
  drop constraint page_thing_kind_check,
  add constraint page_thing_kind_check check (kind in ('album', 'photo', 'category', 'tag', 'page', 'file', 'site'));
