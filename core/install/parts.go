package install

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
)

// Item is a line of the list of parts: how many, or how many metres, of what, and for which of the circuit's parts.
type Item struct {
	What  string  `json:"what"`
	Count float64 `json:"count"`
	Unit  string  `json:"unit"` // "" for pieces
	For   string  `json:"for"`
	Says  string  `json:"says"` // its count in words
}

// items are all that a circuit wants, to the last gland and ferrule.
func items(c *circuit.Circuit, w Work) []Item {
	var list []Item
	add := func(what, unit, for_ string, count float64) {
		i := slices.IndexFunc(list, func(i Item) bool { return i.What == what && i.Unit == unit })
		if i < 0 {
			list = append(list, Item{What: what, Unit: unit})
			i = len(list) - 1
		}
		list[i].Count += count
		if for_ != "" && !slices.Contains(strings.Split(list[i].For, ", "), for_) {
			list[i].For = strings.TrimPrefix(list[i].For+", "+for_, ", ")
		}
	}
	for i := range c.Parts {
		p := &c.Parts[i]
		for _, x := range pieces(p) {
			count := x.count
			if p.Kind == circuit.Bleed {
				count = float64(meterOf(c, Site{}).cans(p))
			}
			add(x.what, "", p.ID, count)
		}
	}
	fuses := 0.0
	for i := range c.Parts {
		if c.Parts[i].Kind == circuit.Fuse {
			fuses++
		}
	}
	if fuses > 0 {
		add("spare fuse links, as those of the fuses", "", "", math.Max(3, fuses))
	}
	for _, l := range w.Wires {
		size := l.Size
		if size == "" {
			size = "as its circuit is sized"
		}
		add(fmt.Sprintf("wire %s, %s", size, l.Colour), "m", "", l.Metre)
		if l.Ferrule != "" && l.Ferrule != "none" {
			add("ferrule "+l.Ferrule, "", "", 2)
		}
		add("wire marker "+l.Number, "", "", 2)
	}
	markers := 0.0
	list = slices.DeleteFunc(list, func(i Item) bool {
		if !strings.HasPrefix(i.What, "wire marker ") {
			return false
		}
		markers += i.Count
		return true
	})
	add("wire markers, a pair a wire", "", "", markers)
	e := w.Enclosure
	add("enclosure "+e.Size+", "+e.Protection, "", "", 1)
	add("rail, 35 mm", "m", "", float64(e.Rails)*e.WidthMM/1000)
	add("wire duct, 40 mm", "m", "", float64(e.Rails+1)*e.WidthMM/1000)
	for _, g := range e.Glands {
		add("gland or fitting for "+g, "", "", 1)
	}
	add("labels, one sheet", "", "", 1)
	for i := range list {
		if list[i].Unit == "m" {
			list[i].Count = math.Ceil(list[i].Count*1.1*2) / 2 // a tenth more, by the half metre
			list[i].Says = quantity.Run(list[i].Count, hertz(c))
			continue
		}
		list[i].Says = fmt.Sprintf("%.0f", list[i].Count)
	}
	return list
}

type piece struct {
	what  string
	count float64
}

// pieces are what a part of a circuit is to buy.
func pieces(p *circuit.Part) []piece {
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
		for _, can := range p.Cans {
			list = append(list, piece{fmt.Sprintf("motor-%s capacitor %s, %.0f V ac", p.Duty, can, p.Volts), 1})
		}
		if len(list) == 0 {
			list = append(list, piece{fmt.Sprintf("motor-%s capacitor %s µF, %.0f V ac", p.Duty,
				quantity.Figures(p.Microfarad, 3), p.Volts), 1})
		}
		return list
	case circuit.Bleed:
		return []piece{{fmt.Sprintf("bleed resistor %s kΩ, %s W, one at each can", quantity.Figures(p.Ohms/1000, 3),
			quantity.Figures(p.Watts, 2)), 1}}
	case circuit.Motor, circuit.SinglePhaseMotor:
		if p.Role == circuit.Machine {
			return nil // it is there
		}
		return []piece{{p.Role + " motor", 1}}
	case circuit.Contactor:
		what := fmt.Sprintf("contactor, %d poles, 1 aux%s, coil %.0f V", poles, amps, p.CoilVolts)
		if aux != nil {
			what += ", more contacts " + strings.Join(aux, " ")
		}
		return []piece{{what, 1}}
	case circuit.Relay, circuit.Timer, circuit.Lamp:
		what := fmt.Sprintf("%s, %.0f V", kind, p.CoilVolts)
		if p.Delay != "" {
			what += ", " + p.Delay + "-delay"
		}
		return []piece{{what, 1}}
	case circuit.Isolator:
		return []piece{{fmt.Sprintf("isolator, %d poles, lockable%s", poles, amps), 1}}
	case circuit.Breaker, circuit.Overload:
		return []piece{{fmt.Sprintf("%s, %d poles%s", kind, poles, amps), 1}}
	case circuit.ControlTransformer:
		return []piece{{fmt.Sprintf("control transformer to %.0f V, %s VA", p.Secondary, quantity.Figures(p.VA, 3)), 1}}
	case circuit.PushButton, circuit.Selector, circuit.GuardSwitch, circuit.EmergencyStop:
		what := kind
		if p.Function != "" {
			what += ", " + p.Function
		}
		return []piece{{fmt.Sprintf("%s, contacts %s", what, strings.Join(p.Terminals, " ")), 1}}
	case circuit.Fuse:
		return []piece{{p.Name + " with its holder, time-delay" + amps, 1}}
	}
	what := kind
	if p.Name != "" && p.Name != kind {
		what += ", " + p.Name
	}
	return []piece{{what + amps, 1}}
}
