-- +goose Up
CREATE TABLE workspaces (
  id          bigserial PRIMARY KEY,
  name        text NOT NULL,
  seq         bigint NOT NULL DEFAULT 0,
  head        bytea NOT NULL,
  created_at  timestamptz NOT NULL DEFAULT now()
);
-- Documents as they stand: canonical bytes, for jsonb would reorder keys.
CREATE TABLE documents (
  workspace_id bigint NOT NULL REFERENCES workspaces(id) ON DELETE CASCADE,
  key          text NOT NULL,
  position     bigserial,
  seq          bigint NOT NULL,
  body         bytea NOT NULL,
  PRIMARY KEY (workspace_id, key)
);
-- Every change ever taken, with the one that takes it back.
CREATE TABLE changes (
  workspace_id bigint NOT NULL REFERENCES workspaces(id) ON DELETE CASCADE,
  seq          bigint NOT NULL,
  author       text NOT NULL,
  at           timestamptz NOT NULL DEFAULT now(),
  title        text NOT NULL,
  docs         text NOT NULL,
  body         bytea NOT NULL,
  inverse      bytea NOT NULL,
  undoes       bigint NOT NULL DEFAULT 0,
  undone       boolean NOT NULL DEFAULT false,
  PRIMARY KEY (workspace_id, seq)
);
CREATE TABLE users (
  name       text PRIMARY KEY,
  full_name  text NOT NULL,
  role       text NOT NULL CHECK (role IN ('keeper', 'builder', 'reader')),
  hash       text NOT NULL DEFAULT ''
);
CREATE TABLE sessions (
  hash       bytea PRIMARY KEY,
  user_name  text NOT NULL REFERENCES users(name) ON DELETE CASCADE,
  expires_at timestamptz NOT NULL
);
CREATE TABLE links (
  hash       bytea PRIMARY KEY,
  user_name  text NOT NULL REFERENCES users(name) ON DELETE CASCADE,
  expires_at timestamptz NOT NULL
);
CREATE TABLE settings (
  name  text PRIMARY KEY,
  value bytea NOT NULL
);
-- +goose Down
DROP TABLE settings, links, sessions, users, changes, documents, workspaces;
