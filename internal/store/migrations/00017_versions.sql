-- +goose Up
-- What a club is set up as (its programs and ladders, classes, terms, places) is asked for by nearly every page and seldom changed, like its
-- shelf: a program keeps both in memory as of a version, which is another one after each change. A version is drawn, not counted: one that was
-- given to a change which was taken back, or before a backup was put back, is never given again.
drop trigger shelf_changed on drill;
drop function shelf_changed();
drop table shelf;

create table version (
  club_id uuid not null references club,
  of text not null check (of in ('shelf', 'setup')),
  id uuid not null,
  primary key (club_id, of)
);
alter table version set (autovacuum_analyze_threshold = 3);
alter table version enable row level security;
create policy own_club on version using (club_id = (select nullif(current_setting('gruppo.club', true), '')::uuid));
grant select, insert, update, delete on version to gruppo_app;

-- +goose StatementBegin
create function changed() returns trigger language plpgsql as $$
declare
  club uuid := nullif(current_setting('gruppo.club', true), '')::uuid;
begin
  if club is null then -- by a hand outside the program
    insert into version select club_id, tg_argv[0], gen_random_uuid() from club
      on conflict (club_id, of) do update set id = excluded.id;
  else
    insert into version values (club, tg_argv[0], gen_random_uuid())
      on conflict (club_id, of) do update set id = excluded.id;
  end if;
  return null;
end $$;
create trigger changed after insert or update or delete on drill for each statement execute function changed('shelf');
do $$
declare t text;
begin
  foreach t in array array['club', 'program', 'stage', 'criterion', 'class', 'class_member', 'class_player', 'member', 'venue', 'term'] loop
    execute format('create trigger changed after insert or update or delete on %I for each statement execute function changed(''setup'')', t);
  end loop;
end $$;
-- +goose StatementEnd
-- a class tells when it first met: not with each change of a plan
create trigger changed after insert or delete or update of class_id, starts_at, cancelled_at on session
  for each statement execute function changed('setup');

drop function member_signed_in(uuid, uuid);
-- +goose StatementBegin
create function member_signed_in(club uuid, who uuid) returns table (club_id uuid, club_name text, time_zone text, units text, id uuid, name text, email text, role text, password_hash text, sign_ins int, visitor boolean, shelf text, setup text)
language plpgsql stable security definer set search_path = public, pg_temp as $$ -- its plan is kept, as that of a function in SQL is not
#variable_conflict use_column
begin
  return query select c.club_id, c.name, c.time_zone, c.units, m.id, m.name, m.email, m.role, m.password_hash, m.sign_ins, m.for_session is not null,
      coalesce((select v.id::text from version v where (v.club_id, v.of) = (c.club_id, 'shelf')), ''),
      coalesce((select v.id::text from version v where (v.club_id, v.of) = (c.club_id, 'setup')), '')
    from member m join club c on c.club_id = m.club_id where m.club_id = club and m.id = who;
end $$;
-- +goose StatementEnd
revoke execute on function member_signed_in from public;
grant execute on function member_signed_in to gruppo_app;
