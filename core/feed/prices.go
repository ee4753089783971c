package feed

import (
	"brackmoor/core/circuit"
	"brackmoor/core/drive"
	"brackmoor/core/stock"
)

// Prices are the shop's own figures, in its money.
type Prices struct {
	RunPerMicrofarad   float64 `json:"run_per_microfarad" minimum:"0" maximum:"100000"`
	StartPerMicrofarad float64 `json:"start_per_microfarad" minimum:"0" maximum:"100000"`
	// timer, relay or switch that takes the start capacitor out
	StartRelay       float64 `json:"start_relay" minimum:"0" maximum:"10000000"`
	StaticBox        float64 `json:"static_box" minimum:"0" maximum:"10000000"`
	PhaseBox         float64 `json:"phase_box" minimum:"0" maximum:"10000000"`
	IdlerPerKilowatt float64 `json:"idler_per_kilowatt" minimum:"0" maximum:"10000000"`
	IdlerBase        float64 `json:"idler_base" minimum:"0" maximum:"10000000"` // starter, guard, box
	DrivePerKilowatt float64 `json:"drive_per_kilowatt" minimum:"0" maximum:"10000000"`
	DriveBase        float64 `json:"drive_base" minimum:"0" maximum:"10000000"`
	// a drive built for one phase, over one for three
	OnePhaseFactor   float64 `json:"one_phase_factor" minimum:"0.5" maximum:"5"`
	Reactor          float64 `json:"reactor" minimum:"0" maximum:"10000000"`
	MotorPerKilowatt float64 `json:"motor_per_kilowatt" minimum:"0" maximum:"10000000"` // a single-phase motor
	MotorBase        float64 `json:"motor_base" minimum:"0" maximum:"10000000"`
	// contactor, overload and enclosure of the machine, whatever feeds it
	Switchgear float64 `json:"switchgear,omitempty" minimum:"0" maximum:"10000000"`
	// an autotransformer, by what it makes itself
	TransformerPerKVA float64 `json:"transformer_per_kva,omitempty" minimum:"0" maximum:"10000000"`
	// three phases of the utility's: to have them laid, and standing charges a year; 0 where it has none
	Utility     float64 `json:"utility,omitempty" minimum:"0" maximum:"10000000"`
	UtilityYear float64 `json:"utility_year,omitempty" minimum:"0" maximum:"10000000"`
	Hour        float64 `json:"hour" minimum:"0" maximum:"1000000"` // of wiring
	Tariff      float64 `json:"tariff" minimum:"0" maximum:"10000"`
	Years       float64 `json:"years" minimum:"1" maximum:"50"` // over which parts and hours are spread
	DaysPerYear float64 `json:"days_per_year" minimum:"1" maximum:"366"`
}

// PriceField names a price for people.
type PriceField struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Unit  string `json:"unit"`
}

// PriceFields lists the prices in the order they are shown.
var PriceFields = []PriceField{
	{"tariff", "Tariff", "a kWh"},
	{"hour", "An hour of wiring", ""},
	{"years", "Parts and wiring spread over", "years"},
	{"days_per_year", "Days worked", "a year"},
	{
		"run_per_microfarad",
		"Run capacitor",
		"a µF",
	},
	{"start_per_microfarad", "Start capacitor", "a µF"},
	{"start_relay", "Relay or timer for it", ""},
	{"static_box", "Static converter", ""},
	{"phase_box", "Phase-shifting box", ""},
	{
		"idler_per_kilowatt",
		"Idler",
		"a kW",
	},
	{"idler_base", "Its starter, guard and box", ""},
	{"drive_per_kilowatt", "Drive", "a kW"},
	{"drive_base", "Drive, fixed part", ""},
	{"one_phase_factor", "Built for one phase", "times"},
	{
		"reactor",
		"Reactor",
		"",
	},
	{"motor_per_kilowatt", "Single-phase motor", "a kW"},
	{"motor_base", "Single-phase motor, fixed part", ""},
	{"switchgear", "Contactor, overload, enclosure", "any way"},
	{"transformer_per_kva", "Autotransformer", "a kVA of its own"},
	{"utility", "Three phases of the utility’s, laid", "0: none"},
	{"utility_year", "Its standing charges", "a year"},
}

// SamplePrices are made up, to be replaced by the shop's own.
var SamplePrices = Prices{
	RunPerMicrofarad:   0.6,
	StartPerMicrofarad: 0.08,
	StartRelay:         25,
	StaticBox:          140,
	PhaseBox:           320,
	IdlerPerKilowatt:   70,
	IdlerBase:          160,
	DrivePerKilowatt:   75,
	DriveBase:          120,
	OnePhaseFactor:     1.35,
	Reactor:            70,
	MotorPerKilowatt:   140,
	MotorBase:          90,
	Switchgear:         85,
	TransformerPerKVA:  200,
	Hour:               45,
	Tariff:             0.20,
	Years:              6,
	DaysPerYear:        150,
}

