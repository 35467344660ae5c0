-- +goose Up
-- How long after its end a session ends itself is a rule of the program: it is told with each question.
drop function sessions_left_open(timestamptz);
-- +goose StatementBegin
create function sessions_left_open(at timestamptz, after interval)
returns table (club_id uuid, time_zone text, session_id uuid, by_member uuid, ended timestamptz)
language sql stable security definer set search_path = public, pg_temp as $$
  select s.club_id, b.time_zone, s.id, r.by_member, greatest(s.starts_at + make_interval(mins => s.minutes),
      (select max(e.at) from run_event e where (e.club_id, e.session_id) = (s.club_id, s.id)))
    from run_event r join session s on (s.club_id, s.id) = (r.club_id, r.session_id) join club b on b.club_id = s.club_id
    where r.what = 'start' and greatest(s.starts_at, r.at) + make_interval(mins => s.minutes) < sessions_left_open.at - after
      and not exists (select from run_event e where (e.club_id, e.session_id) = (s.club_id, s.id)
        and (e.what = 'end' or e.at > sessions_left_open.at - after))
$$;
-- +goose StatementEnd
revoke execute on function sessions_left_open from public;
grant execute on function sessions_left_open to gruppo_app;
