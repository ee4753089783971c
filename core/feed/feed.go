// Package feed is the one interface of every way of feeding a three-phase machine from one
// phase, and the registry of the ways there are. A way is a package of its own that
// registers itself once; routes are compared, sized, tried, drawn, printed and listed from
// here, so that no other place knows which ways there are.
package feed

import (
	"slices"
	"sync"

	"brackmoor/core/capacitor"
	"brackmoor/core/circuit"
	"brackmoor/core/drive"
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Info is what is known of a way without a machine. Order is that in which practitioners
// name the ways; the one of order 0 is taken for a motor while none is chosen.
type Info struct {
	Name   string `json:"name"`
	Title  string `json:"title"`
	Family string `json:"family"` // ways that are built alike
	Order  int    `json:"-"`

	// OwnBank: what somebody chose of its capacitors is meant for it alone.
	OwnBank bool `json:"-"`
	// TurnsSpeed: the speed can be turned. Balanced: electronics see no made leg.
	// FeedsMore: further machines hang on the same one.
	// OwnVolts: it gives its motor volts of its own, or takes another motor, so that nothing
	// said of this one across the supply's lines holds.
	TurnsSpeed, Balanced, FeedsMore, OwnVolts bool `json:"-"`
}

// Way is a way of feeding a machine. All of it is pure: the same question gives the same
// answer to the bit.
type Way interface {
	Info() Info

	// Outline is what it comes to beside the other ways, whatever is wished: the costly
	// part of a comparison. Nil says that it is not to be had for this machine at all.
	Outline(q *Question) *Outline
	// Weigh says what is against it by what matters; it may add verdicts to its outline.
	Weigh(q *Question, o *Outline) []Against
	// Hours of wiring that it takes on a machine with these controls.
	Hours(c Controls) float64

	// Size is the whole answer; Try the part of it that follows the hand, with what is
	// tried put into the question. An error is a case without an answer, such as a front
	// end without a steady state.
	Size(q *Question) (Page, error)
	Try(q *Question) (Page, error)
	// Brief is the answer in a few words, with what is said of it.
	Brief(q *Question) (string, []rule.Verdict, error)
	// Paper is what a sheet has of it, the drawing included.
	Paper(q *Question) (Paper, error)
	// Wire is its power and control circuit, by what was chosen of that; one whose way is not to be had
	// for the machine has no parts.
	Wire(q *Question, how circuit.Choices) circuit.Circuit

	// Hang is what of it hangs on its circuit while the motor, by the name id, does a share of
	// its plate output; the ids of what else there is begin with it.
	Hang(q *Question, id string, share float64) (network.Circuit, error)

	// Cautions are the rules that stand on its sheet and drawing whatever it is sized to,
	// Reversal how the motor is turned round.
	Cautions() []string
	Reversal() string
}

// Watched is a way whose terminals are watched after switch-off, apart from its answer
// since that takes a while.
type Watched interface {
	SwitchOff(q *Question) (After, error)
}

// Scoped is a way whose start, run and switch-off can be stepped through time.
type Scoped interface {
	Scope(q *Question) (capacitor.Trace, error)
}

// Idled is a way with an idler: its output in watts and its plate's amps.
type Idled interface {
	Idler(q *Question) (watts, amps float64)
}

// Driven is a way whose drive has settings.
type Driven interface {
	Kind() drive.Kind
}

// After is what the terminals do after switch-off, in a sentence, and what is said of it.
type After struct {
	Says     string         `json:"says"`
	Verdicts []rule.Verdict `json:"verdicts" nullable:"false"`
}

var (
	mu   sync.RWMutex
	ways []Way
)

// Register adds a way; a second one of its name is a fault of the program.
func Register(w Way) {
	mu.Lock()
	defer mu.Unlock()
	if slices.ContainsFunc(ways, func(had Way) bool { return had.Info().Name == w.Info().Name }) {
		panic("feed: " + w.Info().Name + " is registered twice")
	}
	ways = append(ways, w)
	slices.SortStableFunc(ways, func(a, b Way) int { return a.Info().Order - b.Info().Order })
}

// All are the ways in the order in which practitioners name them.
func All() []Way {
	mu.RLock()
	defer mu.RUnlock()
	return slices.Clone(ways)
}

// ByName finds a way.
func ByName(name string) (w Way, ok bool) {
	for _, w := range All() {
		if w.Info().Name == name {
			return w, true
		}
	}
	return nil, false
}

// Default is the way that a motor is sized for while none is taken.
func Default() Way {
	for _, w := range All() {
		if w.Info().Order == 0 {
			return w
		}
	}
	return All()[0]
}

// CautionsOf are the cautions of a way's sheet and drawing for a machine.
func CautionsOf(w Way, q *Question) []rule.Verdict {
	own := w.Cautions()
	ids := append([]string{"always.isolate"}, own...)
	if !slices.Contains(own, "drive.residual-current") { // a drive's wants a type of its own
		ids = append(ids, "always.residual-current")
	}
	if q.Load.Chucks {
		ids = append(ids, "always.screwed-chuck")
	}
	var list []rule.Verdict
	for _, id := range append(ids, "always.plugs", "always.utility", "always.restart", "always.bonding") {
		list = append(list, rule.Standing(id))
	}
	turn := rule.Standing("always.reversal-stop")
	turn.Do = "To turn it round: " + w.Reversal() + "."
	return append(list, turn, rule.Standing("always.local-code"))
}

// Across is what is said of the motor across the supply's lines, or of the transformer that it
// stands behind there, where the way puts it so.
func Across(w Way, q *Question) []rule.Verdict {
	if w.Info().OwnVolts {
		return nil
	}
	t := q.Stepped().Step
	if t == nil {
		return q.Line
	}
	list := []rule.Verdict{Behind(t, q.Supply.Hertz)}
	for _, v := range q.Line {
		if !slices.Contains(fluxRules, v.Rule) {
			list = append(list, v)
		}
	}
	return list
}

// Said are verdicts of a way with what is said of the motor across the lines, gravest first.
func Said(w Way, q *Question, verdicts []rule.Verdict) []rule.Verdict {
	across := Across(w, q)
	if len(across) == 0 {
		return verdicts
	}
	return rule.Sorted(append(slices.Clone(across), verdicts...))
}

// Paper is a way on a job sheet.
type Paper struct {
	Headline []rule.Row
	Sections []rule.Section
	Tables   []rule.Table
	Verdicts []rule.Verdict
}
