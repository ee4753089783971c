-- +goose Up
ALTER TABLE entries ADD COLUMN hours REAL NOT NULL DEFAULT 0;
CREATE INDEX entries_by_hours ON entries(machine_id, hours) WHERE hours > 0;
