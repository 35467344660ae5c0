-- +goose Up
-- Deciding: editions of criteria, try-outs, second signatures, decisions from a day on, planned looks, home tasks, terms with their classes and wishes, and links for guardians.

alter table club add column two_sign boolean not null default false; -- a step up waits for a second signature

alter table criterion add column edition int not null default 1;
create table criterion_edition ( -- a criterion as it was: old decisions and marks can be read by it
  club_id uuid not null,
  criterion_id uuid not null,
  edition int not null,
  doc jsonb not null,
  saved_at timestamptz not null,
  primary key (club_id, criterion_id, edition),
  foreign key (club_id, criterion_id) references criterion
);
insert into criterion_edition (club_id, criterion_id, edition, doc, saved_at) select c.club_id, c.id, 1, to_jsonb(c), now() from criterion c;

alter table decision drop constraint decision_kind_check;
alter table decision add constraint decision_kind_check check (kind in ('up', 'try', 'stay')),
  add column from_on date not null default '-infinity', -- the day it holds from
  add column visits int not null default 0, -- of a try-out
  add column class_id uuid, -- where it is tried out
  add column two_sign boolean not null default false,
  add foreign key (club_id, class_id) references class;
update decision set from_on = at::date;
create index decision_at on decision (club_id, program_id, at);

create table signature ( -- the second one under a decision
  club_id uuid not null,
  decision_id uuid not null,
  by_member uuid not null,
  at timestamptz not null,
  primary key (club_id, decision_id),
  foreign key (club_id, decision_id) references decision,
  foreign key (club_id, by_member) references member
);
create table step_up ( -- the decision has been carried out
  club_id uuid not null,
  decision_id uuid not null,
  at timestamptz not null,
  primary key (club_id, decision_id),
  foreign key (club_id, decision_id) references decision
);
insert into step_up (club_id, decision_id, at) select club_id, id, at from decision where kind = 'up';

create table look ( -- a mark that is to be taken in a session
  club_id uuid not null,
  session_id uuid not null,
  player_id uuid not null,
  criterion_id uuid not null,
  side text not null default '',
  by_member uuid,
  primary key (club_id, session_id, player_id, criterion_id, side),
  foreign key (club_id, session_id) references session,
  foreign key (club_id, player_id) references player,
  foreign key (club_id, criterion_id) references criterion
);
create index look_player on look (club_id, player_id);

create table home_task (
  club_id uuid not null,
  id uuid not null,
  player_id uuid not null,
  what text not null check (what <> ''),
  sets text not null default '', -- as said: "2 min × 5"
  days text not null default '', -- as said: "every second day"
  until date,
  by_member uuid not null,
  at timestamptz not null,
  done_at timestamptz,
  primary key (club_id, id),
  foreign key (club_id, player_id) references player,
  foreign key (club_id, by_member) references member
);
create index home_task_player on home_task (club_id, player_id);

create table term (
  club_id uuid not null references club,
  id uuid not null,
  name text not null check (name <> ''),
  from_on date not null,
  until_on date not null check (until_on > from_on),
  taken_over_at timestamptz,
  primary key (club_id, id),
  unique (club_id, name)
);
create table term_class ( -- a class as it will be in a term
  club_id uuid not null,
  id uuid not null,
  term_id uuid not null,
  program_id uuid not null,
  class_id uuid, -- the class it goes on from
  name text not null check (name <> ''),
  weekday int not null check (weekday between 0 and 6),
  starts time not null,
  minutes int not null check (minutes between 15 and 480),
  venue_id uuid not null,
  places int not null check (places between 1 and 500),
  stage_ids uuid[] not null default '{}',
  age_from int not null default 0, -- 0: no bound
  age_until int not null default 0,
  primary key (club_id, id),
  foreign key (club_id, term_id) references term,
  foreign key (club_id, program_id) references program,
  foreign key (club_id, class_id) references class,
  foreign key (club_id, venue_id) references venue
);
create index term_class_term on term_class (club_id, term_id);
create table wish ( -- of a player for a term
  club_id uuid not null,
  term_id uuid not null,
  player_id uuid not null,
  program_id uuid not null,
  returns boolean not null default true,
  cannot uuid[] not null default '{}', -- classes whose time does not suit
  likes uuid[] not null default '{}', -- classes they would like, the dearest first
  put text not null default '', -- by hand: a class, or 'list'
  primary key (club_id, term_id, player_id, program_id),
  foreign key (club_id, term_id) references term,
  foreign key (club_id, player_id) references player,
  foreign key (club_id, program_id) references program
);

