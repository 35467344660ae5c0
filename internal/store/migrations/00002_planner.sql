-- +goose Up
-- Places have zones that can be booked by themselves and spots where nothing can stand; a club has kit and care settings; a player can be
-- late, leave, have a limit for one day, or be a guest; a change that was undone can be done again.

alter table venue add column zones jsonb not null default '[]', add column blocked jsonb not null default '[]';
alter table class add column zone text not null default '';
alter table session add column zone text not null default '';
alter table club add column per_adult int check (per_adult between 1 and 100);
alter table attendance add column from_minute int not null default 0, add column until_minute int not null default 0, add column no_what text not null default '';
alter table attendance drop constraint attendance_state_check;
alter table attendance add constraint attendance_state_check check (state in ('away', 'present', 'late', 'absent', 'left', 'hurt', 'guest'));

create table kit (
  club_id uuid not null references club,
  id uuid not null,
  name text not null check (name <> ''),
  count int not null check (count between 0 and 10000),
  stands_in text[] not null default '{}',
  primary key (club_id, id),
  unique (club_id, name)
);
alter table kit enable row level security;
create policy own_club on kit using (club_id = (select nullif(current_setting('gruppo.club', true), '')::uuid));
grant select, insert, update, delete on kit to gruppo_app;
create trigger keep_change after insert or update or delete on kit for each row execute function keep_change();

create index session_venue on session (club_id, venue_id, starts_at);

-- apply_change puts every row of a change as it was after it (forward), oldest first, or as it was before it, newest first. A row that is not
-- as the other side of the change left it raises 'changed since', and nothing is done. It takes undo_change's place.
drop function undo_change(uuid);
-- +goose StatementBegin
create function apply_change(which uuid, forward boolean) returns void language plpgsql as $$
declare
  r record;
  key_is text;
  columns text;
  tbl text := '';
  n int;
begin
  perform set_config('gruppo.change', '', true);
  for r in select c.tbl, case when forward then c.before else c.after end as was, case when forward then c.after else c.before end as next
      from change_row c where c.change_id = which order by case when forward then c.seq else -c.seq end loop
    if tbl <> r.tbl then
      tbl := r.tbl;
      select string_agg(format('t.%1$I = k.%1$I', a.attname), ' and ') into key_is
        from pg_index i join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any(i.indkey)
        where i.indrelid = r.tbl::regclass and i.indisprimary;
      select string_agg(format('%1$I = o.%1$I', column_name), ', ') into columns from information_schema.columns where table_schema = 'public' and table_name = r.tbl;
    end if;
    if r.next is null then
      execute format('delete from %1$I t using jsonb_populate_record(null::%1$I, $1) k where %2$s and to_jsonb(t) = $1', r.tbl, key_is) using r.was;
    elsif r.was is null then
      execute format('insert into %1$I select * from jsonb_populate_record(null::%1$I, $1)', r.tbl) using r.next;
    else
      execute format('update %1$I t set %3$s from jsonb_populate_record(null::%1$I, $1) k, jsonb_populate_record(null::%1$I, $2) o where %2$s and to_jsonb(t) = $1',
        r.tbl, key_is, columns) using r.was, r.next;
    end if;
    get diagnostics n = row_count;
    if n <> 1 then
      raise exception 'changed since' using errcode = 'GR001';
    end if;
  end loop;
end $$;
-- +goose StatementEnd
