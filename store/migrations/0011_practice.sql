-- +goose Up
CREATE TABLE practice (
  id TEXT PRIMARY KEY,
  shop_id TEXT NOT NULL REFERENCES shops(id),
  person TEXT NOT NULL,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  good INTEGER NOT NULL,
  at TEXT NOT NULL
) STRICT;
CREATE INDEX practice_by_person ON practice(shop_id, person);
