-- An invitation by which an owner hands the site over: once it is taken up, their account ends.
alter table invitation add column hands_over uuid references account on delete set null;
create index invitation_hands_over on invitation (hands_over) where hands_over is not null;
