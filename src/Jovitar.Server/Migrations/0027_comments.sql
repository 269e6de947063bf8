-- Whether visitors may say something about an album's photos: off until somebody wants it.
alter table album
  add column has_comments boolean not null default false,
  add column has_ratings boolean not null default false;
update act_tracked set fields = fields || '{has_comments,has_ratings}' where kind = 'album';
select act_track('album');

create table comment (
  id uuid primary key,
  photo uuid not null references photo on delete cascade,
  name text not null,
  words text not null,
  said timestamptz not null,
  state text not null default 'Waiting' check (state in ('Waiting', 'Shown', 'Refused'))
);
-- What goes with a photo that is removed for good is found by it, whatever its state.
create index comment_photo on comment (photo, state, said, id);
create index comment_state on comment (state, said, id);
-- Visitors write them; only the decision on them is an act.
insert into act_tracked (kind, thing, fields) values ('comment', 'id', '{state}');
select act_track('comment');
drop trigger act_made on comment;
drop trigger act_taken on comment;

-- What visitors give photos, each once: by a number that their browser made up, of which only the hash is kept.
create table visitor_rating (
  photo uuid not null references photo on delete cascade,
  visitor bytea not null,
  value smallint not null check (value between 1 and 5),
  primary key (photo, visitor)
);

-- Not only tries at signing in are counted.
alter table sign_in_count rename to try_count;
alter index sign_in_count_since rename to try_count_since;
alter index sign_in_count_pkey rename to try_count_pkey;
