-- What an order comes to, part by part, and what each of its lines does: said in its content, and here to be summed.
alter table sale_order
  add column goods bigint not null default 0,
  add column taken_off bigint not null default 0,
  add column postage bigint not null default 0,
  add column taxed bigint not null default 0;
alter table sale_order_line
  add column option uuid,
  add column count int not null default 0,
  add column amount bigint not null default 0,
  -- What the seller said that all of it costs; null where nobody had.
  add column cost bigint;

-- Amounts are written with as many digits as their currency has: without the point they are minor units.
create function minor_units(amount text) returns bigint language sql immutable strict return replace(amount, '.', '')::bigint;
update sale_order
   set goods = minor_units(content ->> 'goods'), postage = minor_units(content ->> 'postage'), taxed = minor_units(content ->> 'taxed'),
       taken_off = coalesce((select sum(minor_units(o ->> 'amount')) from jsonb_array_elements(content -> 'off') as o), 0);
update sale_order_line as l
   set option = (s.line -> 'option' ->> 'id')::uuid, count = (s.line ->> 'count')::int,
       amount = minor_units(s.line ->> 'each') * (s.line ->> 'count')::int,
       cost = minor_units(nullif(s.line -> 'option' ->> 'cost', '')) * (s.line ->> 'count')::int
  from (select o.id, s.line, s.n
          from sale_order as o
         cross join lateral jsonb_array_elements(o.content -> 'lines') with ordinality as s(line, n)) as s
 where l.sale_order = s.id and l.place = s.n;
drop function minor_units(text);
alter table sale_order_line alter column option set not null;

-- So many were sold of a photo, by option.
create index sale_order_line_option on sale_order_line (option, photo);
create index sale_order_sold on sale_order (paid) where paid is not null and state <> 'Cancelled';
