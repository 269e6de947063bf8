-- What buyers pay at a payment service: a value of Core (PaymentStanding). Never a card, never an account: those stay there.
create table payment (
  id uuid primary key,
  sale_order uuid not null references sale_order (id) on delete cascade,
  -- Which service it is paid at, and its own name for it.
  service text not null,
  reference text,
  -- Where its buyer pays.
  page text,
  currency text not null,
  amount bigint not null check (amount > 0),
  state text not null default 'Open' check (state in ('Open', 'Paid', 'Wrong', 'Ended')),
  came bigint,
  came_in text,
  returned bigint not null default 0,
  opened timestamptz not null,
  -- When the service was last asked what has become of it.
  asked timestamptz,
  check ((came is null) = (came_in is null))
);
create index payment_order on payment (sale_order);
create unique index payment_open on payment (sale_order) where state = 'Open';
create index payment_asked on payment (asked nulls first) where state = 'Open';

-- Money that goes back: through the service it came by, or by hand.
create table refund (
  id uuid primary key,
  sale_order uuid not null references sale_order (id) on delete cascade,
  payment uuid references payment (id) on delete cascade,
  amount bigint not null check (amount > 0),
  state text not null check (state in ('Asked', 'Done', 'Refused')),
  made timestamptz not null,
  check (payment is not null or state = 'Done')
);
create index refund_order on refund (sale_order);
create index refund_payment on refund (payment) where payment is not null;
create index refund_asked on refund (made) where state = 'Asked';

-- How much of an order's money went back, minor units.
alter table sale_order add column returned bigint not null default 0;
update act_tracked set fields = '{state,paid,note,returned}' where kind = 'sale_order';
select act_track('sale_order');
-- Buyers place orders; what is done with one is an act.
drop trigger act_made on sale_order;
drop trigger act_taken on sale_order;
