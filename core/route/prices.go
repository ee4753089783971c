package route

// Prices are the shop's own figures, in its money.
type Prices struct {
	RunPerMicrofarad   float64 `json:"run_per_microfarad"`
	StartPerMicrofarad float64 `json:"start_per_microfarad"`
	StartRelay         float64 `json:"start_relay"` // timer, relay or switch that takes the start capacitor out
	StaticBox          float64 `json:"static_box"`
	PhaseBox           float64 `json:"phase_box"`
	IdlerPerKilowatt   float64 `json:"idler_per_kilowatt"`
	IdlerBase          float64 `json:"idler_base"` // starter, guard, box
	DrivePerKilowatt   float64 `json:"drive_per_kilowatt"`
	DriveBase          float64 `json:"drive_base"`
	OnePhaseFactor     float64 `json:"one_phase_factor"` // a drive built for one phase, over one for three
	Reactor            float64 `json:"reactor"`
	MotorPerKilowatt   float64 `json:"motor_per_kilowatt"` // a single-phase motor
	MotorBase          float64 `json:"motor_base"`
	Hour               float64 `json:"hour"` // of wiring
	Tariff             float64 `json:"tariff"`
	Years              float64 `json:"years"` // over which parts and hours are spread
	DaysPerYear        float64 `json:"days_per_year"`
}

// SamplePrices are made up, to be replaced by the shop's own.
var SamplePrices = Prices{RunPerMicrofarad: 0.6, StartPerMicrofarad: 0.08, StartRelay: 25, StaticBox: 140, PhaseBox: 320, IdlerPerKilowatt: 70, IdlerBase: 160,
	DrivePerKilowatt: 75, DriveBase: 120, OnePhaseFactor: 1.35, Reactor: 70, MotorPerKilowatt: 140, MotorBase: 90, Hour: 45, Tariff: 0.20, Years: 6, DaysPerYear: 150}

// hours of wiring for each route: shop practice, for a machine with one motor and a
// plain switch.
var plainHours = map[string]float64{RunCapacitor: 2, StartRunCapacitor: 3, Static: 2, PhaseBox: 2, Rotary: 5, DriveSinglePhase: 3, DriveDerated: 3.5, DCBus: 5, SinglePhaseMotor: 4}

// rewiring is the hours that a route takes on this machine: on a drive every reversing
// switch and interlock becomes a low-voltage input; elsewhere they stay as they are.
func (in Input) rewiring(name string) float64 {
	hours := plainHours[name]
	c := in.Controls
	switch name {
	case DriveSinglePhase, DriveDerated, DCBus:
		if c.Reversing {
			hours += 1.5
		}
		hours += 1.0*float64(c.Interlocks) + 1.5*float64(c.Motors-1)
	case SinglePhaseMotor:
		if c.Reversing {
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
