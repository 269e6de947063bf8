-- What visitors had of a page, each time it was published: numbered, never changed.
create table page_version (
  page uuid not null references page on delete cascade,
  number int not null,
  content jsonb not null,
  made timestamptz not null,
  made_by text not null,
  primary key (page, number)
);

alter table page
  -- The version that visitors have, or had last.
  add column number int,
  -- What becomes the next version at a time, as it was when it was planned.
  add column planned jsonb,
  add column planned_at timestamptz,
  add check ((planned is null) = (planned_at is null));
create index page_planned on page (planned_at) where planned_at is not null;

insert into page_version (page, number, content, made, made_by)
select id, 1, published, coalesce(published_at, made), '' from page where published is not null;
update page set number = 1 where published is not null;

update act_tracked set fields = fields || '{number,planned,planned_at}' where kind = 'page';
select act_track('page');
