-- +goose Up
-- What the settings of a repository said when its screens were read from it last: what both sides
-- decided since is told apart by it.
CREATE TABLE code_settings (
  repository text PRIMARY KEY,
  settings   text NOT NULL
);
