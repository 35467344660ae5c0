-- +goose Up
-- Tests that come back: the same measures under the same conditions, every so many weeks.

alter table theme drop constraint theme_kind_check, add check (kind in ('skill', 'new', 'clean-up', 'event', 'words'));

create table test (
  club_id uuid not null,
  id uuid not null,
  class_id uuid not null,
  name text not null check (name <> ''),
  doc jsonb not null,
  from_on date not null,
  by_member uuid not null,
  retired_at timestamptz,
  primary key (club_id, id),
  foreign key (club_id, class_id) references class,
  foreign key (club_id, by_member) references member
);
create index test_class on test (club_id, class_id);
-- Whether a test comes on the day of a moment, in whole weeks since the first time.
-- +goose StatementBegin
create function is_due(t test, at timestamptz) returns boolean language sql stable as $$
  select t.retired_at is null and d.on_day >= t.from_on and (d.on_day - t.from_on) / 7 % greatest(1, (t.doc->>'every')::int) = 0
    from (select (at at time zone c.time_zone)::date as on_day from club c where c.club_id = t.club_id) d
$$;
-- +goose StatementEnd
create table test_figure ( -- the newest word about a try
  club_id uuid not null,
  test_id uuid not null,
  player_id uuid not null,
  on_day date not null,
  measure int not null check (measure >= 0),
  try int not null check (try >= 0),
  figure double precision, -- null: taken back
  by_member uuid not null,
  said_at timestamptz not null,
  primary key (club_id, test_id, player_id, on_day, measure, try),
  foreign key (club_id, test_id) references test,
  foreign key (club_id, player_id) references player,
  foreign key (club_id, by_member) references member
);
create index test_figure_player on test_figure (club_id, player_id);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['test', 'test_figure'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
  end loop;
  execute 'create trigger keep_change after insert or update or delete on test for each row execute function keep_change()';
end $$;
-- +goose StatementEnd
