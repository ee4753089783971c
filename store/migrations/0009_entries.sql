-- +goose Up
CREATE TABLE entries (
  place INTEGER PRIMARY KEY,
  id TEXT NOT NULL UNIQUE,
  shop_id TEXT NOT NULL REFERENCES shops(id),
  machine_id TEXT NOT NULL,
  motor_id TEXT NOT NULL,
  kind TEXT NOT NULL,
  at TEXT NOT NULL,
  hand TEXT NOT NULL,
  says TEXT NOT NULL,
  who TEXT NOT NULL DEFAULT '',
  due TEXT NOT NULL DEFAULT '',
  ends TEXT NOT NULL DEFAULT '',
  corrects TEXT NOT NULL DEFAULT '',
  step TEXT NOT NULL DEFAULT '',
  went TEXT NOT NULL DEFAULT '',
  body TEXT NOT NULL DEFAULT '{}'
) STRICT;
CREATE INDEX entries_by_shop ON entries(shop_id, place);
CREATE INDEX entries_by_machine ON entries(shop_id, machine_id, place);
CREATE INDEX entries_by_kind ON entries(shop_id, kind, place);
CREATE INDEX entries_by_machine_and_kind ON entries(shop_id, machine_id, kind, place);
CREATE INDEX entries_by_motor ON entries(motor_id, kind, at);
CREATE INDEX entries_by_time ON entries(shop_id, at);
CREATE INDEX entries_that_end ON entries(ends) WHERE ends <> '';
CREATE INDEX entries_that_correct ON entries(corrects) WHERE corrects <> '';
CREATE VIRTUAL TABLE entry_words USING fts5(
  says, tags, content='', prefix='2 3 4 5 6', tokenize="unicode61 tokenchars '_-'"
);
-- +goose StatementBegin
CREATE TRIGGER entries_are_found AFTER INSERT ON entries
BEGIN
  INSERT INTO entry_words(rowid, says, tags) VALUES (NEW.place, NEW.says || ' ' || NEW.hand || ' ' || NEW.who,
    'm_' || NEW.machine_id || ' k_' || NEW.kind);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER entries_are_not_changed BEFORE UPDATE ON entries
BEGIN SELECT RAISE(ABORT, 'what was written down stays'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER entries_are_not_erased BEFORE DELETE ON entries
BEGIN SELECT RAISE(ABORT, 'what was written down stays'); END;
-- +goose StatementEnd
