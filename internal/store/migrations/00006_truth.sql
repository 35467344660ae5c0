-- +goose Up
-- Being a guest and being there are two facts; days are days in the club's zone; which drills show a criterion; who was looked at; sign-in that is guarded.

-- Every transaction of a club runs in the club's own time zone, so that a moment is compared with a day as people there would.
-- +goose StatementBegin
create function enter_club(club uuid) returns void language plpgsql security definer set search_path = public, pg_temp as $$
declare
  zone text;
begin
  perform set_config('gruppo.club', club::text, true);
  select time_zone into zone from club c where c.club_id = enter_club.club;
  perform set_config('TimeZone', coalesce(zone, 'UTC'), true);
exception when invalid_parameter_value then -- a zone that this server does not know
  perform set_config('gruppo.club', club::text, true);
  perform set_config('TimeZone', 'UTC', true);
end $$;
-- +goose StatementEnd
revoke execute on function enter_club from public;
grant execute on function enter_club to gruppo_app;

-- What was changed is kept and compared in one zone, whatever zone the club is in by then.
alter function keep_change() set timezone to 'UTC';
alter function apply_change(uuid, boolean) set timezone to 'UTC';

drop view open_tryout;
alter table attendance add column guest boolean not null default false;
update attendance set guest = true where state = 'guest';
alter table attendance drop constraint attendance_state_check;
update attendance a set state = case when s.starts_at < now() then 'present' else '' end from session s
  where a.state = 'guest' and (s.club_id, s.id) = (a.club_id, a.session_id);
alter table attendance add constraint attendance_state_check check (state in ('', 'away', 'present', 'late', 'absent', 'left', 'hurt')); -- '': nothing said, or taken back

-- is_coming and has_come are register.Said's Coming and Came: a test holds them to the same cases.
create function is_coming(state text, until_minute int, no_what text) returns boolean language sql immutable parallel safe as
  $$ select state in ('', 'present', 'late') or state = 'left' and until_minute > 0 or state = 'hurt' and no_what <> '' $$;
create function has_come(state text) returns boolean language sql immutable parallel safe as
  $$ select state in ('present', 'late', 'left', 'hurt') $$;
grant execute on function is_coming, has_come to gruppo_app;

-- visit is everybody who came to a session: the one place from which visits are counted.
create view visit with (security_invoker = true) as
  select a.club_id, a.player_id, a.session_id, s.class_id, c.program_id, s.starts_at, a.guest, a.state
    from attendance a join session s on (s.club_id, s.id) = (a.club_id, a.session_id) join class c on (c.club_id, c.id) = (s.club_id, s.class_id)
    where has_come(a.state);
grant select on visit to gruppo_app;

-- A try-out that nothing was decided after, and how often the player came.
create view open_tryout with (security_invoker = true) as
  select d.club_id, d.id, d.player_id, d.program_id, d.to_stage, d.class_id, d.visits, d.at,
    (select count(*)::int from visit v where (v.club_id, v.player_id, v.class_id) = (d.club_id, d.player_id, d.class_id) and v.starts_at >= d.at) as came
  from decision d where d.kind = 'try'
    and not exists (select from decision n where (n.club_id, n.player_id, n.program_id) = (d.club_id, d.player_id, d.program_id) and (n.at, n.id) > (d.at, d.id));
grant select on open_tryout to gruppo_app;

-- expected is who is asked for in a session's register, with what was said about each: the class, its guests, and those who try it out.
create view expected with (security_invoker = true) as
  select x.club_id, x.session_id, x.player_id, bool_and(x.guest) as guest, coalesce(min(a.state), '') as state, coalesce(min(a.from_minute), 0) as from_minute,
      coalesce(min(a.until_minute), 0) as until_minute, coalesce(min(a.no_what), '') as no_what
    from (
      select s.club_id, s.id as session_id, e.player_id, false as guest from session s join class_player e on (e.club_id, e.class_id) = (s.club_id, s.class_id)
      union all
      select a.club_id, a.session_id, a.player_id, true from attendance a where a.guest
      union all
      select s.club_id, s.id, d.player_id, true from session s join decision d on d.kind = 'try' and (d.club_id, d.class_id) = (s.club_id, s.class_id)
          and d.at < s.starts_at + make_interval(mins => s.minutes)
        where exists (select from attendance a where (a.club_id, a.session_id, a.player_id) = (s.club_id, s.id, d.player_id))
          or exists (select from open_tryout o where (o.club_id, o.id) = (d.club_id, d.id) and o.came < o.visits)
    ) x
    join player p on (p.club_id, p.id) = (x.club_id, x.player_id) and p.left_on is null
    left join attendance a on (a.club_id, a.session_id, a.player_id) = (x.club_id, x.session_id, x.player_id)
    group by x.club_id, x.session_id, x.player_id;
