package feed

import (
	"slices"
	"sync"

	"brackmoor/core/circuit"
	"brackmoor/core/drive"
	"brackmoor/core/halt"
	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
	"brackmoor/core/supply"
)

// Choice is how a motor is to be fed: the way taken, "" while none is, and those kept
// beside it for comparison. What is chosen for an idler is nil where the model chooses.
// OneEach gives every motor of the machine a drive of its own.
type Choice struct {
	Route      string   `json:"route" maxLength:"40"`
	Kept       []string `json:"kept" nullable:"false" maxItems:"20"`
	IdlerWatts *float64 `json:"idler_watts" minimum:"100" maximum:"100000"`
	BalanceAC  *float64 `json:"balance_ac_microfarad" minimum:"0" maximum:"5000"`
	BalanceBC  *float64 `json:"balance_bc_microfarad" minimum:"0" maximum:"5000"`
	SecondAC   *float64 `json:"second_ac_microfarad" minimum:"0" maximum:"5000"`
	SecondBC   *float64 `json:"second_bc_microfarad" minimum:"0" maximum:"5000"`
	Balance    string   `json:"balance" enum:",safe,load,idle,full,switched"` // what its capacitors are for
	OneEach    bool     `json:"one_each"`
	// BusMicrofarad is the capacitance of the drive at hand, by its maker's word, and Reactor what
	// stands before it.
	BusMicrofarad *float64      `json:"bus_microfarad" minimum:"50" maximum:"50000"`
	Reactor       drive.Reactor `json:"reactor" enum:",line,choke"`
	Profile       string        `json:"profile" maxLength:"80"` // name of the drive at hand, "" for none in particular
	// Bus is where the drive at hand answers, host:port, and BusStarts that its motor may be started over it.
	Bus       string `json:"bus,omitempty" maxLength:"60"`
	BusStarts bool   `json:"bus_starts,omitempty"`
	// Wiring is what was chosen of its power and control circuit.
	Wiring circuit.Choices `json:"wiring,omitzero"`
}

// Bank is what somebody chose of capacitors on the motor, nil where the model chooses, and
// that it is to turn the other way round.
type Bank struct {
	RunMicrofarad   *float64 `json:"run_microfarad" minimum:"0" maximum:"5000"`
	StartMicrofarad *float64 `json:"start_microfarad" minimum:"0" maximum:"5000"`
	Reversed        bool     `json:"reversed"`
}

// Filled has a list where there was none, each way once.
func (c Choice) Filled() Choice {
	kept := []string{}
	for _, name := range c.Kept {
		if name != c.Route && !slices.Contains(kept, name) {
			kept = append(kept, name)
		}
	}
	c.Kept = kept
	return c
}

// Unknown are the names in it that are no way's.
func (c Choice) Unknown() (names []string) {
	for _, name := range append(slices.Clone(c.Kept), c.Route) {
		if _, ok := ByName(name); !ok && name != "" {
			names = append(names, name)
		}
	}
	return names
}

// Taken is the way that a motor is sized for.
func (c Choice) Taken() Way {
	if w, ok := ByName(c.Route); ok {
		return w
	}
	return Default()
}

// Wishes are what the owner wants of a way.
type Wishes struct {
	FullOutput     bool    `json:"full_output"`
	HardStart      bool    `json:"hard_start"`
	Speed          bool    `json:"speed"` // speed control
	More           bool    `json:"more"`  // further machines to come
	Electronics    bool    `json:"electronics"`
	Quiet          bool    `json:"quiet"`
	Cheap          bool    `json:"cheap"`
	KeepSwitchgear bool    `json:"keep_switchgear"`
	HoursPerDay    float64 `json:"hours_per_day" minimum:"0" maximum:"24"` // 0 for the usual ones
}

// UsualHours is how long a machine of a small shop turns in a day.
const UsualHours = 3.0

// Wish is one of them, for people, with the words for it in a sentence.
type Wish struct {
	Name  string              `json:"name"`
	Title string              `json:"title"`
	Words string              `json:"-"`
	Of    func(*Wishes) *bool `json:"-"`
}

