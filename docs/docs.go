// Package docs has those of the project's pages that the program itself shows.
package docs

import "embed"

// PlanSchema is the JSON Schema of the plan document, the one that the reader is
// tested against.
//
//go:embed plan.schema.json
var PlanSchema []byte

// Screenshots are the pictures of the screens, made from the sample kitchen: screenshots/NAME.png.
//
//go:embed screenshots/*.png
var Screenshots embed.FS
