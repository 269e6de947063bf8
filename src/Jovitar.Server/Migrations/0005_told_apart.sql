-- Two files may have one name, one folder and one length: they are told apart by when they were changed, as their computer says
-- it (milliseconds since 1970), and in doubt by their content. mark: SHA-256 of the SHA-256s of pieces of 4 MiB, which browsers
-- can work out in constant memory.
alter table intake_file
  add column changed bigint,
  add column mark bytea;
alter table upload add column changed bigint;
create index intake_file_known on intake_file (intake, file_name, path, bytes);