// WishList lists the wishes in the order in which they are shown.
var WishList = []Wish{
	{"full_output", "Full plate output", "full output", func(w *Wishes) *bool { return &w.FullOutput }},
	{"hard_start", "A hard start", "a hard start", func(w *Wishes) *bool { return &w.HardStart }},
	{"speed", "Speed control", "speed control", func(w *Wishes) *bool { return &w.Speed }},
	{"more", "More machines", "more machines", func(w *Wishes) *bool { return &w.More }},
	{"electronics", "Electronics aboard", "electronics", func(w *Wishes) *bool { return &w.Electronics }},
	{"quiet", "Quiet", "quiet", func(w *Wishes) *bool { return &w.Quiet }},
	{"cheap", "Low cost", "little money", func(w *Wishes) *bool { return &w.Cheap }},
	{
		"keep_switchgear",
		"Keep its switches",
		"keeping the switches",
		func(w *Wishes) *bool { return &w.KeepSwitchgear },
	},
}

// Controls are what the machine has already.
type Controls struct {
	Switch     string `json:"switch" enum:",two-wire,three-wire,drum"`
	Reversing  bool   `json:"reversing"`
	Interlocks int    `json:"interlocks" minimum:"0" maximum:"20"`
	Brake      bool   `json:"brake"`
	Motors     int    `json:"motors" minimum:"0" maximum:"10"` // of the machine's own list, whatever is sent
}

// Matters is what somebody says of a machine for the choice of its way: what is wished,
// the controls there are, the circuit it is to be fed from, 0 for the supply's own, and
// what the maker of the drive at hand says of one phase. LeastHertz is the least that the
// machine's maker lets its motor run at, 0 where that is not known.
type Matters struct {
	Wishes
	Controls     Controls `json:"controls"`
	CircuitAmps  float64  `json:"circuit_amps" minimum:"0" maximum:"600"`
	RunMetre     float64  `json:"run_metre" minimum:"0" maximum:"500"` // of its conductors, one way; 0 not looked at
	MakerPermits string   `json:"maker_permits" enum:",yes,no"`
	LeastHertz   float64  `json:"least_hertz" minimum:"0" maximum:"100"`
	// Of the spindle, as typed: its steps, the tool's diameter, the material's name.
	Steps    string `json:"steps" maxLength:"160"`
	Tool     string `json:"tool" maxLength:"40"`
	Material string `json:"material" maxLength:"40"`
}

// OnePhaseAllowed is what the maker of the drive at hand says, nil where that is not known.
func (m *Matters) OnePhaseAllowed() *bool {
	switch m.MakerPermits {
	case "yes":
		return new(true)
	case "no":
		return new(false)
	}
	return nil
}

// Existing is what there is of controls, as drives see it.
func (m *Matters) Existing() drive.Existing {
	c := m.Controls
	return drive.Existing{Switch: c.Switch, Reversing: c.Reversing, Interlocks: c.Interlocks, Brake: c.Brake}
}

// Hung is what a motor hangs on in its shop, as its circuit shows it: breaker and conductor of the circuit that
// feeds it or its converter, and its own breaker behind a converter. Zero or empty is sized by the code.
type Hung struct {
	BreakerAmps, OwnAmps float64
	Size                 string
	UpSeconds            float64            // in which the converter's idler was up, by a stopwatch
	TimerSeconds         float64            // that its start timer is set to
	Others               []string           // the other machines behind it
	Idler                *rotary.IdlerMotor // of its converter, by that motor's own plate; nil where none is known
}

