-- For whom albums and categories reserve what visitors do with photos besides seeing them: an object of what is not for everyone.
alter table album add column reserves jsonb not null default '{}';
alter table category add column reserves jsonb not null default '{}';
create index album_reserving on album (id) where reserves <> '{}';
create index category_reserving on category (id) where reserves <> '{}';

-- A category is marked where it spares some the watermark, or reserves something: both are looked up in one go.
create or replace function category_view() returns trigger language plpgsql as $$
begin
  with recursive seen as (
    select id, shown and binned is null as in_view,
           case when is_gate then array[id] else '{}'::uuid[] end as gates,
           case when unmarked <> 'Everyone' or reserves <> '{}' then array[id] else '{}'::uuid[] end as marks
      from category
     where parent is null
    union all
    select c.id, s.in_view and c.shown and c.binned is null,
           s.gates || case when c.is_gate then array[c.id] else '{}'::uuid[] end,
           s.marks || case when c.unmarked <> 'Everyone' or c.reserves <> '{}' then array[c.id] else '{}'::uuid[] end
      from category as c
      join seen as s on c.parent = s.id)
  update category as c
     set in_view = s.in_view, gates = s.gates, marks = s.marks
    from seen as s
   where s.id = c.id and (c.in_view, c.gates, c.marks) is distinct from (s.in_view, s.gates, s.marks);
  return null;
end $$;
drop trigger category_viewed on category;
create trigger category_viewed
  after insert or update of parent, shown, binned, audience, seen_from, seen_until, unmarked, reserves on category
  for each statement execute function category_view();

update act_tracked set fields = fields || '{reserves}' where kind in ('album', 'category');
select act_track(kind) from act_tracked where kind in ('album', 'category');
