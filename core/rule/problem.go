package rule

import (
	"fmt"
	"math"
)

// Problem is one thing wrong with what was given: the JSON path of its place, and a
// sentence.
type Problem struct {
	Path string `json:"path"`
	Says string `json:"says"`
}

func (p Problem) String() string { return p.Path + ": " + p.Says }

// Problems gathers what is wrong; none is sound.
type Problems []Problem

// Say adds a problem at a place.
func (p *Problems) Say(path, format string, args ...any) {
	*p = append(*p, Problem{path, fmt.Sprintf(format, args...)})
}

// Under has the problems below a path.
func (p Problems) Under(path string) Problems {
	under := make(Problems, len(p))
	for i, one := range p {
		if one.Path != "" && one.Path[0] != '[' {
			one.Path = "." + one.Path
		}
		under[i] = Problem{path + one.Path, one.Says}
	}
	return under
}

// Positive refuses what is no finite number above zero.
func (p *Problems) Positive(path string, value float64) {
	if !(value > 0) || math.IsInf(value, 0) {
		p.Say(path, "must be a number above zero")
	}
}

// NotNegative refuses what is no finite number of zero or more.
func (p *Problems) NotNegative(path string, value float64) {
	if !(value >= 0) || math.IsInf(value, 0) {
		p.Say(path, "must be a number of zero or more")
	}
}
