package install

import "brackmoor/core/rule"

// temporary is what a hook-up for a test bench may leave out, what it never may, and what is done anew after it.
func temporary() []rule.Row {
	return []rule.Row{
		{
			Label:  "May be left out",
			Value:  "box, rails, ducts, ferrules",
			Remark: "parts on a board, out of reach and dry",
		},
		{Label: "May be left out", Value: "lamps, remote stations", Remark: "one start and one stop within reach"},
		{
			Label:  "Never",
			Value:  "isolator, breaker, overload",
			Remark: "they act at the first mistake, which comes now",
		},
		{Label: "Never", Value: "protective conductor", Remark: "to every case, before anything else is joined"},
		{
			Label:  "Never",
			Value:  "bleeds, insulated joints",
			Remark: "no bare terminal, no twisted joint, no clip on a live wire",
		},
		{Label: "Never", Value: "guard over a turning shaft", Remark: "its key out, the motor bolted down"},
		{Label: "Never alone", Value: "somebody at the isolator", Remark: "while it has power"},
		{
			Label:  "Done anew after",
			Value:  "every wire by the list",
			Remark: "and every check before the first power, once more",
		},
	}
}
