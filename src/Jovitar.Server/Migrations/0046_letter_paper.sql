-- What comes with a letter: a PDF, forgotten with what the letter said.
alter table letter
  add column paper bytea,
  add column paper_name text not null default '';
