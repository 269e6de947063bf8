-- Passkeys (WebAuthn): of each the public key alone; what signs never leaves its owner's device.
create table passkey (
  id bytea primary key,
  account uuid not null references account on delete cascade,
  public_key bytea not null,
  sign_count bigint not null,
  transports text[] not null,
  is_backup_eligible boolean not null,
  is_backed_up boolean not null,
  name text not null,
  made timestamptz not null,
  used timestamptz
);
create index passkey_account on passkey (account, made);

-- Challenges that were answered, for as long as they could be answered again.
create table answered_challenge (
  hash bytea primary key,
  until timestamptz not null
);
create index answered_challenge_until on answered_challenge (until);
