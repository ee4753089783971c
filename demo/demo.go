// Package demo holds the two made-up shops that Brackmoor is shown with.
package demo

import "embed"

// Files are the shops, in the format that anybody's import takes.
//
//go:embed *.json
var Files embed.FS
