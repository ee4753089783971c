// Package demo holds the two made-up shops that Brackmoor is shown with, and what was read in them.
package demo

import (
	"embed"
	"encoding/json"
	"io/fs"

	"brackmoor/core/prove"
)

// Files are the shops, in the format that anybody's import takes.
//
//go:embed *.json
var Files embed.FS

//go:embed readings/*.json
var readings embed.FS

// Read is a reading, and the motor that it was taken on.
type Read struct {
	Motor string `json:"motor"`
	prove.Reading
}

// Readings are those of all shops.
func Readings() (list []Read, err error) {
	names, err := fs.Glob(readings, "readings/*.json")
	for _, name := range names {
		var own []Read
		text, err := readings.ReadFile(name)
		if err == nil {
			err = json.Unmarshal(text, &own)
		}
		if err != nil {
			return nil, err
		}
		list = append(list, own...)
	}
	return list, err
}
