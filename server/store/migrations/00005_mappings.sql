-- +goose Up
-- What was decided about the components of one library in another, or in its next version.
CREATE TABLE kit_mappings (
  from_name text NOT NULL,
  to_name   text NOT NULL,
  at        timestamptz NOT NULL DEFAULT now(),
  by        text NOT NULL,
  body      bytea NOT NULL,
  PRIMARY KEY (from_name, to_name)
);
