-- +goose Up
ALTER TABLE users ADD COLUMN active boolean NOT NULL DEFAULT true;
-- Who was let in, and what was changed about people: for keepers to read, never changed.
CREATE TABLE people_log (
  id   bigserial PRIMARY KEY,
  at   timestamptz NOT NULL DEFAULT now(),
  name text NOT NULL, -- whom it is about
  by   text NOT NULL, -- who did it
  what text NOT NULL
);
