package rule

// Origin says where a value came from.
type Origin string

// Stated stands on the plate or was typed; Derived follows from such values;
// Assumed was filled from a table and can be replaced by a reading; Computed
// comes from the machine model.
const (
	Stated   Origin = "stated"
	Derived  Origin = "derived"
	Assumed  Origin = "assumed"
	Computed Origin = "computed"
)

// Term is one value that went into a figure.
type Term struct {
	Name   string  `json:"name"`
	Value  float64 `json:"value"`
	Unit   string  `json:"unit"`
	Origin Origin  `json:"origin"`
	Source string  `json:"source,omitempty"`
}

// Step is one line of arithmetic: the formula in words and symbols, the values
// put in, and what came out.
type Step struct {
	Formula string  `json:"formula"`
	Terms   []Term  `json:"terms" nullable:"false"`
	Result  float64 `json:"result"`
	Unit    string  `json:"unit"`
	Source  string  `json:"source"`
}

// Working is how one headline figure was made.
type Working struct {
	Figure string   `json:"figure"` // stable name of the figure
	Title  string   `json:"title"`
	Shown  string   `json:"shown" told:"figures"` // the figure as it is shown
	Steps  []Step   `json:"steps" nullable:"false"`
	Rules  []string `json:"rules" nullable:"false"` // ids of the rules that judge it
}

// Rests says whether any value in the working was assumed.
func (w Working) Rests() bool {
	for _, s := range w.Steps {
		for _, t := range s.Terms {
			if t.Origin == Assumed {
				return true
			}
		}
	}
	return false
}
