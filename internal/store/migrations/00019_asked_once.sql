-- +goose Up
-- Whose a task of practice at home is: those it names, and who is in its class. As a view it is asked once for many; the function was asked
-- anew for each player and each task.
drop function has_home_task(home_task, uuid);
create view home_of with (security_invoker = true) as
  select f.club_id, f.task_id, f.player_id from home_for f where f.named
  union
  select t.club_id, t.id, e.player_id from home_task t join class_player e on (e.club_id, e.class_id) = (t.club_id, t.class_id);
grant select on home_of to gruppo_app;

-- The plan of a function in this language is kept; that of one in SQL is made with each call.
-- +goose StatementBegin
create or replace function guardian_page(secret text, at timestamptz)
returns table (club_id uuid, club text, time_zone text, units text, link uuid, player_id uuid, until date, own boolean, mail text)
language plpgsql volatile security definer set search_path = public, pg_temp as $$
#variable_conflict use_column
begin
  return query with asked as (select g.club_id, c.name, c.time_zone, c.units, g.id, g.player_id, g.until_on, g.own, g.mail from guardian_link g join club c on c.club_id = g.club_id
      where g.hash = secret and g.withdrawn_at is null and g.until_on >= (guardian_page.at at time zone c.time_zone)::date
        and exists (select from player p where (p.club_id, p.id) = (g.club_id, g.player_id) and p.left_on is null)),
    seen as (update guardian_link l set seen_at = guardian_page.at from asked a -- at most once a minute
      where (l.club_id, l.id) = (a.club_id, a.id) and (l.seen_at is null or l.seen_at < guardian_page.at - interval '1 minute'))
  select * from asked;
end $$;
-- +goose StatementEnd
