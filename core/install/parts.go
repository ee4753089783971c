package install

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
	"brackmoor/core/stock"
)

// Item is a line of the list of parts: how many, or how many metres, of what, and for which of the circuit's parts.
type Item struct {
	What  string  `json:"what"`
	Count float64 `json:"count"`
	Unit  string  `json:"unit"` // "" for pieces
	For   string  `json:"for"`
	Says  string  `json:"says" told:"figures"` // its count in words
	// OnHand is how many of them the shop has, ToBuy the rest, and Price what one on hand cost, 0 for not known.
	OnHand float64 `json:"on_hand"`
	ToBuy  float64 `json:"to_buy"`
	Price  float64 `json:"price"`
	Has    string  `json:"has" told:"figures"` // both in words
	Buy    string  `json:"buy" told:"figures"`
	// Each is what one costs to buy, or a unit of length, 0 for not known, and Per that unit, "" for pieces; Own that
	// the shop said so. Cost is that of all to buy.
	Each  float64      `json:"each"`
	Per   string       `json:"per"`
	Own   bool         `json:"own"`
	Cost  float64      `json:"cost"`
	Takes []stock.Take `json:"-"` // of what is on hand
	want  want
}

// Sum is what a list of parts costs: what is on hand cost once, what is to be bought, of how many lines that is not
// known, and both in words.
type Sum struct {
	OnHand   float64 `json:"on_hand"`
	Buy      float64 `json:"buy"`
	Unpriced int     `json:"unpriced"`
	Says     string  `json:"says" told:"figures"`
}

// priced prices what is to be bought, by what the shop pays or else by its prices of ways, and adds it up.
func priced(list []Item, own []stock.Cost, hertz float64) (s Sum) {
	for i := range list {
		p, units := &list[i], 1.0
		if p.Unit != "" {
			p.Per, units = quantity.RunUnit(hertz)
		}
		if k := slices.IndexFunc(own, func(c stock.Cost) bool { return c.What == p.What }); k >= 0 {
			p.Each, p.Own = own[k].Each, true
		}
		p.Cost = p.Each * p.ToBuy * units
		s.OnHand += p.OnHand * p.Price
		s.Buy += p.Cost
		if p.ToBuy > 0 && p.Each == 0 && !p.Own {
			s.Unpriced++
		}
	}
	s.Says = fmt.Sprintf("%.2f to buy", s.Buy)
	switch {
	case s.Unpriced == 1:
		s.Says += ", and a line without a price"
	case s.Unpriced > 1:
		s.Says += fmt.Sprintf(", and %d lines without a price", s.Unpriced)
	}
	if s.OnHand > 0 {
		s.Says += fmt.Sprintf("; what is on hand cost %.2f", s.OnHand)
	}
	return s
}

// want is what a part on hand must be to serve: its kind, rating and size, or its id.
type want struct {
	kind, size string
	amps       float64
	volts      float64 // of a coil
	ids        []string
}

// serves says whether a part on hand does.
func (w want) serves(i *stock.Item) bool {
	if len(w.ids) > 0 {
		return slices.Contains(w.ids, i.ID)
	}
	if w.kind == "" || i.Kind != w.kind || i.Doubtful() != nil {
		return false
	}
	const larger = 2 // a contactor may be so many times too large
	switch w.kind {
	case "contactor":
		return i.Amps >= w.amps && i.Amps <= larger*max(w.amps, 10) && (i.Volts == w.volts || i.Volts == 0)
	case "breaker", "fuse":
		return i.Amps == w.amps
	case "overload":
		return i.Amps >= w.amps && i.Amps <= larger*w.amps
	case "relay":
		return i.Volts == w.volts
	case "wire":
		return i.Size == w.size
	}
	return false
}

// onHand says of each part how many of it there are in the stores: each part on hand serves once.
func onHand(list []Item, at Site, hertz float64) {
	left := make([]float64, len(at.Stores))
	for k, x := range at.Stores {
		if x.For == "" || x.For == at.MachineID {
			left[k] = x.Count
		}
	}
	for i := range list {
		p := &list[i]
		p.ToBuy = p.Count
		for k := range at.Stores {
			if n := min(left[k], p.ToBuy); n > 0 && p.want.serves(&at.Stores[k]) {
				left[k] -= n
				p.OnHand, p.ToBuy = p.OnHand+n, p.ToBuy-n
				p.Price = at.Stores[k].Price
				p.Takes = append(p.Takes, stock.Take{ID: at.Stores[k].ID, Count: n})
			}
		}
		p.Has, p.Buy = p.counted(p.OnHand, hertz), p.counted(p.ToBuy, hertz)
	}
}

