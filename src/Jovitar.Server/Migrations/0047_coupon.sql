-- Coupons: a value of Core (Coupon) as it is written, whole; found by their code.
create table coupon (
  id uuid primary key,
  code text not null,
  content jsonb not null,
  made timestamptz not null,
  binned timestamptz,
  version bigint not null default 1
);
create unique index coupon_code on coupon (code) where binned is null;

insert into act_tracked (kind, thing, fields, gone) values ('coupon', 'id', '{code,content,binned}', 'binned');
select act_track('coupon');

-- Those that stand in a basket; what they take off is found out whenever it is looked at.
create table basket_coupon (
  basket uuid not null references basket (id) on delete cascade,
  coupon uuid not null references coupon (id) on delete cascade,
  added timestamptz not null,
  primary key (basket, coupon)
);
create index basket_coupon_coupon on basket_coupon (coupon);

-- Which orders had something taken off by one.
create table coupon_use (
  coupon uuid not null references coupon (id) on delete cascade,
  sale_order uuid not null references sale_order (id) on delete cascade,
  primary key (coupon, sale_order)
);
create index coupon_use_sale_order on coupon_use (sale_order);
-- An order that was cancelled gives its coupons back.
create index sale_order_cancelled on sale_order (id) where state = 'Cancelled';

-- Who has ordered what before: a coupon may be for each buyer once.
create index sale_order_email on sale_order (lower(email));
