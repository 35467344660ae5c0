-- +goose Up
-- In which form of a drill a series was counted; empty: as it is written.
alter table tally add column form text not null default '' check (char_length(form) <= 40);

-- +goose Down
alter table tally drop column form;
