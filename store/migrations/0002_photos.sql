-- +goose Up
CREATE TABLE photos (
  id TEXT PRIMARY KEY,
  motor_id TEXT NOT NULL REFERENCES motors(id),
  name TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  image BLOB NOT NULL,
  added_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;
CREATE INDEX photos_by_motor ON photos(motor_id, added_at);
