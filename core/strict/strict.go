// Package strict reads JSON that must satisfy a published schema, and says of
// everything that does not where it stands and what is wrong. Unknown keys,
// keys that stand twice and trailing text are refused.
package strict

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/rule"
)

// Compile makes a schema ready, with others that it refers to by their ids. It panics on a schema that is itself wrong.
func Compile(source []byte, others ...[]byte) *jsonschema.Schema {
	c := jsonschema.NewCompiler()
	for i, text := range append([][]byte{source}, others...) {
		document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		if err != nil {
			panic(err)
		}
		at := "schema.json"
		if i > 0 {
			at = document.(map[string]any)["$id"].(string)
		}
		if err := c.AddResource(at, document); err != nil {
			panic(err)
		}
	}
	return c.MustCompile("schema.json")
}

// Bounds of what is read at all, whatever a schema says: of a number in characters and in figures
// of its exponent, and of nesting.
const (
	mostDigits   = 40
	mostExponent = 2
	mostDepth    = 64
)

// Sound says what is wrong with a text as JSON before anybody computes with it: a key that stands
// twice, a number that is too long or too large to be one, nesting without end, a control
// character in a text, text behind the value. It is nil for one that is sound, and takes time in
// proportion to the text.
func Sound(text []byte) *rule.Problem {
	if !utf8.Valid(text) {
		return &rule.Problem{Path: "$", Says: "is not UTF-8"}
	}
	d := json.NewDecoder(bytes.NewReader(text))
	d.UseNumber()
	depth := 0
	var walk func(path string) *rule.Problem
	walk = func(path string) *rule.Problem {
		token, err := d.Token()
		if err != nil {
			return &rule.Problem{Path: path, Says: "is not JSON: " + err.Error()}
		}
		if number, ok := token.(json.Number); ok {
			if says := bounded(number.String()); says != "" {
				return &rule.Problem{Path: path, Says: says}
			}
		}
		if text, ok := token.(string); ok && strings.ContainsFunc(text, unwritten) {
			return &rule.Problem{Path: path, Says: "holds a control character"}
		}
		mark, ok := token.(json.Delim)
		if !ok {
			return nil
		}
		if depth++; depth > mostDepth {
			return &rule.Problem{Path: path, Says: "is nested too deeply"}
		}
		defer func() { depth-- }()
		seen := map[string]bool{}
		for i := 0; d.More(); i++ {
			at := path + "[" + strconv.Itoa(i) + "]"
			if mark == '{' {
				key, err := d.Token()
				if err != nil {
					return &rule.Problem{Path: path, Says: "is not JSON: " + err.Error()}
				}
				name, _ := key.(string)
				if strings.ContainsFunc(name, unwritten) {
					return &rule.Problem{Path: path, Says: "has a key with a control character"}
				}
				at = path + "." + Brief(name)
				if seen[name] {
					return &rule.Problem{Path: at, Says: "stands twice"}
				}
				seen[name] = true
			}
			if p := walk(at); p != nil {
				return p
			}
		}
		if _, err := d.Token(); err != nil {
			return &rule.Problem{Path: path, Says: "is not JSON: " + err.Error()}
		}
		return nil
	}
	if p := walk("$"); p != nil {
		return p
	}
	if _, err := d.Token(); err != io.EOF {
		return &rule.Problem{Path: "$", Says: "something follows the JSON value"}
	}
	return nil
}

// unwritten says whether a character is none that anybody writes: a control character that is
// neither a tab nor an end of line.
func unwritten(r rune) bool { return unicode.IsControl(r) && r != '\t' && r != '\n' && r != '\r' }

// bounded says what is wrong with a number's size, "" for nothing.
func bounded(number string) string {
	if len(number) > mostDigits {
		return fmt.Sprintf("is a number of %d characters; at most %d are read", len(number), mostDigits)
	}
	if at := strings.IndexAny(number, "eE"); at >= 0 {
		if exponent := strings.TrimLeft(number[at+1:], "+-"); len(strings.TrimLeft(exponent, "0")) > mostExponent {
			return fmt.Sprintf("is a number with an exponent of more than %d figures", mostExponent)
		}
	}
	return ""
}

// Read reads a JSON text into target when it satisfies the schema and no
// object holds a key twice; otherwise it returns every problem found.
func Read(text []byte, schema *jsonschema.Schema, target any) rule.Problems {
	if p := Sound(text); p != nil {
		return rule.Problems{*p}
	}
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return rule.Problems{{Path: "$", Says: "is not JSON: " + err.Error()}}
	}
	if found := faults(document, schema); found != nil {
		return found
	}
	if err := json.Unmarshal(text, target); err != nil {
		return rule.Problems{{Path: "$", Says: "could not be read: " + err.Error()}}
	}
	return nil
}

// leaves are the things wrong of which a validation error consists.
func leaves(e *jsonschema.ValidationError) (list []*jsonschema.ValidationError) {
	if len(e.Causes) == 0 {
		return []*jsonschema.ValidationError{e}
	}
	for _, cause := range e.Causes {
		list = append(list, leaves(cause)...)
	}
	return list
}

// told are problems in the order of their places, each once, the first hundred.
func told(problems rule.Problems) rule.Problems {
	slices.SortStableFunc(problems, func(a, b rule.Problem) int { return strings.Compare(a.Path, b.Path) })
	seen := map[rule.Problem]bool{}
	problems = slices.DeleteFunc(problems, func(p rule.Problem) bool {
		was := seen[p]
		seen[p] = true
		return was
	})
	return problems[:min(len(problems), mostFaults)]
}

func sorted(of map[string]any) []string { return slices.Sorted(maps.Keys(of)) }

func path(location []string) string {
	var b strings.Builder
	b.WriteString("$")
	for _, part := range location {
		if _, err := strconv.Atoi(part); err == nil {
			fmt.Fprintf(&b, "[%s]", part)
		} else {
			b.WriteString("." + Brief(part))
		}
	}
	return b.String()
}
