package network

import (
	"fmt"

	"brackmoor/core/rule"
)

// Circuit is one of several on a one-phase source: two lines behind a conductor, and a made leg
// of its own. From is the circuit whose far end feeds it, such as that of a sub-panel; empty for
// the source's terminals. The conductor's ohms are those of the whole loop. A circuit that is not
// closed draws nothing, nor does what it feeds; Closed is nil for yes.
type Circuit struct {
	ID              string        `json:"id"`
	From            string        `json:"from"`
	Conductor       Conductor     `json:"conductor"`
	Closed          *bool         `json:"closed"`
	Transformer     *Winding      `json:"transformer"` // at the far end of its conductor
	Motors          []Motor       `json:"motors"`
	Capacitors      []Capacitor   `json:"capacitors"`
	Loads           []Impedance   `json:"loads"`
	ThreePhaseLoads []ThreePhase  `json:"three_phase_loads"`
	Rectifiers      []Rectifier   `json:"rectifiers"`
	Transformers    []Transformer `json:"transformers"`
}

// Installation is a source with several circuits on it; its own elements are one more, on the
// source's terminals. The source's ohms are common to all.
type Installation struct {
	Case
	Circuits []Circuit `json:"circuits"`
}

// CircuitResult is one circuit: volts at the far end of its conductor, zero between the lines and
// a made leg that there is not; what it takes at its near end, what it feeds included.
type CircuitResult struct {
	ID                      string       `json:"id"`
	Closed                  bool         `json:"closed"`
	Volts                   Lines        `json:"volts"`
	Degrees                 Lines        `json:"degrees"`
	UnbalancePercent        float64      `json:"unbalance_percent"`
	NegativeSequencePercent float64      `json:"negative_sequence_percent"`
	Sequence                string       `json:"sequence"`
	Supply                  SupplyResult `json:"supply"`

	EarthVolts        *Legs              `json:"earth_volts,omitempty"`
	SupplyTransformer *TransformerResult `json:"supply_transformer,omitempty"`
}

// InstallationResult is a solved installation: of each kind of element one list, in the order of
// the circuits, after those on the source's terminals.
type InstallationResult struct {
	Result
	Circuits []CircuitResult `json:"circuits"`
}

// elements is the circuit as a case of its own, on a supply.
func (c *Circuit) elements(s Supply) Case {
	s.Transformer = c.Transformer
	return Case{
		Supply: s, Motors: c.Motors, Capacitors: c.Capacitors, Loads: c.Loads, ThreePhaseLoads: c.ThreePhaseLoads,
		Rectifiers: c.Rectifiers, Transformers: c.Transformers,
	}
}

// bare says whether nothing hangs on a case's lines.
func (c *Case) bare() bool {
	return len(c.Motors)+len(c.Capacitors)+len(c.Loads)+len(c.ThreePhaseLoads)+len(c.Rectifiers)+
		len(c.Transformers) == 0
}

// Validate says what is wrong with an installation, by JSON paths. Ids stand once in all of it. A
// circuit may be without a made leg, as that of a heater is.
func (n Installation) Validate() (problems rule.Problems) {
	if len(n.Circuits) == 0 {
		return n.Case.Validate()
	}
	v := validation{seen: map[string]string{"supply": "$.supply"}}
	v.supply(n.Supply)
	if n.Supply.Phases == 3 {
		v.Say("$.circuits", "are those of a one-phase supply")
	}
	if n.Supply.Transformer != nil {
		v.Say("$.supply.transformer", "with circuits, belongs to one of them")
	}
	v.elements("$", n.Case)
	feeds := map[string]bool{}
	for i := range n.Circuits {
		c := &n.Circuits[i]
		at := fmt.Sprintf("$.circuits[%d]", i)
		if c.From != "" && !feeds[c.From] {
			v.Say(at+".from", "%q names no circuit above it in the list", c.From)
		}
		v.once(at, c.ID)
		v.NotNegative(at+".conductor.resistance_ohm", c.Conductor.ResistanceOhm)
		v.NotNegative(at+".conductor.reactance_ohm", c.Conductor.ReactanceOhm)
		if feeds[c.ID] = c.Transformer == nil; c.Transformer != nil {
			v.winding(at+".transformer", c.Transformer)
		}
		v.elements(at, c.elements(n.Supply))
	}
	return v.Problems
}
