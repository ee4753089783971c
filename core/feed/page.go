package feed

import (
	"math"

	"brackmoor/core/capacitor"
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Page is a way sized for a machine, as the Size step shows it: the answer, the views of
// it, what can be turned by hand, and the arithmetic. After a trial, panels that a trial
// leaves as they were are not in it.
type Page struct {
	Way      string         `json:"way"`
	Title    string         `json:"title"`
	Headline []rule.Row     `json:"headline" nullable:"false"`
	Views    []View         `json:"views" nullable:"false"`
	Below    []Panel        `json:"below" nullable:"false"` // under every view
	Controls []Control      `json:"controls" nullable:"false"`
	Cans     *Cans          `json:"cans,omitempty"` // the bank that it takes
	Verdicts []rule.Verdict `json:"verdicts" nullable:"false"`
	Workings []rule.Working `json:"workings" nullable:"false"`
}

// View is one of the looks at a way; a page with one view shows it without a choice.
type View struct {
	Name   string  `json:"name"`
	Title  string  `json:"title"`
	Panels []Panel `json:"panels" nullable:"false"`
}

// The kinds of panel: a picture each, or a list.
const (
	LegsPanel     = "legs"
	WindingsPanel = "windings"
	ChartPanel    = "chart"
	TablePanel    = "table"
	FactsPanel    = "facts"
	NotesPanel    = "notes"
	StepsPanel    = "steps"
	InertiaPanel  = "inertia" // what is noted of the shaft, to be typed
	DutyPanel     = "duty"    // how it works, to be typed
	ScopePanel    = "scope"
	HandPanel     = "hand" // what can be turned by hand
)

// Panel is a picture, a table or a list, under a title with a note beside it. Name is its
// own on the page. Panels of one Turn, one after the other, stand in one place.
type Panel struct {
	Name     string     `json:"name"`
	Kind     string     `json:"kind"`
	Title    string     `json:"title"`
	Note     string     `json:"note" told:"figures"`
	Turn     string     `json:"turn"`  // panels of one turn stand in one another's place
	Width    string     `json:"width"` // one of the widths
	Legs     *Legs      `json:"legs,omitempty"`
	Windings *Windings  `json:"windings,omitempty"`
	Chart    *Chart     `json:"chart,omitempty"`
	Table    *Table     `json:"table,omitempty"`
	Facts    []rule.Row `json:"facts,omitempty"`
	Notes    []Note     `json:"notes,omitempty"`
	Steps    []string   `json:"steps,omitempty"`
}

// The widths of a panel. Panels of Rest, Stack or HalfStack that follow one another stand
// one above the other.
const (
	Third     = "third"
	Aside     = "aside" // beside one of Rest
	Rest      = "rest"
	Half      = "half"
	HalfStack = "half-stack"
	Wide      = "wide"  // beside one of Third
	Stack     = "stack" // beside what is turned by hand
	Full      = "full"
)

// Legs are the three volts of a state, for the triangle, on a supply of so many volts.
type Legs struct {
	Volts   network.Lines `json:"volts"`
	Degrees network.Lines `json:"degrees"`
	Supply  float64       `json:"supply"`
}

// Windings are the amps of the windings in some states, in percent of plate amps.
type Windings struct {
	Names  [3]string      `json:"names" nullable:"false"`
	States []WindingState `json:"states" nullable:"false"`
}

// WindingState is one of those states.
type WindingState struct {
	Title    string     `json:"title"`
	Percents [3]float64 `json:"percents" nullable:"false"`
	Over     [3]bool    `json:"over" nullable:"false"`
}

// Chart is curves over one scale, with a second one at the right where a line asks for it.
type Chart struct {
	Name  string `json:"name"`
	Label string `json:"label" told:"figures"` // what it says, for who cannot see it
	Lines []Line `json:"lines" nullable:"false"`
	X     Axis   `json:"x"`
	Y     Axis   `json:"y"`
	Right *Axis  `json:"right,omitempty"`
	Marks []Mark `json:"marks" nullable:"false"` // across, at places of x
	Dot   *Dot   `json:"dot,omitempty"`
	Keys  bool   `json:"keys"` // the lines are named in the picture, not beside its title
}

// The styles of a line.
const (
	MainLine    = "main"
	SecondLine  = "second"
	AgainstLine = "against"
	BesideLine  = "beside"
	FaintLine   = "faint"
)

// Line is a curve: points of x and y, nil where it is broken.
type Line struct {
	Title  string        `json:"title" told:"figures"`
	Style  string        `json:"style"`
	Right  bool          `json:"right"`
	Points []*[2]float64 `json:"points" nullable:"false"`
}

// At is a point of a line, to five significant figures: more than a picture shows, and quick to send.
func At(x, y float64) *[2]float64 { return &[2]float64{figures(x), figures(y)} }

func figures(v float64) float64 {
	if math.Abs(v) < 1e-12 {
		return 0
	}
	unit := math.Pow(10, 4-math.Floor(math.Log10(math.Abs(v))))
	return math.Round(v*unit) / unit
}

// Axis is a scale. Step 0 leaves the marks to the drawing. Limit is a line across, 0 for
// none.
type Axis struct {
	Title      string  `json:"title"`
	Most       float64 `json:"most"`
	Step       float64 `json:"step"`
	Limit      float64 `json:"limit"`
	LimitTitle string  `json:"limit_title" told:"figures"`
}

// Mark is a place of x with its name.
type Mark struct {
	At    float64 `json:"at"`
	Title string  `json:"title"`
}

// Dot is where it stands now.
type Dot struct {
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Over bool    `json:"over"`
}

// Table is lines of cells under heads.
type Table struct {
	Head []string   `json:"head" nullable:"false"`
	Rows []TableRow `json:"rows" nullable:"false"`
}

// TableRow is a line: its head, then its cells. Span, where it stands, is one cell over all
// that are left. Model marks the model's own line.
type TableRow struct {
	Head  string `json:"head"`
	Cells []Cell `json:"cells" nullable:"false"`
	Span  string `json:"span" told:"figures"`
	Bad   bool   `json:"bad"` // of the span
	Model bool   `json:"model"`
}

// Cell is a figure, with the name of its working where it has one, or Words. Bad marks one
// that is past a limit.
type Cell struct {
	Text   string `json:"text" told:"figures"`
	Figure string `json:"figure"`
	Words  bool   `json:"words"`
	Bad    bool   `json:"bad"`
}

// Note is something to be known, with its figure and a sentence.
type Note struct {
	Title   string `json:"title"`
	Value   string `json:"value" told:"figures"`
	Says    string `json:"says" told:"figures"`
	Advised bool   `json:"advised"`
}

// The kinds of control.
const (
	Slide  = "slide"
	Pick   = "pick"
	Named  = "named" // a pick by name
	Switch = "switch"
)

// Control is something that can be turned by hand. Name is that of the field it sets: of
// what was chosen (Choice, Bank) or of the load. What was chosen in place of the model's own
// is Chosen.
type Control struct {
	Name    string   `json:"name"`
	Kind    string   `json:"kind"`
	Title   string   `json:"title"`
	Unit    string   `json:"unit"`
	Value   float64  `json:"value"`
	Least   float64  `json:"least"`
	Most    float64  `json:"most"`
	Step    float64  `json:"step"`
	Scale   float64  `json:"scale"` // the figure shown over the one kept
	Chosen  bool     `json:"chosen"`
	Named   string   `json:"named"`                    // of a pick by name: the option that holds
	Options []Option `json:"options" nullable:"false"` // of a pick or a switch
}

// Option is one of a row: a value, nil for what the model takes, or a name.
type Option struct {
	Value *float64 `json:"value"`
	Name  string   `json:"name"`
	Title string   `json:"title"`
}

// Cans are the capacitors drawn as cans: run ones, start ones with their marks, and the
// bleeds on all.
type Cans struct {
	Run    []float64             `json:"run" nullable:"false"`
	Start  []capacitor.StartPart `json:"start" nullable:"false"`
	Bleeds []capacitor.Bleed     `json:"bleeds" nullable:"false"`
}

// LoadControl turns the load.
func LoadControl(q *Question) Control {
	return Control{
		Name: "load_share", Kind: Slide, Title: "Load", Unit: "%", Value: q.Share(), Most: 100, Step: 1, Scale: 100,
		Options: []Option{},
	}
}

// ShaftPanels are what is noted of shaft and duty, for a way without pictures of its own
// for them.
func ShaftPanels() []Panel {
	return []Panel{
		{Name: "inertia", Kind: InertiaPanel, Title: "What it brings up", Note: "left empty, by the kind of machine",
			Width: Half},
		{Name: "duty", Kind: DutyPanel, Title: "How it works", Note: "minutes, or with h", Width: Half},
	}
}

// AcceptTable is what is accepted in each state of work, beside what is expected.
func AcceptTable(list []rule.Judged) *Table {
	t := &Table{Head: []string{"State", "Judged by", "Expected", "Accepted"}, Rows: []TableRow{}}
	for _, j := range list {
		expected, accepted := j.Words()
		row := TableRow{Head: j.State, Cells: []Cell{
			{Text: j.Figure, Words: true}, {Text: expected, Bad: !j.Accepted}, {Text: accepted},
		}}
		if j.Rule == "" {
			row.Cells, row.Span, row.Bad = row.Cells[:1], j.Unit, true
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

// StateHead is the head of a table of volts by states of work, with what else stands in it.
func StateHead(q *Question, more ...string) []string {
	pairs := q.Lines().Pairs()
	return append([]string{"State", pairs[0], pairs[1], pairs[2]}, more...)
}
