-- +goose Up
CREATE TABLE part_photos (
  id TEXT PRIMARY KEY,
  shop_id TEXT NOT NULL REFERENCES shops(id),
  name TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  image BLOB NOT NULL,
  added_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;
CREATE INDEX part_photos_by_shop ON part_photos(shop_id, added_at);
