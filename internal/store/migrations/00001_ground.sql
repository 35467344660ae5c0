-- +goose Up
-- Every table's key starts with club_id, and row-level security at the end of this file keeps clubs apart.
-- +goose StatementBegin
do $$ begin
  if not exists (select from pg_roles where rolname = 'gruppo_app') then
    raise exception 'the role gruppo_app is missing; the README says how to make it';
  end if;
end $$;
-- +goose StatementEnd

create table club (
  club_id uuid primary key,
  name text not null check (name <> ''),
  time_zone text not null default 'UTC',
  units text not null default 'metric' check (units in ('metric', 'imperial')),
  made_at timestamptz not null default now()
);

create table member (
  club_id uuid not null references club,
  id uuid not null,
  name text not null check (name <> ''),
  email text not null,
  role text not null check (role in ('lead', 'coach', 'helper')),
  password_hash text not null,
  sign_ins int not null default 1, -- counts up to sign out everywhere
  primary key (club_id, id)
);
create unique index member_email on member (lower(email));

create table program (
  club_id uuid not null references club,
  id uuid not null,
  name text not null check (name <> ''),
  position int not null default 0,
  primary key (club_id, id),
  unique (club_id, name)
);

create table stage (
  club_id uuid not null,
  id uuid not null,
  program_id uuid not null,
  position int not null,
  name text not null check (name <> ''),
  about text not null default '',
  colour text not null default '',
  choose int not null default 0 check (choose >= 0),
  visits int not null default 0 check (visits >= 0),
  weeks int not null default 0 check (weeks >= 0),
  primary key (club_id, id),
  foreign key (club_id, program_id) references program
);
create unique index stage_name on stage (club_id, program_id, lower(name));

create table criterion (
  club_id uuid not null,
  id uuid not null,
  stage_id uuid not null,
  position int not null,
  wording text not null check (wording <> ''),
  skill text not null,
  measure text not null,
  want double precision not null default 0,
  of double precision not null default 0,
  tolerance double precision not null default 0,
  points text[] not null default '{}',
  must boolean not null default true,
  by_result boolean not null default false,
  both_sides boolean not null default false,
  good int not null default 2 check (good >= 1),
  last int not null default 0,
  days int not null default 1,
  weeks int not null default 0,
  people int not null default 1,
  keys text[] not null default '{}',
  retired_at timestamptz, -- kept for the marks that rest on it
  primary key (club_id, id),
  foreign key (club_id, stage_id) references stage
);
create index criterion_stage on criterion (club_id, stage_id);

create table player (
  club_id uuid not null references club,
  id uuid not null,
  name text not null check (name <> ''),
  birth_year int,
  side text not null default '' check (side in ('', 'left', 'right', 'both')),
  tags text[] not null default '{}',
  joined_on date not null,
  left_on date,
  primary key (club_id, id)
);

create table standing ( -- on which stage of a program a player is
  club_id uuid not null,
  player_id uuid not null,
  program_id uuid not null,
  stage_id uuid not null,
  since date not null,
  primary key (club_id, player_id, program_id),
  foreign key (club_id, player_id) references player,
  foreign key (club_id, program_id) references program,
  foreign key (club_id, stage_id) references stage
);

create table keep ( -- two players kept together or apart; a is the smaller id
  club_id uuid not null,
  a uuid not null,
  b uuid not null check (a < b),
  apart boolean not null,
  primary key (club_id, a, b),
  foreign key (club_id, a) references player,
  foreign key (club_id, b) references player
);
create index keep_b on keep (club_id, b);

create table player_limit (
  club_id uuid not null,
  id uuid not null,
  player_id uuid not null,
  what text not null check (what <> ''),
  until date,
  primary key (club_id, id),
  foreign key (club_id, player_id) references player
);

create index player_limit_player on player_limit (club_id, player_id);

create table venue (
  club_id uuid not null references club,
  id uuid not null,
  name text not null check (name <> ''),
  floor text not null,
  length double precision not null check (length > 0),
  width double precision not null check (width > 0),
  primary key (club_id, id)
);

create table drill (
  club_id uuid not null references club,
  id uuid not null,
  name text not null check (name <> ''),
  edition int not null default 1,
  primary key (club_id, id)
);

create table drill_edition (
  club_id uuid not null,
  drill_id uuid not null,
  edition int not null,
  doc jsonb not null,
  saved_at timestamptz not null default now(),
  primary key (club_id, drill_id, edition),
  foreign key (club_id, drill_id) references drill
);

create table class (
  club_id uuid not null,
  id uuid not null,
  program_id uuid not null,
  name text not null check (name <> ''),
  weekday int not null check (weekday between 0 and 6), -- 0 is Sunday
  starts time not null,
  minutes int not null check (minutes between 15 and 480),
  venue_id uuid not null,
  places int not null default 20 check (places > 0),
  stage_ids uuid[] not null default '{}',
  primary key (club_id, id),
  foreign key (club_id, program_id) references program,
  foreign key (club_id, venue_id) references venue
);

