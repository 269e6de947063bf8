-- Pictures for the site's head, named by their bytes: what a look that was taken back names is still there. They are small.
create table logo (
  picture text primary key,
  webp bytea not null,
  width int not null,
  height int not null
);