// counted is so many, or so much of a length, in words; "" for none.
func (p *Item) counted(n, hertz float64) string {
	switch {
	case n == 0:
		return ""
	case p.Unit == "m":
		return quantity.Run(n, hertz)
	}
	return fmt.Sprintf("%.0f", n)
}

// items are all that a circuit wants, to the last gland and ferrule.
func items(c *circuit.Circuit, w Work, usual func(*circuit.Part) float64) []Item {
	var list []Item
	add := func(what, unit, for_ string, count float64, want want) *Item {
		i := slices.IndexFunc(list, func(i Item) bool { return i.What == what && i.Unit == unit })
		if i < 0 {
			list = append(list, Item{What: what, Unit: unit, want: want})
			i = len(list) - 1
		}
		list[i].Count += count
		if for_ != "" && !slices.Contains(strings.Split(list[i].For, ", "), for_) {
			list[i].For = strings.TrimPrefix(list[i].For+", "+for_, ", ")
		}
		return &list[i]
	}
	for i := range c.Parts {
		p := &c.Parts[i]
		for _, x := range pieces(p, hertz(c)) {
			count := x.count
			if p.Kind == circuit.Bleed {
				count = float64(meterOf(c, Site{}).cans(p))
			}
			line := add(x.what, "", p.ID, count, x.want)
			if usual != nil {
				line.Each = math.Round(100*usual(p)) / 100
			}
		}
	}
	fuses := 0.0
	for i := range c.Parts {
		if c.Parts[i].Kind == circuit.Fuse {
			fuses++
		}
	}
	if fuses > 0 {
		add("spare fuse links, as those of the fuses", "", "", math.Max(3, fuses), want{})
	}
	for _, l := range w.Wires {
		size := l.Size
		if size == "" {
			size = "as its circuit is sized"
		}
		add(fmt.Sprintf("wire %s, %s", size, l.Colour), "m", "", l.Metre, want{kind: "wire", size: l.Size})
		if l.Ferrule != "" && l.Ferrule != "none" {
			add("ferrule "+l.Ferrule, "", "", 2, want{})
		}
		add("wire marker "+l.Number, "", "", 2, want{})
	}
	markers := 0.0
	list = slices.DeleteFunc(list, func(i Item) bool {
		if !strings.HasPrefix(i.What, "wire marker ") {
			return false
		}
		markers += i.Count
		return true
	})
	add("wire markers, a pair a wire", "", "", markers, want{})
	e := w.Enclosure
	add("enclosure "+e.Size+", "+e.Protection, "", "", 1, want{})
	add("rail, 35 mm", "m", "", float64(e.Rails)*e.WidthMM/1000, want{})
	add("wire duct, 30 mm", "m", "", float64(e.Rails+1)*e.WidthMM/1000, want{})
	for _, g := range e.Glands {
		add("gland or fitting for "+g, "", "", 1, want{})
	}
	add("labels, one sheet", "", "", 1, want{})
	for i := range list {
		if list[i].Unit == "m" {
			list[i].Count = math.Ceil(list[i].Count*1.1*2) / 2 // a tenth more, by the half metre
		}
		list[i].Says = list[i].counted(list[i].Count, hertz(c))
	}
	return list
}

type piece struct {
	what  string
	count float64
	want
}

