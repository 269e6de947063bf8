-- For every visit an album may be in another order.
alter table album add column by_lot boolean not null default false;
update act_tracked set fields = fields || '{by_lot}' where kind = 'album';
select act_track('album');
