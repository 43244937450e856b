-- +goose Up
-- Kits by the hash of their content. One that no workspace stands on waits in Intake.
CREATE TABLE kits (
  hash       text PRIMARY KEY,
  name       text NOT NULL,
  version    text NOT NULL,
  drawn      text NOT NULL,
  components int NOT NULL,
  bytes      int NOT NULL,
  at         timestamptz NOT NULL DEFAULT now(),
  by         text NOT NULL,
  left_at    timestamptz, -- somebody looked at it and left it
  body       bytea NOT NULL
);
CREATE INDEX kits_by_name ON kits (name, version);
