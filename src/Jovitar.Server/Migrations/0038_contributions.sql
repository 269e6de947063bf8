-- Members may send photos in: at all, and whether those wait until somebody accepts them.
alter table account add column contributing text not null default 'No' check (contributing in ('No', 'Waits', 'Trusted'));
create index account_contributing on account (lower(name), id) where contributing <> 'No';

-- The categories that members may put albums of their own into.
alter table site add column offered_categories uuid[] not null default '{}';
update act_tracked set fields = fields || '{offered_categories}' where kind = 'site';
select act_track('site');

alter table intake drop constraint intake_came_by_check;
alter table intake add constraint intake_came_by_check check (came_by in ('computer', 'watched', 'scanner', 'sent'));

-- A contribution link: who has it sends photos in, with its instructions.
create table contribution_link (
  id uuid primary key,
  title text not null,
  words text not null,
  -- What whoever sends must say yes to.
  agree text not null,
  -- Where accepted photos are put.
  album uuid references album on delete set null,
  ends timestamptz,
  for_members boolean not null,
  most int not null check (most > 0),
  secret text not null,
  hash bytea not null unique,
  made timestamptz not null,
  made_by text not null,
  revoked timestamptz,
  version bigint not null default 1
);
create index contribution_link_made on contribution_link (made desc, id) where revoked is null;
create index contribution_link_album on contribution_link (album) where album is not null;

-- What somebody sent at once, or is putting together.
create table contribution (
  id uuid primary key,
  link uuid references contribution_link on delete set null,
  -- Who it was: a member, or who shows what was handed out for it (its SHA-256 is kept).
  account uuid references account on delete set null,
  receipt bytea unique,
  name text not null,
  email text not null default '',
  words text not null default '',
  -- What they said yes to, in the words of that moment.
  agreed text not null default '',
  -- Where accepted photos are put: an album, or one that is made with the first of them.
  album uuid references album on delete set null,
  album_title text not null default '',
  album_category uuid,
  album_comments boolean not null default false,
  begun timestamptz not null,
  sent timestamptz,
  -- The letter about what became of it was written.
  told timestamptz,
  intake uuid references intake on delete set null
);
create index contribution_account on contribution (account, coalesce(sent, begun) desc, id desc) where account is not null;
create index contribution_link_of on contribution (link) where link is not null;
create index contribution_album on contribution (album) where album is not null;
create index contribution_intake on contribution (intake) where intake is not null;
create index contribution_sent on contribution (sent desc, id desc) where sent is not null;
create index contribution_draft on contribution (begun) where sent is null;
create index contribution_untold on contribution (sent) where sent is not null and told is null and email <> '';

create table contribution_photo (
  id uuid primary key,
  contribution uuid not null references contribution on delete cascade,
  place int not null,
  file_name text not null,
  hash bytea not null,
  bytes bigint not null,
  width int not null,
  height int not null,
  title text not null,
  caption text not null,
  state text not null default 'Waiting' check (state in ('Waiting', 'Accepted', 'Refused', 'Withdrawn')),
  -- Why it was refused, for whoever sent it.
  reason text not null default '',
  decided timestamptz,
  decided_by text not null default '',
  -- What it became, and whether it was not here before.
  photo uuid references photo on delete set null,
  is_made boolean not null default false,
  -- It has become a photo, whether or not that is still here.
  is_in boolean not null default false,
  -- Its bytes are still kept.
  is_kept boolean not null default true
);
create unique index contribution_photo_once on contribution_photo (contribution, hash);
create index contribution_photo_place on contribution_photo (contribution, place, id);
create index contribution_photo_photo on contribution_photo (photo) where photo is not null;
create index contribution_photo_waiting on contribution_photo (contribution) where state = 'Waiting';
create index contribution_photo_coming on contribution_photo (decided, contribution, place, id) where state = 'Accepted' and not is_in;
create index contribution_photo_kept on contribution_photo (decided) where is_kept and state <> 'Waiting';

-- Acts whose sentences name members: found when one of them is to be forgotten.
create index act_of_members on act (kind) where kind in ('Members', 'Contributions', 'Choices', 'Audience');