create table class_player (
  club_id uuid not null,
  class_id uuid not null,
  player_id uuid not null,
  primary key (club_id, class_id, player_id),
  foreign key (club_id, class_id) references class,
  foreign key (club_id, player_id) references player
);
create index class_player_player on class_player (club_id, player_id);

create table class_member (
  club_id uuid not null,
  class_id uuid not null,
  member_id uuid not null,
  until_minute int, -- minutes after the start at which this person leaves
  primary key (club_id, class_id, member_id),
  foreign key (club_id, class_id) references class,
  foreign key (club_id, member_id) references member
);

create table session (
  club_id uuid not null,
  id uuid not null,
  class_id uuid not null,
  starts_at timestamptz not null,
  minutes int not null,
  venue_id uuid not null,
  plan jsonb not null,
  version int not null default 1,
  changed_by uuid,
  changed_at timestamptz,
  primary key (club_id, id),
  unique (club_id, class_id, starts_at),
  foreign key (club_id, class_id) references class,
  foreign key (club_id, venue_id) references venue
);
create index session_starts on session (club_id, starts_at);

create table session_member (
  club_id uuid not null,
  session_id uuid not null,
  member_id uuid not null,
  from_minute int not null default 0,
  until_minute int,
  primary key (club_id, session_id, member_id),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, member_id) references member
);

create table attendance (
  club_id uuid not null,
  session_id uuid not null,
  player_id uuid not null,
  state text not null check (state in ('away', 'present', 'late', 'absent', 'left', 'hurt')),
  said_at timestamptz not null, -- on the device; the newest word stands
  by_member uuid not null,
  primary key (club_id, session_id, player_id),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, player_id) references player
);
create index attendance_player on attendance (club_id, player_id);

create table run_event (
  club_id uuid not null,
  id uuid not null, -- made on the device: one sent twice is kept once
  session_id uuid not null,
  what text not null,
  at timestamptz not null,
  by_member uuid not null,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session
);
create index run_event_session on run_event (club_id, session_id);

create table tally ( -- a series of tries while it grows; when it is done it becomes a mark of the same id
  club_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  player_id uuid not null,
  criterion_id uuid,
  drill_id uuid,
  side text not null default '',
  round int not null default 0,
  tries text not null default '' check (tries ~ '^[01]*$'),
  revision int not null default 0,
  done boolean not null default false,
  at timestamptz not null,
  by_member uuid not null,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, player_id) references player
);
create index tally_session on tally (club_id, session_id);

create table mark (
  club_id uuid not null,
  id uuid not null,
  player_id uuid not null,
  criterion_id uuid,
  drill_id uuid,
  session_id uuid,
  side text not null default '',
  figure double precision not null default 0,
  tries int not null default 0,
  points boolean[] not null default '{}',
  at timestamptz not null,
  by_member uuid not null,
  note text not null default '',
  primary key (club_id, id),
  check (criterion_id is not null or drill_id is not null),
  foreign key (club_id, player_id) references player,
  foreign key (club_id, criterion_id) references criterion,
  foreign key (club_id, drill_id) references drill,
  foreign key (club_id, session_id) references session,
  foreign key (club_id, by_member) references member
);
create index mark_player on mark (club_id, player_id, at);
create index mark_session on mark (club_id, session_id);

create table strike ( -- a mark struck out; the mark itself stays
  club_id uuid not null,
  mark_id uuid not null,
  at timestamptz not null,
  by_member uuid not null,
  why text not null,
  primary key (club_id, mark_id),
  foreign key (club_id, mark_id) references mark
);

create table decision (
  club_id uuid not null,
  id uuid not null,
  player_id uuid not null,
  program_id uuid not null,
  kind text not null check (kind in ('up', 'stay')),
  from_stage uuid not null,
  to_stage uuid not null,
  why text not null default '',
  evidence jsonb not null, -- criteria and marks as they were then
  by_member uuid not null,
  at timestamptz not null,
  primary key (club_id, id),
  foreign key (club_id, player_id) references player,
  foreign key (club_id, by_member) references member
);
create index decision_player on decision (club_id, player_id);

-- What was changed, so that it can be undone: the rows before and after.
create table change (
  club_id uuid not null references club,
  id uuid not null,
  subject uuid,
  says text not null,
  by_member uuid not null,
  at timestamptz not null default clock_timestamp(),
  undone_at timestamptz,
  primary key (club_id, id)
);
create index change_subject on change (club_id, subject, at);

create table change_row (
  club_id uuid not null,
  change_id uuid not null,
  seq bigint generated always as identity,
  tbl text not null,
  before jsonb,
  after jsonb,
  primary key (club_id, change_id, seq)
);

