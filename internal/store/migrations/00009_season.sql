-- +goose Up
-- The season: what each class is about on each of its dates, and the days on which nobody meets or something is on.

create table theme (
  club_id uuid not null,
  class_id uuid not null,
  on_day date not null,
  kind text not null check (kind in ('skill', 'clean-up', 'event', 'words')),
  value text not null default '',
  says text not null default '', -- to players and guardians
  pinned boolean not null default false, -- stays when the season is filled
  primary key (club_id, class_id, on_day),
  foreign key (club_id, class_id) references class
);
create table day_off ( -- a holiday, or an event: then something is on and nobody is away
  club_id uuid not null references club,
  id uuid not null,
  kind text not null check (kind in ('holiday', 'event')),
  name text not null check (name <> ''),
  from_on date not null,
  until_on date not null check (until_on >= from_on), -- that day included
  primary key (club_id, id)
);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['theme', 'day_off'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
    execute format('create trigger keep_change after insert or update or delete on %I for each row execute function keep_change()', t);
  end loop;
end $$;
-- +goose StatementEnd