// Each is what one of a part of a way's circuit costs by the shop's prices, 0 for a part that they say nothing of: of a
// capacitor one of its cans.
func (q *Question) Each(w Way, p *circuit.Part) float64 {
	kilowatts := p.Watts / 1000
	switch p.Kind {
	case circuit.Capacitor:
		each := q.Prices.RunPerMicrofarad
		if p.Duty == stock.Start {
			each = q.Prices.StartPerMicrofarad
		}
		return each * p.Microfarad / float64(max(1, len(p.Cans)))
	case circuit.Motor:
		return q.Prices.IdlerPerKilowatt * kilowatts
	case circuit.SinglePhaseMotor:
		if kilowatts > 0 {
			return q.Prices.MotorBase + q.Prices.MotorPerKilowatt*kilowatts
		}
	case circuit.Drive:
		if kilowatts == 0 {
			break
		}
		each := q.Prices.DriveBase + q.Prices.DrivePerKilowatt*kilowatts
		if own, ok := w.(Driven); ok && own.Kind() == drive.OnePhase {
			each *= q.Prices.OnePhaseFactor
		}
		return each
	}
	return 0
}

// Weights are what speaks against a way without costing money, as hours of work a year
// that somebody would give to be rid of it: at the shop's own price of an hour it weighs
// the same in every currency.
type Weights struct {
	NotIdling   float64 `json:"not_idling" minimum:"0" maximum:"1000"`
	Electronics float64 `json:"electronics" minimum:"0" maximum:"1000"`
	Noise       float64 `json:"noise" minimum:"0" maximum:"1000"`
	Rewiring    float64 `json:"rewiring" minimum:"0" maximum:"1000"`
	Permit      float64 `json:"permit" minimum:"0" maximum:"1000"`
	Rare        float64 `json:"rare" minimum:"0" maximum:"1000"`
	Bus         float64 `json:"bus" minimum:"0" maximum:"1000"`
	Fit         float64 `json:"fit" minimum:"0" maximum:"1000"`
	Caution     float64 `json:"caution,omitempty" minimum:"0" maximum:"1000"`
	Transformer float64 `json:"transformer,omitempty" minimum:"0" maximum:"1000"`
}

// SampleWeights are those that the shops of the demo go by, to be replaced by the shop's
// own.
var SampleWeights = Weights{
	NotIdling: 2.0 / 3, Electronics: 4.0 / 3, Noise: 16.0 / 9, Rewiring: 4.0 / 3, Permit: 5.0 / 9, Rare: 4.0 / 3,
	Bus: 8.0 / 9, Fit: 8.0 / 9, Caution: 4, Transformer: 4.0 / 3,
}

// WeightField names a weight for people, and why it weighs.
type WeightField struct {
	Name  string                  `json:"name"`
	Title string                  `json:"title"`
	Why   string                  `json:"why"`
	Of    func(*Weights) *float64 `json:"-"`
}

// WeightFields lists the weights in the order they are shown.
var WeightFields = []WeightField{
	{"not_idling", "It must not be left idling", "somebody must think of the switch after every cut",
		func(w *Weights) *float64 { return &w.NotIdling }},
	{
		"electronics",
		"Legs apart, with electronics aboard",
		"readouts and drives want a feed of their own from the two lines",
		func(w *Weights) *float64 { return &w.Electronics },
	},
	{"noise", "It hums, where quiet is wished", "an idler is heard all day",
		func(w *Weights) *float64 { return &w.Noise }},
	{
		"rewiring",
		"Switches rewired, where they are to be kept",
		"what worked must be proved again, and is not as it was",
		func(w *Weights) *float64 { return &w.Rewiring },
	},
	{"permit", "The maker must permit one phase", "a manual is to be found and read before money is spent",
		func(w *Weights) *float64 { return &w.Permit }},
	{"rare", "Few are made of its size", "one must be looked for, and is dear to replace",
		func(w *Weights) *float64 { return &w.Rare }},
	{"bus", "A bus of its own", "rectifier, choke and dc fuses for one drive",
		func(w *Weights) *float64 { return &w.Bus }},
	{"fit", "Another motor must fit", "flange, shaft and height are measured and packed out",
		func(w *Weights) *float64 { return &w.Fit }},
	{"caution", "A caution for which few trust it", "it is left for another way by most who have tried it",
		func(w *Weights) *float64 { return &w.Caution }},
	{"transformer", "A transformer ahead of it", "one must be found, fused and given a place, and hums",
		func(w *Weights) *float64 { return &w.Transformer }},
}

// Money is what a reason against a way counts for a year; a name that is no weight's is a
// fault of the program.
func (q *Question) Money(weight string) float64 {
	for _, f := range WeightFields {
		if f.Name == weight {
			return *f.Of(&q.Weights) * q.Prices.Hour
		}
	}
	panic("feed: there is no weight " + weight)
}
