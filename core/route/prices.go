package route

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
	Hour             float64 `json:"hour" minimum:"0" maximum:"1000000"` // of wiring
	Tariff           float64 `json:"tariff" minimum:"0" maximum:"10000"`
	Years            float64 `json:"years" minimum:"1" maximum:"50"` // over which parts and hours are spread
	DaysPerYear      float64 `json:"days_per_year" minimum:"1" maximum:"366"`
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
	Hour:               45,
	Tariff:             0.20,
	Years:              6,
	DaysPerYear:        150,
}

// hours of wiring for each route: shop practice, for a machine with one motor and a
// plain switch.
var plainHours = map[string]float64{
	RunCapacitor:      2,
	StartRunCapacitor: 3,
	Static:            2,
	PhaseBox:          2,
	Rotary:            5,
	DriveSinglePhase:  3,
	DriveDerated:      3.5,
	DCBus:             5,
	SinglePhaseMotor:  4,
}

// rewiring is the hours that a route takes on this machine: on a drive every reversing
// switch and interlock becomes a low-voltage input; elsewhere they stay as they are.
func (in Input) rewiring(name string) float64 {
	hours := plainHours[name]
	c := in.Controls
	switch name {
	case DriveSinglePhase, DriveDerated, DCBus:
		if c.Reversing || c.Switch == "drum" {
			hours += 1.5
		}
		if c.Brake {
			hours++
		}
		hours += 1.0*float64(c.Interlocks) + 1.5*float64(c.Motors-1)
	case SinglePhaseMotor:
		if c.Reversing || c.Switch == "drum" {
			hours += 2
		}
		hours += 2 * float64(c.Motors-1)
	default:
		hours += 0.5 * float64(c.Motors-1)
	}
	return hours
}

// perYear is what a route costs a year.
func (in Input) perYear(r *Route) float64 {
	p := in.Prices
	cost := (r.Cost.Parts + r.Cost.Hours*p.Hour) / p.Years
	if r.lossWatts != nil {
		cost += *r.lossWatts / 1000 * in.Wishes.HoursPerDay * p.DaysPerYear * p.Tariff
	}
	return cost
}
