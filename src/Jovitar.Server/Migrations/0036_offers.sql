-- What visitors may do with an album's photos besides seeing them: save them, and, those whom the site knows, choose among them.
alter table album
  add column saves text not null default 'Nothing' check (saves in ('Nothing', 'Large', 'Full')),
  add column known_save text not null default 'Nothing' check (known_save in ('Nothing', 'Large', 'Full')),
  add column has_choosing boolean not null default false,
  add column choosing_most int check (choosing_most > 0),
  add column choosing_until timestamptz,
  add column choosing_asks text not null default '';
update act_tracked
   set fields = fields || '{saves,known_save,has_choosing,choosing_most,choosing_until,choosing_asks}'
 where kind = 'album';
select act_track('album');

-- What a visitor chose of an album that asks for it: one choice for each member, and one for all who came in by the same entry.
create table choice (
  id uuid primary key,
  album uuid not null references album on delete cascade,
  account uuid references account on delete set null,
  entry uuid references entry on delete set null,
  -- Who that was, also when they are not here any more.
  name text not null,
  -- What they say with it.
  words text not null default '',
  changed timestamptz not null,
  -- They said that they are done; and somebody has taken note of it.
  sent timestamptz,
  noted timestamptz
);
create unique index choice_of_account on choice (album, account) where account is not null;
create unique index choice_of_entry on choice (album, entry) where entry is not null;
-- They are listed by when they were sent, or else changed: of all albums, and of one.
create index choice_latest on choice (coalesce(sent, changed) desc, id desc);
create index choice_latest_of_album on choice (album, coalesce(sent, changed) desc, id desc);
create index choice_account on choice (account) where account is not null;
create index choice_entry on choice (entry) where entry is not null;
create index choice_waiting on choice (sent) where sent is not null and noted is null;

create table choice_photo (
  choice uuid not null references choice on delete cascade,
  photo uuid not null references photo on delete cascade,
  at timestamptz not null,
  primary key (choice, photo)
);
create index choice_photo_photo on choice_photo (photo);
