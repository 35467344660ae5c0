-- +goose Up
-- Clubs of any sport: families of programs; what is not used any more is taken out and can be put back; names are sorted as people sort them; somebody is let
-- in by a link that works once.

create collation names (provider = icu, locale = 'und');

alter table program add column family text not null default 'ball' check (family in ('ball', 'net', 'apparatus', 'athletics'));

-- Taken out: kept for what rests on it.
alter table program add column retired_at timestamptz;
alter table stage add column retired_at timestamptz;
alter table class add column retired_at timestamptz;
alter table venue add column retired_at timestamptz;
alter table program drop constraint program_club_id_name_key;
create unique index program_name on program (club_id, name) where retired_at is null;
drop index stage_name;
create unique index stage_name on stage (club_id, program_id, lower(name)) where retired_at is null;

alter table session add column cancelled_at timestamptz;

-- A way in that is handed on as a link: once, for a day. Only the hash of its secret is kept.
create table way_in (
  club_id uuid not null,
  hash text not null,
  member_id uuid not null,
  until timestamptz not null,
  primary key (club_id, hash),
  foreign key (club_id, member_id) references member
);
create index way_in_member on way_in (club_id, member_id);
create index way_in_until on way_in (until);
alter table way_in enable row level security;
create policy own_club on way_in using (club_id = (select nullif(current_setting('gruppo.club', true), '')::uuid));
grant select, insert, update, delete on way_in to gruppo_app;

-- Whoever has the secret is not signed in yet: the club is found by its hash.
-- +goose StatementBegin
create function way_in_of(secret text, at timestamptz) returns table (club_id uuid, club text, id uuid, name text, email text, fresh boolean)
language sql stable security definer set search_path = public, pg_temp as $$
  select w.club_id, c.name, m.id, m.name, m.email, m.password_hash = '' from way_in w join member m on (m.club_id, m.id) = (w.club_id, w.member_id) join club c on c.club_id = w.club_id
    where w.hash = secret and w.until > at and m.for_session is null
$$;
-- +goose StatementEnd
revoke execute on function way_in_of from public;
grant execute on function way_in_of to gruppo_app;

-- For `gruppo reset`: whoever has the server finds a lead by name or address. The program's own role may not ask it.
-- +goose StatementBegin
create function members_called(who text) returns table (club_id uuid, club text, id uuid, name text, email text)
language sql stable security definer set search_path = public, pg_temp as $$
  select m.club_id, c.name, m.id, m.name, m.email from member m join club c on c.club_id = m.club_id
    where m.for_session is null and m.role = 'lead' and (lower(m.email) = lower(who) or lower(m.name) = lower(who)) order by c.made_at, m.id limit 20
$$;
-- +goose StatementEnd
revoke execute on function members_called from public;

-- The session a code opens: open from its start on, however early that was; a cancelled one is none.
drop function session_by_code(text);
-- +goose StatementBegin
create function session_by_code(asked text) returns table (club_id uuid, club text, session_id uuid, class text, starts_at timestamptz, minutes int, started boolean, ended boolean)
language sql stable security definer set search_path = public, pg_temp as $$
  select s.club_id, b.name, s.id, c.name, s.starts_at, s.minutes, exists (select from run_event r where r.club_id = s.club_id and r.session_id = s.id and r.what = 'start'),
      exists (select from run_event r where r.club_id = s.club_id and r.session_id = s.id and r.what = 'end')
    from session_code k join session s on (s.club_id, s.id) = (k.club_id, k.session_id) join class c on (c.club_id, c.id) = (s.club_id, s.class_id) join club b on b.club_id = s.club_id
    where k.code = asked and s.cancelled_at is null
$$;
-- +goose StatementEnd
revoke execute on function session_by_code from public;
grant execute on function session_by_code to gruppo_app;
