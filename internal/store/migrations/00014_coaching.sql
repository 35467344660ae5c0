-- +goose Up
-- What is told in the hall beside figures: feedback, a player's own word for a key, and the points of pairs and teams, which every device shares.
alter table player_note drop constraint player_note_kind_check;
alter table player_note add constraint player_note_kind_check
  check (kind in ('word', 'follow', 'talk', 'clip', 'effort', 'hurt', 'cue'));

create table feedback (
  club_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  player_id uuid, -- nobody alone: the group
  unit int not null default -1, -- the group, where it was one
  key text not null default '',
  how text not null check (how in ('told', 'corrected', 'asked', 'before', 'filmed', 'praised', 'step')),
  said text not null default '', -- what the group answered, or the step of its teaching
  at timestamptz not null,
  by_member uuid not null,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, player_id) references player
);
create index feedback_session on feedback (club_id, session_id, at);

create table point ( -- a try of a pair or a team
  club_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  place int not null, -- the station, or a block beside them
  turn text not null, -- the round, and the turn in it
  whose text not null, -- two players, or the team
  player_id uuid, -- of a team: whose try it was
  good boolean not null,
  undone boolean not null default false,
  at timestamptz not null,
  by_member uuid not null,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, player_id) references player
);
create index point_session on point (club_id, session_id, at);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['feedback', 'point'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
  end loop;
end $$;
-- +goose StatementEnd
grant select, insert, delete on feedback to gruppo_app;
grant select, insert, update, delete on point to gruppo_app;

-- A session that nobody ended.
alter table run_event add column itself boolean not null default false;
-- +goose StatementBegin
create function sessions_left_open(at timestamptz) returns table (club_id uuid, time_zone text, session_id uuid, by_member uuid, ended timestamptz)
language sql stable security definer set search_path = public, pg_temp as $$
  select s.club_id, b.time_zone, s.id, r.by_member, greatest(s.starts_at + make_interval(mins => s.minutes),
      (select max(e.at) from run_event e where (e.club_id, e.session_id) = (s.club_id, s.id)))
    from run_event r join session s on (s.club_id, s.id) = (r.club_id, r.session_id) join club b on b.club_id = s.club_id
    where r.what = 'start' and greatest(s.starts_at, r.at) + make_interval(mins => s.minutes) < sessions_left_open.at - interval '3 hours'
      and not exists (select from run_event e where (e.club_id, e.session_id) = (s.club_id, s.id) and (e.what = 'end' or e.at > sessions_left_open.at - interval '3 hours'))
$$;
-- +goose StatementEnd
revoke execute on function sessions_left_open from public;
grant execute on function sessions_left_open to gruppo_app;

-- The club's own: for how many days a mirror keeps a clip (none: no pictures are kept), and from how many of a hundred a key holds.
alter table club add column clip_days int check (clip_days between 1 and 60);
alter table club add column key_holds int check (key_holds between 50 and 100);
