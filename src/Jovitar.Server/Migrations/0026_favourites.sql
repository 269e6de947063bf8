-- Visitors may mark photos; what they mark is kept in their browsers and told by addresses.
alter table site add column has_favourites boolean not null default false;
update act_tracked set fields = fields || '{has_favourites}' where kind = 'site';
select act_track('site');
