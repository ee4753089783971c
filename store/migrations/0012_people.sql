-- +goose Up
CREATE TABLE people (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  role TEXT NOT NULL,
  hash TEXT NOT NULL,
  made TEXT NOT NULL,
  ended TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE UNIQUE INDEX people_by_name ON people(name COLLATE NOCASE) WHERE ended = '';
CREATE TABLE sign_ins (
  id TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES people(id),
  at TEXT NOT NULL,
  address TEXT NOT NULL,
  agent TEXT NOT NULL,
  ended TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX sign_ins_by_person ON sign_ins(person_id, at);
ALTER TABLE daybook ADD COLUMN who TEXT NOT NULL DEFAULT '';
