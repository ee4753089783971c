package main

import (
	"context"
	"strings"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"brackmoor/core/plate"
)

// mostPlate bounds the text of one nameplate.
const mostPlate = 64 << 10

func plateCommand(c *console) *cobra.Command {
	return &cobra.Command{
		Use:     "plate TEXT.txt",
		Short:   "Read the text of a nameplate into fields (- for standard input)",
		Example: "  echo '3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm' | brackmoor plate -",
		Args:    words(1, 1, "one file, or -"),
		RunE:    work(func(_ context.Context, args []string) error { return readPlate(c, args[0]) }),
	}
}

func readPlate(c *console, name string) error {
	text, err := readInput(c, name)
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
