-- +goose Up
-- The registries that libraries may be fetched from.
CREATE TABLE registries (
  address text PRIMARY KEY,
  at      timestamptz NOT NULL DEFAULT now(),
  by      text NOT NULL
);