// pieces are what a part of a circuit is to buy.
func pieces(p *circuit.Part, hertz float64) []piece {
	kind := strings.ReplaceAll(string(p.Kind), "-", " ")
	poles := 0
	var aux []string
	for _, c := range p.Contacts() {
		switch {
		case c.Main:
			poles++
		case p.Kind == circuit.Contactor && c.From != "13":
			aux = append(aux, c.From+"–"+c.To)
		}
	}
	amps := ""
	if p.Amps > 0 {
		amps = fmt.Sprintf(" for %s A", quantity.Figures(p.Amps, 3))
	}
	switch p.Kind {
	case circuit.Capacitor:
		list := []piece{}
		for k, can := range p.Cans {
			own := piece{what: fmt.Sprintf("motor-%s capacitor %s, %.0f V ac", p.Duty, can, p.Volts), count: 1}
			if k < len(p.OnHand) {
				own.ids = p.OnHand[k : k+1]
				if strings.HasPrefix(can, "2 in series") {
					own.count = 2
				}
			}
			list = append(list, own)
		}
		if len(list) == 0 {
			list = append(list, piece{what: fmt.Sprintf("motor-%s capacitor %s µF, %.0f V ac", p.Duty,
				quantity.Figures(p.Microfarad, 3), p.Volts), count: 1})
		}
		return list
	case circuit.Bleed:
		return []piece{
			{what: fmt.Sprintf("bleed resistor %s kΩ, %s W, one at each can", quantity.Figures(p.Ohms/1000, 3),
				quantity.Figures(p.Watts, 2)), count: 1},
		}
	case circuit.Motor, circuit.SinglePhaseMotor:
		what := p.Role + " motor"
		if p.Role == circuit.Machine {
			if p.Kind == circuit.Motor {
				return nil // it is there
			}
			what = "single-phase motor"
		}
		return []piece{{what + output(p, hertz), 1, want{ids: p.OnHand}}}
	case circuit.Interlock:
		return nil // it is a contact in the other machine's box
	case circuit.SafetyRelay:
		return []piece{
			{what: fmt.Sprintf("safety relay, two channels, watched reset, 2 contacts, %.0f V", p.CoilVolts), count: 1},
		}
	case circuit.Potentiometer:
		return []piece{{what: fmt.Sprintf("potentiometer %s kΩ, linear, with its knob and 3-core screened cable",
			quantity.Figures(p.Ohms/1000, 2)), count: 1}}
	case circuit.CentrifugalSwitch:
		return []piece{{what: "centrifugal switch to open at three quarters of speed", count: 1}}
	case circuit.Contactor:
		what := fmt.Sprintf("contactor, %d poles, 1 aux%s, coil %.0f V", poles, amps, p.CoilVolts)
		if aux != nil {
			what += ", more contacts " + strings.Join(aux, " ")
		}
		return []piece{{what, 1, want{kind: "contactor", amps: p.Amps, volts: p.CoilVolts}}}
	case circuit.Relay, circuit.Timer, circuit.Lamp:
		what := fmt.Sprintf("%s, %.0f V", kind, p.CoilVolts)
		if p.Delay != "" {
			what += ", " + p.Delay + "-delay"
		}
		own := want{kind: "relay", volts: p.CoilVolts}
		if p.Kind == circuit.Lamp {
			own = want{}
		}
		return []piece{{what, 1, own}}
	case circuit.Isolator:
		what := fmt.Sprintf("isolator, %d poles, lockable%s", poles, amps)
		if p.Has("13") {
			what += ", with a contact 13–14 that opens before its poles"
		}
		return []piece{{what: what, count: 1}}
	case circuit.Breaker, circuit.Overload:
		return []piece{{fmt.Sprintf("%s, %d poles%s", kind, poles, amps), 1, want{kind: kind, amps: p.Amps}}}
	case circuit.ControlTransformer:
		return []piece{{
			what:  fmt.Sprintf("control transformer to %.0f V, %s VA", p.Secondary, quantity.Figures(p.VA, 3)),
			count: 1,
		}}
	case circuit.PushButton, circuit.Selector, circuit.GuardSwitch, circuit.EmergencyStop:
		what := kind
		if p.Function != "" {
			what += ", " + p.Function
		}
		return []piece{{what: fmt.Sprintf("%s, contacts %s", what, strings.Join(p.Terminals, " ")), count: 1}}
	case circuit.Fuse:
		return []piece{{p.Name + " with its holder, time-delay" + amps, 1, want{kind: "fuse", amps: p.Amps}}}
	}
	what := kind
	if p.Name != "" && p.Name != kind {
		what += ", " + p.Name
	}
	return []piece{{what + output(p, hertz) + amps, 1, want{ids: p.OnHand}}}
}

// output is that of a motor or a drive, where it is known.
func output(p *circuit.Part, hertz float64) string {
	if p.Watts == 0 || p.Kind == circuit.BrakeResistor {
		return ""
	}
	return ", " + quantity.Power(p.Watts, hertz)
}
