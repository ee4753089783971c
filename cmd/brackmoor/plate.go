package main

import (
	"context"
	"strings"
	"unicode/utf8"

	"brackmoor/core/plate"
)

// mostPlate bounds the text of one nameplate.
const mostPlate = 64 << 10

func readPlate(_ context.Context, c *console, args []string) error {
	set := flags(c, "plate")
	if err := parse(set, args, 1, 1); err != nil {
		return err
	}
	text, err := readInput(c, set.Arg(0))
	if err != nil {
		return err
	}
	switch {
	case strings.TrimSpace(string(text)) == "":
		return &inputError{[]string{"$: there is no text to read"}}
	case len(text) > mostPlate:
		return &inputError{[]string{"$: that is more text than a nameplate holds"}}
	case !utf8.Valid(text):
		return &inputError{[]string{"$: the text is not UTF-8"}}
	}
	return c.writeJSON(plate.ReadText(string(text)))
}
