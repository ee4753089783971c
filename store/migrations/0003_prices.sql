-- +goose Up
ALTER TABLE shops ADD COLUMN prices TEXT NOT NULL DEFAULT '{}';
