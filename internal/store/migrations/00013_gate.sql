-- +goose Up
-- What timing gates and other devices outside saw in a session: a beam that was crossed. Only ever added; sent twice it is there once.
create table crossing (
  club_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  what text not null check (what in ('start', 'finish')),
  lane int not null check (lane between 1 and 20),
  at timestamptz not null,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session
);
create index crossing_session on crossing (club_id, session_id, at);
alter table crossing enable row level security;
create policy own_club on crossing using (club_id = (select nullif(current_setting('gruppo.club', true), '')::uuid));
grant select, insert, delete on crossing to gruppo_app;
