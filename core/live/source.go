package live

import "ubiquant/core/sample"

// Fetched is what a source gave.
type Fetched struct {
	Status  string // see sample.Ready
	Records []sample.Record
}
