-- Settings of blocks that are kept under a name: a block, of which what it shows and says is not looked at.
create table kept_settings (
  id uuid primary key,
  name text not null,
  kind text not null,
  block jsonb not null,
  made timestamptz not null,
  -- Let go; they come back by undo.
  binned timestamptz
);
create unique index kept_settings_name on kept_settings (kind, lower(name)) where binned is null;

insert into act_tracked (kind, thing, fields, gone) values ('kept_settings', 'id', '{name,block,binned}', 'binned');
select act_track('kept_settings');
