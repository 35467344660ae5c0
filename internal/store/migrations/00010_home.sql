-- +goose Up
-- Practice at home: tasks of several parts for one, a group or a class; what came back; which criteria it may count for; a link's own reminders,
-- and the mails that would go out.

drop index home_task_player;
alter table home_task
  add column class_id uuid,
  add column criterion_id uuid,
  add column doc jsonb not null default '{}',
  add column from_on date,
  add column ended_on date; -- the last day, where it was ended before its until
alter table home_task rename column what to name;
create table home_for ( -- who has a task beside those of its class
  club_id uuid not null,
  task_id uuid not null,
  player_id uuid not null,
  named boolean not null default true, -- else only of the class, and here for what was opened
  opened int not null default 0, -- parts that the coach opened
  primary key (club_id, task_id, player_id),
  foreign key (club_id, task_id) references home_task,
  foreign key (club_id, player_id) references player
);
create index home_for_player on home_for (club_id, player_id);
insert into home_for (club_id, task_id, player_id) select club_id, id, player_id from home_task;
update home_task set from_on = at::date, ended_on = done_at::date,
  doc = jsonb_build_object('parts', jsonb_build_array(jsonb_build_object('what', name)), 'sets', 1, 'says', concat_ws(', ', nullif(sets, ''), nullif(days, '')));
alter table home_task
  alter column from_on set not null,
  add foreign key (club_id, class_id) references class,
  add foreign key (club_id, criterion_id) references criterion,
  drop column player_id, drop column sets, drop column days, drop column done_at;
create index home_task_class on home_task (club_id, class_id);

create table home_day ( -- what came back of a day; the newest word stands
  club_id uuid not null,
  task_id uuid not null,
  player_id uuid not null,
  on_day date not null,
  part int not null default 0, -- the newest that was open
  done boolean not null,
  felt text not null default '' check (felt in ('', 'easy', 'just right', 'hard')),
  figure double precision,
  words text not null default '',
  said_at timestamptz not null,
  link_id uuid, -- by whose link; none: entered by a coach
  mark_id uuid, -- the mark that its figure became
  primary key (club_id, task_id, player_id, on_day),
  foreign key (club_id, task_id) references home_task,
  foreign key (club_id, player_id) references player,
  foreign key (club_id, link_id) references guardian_link,
  foreign key (club_id, mark_id) references mark
);
create index home_day_player on home_day (club_id, player_id);

alter table criterion add column home boolean not null default false; -- figures from home count for it
alter table mark add column home boolean not null default false;
alter table club add column home_minutes int check (home_minutes between 1 and 240); -- a day at most, of those under 16

alter table guardian_link
  add column own boolean not null default false, -- a grown-up player's own
  add column mail text not null default '', -- where reminders go, as the reader of the link asked
  add column mail_key text unique; -- ends them
create table mail ( -- what would be sent
  club_id uuid not null references club,
  id uuid not null,
  about text not null, -- so that it is written once
  to_address text not null check (to_address <> ''),
  subject text not null,
  body text not null,
  at timestamptz not null,
  primary key (club_id, id),
  unique (club_id, about)
);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['home_for', 'home_day', 'mail'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
  end loop;
  execute 'create trigger keep_change after insert or update or delete on home_for for each row execute function keep_change()';
end $$;
-- +goose StatementEnd

-- Who has a task: those named, and whoever is in its class.
-- +goose StatementBegin
create function has_home_task(t home_task, who uuid) returns boolean language sql stable as $$
  select exists (select from home_for f where (f.club_id, f.task_id, f.player_id) = (t.club_id, t.id, who) and f.named)
    or exists (select from class_player e where (e.club_id, e.class_id, e.player_id) = (t.club_id, t.class_id, who))
$$;
-- +goose StatementEnd

drop function guardian_page(text, timestamptz);
-- +goose StatementBegin
create function guardian_page(secret text, at timestamptz)
returns table (club_id uuid, club text, time_zone text, units text, link uuid, player_id uuid, until date, own boolean, mail text)
language sql volatile security definer set search_path = public, pg_temp as $$
  with asked as (select g.club_id, c.name, c.time_zone, c.units, g.id, g.player_id, g.until_on, g.own, g.mail from guardian_link g join club c on c.club_id = g.club_id
      where g.hash = secret and g.withdrawn_at is null and g.until_on >= (guardian_page.at at time zone c.time_zone)::date
        and exists (select from player p where (p.club_id, p.id) = (g.club_id, g.player_id) and p.left_on is null)),
    seen as (update guardian_link l set seen_at = guardian_page.at from asked a -- at most once a minute
      where (l.club_id, l.id) = (a.club_id, a.id) and (l.seen_at is null or l.seen_at < guardian_page.at - interval '1 minute'))
  select * from asked
$$;
-- +goose StatementEnd

-- Whoever has the key of a mail ends the reminders.
-- +goose StatementBegin
create function end_reminders(which text) returns boolean
language sql volatile security definer set search_path = public, pg_temp as $$
  with gone as (update guardian_link set mail = '', mail_key = null where mail_key = which and which <> '' returning 1)
  select exists (select from gone)
$$;
-- +goose StatementEnd

-- The clubs that have somebody to remind.
-- +goose StatementBegin
create function clubs_to_remind() returns table (club_id uuid, time_zone text)
language sql stable security definer set search_path = public, pg_temp as $$
  select c.club_id, c.time_zone from club c where exists (select from guardian_link g where g.club_id = c.club_id and g.mail <> '' and g.withdrawn_at is null)
$$;
revoke execute on function guardian_page, end_reminders, clubs_to_remind from public;
grant execute on function guardian_page, end_reminders, clubs_to_remind to gruppo_app;
-- +goose StatementEnd
