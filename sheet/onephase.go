package sheet

import (
	"fmt"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/study"
	"brackmoor/core/wiring"
)

// singlePhase fills in a sheet for a single-phase motor in the machine's place.
func (w way) singlePhase(s *Sheet) {
	st := w.study
	r := route.SinglePhase(w.motor.Matters.Into(st.Question(w.shop)))
	s.Headline = SinglePhaseHeadline(st, &r)
	s.Verdicts = append(s.Verdicts, r.Verdicts...)
	s.Drawing = wiring.SinglePhaseCircuit(
		wiring.SinglePhaseMotor{
			Supply:   w.feed(),
			Overload: "set " + figures(r.Sizes["motor_amps"], 3, "A"),
			Motor:    st.Reading.Title,
			Plate:    quantity.Figures(st.Plate.RPM.Value, 4) + " rpm",
			Stops:    stopsOf(st.Reading.Verdicts, r.Verdicts),
		},
	)
	s.Sections = append(s.Sections, Section{"Single-phase motor", SinglePhaseRows(st, &r)})
}

// SinglePhaseHeadline is a single-phase motor in a handful of large figures.
func SinglePhaseHeadline(st study.Study, r *route.Route) []Row {
	return []Row{
		{"", "Motor", st.Reading.Title, "single phase, in the machine’s place", false},
		{"", "Takes", figures(r.Sizes["motor_amps"], 3, "A"), "at full output: W over V·pf·eff", true},
		{"", "Starting", figures(*r.SupplyAmps.Starting, 3, "A"), "about five times as much", true},
		{"", "Starts with", quantity.Fixed(*r.Margin, 1) + " ×", "the torque the load asks", true},
		{"", "Speed", figures(st.Plate.RPM.Value, 4, "rpm"), "as near to the old one as is made", false},
	}
}

// SinglePhaseRows are its figures and what must fit.
func SinglePhaseRows(st study.Study, r *route.Route) []Row {
	amps := r.Sizes["motor_amps"]
	by := "125 % of the motor’s amps"
	if table := r.Sizes["table_amps"]; table > amps {
		by = fmt.Sprintf("125 %% of %s A, the table’s: NEC 430.22, 430.248 (US, 2023)", quantity.Figures(table, 3))
	}
	load := "–"
	if r.SupplyAmps.Load != nil {
		load = figures(*r.SupplyAmps.Load, 3, "A")
	}
	return []Row{
		{"", "At its load", load, "power factor and efficiency of a usual capacitor-run motor", true},
		{"", "Conductors for", figures(r.Sizes["conductor_amps"], 3, "A"), by, true},
		{
			"",
			"Overload set to",
			figures(amps, 3, "A"),
			"in one supply line at least; the plate amps of the motor bought take its place",
			true,
		},
		{"", "Poles", quantity.Figures(st.Plate.Poles.Value, 2), "so that pulleys and gears may stay", false},
		{
			"",
			"Must fit",
			st.Plate.Plate.Frame,
			"frame or flange, shaft diameter and key, height; room for its capacitors’ humps",
			false,
		},
		{"", "Turn it round", "at standstill", route.Reversal(r.Name), false},
		{"", "Leaves unsolved", "", strings.Join(r.Unsolved, "; "), false},
	}
}
