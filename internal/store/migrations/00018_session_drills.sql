-- +goose Up
-- Which drills a session's plan has, beside the plan: what a class had in a term, a season or lately is asked for by many pages, and to read
-- every plan for it cost more than all else of them. A plan is put back like any row when its change is undone, and this follows.
create table session_drill (
  club_id uuid not null,
  session_id uuid not null,
  drill_id uuid not null, -- as the plan names it
  primary key (club_id, session_id, drill_id),
  foreign key (club_id, session_id) references session on delete cascade
);
alter table session_drill set (autovacuum_analyze_threshold = 3);
alter table session_drill enable row level security;
create policy own_club on session_drill using (club_id = (select nullif(current_setting('gruppo.club', true), '')::uuid));
grant select, insert, update, delete on session_drill to gruppo_app;

-- +goose StatementBegin
create function planned_drills(plan jsonb) returns setof uuid language sql immutable as $$
  select distinct (x #>> '{}')::uuid from jsonb_path_query(plan, 'strict $.**.drill') x where x #>> '{}' ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$'
$$;
create function session_planned() returns trigger language plpgsql as $$
begin
  delete from session_drill where (club_id, session_id) = (new.club_id, new.id);
  insert into session_drill select new.club_id, new.id, d from planned_drills(new.plan) d;
  return null;
end $$;
-- +goose StatementEnd
create trigger session_planned after insert or update of plan on session for each row execute function session_planned();
insert into session_drill select s.club_id, s.id, d from session s, planned_drills(s.plan) d;
