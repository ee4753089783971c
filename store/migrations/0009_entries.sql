-- +goose Up
CREATE TABLE entries (
  id TEXT PRIMARY KEY,
  shop_id TEXT NOT NULL REFERENCES shops(id),
  machine_id TEXT NOT NULL,
  motor_id TEXT NOT NULL,
  kind TEXT NOT NULL,
  at TEXT NOT NULL,
  hand TEXT NOT NULL,
  body TEXT NOT NULL
) STRICT;
CREATE INDEX entries_by_motor ON entries(motor_id, kind, at);
-- +goose StatementBegin
CREATE TRIGGER entries_are_not_changed BEFORE UPDATE ON entries
BEGIN SELECT RAISE(ABORT, 'what was written down stays'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER entries_are_not_erased BEFORE DELETE ON entries
BEGIN SELECT RAISE(ABORT, 'what was written down stays'); END;
-- +goose StatementEnd
