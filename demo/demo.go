// Package demo holds the two made-up shops that Brackmoor is shown with, and what was written down in them.
package demo

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"io/fs"
	"slices"
	"strings"

	"brackmoor/core/daybook"
	"brackmoor/core/prove"
)

// Files are the shops, in the format that anybody's import takes.
//
//go:embed *.json
var Files embed.FS

//go:embed readings/*.json daybook/*.json
var written embed.FS

// Book is where it is written down.
type Book interface {
	AddReading(ctx context.Context, motor string, r prove.Reading) error
	AddEntry(ctx context.Context, shop string, e daybook.Entry) error
}

// Write writes down what was written in the shops, in the order of its time.
func Write(ctx context.Context, to Book) error {
	type line struct {
		at string
		do func() error
	}
	var lines []line
	err := errors.Join(each("readings/*.json", func(r struct {
		Motor string `json:"motor"`
		prove.Reading
	}) {
		lines = append(lines, line{r.At, func() error { return to.AddReading(ctx, r.Motor, r.Reading) }})
	}), each("daybook/*.json", func(l struct {
		Shop string `json:"shop"`
		daybook.Entry
	}) {
		lines = append(lines, line{l.At, func() error { return to.AddEntry(ctx, l.Shop, l.Entry) }})
	}))
	slices.SortStableFunc(lines, func(a, b line) int { return strings.Compare(a.at, b.at) })
	for _, l := range lines {
		if err == nil {
			err = l.do()
		}
	}
	return err
}

// each does something with every line of some files.
func each[T any](glob string, do func(T)) error {
	names, err := fs.Glob(written, glob)
	for _, name := range names {
		var list []T
		text, err := written.ReadFile(name)
		if err == nil {
			err = json.Unmarshal(text, &list)
		}
		if err != nil {
			return err
		}
		for _, one := range list {
			do(one)
		}
	}
	return err
}