grant select on expected to gruppo_app;

-- A link holds through its last day where the club is.
drop function guardian_page(text, timestamptz);
alter table guardian_link add column until_on date;
update guardian_link g set until_on = (g.until at time zone c.time_zone)::date from club c where c.club_id = g.club_id;
alter table guardian_link alter column until_on set not null, drop column until;
-- +goose StatementBegin
create function guardian_page(secret text, at timestamptz) returns table (club_id uuid, club text, time_zone text, player_id uuid, until date)
language sql volatile security definer set search_path = public, pg_temp as $$
  update guardian_link g set seen_at = guardian_page.at from club c
    where c.club_id = g.club_id and g.hash = secret and g.withdrawn_at is null and g.until_on >= (guardian_page.at at time zone c.time_zone)::date
      and exists (select from player p where (p.club_id, p.id) = (g.club_id, g.player_id) and p.left_on is null)
    returning g.club_id, c.name, c.time_zone, g.player_id, g.until_on
$$;
-- +goose StatementEnd
revoke execute on function guardian_page from public;
grant execute on function guardian_page to gruppo_app;

-- Which drills show a criterion: what a coach said; where nothing was said, the skill that both name.
create table criterion_drill (
  club_id uuid not null,
  criterion_id uuid not null,
  drill_id uuid not null,
  shows boolean not null,
  primary key (club_id, criterion_id, drill_id),
  foreign key (club_id, criterion_id) references criterion,
  foreign key (club_id, drill_id) references drill
);
create index criterion_drill_drill on criterion_drill (club_id, drill_id);

alter table tally add column mark_id uuid; -- the mark it became; another one where more of it arrived later
update tally t set mark_id = t.id where t.done and exists (select from mark m where (m.club_id, m.id) = (t.club_id, t.id));

-- Who was looked at in the first look of a session, and by whom.
create table looked (
  club_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  player_id uuid not null,
  by_member uuid not null,
  at timestamptz not null,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, player_id) references player,
  foreign key (club_id, by_member) references member
);
create index looked_session on looked (club_id, session_id);

-- What a device sent and the program could not take: seen by the coach until it is put aside.
create table refused (
  club_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  by_member uuid not null,
  at timestamptz not null,
  why text not null,
  item jsonb not null,
  seen_at timestamptz,
  primary key (club_id, id),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, by_member) references member
);
create index refused_session on refused (club_id, session_id);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['criterion_drill', 'looked', 'refused'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
  end loop;
  execute 'create trigger keep_change after insert or update or delete on criterion_drill for each row execute function keep_change()';
end $$;
-- +goose StatementEnd
revoke update, delete on looked from gruppo_app;
revoke delete on refused from gruppo_app;

-- Two clubs may know somebody by one address: whether an address has an account is told to nobody.
drop index member_email;
create unique index member_email on member (club_id, lower(email));
create index member_address on member (lower(email));
drop function member_for_sign_in(text);
-- +goose StatementBegin
create function member_for_sign_in(address text) returns table (club_id uuid, club text, id uuid, password_hash text)
language sql stable security definer set search_path = public, pg_temp as $$
  select m.club_id, c.name, m.id, m.password_hash from member m join club c on c.club_id = m.club_id
    where lower(m.email) = lower(address) and m.for_session is null and m.password_hash <> '' order by c.made_at, m.id limit 5
$$;
-- +goose StatementEnd
revoke execute on function member_for_sign_in from public;
grant execute on function member_for_sign_in to gruppo_app;

drop function member_signed_in(uuid, uuid);
-- +goose StatementBegin
create function member_signed_in(club uuid, who uuid) returns table (club_id uuid, club_name text, time_zone text, units text, id uuid, name text, email text, role text, password_hash text, sign_ins int, visitor boolean)
language sql stable security definer set search_path = public, pg_temp as $$
  select c.club_id, c.name, c.time_zone, c.units, m.id, m.name, m.email, m.role, m.password_hash, m.sign_ins, m.for_session is not null
    from member m join club c on c.club_id = m.club_id where m.club_id = club and m.id = who
$$;
-- +goose StatementEnd
revoke execute on function member_signed_in from public;
grant execute on function member_signed_in to gruppo_app;

-- A device from which somebody signed in before: wrong tries elsewhere do not shut it out. Only the hash of its secret is kept.
create table web.known_device (hash text, address text, until timestamptz not null, primary key (hash, address));
create index known_device_until on web.known_device (until);
create index sign_in_failure_last on web.sign_in_failure (last);
grant select, insert, update, delete on web.known_device to gruppo_app;
-- Sessions are found by a hash of their token from now on: those of before are over, and people sign in once more.
delete from web.sessions;