-- +goose StatementBegin
create function keep_change() returns trigger language plpgsql as $$
begin
  if coalesce(current_setting('gruppo.change', true), '') <> '' then
    insert into change_row (club_id, change_id, tbl, before, after)
    values (case when tg_op = 'DELETE' then old.club_id else new.club_id end, current_setting('gruppo.change')::uuid, tg_table_name,
      case when tg_op <> 'INSERT' then to_jsonb(old) end, case when tg_op <> 'DELETE' then to_jsonb(new) end);
  end if;
  return null;
end $$;
-- +goose StatementEnd

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['member', 'program', 'stage', 'criterion', 'player', 'standing', 'keep', 'player_limit', 'venue', 'drill', 'drill_edition',
    'class', 'class_player', 'class_member', 'session', 'session_member', 'attendance'] loop
    execute format('create trigger keep_change after insert or update or delete on %I for each row execute function keep_change()', t);
  end loop;
end $$;
-- +goose StatementEnd

-- undo_change puts every row of a change back, newest first. A row that was changed again since is not touched: it
-- raises 'changed since', and nothing is undone.
-- +goose StatementBegin
create function undo_change(which uuid) returns void language plpgsql as $$
declare
  r record;
  key_is text;
  columns text;
  tbl text := '';
  n int;
begin
  perform set_config('gruppo.change', '', true);
  for r in select * from change_row where change_id = which order by seq desc loop
    if tbl <> r.tbl then
      tbl := r.tbl;
      select string_agg(format('t.%1$I = k.%1$I', a.attname), ' and ') into key_is
        from pg_index i join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any(i.indkey)
        where i.indrelid = r.tbl::regclass and i.indisprimary;
      select string_agg(format('%1$I = o.%1$I', column_name), ', ') into columns from information_schema.columns where table_schema = 'public' and table_name = r.tbl;
    end if;
    if r.before is null then
      execute format('delete from %1$I t using jsonb_populate_record(null::%1$I, $1) k where %2$s and to_jsonb(t) = $1', r.tbl, key_is) using r.after;
    elsif r.after is null then
      execute format('insert into %1$I select * from jsonb_populate_record(null::%1$I, $1)', r.tbl) using r.before;
    else
      execute format('update %1$I t set %3$s from jsonb_populate_record(null::%1$I, $1) k, jsonb_populate_record(null::%1$I, $2) o where %2$s and to_jsonb(t) = $1',
        r.tbl, key_is, columns) using r.after, r.before;
    end if;
    get diagnostics n = row_count;
    if n <> 1 then
      raise exception 'changed since' using errcode = 'GR001';
    end if;
  end loop;
end $$;
-- +goose StatementEnd

-- Signing in starts before the club is known: this one question may be asked across clubs.
-- +goose StatementBegin
create function member_for_sign_in(address text) returns table (club_id uuid, id uuid, password_hash text)
language sql stable security definer set search_path = public, pg_temp as $$
  select club_id, id, password_hash from member where lower(email) = lower(address)
$$;
-- +goose StatementEnd
-- Who a browser's session belongs to: asked once before every page, without a transaction.
-- +goose StatementBegin
create function member_signed_in(club uuid, who uuid) returns table (club_id uuid, club_name text, time_zone text, units text, id uuid, name text, email text, role text, password_hash text, sign_ins int)
language sql stable security definer set search_path = public, pg_temp as $$
  select c.club_id, c.name, c.time_zone, c.units, m.id, m.name, m.email, m.role, m.password_hash, m.sign_ins
    from member m join club c on c.club_id = m.club_id where m.club_id = club and m.id = who
$$;
-- +goose StatementEnd
revoke execute on function member_for_sign_in, member_signed_in from public;

-- Browser sessions and the slow-down after failures belong to no club and are reached by secret tokens or hashes only.
create schema web;
create table web.sessions (token text primary key, data bytea not null, expiry timestamptz not null);
create index sessions_expiry on web.sessions (expiry);
create table web.sign_in_failure (key text primary key, failures int not null, last timestamptz not null);

-- +goose StatementBegin
do $$
declare t text;
begin
  for t in select table_name from information_schema.columns where table_schema = 'public' and column_name = 'club_id'
      and table_name in (select tablename from pg_tables where schemaname = 'public') loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
  end loop;
end $$;
-- +goose StatementEnd
-- Marks, decisions and what happened in the hall are only ever added.
revoke update, delete on mark, strike, decision, run_event from gruppo_app;
revoke delete on club, change, change_row from gruppo_app;
grant usage on schema web to gruppo_app;
grant select, insert, update, delete on web.sessions, web.sign_in_failure to gruppo_app;
grant execute on function member_for_sign_in, member_signed_in to gruppo_app;
grant select on goose_db_version to gruppo_app;
