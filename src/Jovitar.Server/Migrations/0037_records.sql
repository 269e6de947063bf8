-- Who of the visitors that the site knows opened and saved what, and who was turned away: kept for so many days, 0 for not at all.
alter table site add column records_kept int not null default 90 check (records_kept >= 0);
update act_tracked set fields = fields || '{records_kept}' where kind = 'site';
select act_track('site');

create table access_record (
  id uuid primary key,
  at timestamptz not null,
  what text not null check (what in ('Opened', 'Saved', 'SavedAll', 'Refused')),
  -- The page, album or category.
  kind text not null,
  thing uuid not null,
  photo uuid references photo on delete set null,
  -- Who it was: a member, or who came in by an entry; neither for who was turned away. What is recorded of somebody goes with them.
  account uuid references account on delete cascade,
  entry uuid references entry on delete cascade,
  -- Where they came from, shortened.
  network text not null
);
create index access_record_at on access_record (at desc, id desc);
create index access_record_what on access_record (what, at desc, id desc);
create index access_record_account on access_record (account, at desc, id desc) where account is not null;
create index access_record_entry on access_record (entry, at desc, id desc) where entry is not null;
create index access_record_photo on access_record (photo) where photo is not null;
-- Whether they came to the same a moment ago.
create index access_record_thing on access_record (thing, at desc);
