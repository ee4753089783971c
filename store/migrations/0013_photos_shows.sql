-- +goose Up
ALTER TABLE photos ADD COLUMN shows TEXT NOT NULL DEFAULT 'plate';
ALTER TABLE part_photos ADD COLUMN shows TEXT NOT NULL DEFAULT 'part';
