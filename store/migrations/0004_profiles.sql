-- +goose Up
ALTER TABLE shops ADD COLUMN profiles TEXT NOT NULL DEFAULT '[]';
