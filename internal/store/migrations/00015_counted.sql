-- +goose Up
-- The database plans by what it has counted: a small table too, of which fifty rows never change, and a large one as soon as it was loaded.
-- +goose StatementBegin
do $$
declare t text;
begin
  for t in select tablename from pg_tables where schemaname = 'public' and tablename <> 'goose_db_version' loop
    execute format('alter table %I set (autovacuum_analyze_threshold = 3)', t);
  end loop;
end $$;
-- +goose StatementEnd
-- +goose StatementBegin
-- What is large already is counted often enough by itself: so a list of one club never waits for the rows of all others.
create function count_what_was_loaded() returns void language plpgsql security definer set search_path = public, pg_temp as $$
declare t text;
begin
  for t in select relname from pg_class where relnamespace = 'public'::regnamespace and relkind = 'r' and reltuples < 100000
      and relname <> 'goose_db_version' order by relname loop
    execute format('analyze %I', t);
  end loop;
end $$;
-- +goose StatementEnd
revoke execute on function count_what_was_loaded from public;
grant execute on function count_what_was_loaded to gruppo_app;
