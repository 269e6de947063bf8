-- Invoices and credit notes: a value of Core (Invoice), whole, with a running number. Nothing of one is ever changed, and none is removed.
create table invoice_count (
  id boolean primary key default true check (id),
  last bigint not null
);
-- 0 while none was written.
insert into invoice_count (last) values (0);

create table invoice (
  number bigint primary key,
  called text not null unique,
  sale_order uuid references sale_order (id) on delete set null,
  kind text not null check (kind in ('Invoice', 'CreditNote')),
  written timestamptz not null,
  content jsonb not null,
  currency text not null,
  amount bigint not null check (amount > 0)
);
create index invoice_order on invoice (sale_order, number);
create index invoice_written on invoice (written, number);

alter table sale_order
  -- When it has its invoice.
  add column invoicing text not null default 'Never' check (invoicing in ('Never', 'WhenDue', 'Now')),
  -- Something of it has changed since its papers were looked at.
  add column to_bill boolean not null default false,
  -- What came beyond its price, minor units.
  add column overpaid bigint not null default 0;
create index sale_order_to_bill on sale_order (placed, id) where to_bill;

create function sale_order_to_bill() returns trigger language plpgsql as $$
begin
  new.to_bill := true;
  return new;
end $$;
-- Whoever changes it, and whoever takes that back.
create trigger sale_order_to_bill before update of state, paid, returned, overpaid on sale_order for each row
  when ((old.state, old.paid, old.returned, old.overpaid) is distinct from (new.state, new.paid, new.returned, new.overpaid))
  execute function sale_order_to_bill();

-- It came for an order that was paid already.
alter table payment add column is_extra boolean not null default false;
update sale_order as o
   set overpaid = p.came - o.total
  from (select sale_order, sum(came) as came from payment where came_in = currency group by sale_order) as p
 where p.sale_order = o.id and p.came > o.total;
