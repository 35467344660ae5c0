-- +goose Up
-- What a drill is found by besides: how players move in it, and which situation it serves. The club's own limit of what is
-- done after faults in a session, by those under 16.

alter table drill add column moves text not null default '';
alter table drill add column situation text not null default '';
-- Who stands on a step of a ladder that is climbed by pair or by player; null where groups climb.
alter table climb add column player_id uuid;
alter table climb add foreign key (club_id, player_id) references player;
alter table club add column most_forfeits int check (most_forfeits between 0 and 500);
