-- +goose Up
-- The shelf: what drills are found by stands beside the editions; drills are private, the club's, or shared with every club on the server;
-- they are linked, noted on, starred, and taken off without vanishing.

alter table drill
  add column owner_id uuid, -- who put it on the shelf; a private one is seen by them alone
  add column shared text not null default 'club' check (shared in ('private', 'club', 'all')),
  add column star boolean not null default false,
  add column off_at timestamptz, -- taken off the shelf; plans keep it
  add column purpose text not null default '',
  add column skills text[] not null default '{}',
  add column least int not null default 1,
  add column most int not null default 60,
  add column leader text not null default 'none',
  add column length double precision not null default 1,
  add column width double precision not null default 1,
  add column form text not null default '',
  add column approach text not null default '',
  add column practice text not null default '',
  add column minutes int[] not null default '{0,0}',
  add column kit text[] not null default '{}',
  add column suits text[] not null default '{}', -- the stage that the drill suits, perhaps none, then those of its forms
  add column words text[] not null default '{}'; -- for finding
alter table drill_edition add column by_member uuid;

-- Drills of an older program get their words when they are next saved; until then by these.
update drill d set purpose = coalesce(e.doc->>'purpose', ''), least = coalesce((e.doc->>'least')::int, 1), most = coalesce((e.doc->>'most')::int, 60), leader = coalesce(e.doc->>'leader', 'none'),
  length = coalesce((e.doc->>'length')::float8, 1), width = coalesce((e.doc->>'width')::float8, 1), form = coalesce(e.doc->>'form', ''), approach = coalesce(e.doc->>'approach', ''), practice = coalesce(e.doc->>'practice', ''),
  skills = array(select jsonb_array_elements_text(case jsonb_typeof(e.doc->'skills') when 'array' then e.doc->'skills' else '[]' end)),
  kit = array(select jsonb_array_elements_text(case jsonb_typeof(e.doc->'kit') when 'array' then e.doc->'kit' else '[]' end)),
  suits = array['']::text[] || array(select distinct v->>'suits' from jsonb_array_elements(case jsonb_typeof(e.doc->'variants') when 'array' then e.doc->'variants' else '[]' end) v where coalesce(v->>'suits', '') <> ''),
  words = array(select distinct w from regexp_split_to_table(lower(d.name || ' ' || coalesce(e.doc->>'purpose', '') || ' ' || coalesce(e.doc->>'skills', '')), '[^[:alnum:]]+') w where w <> '')
  from drill_edition e where (e.club_id, e.drill_id, e.edition) = (d.club_id, d.id, d.edition);

create table shelf ( -- a number that grows with every change to the club's drills: what is kept of them in memory holds while it stays
  club_id uuid primary key references club,
  version bigint not null default 1
);
-- +goose StatementBegin
create function shelf_changed() returns trigger language plpgsql as $$
begin
  insert into shelf (club_id) select nullif(current_setting('gruppo.club', true), '')::uuid where nullif(current_setting('gruppo.club', true), '') is not null
    on conflict (club_id) do update set version = shelf.version + 1;
  return null;
end $$;
-- +goose StatementEnd
create trigger shelf_changed after insert or update or delete on drill for each statement execute function shelf_changed();

create table drill_link (
  club_id uuid not null,
  drill_id uuid not null,
  kind text not null check (kind in ('after', 'bridge', 'eases', 'hardens')),
  other_id uuid not null check (other_id <> drill_id),
  primary key (club_id, drill_id, kind, other_id),
  foreign key (club_id, drill_id) references drill,
  foreign key (club_id, other_id) references drill
);
create index drill_link_other on drill_link (club_id, other_id);

create table drill_note ( -- what a coach noticed after using it
  club_id uuid not null,
  id uuid not null,
  drill_id uuid not null,
  edition int not null,
  says text not null check (says <> ''),
  by_member uuid not null,
  at timestamptz not null,
  primary key (club_id, id),
  foreign key (club_id, drill_id) references drill,
  foreign key (club_id, by_member) references member
);
create index drill_note_drill on drill_note (club_id, drill_id, at);

create index mark_drill on mark (club_id, drill_id, at) where drill_id is not null;

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['shelf', 'drill_link', 'drill_note'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
  end loop;
  foreach t in array array['drill_link', 'drill_note'] loop
    execute format('create trigger keep_change after insert or update or delete on %I for each row execute function keep_change()', t);
  end loop;
end $$;
-- +goose StatementEnd

-- What other clubs on this server share with all: the one other question that is asked across clubs. Who wrote it is told only by the author's
-- name in the drill itself.
-- +goose StatementBegin
create function shared_drills(which uuid default null) returns table (id uuid, edition int, doc jsonb, club text)
language sql stable security definer set search_path = public, pg_temp as $$
  select d.id, d.edition, e.doc, c.name from drill d
    join drill_edition e on (e.club_id, e.drill_id, e.edition) = (d.club_id, d.id, d.edition) join club c on c.club_id = d.club_id
    where d.shared = 'all' and d.off_at is null and d.club_id <> (select nullif(current_setting('gruppo.club', true), '')::uuid) and (which is null or d.id = which)
    order by lower(d.name), d.id limit 500
$$;
-- +goose StatementEnd
revoke execute on function shared_drills from public;
grant execute on function shared_drills to gruppo_app;
