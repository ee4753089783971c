package strict

import (
	"errors"
	"strconv"
	"strings"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"

	"brackmoor/core/rule"
)

// Bounds of how much is validated at a time and told at all: what is wrong with a large text may
// be wrong a million times.
const (
	mostFaults = 100
	alone      = 20  // elements of an array that is never parted
	portion    = 200 // elements of longer ones that are looked at together
)

// faults are what a schema finds wrong with a document, the first hundred. Elements of long
// arrays are looked at a portion at a time until something is found; then all of it at once, in
// which little is left to find but the lengths of arrays.
func faults(document any, schema *jsonschema.Schema) rule.Problems {
	for from := 0; ; from += portion {
		w := window{from: from, to: from + portion, kept: map[string][]int{}}
		part := w.of(document, "")
		if from == 0 && w.at <= portion {
			return w.judge(part, schema) // it is small
		}
		if found := w.judge(part, schema); found != nil {
			return found
		}
		if w.at <= w.to {
			whole := window{}
			return whole.judge(document, schema)
		}
	}
}

// window is a document with some of the elements of its long arrays: those that are counted from
// from to to, and what they stand in.
type window struct {
	from, to, at int
	kept         map[string][]int // by the array's place in the window, which elements it has
}

// of is the part of a value that the window shows. The counting goes on through all of it.
func (w *window) of(value any, path string) any {
	switch v := value.(type) {
	case map[string]any:
		part := make(map[string]any, len(v))
		for _, key := range sorted(v) {
			part[key] = w.of(v[key], path+"/"+key)
		}
		return part
	case []any:
		long := len(v) > alone
		part, kept := []any{}, []int{}
		for i, element := range v {
			before := w.at
			if long {
				w.at++
			}
			one := w.of(element, path+"/"+strconv.Itoa(len(part)))
			if !long || before < w.to && w.at > w.from {
				part, kept = append(part, one), append(kept, i)
			}
		}
		if long {
			w.kept[path] = kept
		}
		return part
	}
	return value
}

// judge is what a schema finds wrong with a part, told by its place in the whole.
func (w *window) judge(part any, schema *jsonschema.Schema) (found rule.Problems) {
	err := schema.Validate(part)
	if err == nil {
		return nil
	}
	var invalid *jsonschema.ValidationError
	if !errors.As(err, &invalid) {
		return rule.Problems{{Path: "$", Says: err.Error()}}
	}
	for _, leaf := range leaves(invalid) {
		if _, few := leaf.ErrorKind.(*kind.MinItems); few &&
			w.kept["/"+strings.Join(leaf.InstanceLocation, "/")] != nil {
			continue // only the window makes them few
		}
		found = append(found, rule.Problem{Path: path(w.whole(leaf.InstanceLocation)), Says: words(leaf.ErrorKind)})
	}
	return told(found)
}

// whole is a place in the window as that in the whole document.
func (w *window) whole(place []string) []string {
	at, whole := "", []string{}
	for _, name := range place {
		step := name
		if kept := w.kept[at]; kept != nil {
			if i, err := strconv.Atoi(name); err == nil && i < len(kept) {
				step = strconv.Itoa(kept[i])
			}
		}
		whole = append(whole, step)
		at += "/" + name
	}
	return whole
}