create table guardian_link ( -- reads one child's page; only the hash of its secret is kept
  club_id uuid not null,
  id uuid not null,
  player_id uuid not null,
  hash text not null unique,
  label text not null default '', -- for whom, in the coach's words
  by_member uuid not null,
  made_at timestamptz not null,
  until timestamptz not null,
  withdrawn_at timestamptz,
  seen_at timestamptz,
  primary key (club_id, id),
  foreign key (club_id, player_id) references player,
  foreign key (club_id, by_member) references member
);
create index guardian_link_player on guardian_link (club_id, player_id);

-- +goose StatementBegin
do $$
declare t text;
begin
  foreach t in array array['criterion_edition', 'signature', 'step_up', 'look', 'home_task', 'term', 'term_class', 'wish', 'guardian_link'] loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_club on %I using (club_id = (select nullif(current_setting(''gruppo.club'', true), '''')::uuid))', t);
    execute format('grant select, insert, update, delete on %I to gruppo_app', t);
  end loop;
  foreach t in array array['criterion_edition', 'look', 'home_task', 'term', 'term_class', 'wish'] loop
    execute format('create trigger keep_change after insert or update or delete on %I for each row execute function keep_change()', t);
  end loop;
end $$;
-- +goose StatementEnd
revoke update, delete on signature, step_up from gruppo_app;
revoke delete on guardian_link from gruppo_app;

-- A try-out that nothing was decided after, and how often the player came.
create view open_tryout with (security_invoker = true) as
  select d.club_id, d.id, d.player_id, d.program_id, d.to_stage, d.class_id, d.visits, d.at,
    (select count(*)::int from attendance a join session s on (s.club_id, s.id) = (a.club_id, a.session_id)
      where a.club_id = d.club_id and a.player_id = d.player_id and s.class_id = d.class_id and s.starts_at >= d.at and a.state in ('present', 'late', 'left', 'hurt', 'guest')) as came
  from decision d where d.kind = 'try'
    and not exists (select from decision n where (n.club_id, n.player_id, n.program_id) = (d.club_id, d.player_id, d.program_id) and (n.at, n.id) > (d.at, d.id));
grant select on open_tryout to gruppo_app;

-- step_up_due carries out the steps up whose day has come in the club's own zone, and that have their second signature where one is asked. A decision
-- that a later one has superseded is not carried out. Without a club it does so for all.
-- +goose StatementBegin
create function step_up_due(at timestamptz, club uuid default null) returns int language plpgsql security definer set search_path = public, pg_temp as $$
declare
  d record;
  n int := 0;
begin
  for d in select x.* from decision x join club c on c.club_id = x.club_id
      where x.kind = 'up' and (club is null or x.club_id = club) and x.from_on <= (step_up_due.at at time zone c.time_zone)::date
        and not exists (select from step_up s where (s.club_id, s.decision_id) = (x.club_id, x.id))
        and (not x.two_sign or exists (select from signature s where (s.club_id, s.decision_id) = (x.club_id, x.id)))
        and not exists (select from decision l where (l.club_id, l.player_id, l.program_id) = (x.club_id, x.player_id, x.program_id) and (l.at, l.id) > (x.at, x.id)) loop
    update standing s set stage_id = d.to_stage, since = d.from_on
      where (s.club_id, s.player_id, s.program_id, s.stage_id) = (d.club_id, d.player_id, d.program_id, d.from_stage);
    if found then
      insert into step_up (club_id, decision_id, at) values (d.club_id, d.id, step_up_due.at);
      n := n + 1;
    end if;
  end loop;
  return n;
end $$;
-- +goose StatementEnd

-- The one child that a guardian's link shows, asked by the hash of its secret.
-- +goose StatementBegin
create function guardian_page(secret text, at timestamptz) returns table (club_id uuid, club text, time_zone text, player_id uuid, until timestamptz)
language sql volatile security definer set search_path = public, pg_temp as $$
  update guardian_link g set seen_at = guardian_page.at from club c
    where c.club_id = g.club_id and g.hash = secret and g.withdrawn_at is null and g.until > guardian_page.at
      and exists (select from player p where (p.club_id, p.id) = (g.club_id, g.player_id) and p.left_on is null)
    returning g.club_id, c.name, c.time_zone, g.player_id, g.until
$$;
-- +goose StatementEnd
revoke execute on function step_up_due, guardian_page from public;
grant execute on function step_up_due, guardian_page to gruppo_app;
