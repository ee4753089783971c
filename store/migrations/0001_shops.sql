-- +goose Up
CREATE TABLE shops (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  supply TEXT NOT NULL,
  position INTEGER NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at TEXT
) STRICT;

CREATE TABLE machines (
  id TEXT PRIMARY KEY,
  shop_id TEXT NOT NULL REFERENCES shops(id),
  name TEXT NOT NULL,
  note TEXT NOT NULL,
  position INTEGER NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at TEXT
) STRICT;
CREATE INDEX machines_by_shop ON machines(shop_id, position);

CREATE TABLE motors (
  id TEXT PRIMARY KEY,
  machine_id TEXT NOT NULL REFERENCES machines(id),
  name TEXT NOT NULL,
  plate TEXT NOT NULL,
  choices TEXT NOT NULL,
  position INTEGER NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at TEXT
) STRICT;
CREATE INDEX motors_by_machine ON motors(machine_id, position);

CREATE TABLE daybook (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  at TEXT NOT NULL,
  shop_id TEXT NOT NULL,
  machine_id TEXT,
  motor_id TEXT,
  what TEXT NOT NULL,
  before TEXT,
  after TEXT
) STRICT;
CREATE INDEX daybook_by_machine ON daybook(machine_id, id);

-- +goose StatementBegin
CREATE TRIGGER daybook_is_not_changed BEFORE UPDATE ON daybook
BEGIN SELECT RAISE(ABORT, 'the daybook is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER daybook_is_not_erased BEFORE DELETE ON daybook
BEGIN SELECT RAISE(ABORT, 'the daybook is append-only'); END;
-- +goose StatementEnd

CREATE TABLE settings (
  key TEXT PRIMARY KEY,
  value TEXT NOT NULL
) STRICT;

CREATE TABLE sessions (
  token TEXT PRIMARY KEY,
  data BLOB NOT NULL,
  expiry REAL NOT NULL
);
CREATE INDEX sessions_expiry ON sessions(expiry);
