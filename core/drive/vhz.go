package drive

import (
	"math"

	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/search"
)

// VHz is the volts that a drive gives for a frequency: along a straight line up to the
// base point, flat above it. MotorVolts and MotorHertz are the motor's plate as it is
// joined, MostVolts what the drive has at its output. BoostPercent of MotorVolts is
// added at nothing, falling to none at the base point. Square has them rise with the square of
// the frequency, as a fan's torque does, to MotorVolts at MotorHertz. All volts are line to line, rms of the
// fundamental.
type VHz struct {
	MotorVolts   float64 `json:"motor_volts"`
	MotorHertz   float64 `json:"motor_hertz"`
	MostVolts    float64 `json:"most_volts"`
	BoostPercent float64 `json:"boost_percent"`
	Square       bool    `json:"-"`
}

// BaseHertz is the frequency up to which volts rise with it: where the drive's most
// volts are the motor's volts per hertz.
func (v VHz) BaseHertz() float64 { return v.MotorHertz * v.MostVolts / v.MotorVolts }

// Volts is what the motor gets at a frequency.
func (v VHz) Volts(hertz float64) float64 {
	rise := hertz / v.MotorHertz
	if v.Square {
		rise *= rise
	}
	boost := v.BoostPercent / 100 * math.Max(0, 1-hertz/v.BaseHertz())
	return math.Min(v.MostVolts, v.MotorVolts*(rise+boost))
}

// SpeedPoint is what a motor on a drive can do at a frequency. TorqueNm is what it may
// give for good: within plate amps, fewer where its own fan turns slowly. BreakdownNm is
// the most it can give at all. CoolingShare is the share of its losses that the fan
// still carries away.
type SpeedPoint struct {
	Hertz        float64 `json:"hertz"`
	Volts        float64 `json:"volts"`
	RPM          float64 `json:"rpm"` // at that torque
	TorqueNm     float64 `json:"torque_nm"`
	BreakdownNm  float64 `json:"breakdown_nm"`
	ShaftWatts   float64 `json:"shaft_watts"`
	CoolingShare float64 `json:"cooling_share"`
}

// Motor is a motor for a drive: its circuit at RatedHertz as joined, and its plate.
// OwnFan says that its fan sits on its shaft.
type Motor struct {
	network.Motor
	RatedAmps float64 `json:"rated_amps"`
	OwnFan    bool    `json:"own_fan"`
}

const (
	standingCooling = 0.35 // of a shaft fan's cooling, left at standstill
	fullCooling     = 0.5  // of rated speed, from which on it cools enough for plate torque
)

// Cooling is the share of plate losses that a shaft fan carries away at a share of rated
// speed: all of them down to about half speed (usual practice with standard enclosed
// motors), then fewer along a straight line.
func Cooling(speedShare float64) float64 {
	if speedShare >= fullCooling {
		return 1
	}
	return standingCooling + (1-standingCooling)*speedShare/fullCooling
}

// Across is what the motor can do at each of the frequencies.
func (m Motor) Across(v VHz, hertz []float64) ([]SpeedPoint, error) {
	points := make([]SpeedPoint, 0, len(hertz))
	for _, f := range hertz {
		p, err := m.at(v, f)
		if err != nil {
			return nil, err
		}
		points = append(points, p)
	}
	return points, nil
}

func (m Motor) at(v VHz, hertz float64) (SpeedPoint, error) {
	p := SpeedPoint{Hertz: hertz, Volts: v.Volts(hertz), CoolingShare: 1}
	if m.OwnFan {
		p.CoolingShare = Cooling(hertz / m.RatedHertz)
	}
	synchronous := motor.SynchronousRPM(hertz, m.Poles)
	alone := m.Motor
	slip := 0.0
	alone.Slip, alone.Load, alone.Direction, alone.Behind = &slip, nil, "", ""
	solver := network.New(
		network.Case{Supply: network.Supply{Phases: 3, Volts: p.Volts, Hertz: hertz}, Motors: []network.Motor{alone}},
	)
	var failed error
	look := func(slip float64) network.Moment {
		if failed == nil {
			failed = solver.Hold([]float64{slip})
		}
		return solver.Moment(0)
	}
	// The torque's one peak, on the slip's logarithm.
	low, high := search.Section(math.Log(1e-4), 0, 40, func(l, h float64) bool {
		return look(math.Exp(l)).TorqueNm > look(math.Exp(h)).TorqueNm
	})
	peak := math.Exp((low + high) / 2)
	friction := func(slip float64) float64 {
		return m.FrictionCoefficient() * (1 - slip) * synchronous * math.Pi / 30
	}
	p.BreakdownNm = look(peak).TorqueNm - friction(peak)
	// Amps rise with slip: those that the cooling allows, or the peak's.
	amps := m.RatedAmps * math.Sqrt(p.CoolingShare)
	from := search.Edge(0, peak, 40, func(slip float64) bool { return !(look(slip).LineAmps.Max() > amps) })
	now := look(from)
	if failed != nil {
		return p, failed
	}
	p.TorqueNm = math.Max(0, now.TorqueNm-friction(from))
	p.RPM = (1 - from) * synchronous
	p.ShaftWatts = p.TorqueNm * p.RPM * math.Pi / 30
	return p, nil
}
