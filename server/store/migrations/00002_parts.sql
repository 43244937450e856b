-- +goose Up
-- Each part of a workspace beside its documents by itself, so that a change writes what
-- it changed and nothing else. The order of the documents is a part as well.
CREATE TABLE parts (
  workspace_id bigint NOT NULL REFERENCES workspaces(id) ON DELETE CASCADE,
  part         text NOT NULL,
  seq          bigint NOT NULL,
  body         bytea NOT NULL,
  PRIMARY KEY (workspace_id, part)
);
ALTER TABLE workspaces ADD COLUMN kit text NOT NULL DEFAULT '', ADD COLUMN kit_version text NOT NULL DEFAULT '';
-- json, unlike jsonb, keeps the text as it stands.
INSERT INTO parts (workspace_id, part, seq, body)
  SELECT w.id, e.key, w.seq, convert_to(e.value::text, 'UTF8')
  FROM workspaces w, json_each(convert_from(w.head, 'UTF8')::json) e
  WHERE e.key NOT IN ('format', 'name', 'kit');
INSERT INTO parts (workspace_id, part, seq, body)
  SELECT w.id, 'order', w.seq, convert_to((
    SELECT coalesce(json_agg(d.key ORDER BY d.position), '[]')::text FROM documents d WHERE d.workspace_id = w.id
  ), 'UTF8')
  FROM workspaces w;
UPDATE workspaces SET
  kit = coalesce(convert_from(head, 'UTF8')::json -> 'kit' ->> 'name', ''),
  kit_version = coalesce(convert_from(head, 'UTF8')::json -> 'kit' ->> 'version', '');
ALTER TABLE workspaces DROP COLUMN head;
ALTER TABLE documents DROP COLUMN position;
