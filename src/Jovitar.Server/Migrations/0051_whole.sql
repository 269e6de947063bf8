-- Nothing of the photo is cut off, and white is left on the print instead.
alter table basket_line add column is_whole boolean not null default false;
