-- Orders are looked for by any part of their number, and of their buyer's name or address.
create index sale_order_words on sale_order using gin ((lower(number::text || ' ' || name || ' ' || email)) gin_trgm_ops);
