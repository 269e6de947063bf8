-- Who bought is forgotten: what was sold stays, and invoices name their buyers for as long as the law asks.
alter table sale_order add column forgotten timestamptz;
create index sale_order_known on sale_order (placed, id) where forgotten is null;
alter table invoice add column forgotten boolean not null default false;
create index invoice_known on invoice (written, number) where not forgotten;
-- Letters to somebody who is to be forgotten.
create index letter_to on letter (lower(to_address));
