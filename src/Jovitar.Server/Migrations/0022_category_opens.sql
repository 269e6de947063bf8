-- What a category's cover opens: a page; null for the category's own.
alter table category add column opens uuid;
update act_tracked set fields = fields || '{opens}' where kind = 'category';
select act_track('category');