// Question is one machine, the site it stands on, what matters and what was chosen. Make
// it by Ask.
type Question struct {
	machine.Machine
	Title     string  // of the motor, such as "3 hp"
	Assumed   bool    // its plate rests on tables
	MainAmps  float64 // of the supply's own breaker; 0 where it is not known
	Prices    Prices
	Weights   Weights
	Figures   []supply.Figure // a shop's own in the place of a code's
	Matters   Matters
	Choice    Choice
	Bank      Bank
	Motors    []drive.Driven // of the whole machine
	Stops     []string       // that stand beside the plate already, for the drawing
	Line      []rule.Verdict // of the motor across the supply's lines
	Fed       Hung           // by what it hangs on in its shop, for its circuit
	Stores    []stock.Item   // what the shop has on hand
	MachineID string         // for which some of it may be reserved
	Profile   drive.Profile  // of the drive at hand, the zero one for none in particular

	shared *shared
	base   *Question
}

// Code is the code that its circuit is sized by.
func (q *Question) Code() supply.Code { return supply.CodeOf(q.Supply.Hertz, q.Figures) }

// Ask makes a question ready: sample prices, weights and a plain machine where nothing is
// said.
func Ask(q Question) *Question {
	q.Machine = q.Whole()
	if q.Prices == (Prices{}) {
		q.Prices = SamplePrices
	}
	if q.Weights == (Weights{}) {
		q.Weights = SampleWeights
	}
	q.Matters.Controls.Motors = max(q.Matters.Controls.Motors, 1)
	if q.Matters.HoursPerDay == 0 {
		q.Matters.HoursPerDay = UsualHours
	}
	if q.Motors == nil {
		q.Motors = []drive.Driven{}
	}
	q.shared = &shared{made: map[string]*made{}}
	return &q
}

// With is the question with something changed, as when it is tried by hand; nothing that
// was worked out is shared with it but by way of its Base.
func (q *Question) With(change func(*Question)) *Question {
	other := *q
	change(&other)
	other.shared, other.base = &shared{made: map[string]*made{}}, q.Base()
	return &other
}

// Until is the question as long as somebody waits for its answer. It is the same one: what was
// worked out for it is shared.
func (q *Question) Until(stop halt.Sign) *Question {
	other := *q
	other.Stop = stop
	if q.base != nil {
		other.base = q.base.Until(stop)
	}
	return &other
}

// Base is the question that this one was changed from.
func (q *Question) Base() *Question {
	if q.base == nil {
		return q
	}
	return q.base
}

// For is the question as a way hears it: what somebody chose of capacitors is meant for
// the way taken, or, where that has none, for capacitors on the motor.
func (q *Question) For(w Way) *Question {
	taken := q.Choice.Taken().Info()
	if own := w.Info(); own.Name == taken.Name || !own.OwnBank && !taken.OwnBank {
		return q
	}
	bare := *q
	bare.Bank.RunMicrofarad, bare.Bank.StartMicrofarad = nil, nil
	return &bare
}

// CircuitAmps is the rating of the circuit that the machine is to be fed from, 0 where it
// is not known.
func (q *Question) CircuitAmps() float64 {
	if q.Matters.CircuitAmps > 0 {
		return q.Matters.CircuitAmps
	}
	return q.MainAmps
}

// shared is what the ways of one family work out once for a question.
type shared struct {
	mu   sync.Mutex
	made map[string]*made
}

// made is such a thing, and whether whoever worked it out waited for the end of it.
type made struct {
	once  sync.Once
	value any
	whole bool
}

// Shared makes something once for a question, whichever way asks first. What it is made
// from must be the question alone, as the key says. What was cut short, since nobody waited
// for it, is made anew for whoever still does.
func Shared[T any](q *Question, key string, make func() T) T {
	for {
		q.shared.mu.Lock()
		m := q.shared.made[key]
		if m == nil {
			m = &made{}
			q.shared.made[key] = m
		}
		q.shared.mu.Unlock()
		m.once.Do(func() {
			m.value = make()
			m.whole = q.Stop.Err() == nil
		})
		if m.whole || q.Stop.Err() != nil {
			return m.value.(T)
		}
		q.shared.mu.Lock()
		if q.shared.made[key] == m {
			delete(q.shared.made, key)
		}
		q.shared.mu.Unlock()
	}
}

// Lines are what lines and terminals are called on its supply.
func (q *Question) Lines() quantity.Lines { return quantity.LinesAt(q.Supply.Hertz) }
