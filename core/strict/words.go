package strict

import (
	"fmt"
	"math/big"
	"strings"
	"unicode/utf8"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

var english = message.NewPrinter(language.English)

// words makes a sentence of what a schema finds wrong.
func words(e jsonschema.ErrorKind) string {
	number := func(r *big.Rat) string {
		f, _ := r.Float64()
		return fmt.Sprintf("%g", f)
	}
	switch k := e.(type) {
	case *kind.Minimum:
		return fmt.Sprintf("is %s, below the minimum of %s", number(k.Got), number(k.Want))
	case *kind.Maximum:
		return fmt.Sprintf("is %s, above the maximum of %s", number(k.Got), number(k.Want))
	case *kind.ExclusiveMinimum:
		return fmt.Sprintf("is %s and must be above %s", number(k.Got), number(k.Want))
	case *kind.MultipleOf:
		return fmt.Sprintf("is %s and must be a multiple of %s", number(k.Got), number(k.Want))
	case *kind.Required:
		return "lacks " + strings.Join(k.Missing, ", ")
	case *kind.DependentRequired:
		return fmt.Sprintf("has %s, so it also needs %s", k.Prop, strings.Join(k.Missing, ", "))
	case *kind.AdditionalProperties:
		return "has keys that are not known here: " + Brief(
			strings.Join(k.Properties[:min(len(k.Properties), mostNamed)], ", "),
		)
	case *kind.Type:
		return fmt.Sprintf("is %s where %s belongs", article(k.Got), article(strings.Join(k.Want, " or ")))
	case *kind.MinItems:
		return fmt.Sprintf("has %d of them; at the minimum %d are needed", k.Got, k.Want)
	case *kind.MaxItems:
		return fmt.Sprintf("has %d of them; at most %d are taken", k.Got, k.Want)
	case *kind.MinLength:
		return "is empty"
	case *kind.MaxLength:
		return fmt.Sprintf("has %d letters; at most %d are taken", k.Got, k.Want)
	case *kind.Not:
		return "holds a key that does not belong here"
	}
	return Brief(e.LocalizedString(english))
}

// mostNamed is how many keys are named at a time.
const mostNamed = 20

// Brief is at most eighty characters of what was sent.
func Brief(text string) string {
	const most = 80
	for i, letters := 0, 0; i < len(text); letters++ {
		if letters == most {
			return text[:i] + "…"
		}
		_, size := utf8.DecodeRuneInString(text[i:])
		i += size
	}
	return text
}

// article puts "a" or "an" before the name of a type, "nothing" for null.
func article(name string) string {
	switch {
	case name == "null":
		return "null"
	case strings.ContainsRune("aeio", rune(name[0])):
		return "an " + name
	}
	return "a " + name
}
