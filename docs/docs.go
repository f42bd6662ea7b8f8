// Package docs has those of the project's pages that the program itself shows.
package docs

import _ "embed" // for the schema

// PlanSchema is the JSON Schema of the plan document, the one that the reader is
// tested against.
//
//go:embed plan.schema.json
var PlanSchema []byte
