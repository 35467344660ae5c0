-- +goose Up
-- The hall: a code that lets helpers in for one session, keys that players have or lack, notes that come back, steps climbed, and what a round really gave.

alter table member add column for_session uuid; -- of a helper who came in by a code: they sign in to nothing else
alter table session_member add column heard_at timestamptz; -- when a device of theirs was last in touch
alter table tally add column zones text not null default '' check (zones ~ '^[0-9,]*$'), -- where the good ones went, beside the tries
  add column closed boolean not null default false; -- by the end of the session, not by whoever counted

create table session_code (
  club_id uuid not null,
  session_id uuid not null,
  code text not null unique,
  by_member uuid not null,
  made_at timestamptz not null,
  primary key (club_id, session_id),
  foreign key (club_id, session_id) references session
);

create table key_mark ( -- a player has a key of a skill, or lacks it; only ever added, the newest word stands
  club_id uuid not null,
  id uuid not null,
  player_id uuid not null,
  key text not null check (key <> ''),
  has boolean not null,
  session_id uuid,
  at timestamptz not null,
  by_member uuid not null,
  primary key (club_id, id),
  foreign key (club_id, player_id) references player,
  foreign key (club_id, by_member) references member
);
create index key_mark_player on key_mark (club_id, player_id, key, at);

create table player_note (
  club_id uuid not null,
  id uuid not null,
  player_id uuid not null,
  session_id uuid,
  kind text not null check (kind in ('word', 'follow', 'talk', 'clip', 'effort', 'hurt')),
  says text not null default '',
  due date,
  at timestamptz not null,
  by_member uuid not null,
  done_at timestamptz,
  primary key (club_id, id),
  foreign key (club_id, player_id) references player,
  foreign key (club_id, by_member) references member
);
create index player_note_player on player_note (club_id, player_id, at);

create table climb ( -- where a group stands on a ladder of tasks; the newest word stands
  club_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  block int not null,
  unit int not null, -- the group
  step int not null,
  at timestamptz not null,
  by_member uuid not null,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session
);
create index climb_session on climb (club_id, session_id);

create table round_done ( -- what a round at a station really gave
  club_id uuid not null,
  session_id uuid not null,
  round int not null,
  station int not null,
  unit int not null, -- the group
  drill_id uuid not null,
  seconds double precision not null,
  places int not null, -- at work at once
  players int not null,
  counted int not null, -- of whom tries were counted
  tries int not null, -- of those
  planned double precision not null, -- tries each, as the plan thought
  primary key (club_id, session_id, round, station, unit),
  foreign key (club_id, session_id) references session
);
create index round_done_drill on round_done (club_id, drill_id);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['session_code', 'key_mark', 'player_note', 'climb', 'round_done'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
  end loop;
  execute 'create trigger keep_change after insert or update or delete on player_note for each row execute function keep_change()';
  revoke update, delete on key_mark from gruppo_app;
end $$;
-- +goose StatementEnd

-- The session a code opens, asked before anybody is signed in.
-- +goose StatementBegin
create function session_by_code(asked text) returns table (club_id uuid, club text, session_id uuid, class text, starts_at timestamptz, minutes int, ended boolean)
language sql stable security definer set search_path = public, pg_temp as $$
  select s.club_id, b.name, s.id, c.name, s.starts_at, s.minutes, exists (select from run_event r where r.club_id = s.club_id and r.session_id = s.id and r.what = 'end')
    from session_code k join session s on (s.club_id, s.id) = (k.club_id, k.session_id) join class c on (c.club_id, c.id) = (s.club_id, s.class_id) join club b on b.club_id = s.club_id
    where k.code = asked
$$;
-- +goose StatementEnd
revoke execute on function session_by_code from public;
grant execute on function session_by_code to gruppo_app;
