package install

import (
	"fmt"
	"strings"

	"brackmoor/core/circuit"
)

// Label is one that is stuck on: what it says, and whether it warns.
type Label struct {
	Title string `json:"title"` // the signal word, or the part's id
	Text  string `json:"text"`
	Kind  string `json:"kind" enum:"part,notice,caution,danger"`
	Where string `json:"where"`
}

// labels are those of a circuit: its parts, its isolator, and warnings in the words of the region's standard (ANSI
// Z535.4 in the US, IEC 60417 and 60204-1, 16 elsewhere).
func labels(c *circuit.Circuit, at Site) (list []Label) {
	us := c.Region == circuit.US
	danger, caution := "WARNING", "CAUTION"
	if us {
		danger = "DANGER"
	}
	say := func(kind, title, text, where string) { list = append(list, Label{title, text, kind, where}) }
	made, converter, caps, drive := false, false, false, false
	for i := range c.Parts {
		p := &c.Parts[i]
		made = made || p.Role == circuit.Idler || p.Kind == circuit.Capacitor
		converter = converter || p.Role == circuit.Idler
		caps, drive = caps || p.Kind == circuit.Capacitor, drive || p.Kind == circuit.Drive
	}
	say(
		"danger",
		danger,
		fmt.Sprintf("%.0f V inside. Isolate, lock, prove dead before this is opened.", c.SupplyVolts()),
		"door of the box",
	)
	if us {
		say(
			"danger",
			danger,
			"Arc flash and shock hazard. Appropriate protective equipment required.",
			"door of the box",
		)
	}
	if caps {
		say(
			"danger",
			danger,
			"Capacitors hold a charge. Wait one minute, measure, discharge.",
			"cover of the capacitors",
		)
	}
	if drive {
		say("danger", danger, "The bus stays charged. Wait the minutes of the drive’s label, then measure.",
			"cover of the drive")
	}
	if made {
		say(
			"caution",
			caution,
			"MADE LEG: live whatever a meter says. No control, no neutral, no single-phase load on it.",
			"every terminal of the made leg",
		)
	}
	if converter {
		say("caution", caution, "Machines off before the converter starts. Machines off before it stops.",
			"start button of the converter")
		say("notice", "NOTICE", "This panel: three-phase motors only. No neutral.", "panel behind the converter")
	}
	for i := range c.Parts {
		p := &c.Parts[i]
		switch p.Kind {
		case circuit.Isolator:
			text := "Isolator of " + at.Machine + ". Lock here."
			if p.Name != "" && p.Name != "isolator" {
				text = strings.ToUpper(p.Name[:1]) + p.Name[1:] + ": " + at.Machine + ". Lock here."
			}
			say("notice", p.ID, text, "beside its handle")
		case circuit.Bleed:
		case circuit.Motor, circuit.SinglePhaseMotor:
			say("part", p.ID, motorLabel(p, at), "on its terminal box")
		case circuit.PushButton, circuit.EmergencyStop, circuit.Selector:
			say("part", p.ID, strings.TrimSpace(p.Name+" "+stopped(p)), "beside it on the door")
		default:
			say("part", p.ID, p.Name, "on the plate, beside the part")
		}
	}
	return list
}

func motorLabel(p *circuit.Part, at Site) string {
	if p.Role == circuit.Machine {
		return at.Machine
	}
	return p.Name
}

// stopped says of which motor a button is, where it is not of all.
func stopped(p *circuit.Part) string {
	if len(p.Stops) == 0 {
		return ""
	}
	return "(" + strings.Join(p.Stops, ", ") + ")"
}
