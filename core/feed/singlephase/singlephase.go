// Package singlephase puts a single-phase motor in the machine's place.
package singlephase

import (
	"fmt"
	"math"
	"strings"

	"brackmoor/core/feed"
	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

type way struct{}

// Way is the way itself.
var Way feed.Way = way{}

func init() { feed.Register(Way) }

// A usual capacitor-run motor: shop practice.
const (
	powerFactor     = 0.85
	efficiencyTimes = 0.92 // of the three-phase motor's
	startTorque     = 2.0  // of rated, capacitor-start
	startingTimes   = 6.0  // amps at standstill over those at full output: NEC 430.251(A) over 430.248 (US, 2023)
	idleShare       = 0.15 // of full watts, idle
)

const ampsBy = "single-phase amps, W/(V·pf·eff)"

func (way) Info() feed.Info {
	return feed.Info{
		Name:     "single-phase-motor",
		Title:    "Single-phase motor",
		Family:   "motor",
		Order:    8,
		Balanced: true,
		OwnVolts: true,
	}
}

func amps(q *feed.Question, share float64) float64 {
	efficiency := efficiencyTimes * q.Plate.Efficiency.Value
	return (share + idleShare*(1-share)) * q.Watts() / (q.Supply.Volts * powerFactor * efficiency)
}

// tableAmps are the code table's where it has the motor, 0 where it has not.
func tableAmps(q *feed.Question) float64 {
	table, _ := q.Code().OnePhaseTableAmps(q.Watts(), q.Supply.Volts)
	return table
}

// starting are its amps at standstill, by the code's table where that has more.
func starting(q *feed.Question) float64 { return startingTimes * math.Max(amps(q, 1), tableAmps(q)) }

func verdicts(q *feed.Question) []rule.Verdict {
	if q.Watts() <= rule.Limit("route.single-phase-large", "most_watts") {
		return []rule.Verdict{}
	}
	return []rule.Verdict{rule.Speak("route.single-phase-large", rule.Numbers{"output_watts": q.Watts()},
		"An idler or a drive.", "Single-phase motors of %s are hardly made.", q.Power(q.Watts()))}
}

var unsolved = []string{"flange, shaft and frame must fit", "reversing while it runs is not to be had from most"}

func margin(q *feed.Question) float64 { return startTorque / q.Load.BreakawayShare }

// Outline is what it comes to beside the other ways.
func (way) Outline(q *feed.Question) *feed.Outline {
	start := margin(q)
	p := q.Prices
	o := &feed.Outline{
		Starts:      start >= 1,
		Margin:      &start,
		UsableWatts: &[2]float64{0, q.Watts()},
		Duty:        &machine.Usable{Watts: q.Watts(), Band: [2]float64{q.Watts(), q.Watts()}},
		SupplyAmps: feed.Amps{
			Three:    feed.Three{Idle: new(amps(q, 0)), Load: new(amps(q, q.Share())), Full: new(amps(q, 1))},
			Starting: new(starting(q)),
		},
		LossWatts: new(q.Share() * q.Watts() * (1/(efficiencyTimes*q.Plate.Efficiency.Value) - 1)),
		Unsolved:  unsolved,
		Verdicts:  verdicts(q),
		Code:      q.Code().Motor(q.Watts(), q.Supply.Volts),
		Parts:     p.MotorBase + p.MotorPerKilowatt*q.Watts()/1000,
		TorqueBy:  "usual starting torque of capacitor-start motors",
		AmpsBy:    ampsBy,
	}
	o.MostBreaker, _ = q.Code().MostForStart(q.Watts(), q.Supply.Volts)
	o.Keep("motor_watts", "motor", q.Watts(), "W")
	o.Keep("motor_amps", "takes at full output", amps(q, 1), "A")
	o.Put("table_amps", "by the code's table", tableAmps(q), "A")
	return o
}

// Weigh has its fitting against it.
func (way) Weigh(*feed.Question, *feed.Outline) []feed.Against {
	return []feed.Against{{Weight: "fit", Says: "another motor must fit the machine"}}
}

func (way) Hours(c feed.Controls) float64 {
	hours := 4.0
	if c.Reversing || c.Switch == "drum" {
		hours += 2
	}
	return hours + 2*float64(c.Motors-1)
}

func (way) Cautions() []string { return []string{"capacitor.charged", "always.overload-of-one-phase"} }

func (way) Reversal() string { return "by its start winding's two leads, where they are brought out" }

// Brief is the answer in a few words.
func (way) Brief(q *feed.Question) (string, []rule.Verdict, error) {
	return fmt.Sprintf("single-phase %s, %s", q.Title, feed.Figure(amps(q, 1), 3, "A")), verdicts(q), nil
}

// Size is the whole answer.
func (w way) Size(q *feed.Question) (feed.Page, error) {
	return feed.Page{
		Way: w.Info().Name, Title: w.Info().Title, Headline: headline(q), Verdicts: verdicts(q),
		Workings: []rule.Working{}, Controls: []feed.Control{}, Below: []feed.Panel{},
		Views: []feed.View{{Name: "motor", Title: "The motor", Panels: []feed.Panel{
			{Name: "hand", Kind: feed.HandPanel, Width: feed.Half},
			{Name: "rows", Kind: feed.FactsPanel, Width: feed.Full, Facts: append(drawing(q).Rows, rows(q)...)},
		}}},
	}, nil
}

// Try is the same: nothing of it follows the hand.
func (w way) Try(q *feed.Question) (feed.Page, error) { return w.Size(q) }

// Paper is what a sheet has of it.
func (way) Paper(q *feed.Question) (feed.Paper, error) {
	return feed.Paper{
		Headline: headline(q), Verdicts: verdicts(q),
		Sections: []rule.Section{{Title: "Single-phase motor", Rows: rows(q)}},
	}, nil
}

// headline is the answer in a handful of large figures.
func headline(q *feed.Question) []rule.Row {
	return []rule.Row{
		{Label: "Motor", Value: q.Title, Remark: "single phase, in the machine’s place"},
		{
			Label:   "Takes",
			Value:   feed.Figure(amps(q, 1), 3, "A"),
			Remark:  "at full output: W over V·pf·eff",
			Assumed: true,
		},
		{
			Label:   "Starting",
			Value:   feed.Figure(starting(q), 3, "A"),
			Remark:  "six times the table’s or its own amps, whichever are more: NEC 430.251(A) (US, 2023)",
			Assumed: true,
		},
		{
			Label:   "Starts with",
			Value:   quantity.Fixed(margin(q), 1) + " ×",
			Remark:  "the torque the load asks",
			Assumed: true,
		},
		{Label: "Speed", Value: feed.Figure(q.Plate.RPM.Value, 4, "rpm"), Remark: "as near to the old one as is made"},
	}
}

// circuit is what feeds it.
func drawing(q *feed.Question) rule.Section {
	c, _ := feed.CircuitOf(q, way{}.Outline(q))
	return c.Section(q)
}

// rows are its figures and what must fit.
func rows(q *feed.Question) []rule.Row {
	return []rule.Row{
		{Label: "At its load", Value: feed.Figure(amps(q, q.Share()), 3, "A"),
			Remark: "power factor and efficiency of a usual capacitor-run motor", Assumed: true},
		{Label: "Overload set to", Value: feed.Figure(amps(q, 1), 3, "A"),
			Remark: "in one supply line at least; the plate amps of the motor bought take its place", Assumed: true},
		{Label: "Poles", Value: quantity.Figures(q.Plate.Poles.Value, 2), Remark: "so that pulleys and gears may stay"},
		{Label: "Must fit", Value: q.Plate.Plate.Frame,
			Remark: "frame or flange, shaft diameter and key, height; room for its capacitors’ humps"},
		{Label: "Turn it round", Value: "at standstill", Remark: way{}.Reversal()},
		{Label: "Leaves unsolved", Remark: strings.Join(unsolved, "; ")},
	}
}
