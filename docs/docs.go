// Package docs carries published documents that the server also serves.
package docs

import _ "embed"

// WorkspaceSchema is the JSON Schema of the workspace format.
//
//go:embed workspace.schema.json
var WorkspaceSchema string
