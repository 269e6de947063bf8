-- What visitors look at, by day: photos, pages, albums, categories. Nothing of who they are.
create table view_day (
  thing uuid not null,
  day date not null,
  views int not null,
  primary key (thing, day)
);
create index view_day_day on view_day (day);

-- All views of a photo, summed now and then: what is most viewed goes by these.
create table photo_views (
  photo uuid primary key references photo on delete cascade,
  views int not null
);

alter table album drop constraint album_sort_check;
alter table album add constraint album_sort_check check (sort in ('place', 'taken', 'arrived', 'name', 'title', 'rating', 'views'));
