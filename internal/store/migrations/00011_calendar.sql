-- +goose Up
-- Calendars that others read by an address which can be withdrawn, and sessions that are moved.

alter table session
  add column moved_from timestamptz, -- when it was to be, before it was moved
  add column date_changes int not null default 0; -- how often it was moved, cancelled, or takes place after all

create table calendar ( -- only the hash of its address's secret is kept
  club_id uuid not null references club,
  id uuid not null,
  member_id uuid, -- whose sessions it has
  class_id uuid, -- or of which class
  hash text not null unique,
  by_member uuid not null,
  made_at timestamptz not null,
  withdrawn_at timestamptz,
  seen_at timestamptz,
  primary key (club_id, id),
  check ((member_id is null) <> (class_id is null)),
  foreign key (club_id, member_id) references member,
  foreign key (club_id, class_id) references class,
  foreign key (club_id, by_member) references member
);
alter table calendar enable row level security;
create policy own_club on calendar using (club_id = (select nullif(current_setting('gruppo.club', true), '')::uuid));
grant select, insert, update on calendar to gruppo_app;

-- The calendar of an address, asked by the hash of its secret: that of somebody who has left shows nothing.
-- +goose StatementBegin
create function calendar_page(secret text, at timestamptz) returns table (club_id uuid, club text, time_zone text, member_id uuid, class_id uuid)
language sql volatile security definer set search_path = public, pg_temp as $$
  with asked as (select k.club_id, c.name, c.time_zone, k.member_id, k.class_id, k.id from calendar k join club c on c.club_id = k.club_id
      where k.hash = secret and k.withdrawn_at is null
        and (k.member_id is null or exists (select from member m where (m.club_id, m.id) = (k.club_id, k.member_id) and m.password_hash <> ''))),
    seen as (update calendar l set seen_at = calendar_page.at from asked a -- at most once a minute
      where (l.club_id, l.id) = (a.club_id, a.id) and (l.seen_at is null or l.seen_at < calendar_page.at - interval '1 minute'))
  select club_id, name, time_zone, member_id, class_id from asked
$$;
-- +goose StatementEnd
revoke execute on function calendar_page from public;
grant execute on function calendar_page to gruppo_app;
alter table guardian_link add column base text not null default ''; -- the program's own address, as it was when reminders were asked for
