package inverter

import (
	"math"
	"strconv"

	"brackmoor/core/drive"
	"brackmoor/core/quantity"
)

// What the keypad shows.
const (
	monitoring = iota
	listing
	editing
)

// pad is the keypad as it stands.
type pad struct {
	mode, page, at int
	raw            uint32
	guide          int // the step of the guided set-up, from 1; 0 is none
}

// Display is what the keypad shows: its figures, their unit, and what they are. Keys that do nothing now are not live.
type Display struct {
	Text   string `json:"text"`
	Unit   string `json:"unit"`
	Title  string `json:"title"`
	Number string `json:"number"` // of the parameter that is looked at
	Mode   string `json:"mode"`
	Guide  string `json:"guide"` // how far the guided set-up has come
}

// monitors are what it shows in turn.
var monitors = []struct {
	title, unit string
	value       func(d *Drive) float64
	digits      int
}{
	{"Output", "Hz", func(d *Drive) float64 { return d.hertz }, 1},
	{"Wanted", "Hz", func(d *Drive) float64 { return d.Wanted() }, 1},
	{"Motor amps", "A", func(d *Drive) float64 { return d.shown.amps }, 1},
	{"Motor volts", "V", (*Drive).Volts, 0},
	{"Speed, reckoned", "rpm", func(d *Drive) float64 {
		return d.hertz / d.figure("base_hertz", d.c.Motor.RatedHertz) * d.figure("motor_rpm", 0)
	}, 0},
	{"Bus", "V", func(d *Drive) float64 { return d.front.Volts() }, 0},
}

// Display is what the keypad shows now; nothing where it has no power.
func (d *Drive) Display() Display {
	if !d.powered {
		return Display{Mode: "dark"}
	}
	shows := map[string]string{}
	if d.c.Profile.Panel != nil {
		shows = d.c.Profile.Panel.Shows
	}
	p := d.pad
	switch list := d.parameters(); {
	case d.fault != "" && p.mode == monitoring:
		text := shows[d.fault]
		if text == "" {
			text = d.fault
		}
		return Display{Text: text, Title: drive.FaultOf(d.fault).Title, Mode: "fault"}
	case p.mode == monitoring:
		if !d.enabled() && p.page == 0 && shows["open"] != "" {
			return Display{Text: shows["open"], Title: "Enable is open", Mode: "monitor"}
		}
		m := monitors[p.page]
		return Display{
			Text: strconv.FormatFloat(m.value(d), 'f', m.digits, 64), Unit: m.unit, Title: m.title, Mode: "monitor",
		}
	default:
		r := list[p.at]
		number := d.c.Profile.Parameters[r.Setting].Number
		shown := Display{Text: number, Number: number, Title: drive.Title(r.Setting), Mode: "list"}
		if p.mode == editing {
			shown.Mode, shown.Text, shown.Unit = "edit", d.written(r, p.raw), r.Unit
		}
		if p.guide > 0 {
			shown.Guide = strconv.Itoa(p.guide) + "/" + strconv.Itoa(len(d.c.Profile.Panel.Guide))
		}
		return shown
	}
}

// written is a setting as the drive's own display has it.
func (d *Drive) written(r *drive.Register, raw uint32) string {
	v := r.Decode(raw)
	if !r.Words() {
		return quantity.Figures(v.Number, 5)
	}
	if writes := d.c.Profile.Parameters[r.Setting].Writes[v.Word]; writes != "" {
		return writes
	}
	return strconv.Itoa(int(raw))
}

// parameters are those on the keypad, in their order.
func (d *Drive) parameters() (list []*drive.Register) {
	for i := range d.c.Profile.Registers {
		r := &d.c.Profile.Registers[i]
		if drive.Set(r.Setting) && d.c.Profile.Parameters[r.Setting].Number != "" {
			list = append(list, r)
		}
	}
	return list
}

// Press presses a key by its name, so many times over where it is held, and says why nothing came of it, "" where
// something did.
func (d *Drive) Press(key string, times int) string {
	if !d.powered {
		return "The display is dark: there is no bus."
	}
	p := &d.pad
	list := d.parameters()
	switch key {
	case "run":
		return d.pressRun()
	case "stop":
		d.run, d.wasRun = false, true
	case "reset":
		if d.fault != "" && !d.Reset() {
			return "What tripped it is still there."
		}
	case "place":
		if d.run {
			return "It runs: the place of its commands stays."
		}
		d.local = !d.local
	case "monitor":
		if p.mode == monitoring {
			p.page = (p.page + 1) % len(monitors)
		}
		p.mode, p.guide = monitoring, 0
	case "menu":
		switch p.mode {
		case editing:
			p.mode = listing
		case listing:
			p.mode, p.guide = monitoring, 0
		default:
			p.mode = listing
		}
	case "guide":
		if d.c.Profile.Panel == nil || len(d.c.Profile.Panel.Guide) == 0 {
			return "It has no guided set-up."
		}
		p.guide = 1
		d.guided(list)
	case "factory":
		if !d.Factory() {
			return "It runs: its settings stay."
		}
	case "up":
		d.move(list, times)
	case "down":
		d.move(list, -times)
	case "enter":
		return d.enter(list)
	default:
		return "There is no such key."
	}
	return ""
}

func (d *Drive) pressRun() string {
	switch {
	case d.Place() != "keypad":
		return "It takes its commands from " + d.Place() + "."
	case !d.enabled():
		return "Its enable is open."
	case d.fault != "":
		return "A fault stands: it is cleared first."
	case !d.start():
		return "Its bus is still filling."
	}
	return ""
}

// move goes up or down by so many: in the list, in a figure, or in the speed that its keypad sets.
func (d *Drive) move(list []*drive.Register, by int) {
	p := &d.pad
	switch p.mode {
	case listing:
		p.at = ((p.at+by)%len(list) + len(list)) % len(list)
	case editing:
		p.raw = nextRaw(list[p.at], p.raw, by)
	default:
		most := d.figure("maximum_hertz", d.c.Motor.RatedHertz)
		d.reference = math.Min(math.Max(d.reference+0.1*float64(by), 0), most)
	}
}

// nextRaw is what stands so many counts further, within what a register may hold; of words the next ones.
func nextRaw(r *drive.Register, raw uint32, by int) uint32 {
	if !r.Words() {
		next := int64(raw) + int64(by)
		for next >= 0 && next <= math.MaxUint32 {
			if _, err := r.Encode(r.Decode(uint32(next))); err == nil {
				return uint32(next)
			}
			if by == 0 || next == int64(raw) {
				break
			}
			next -= int64(math.Copysign(1, float64(by))) // as far as it goes
		}
		return raw
	}
	codes := []uint32{}
	at := 0
	for code := range uint32(math.MaxUint8) {
		for _, c := range r.Codes {
			if uint32(c) == code {
				if code == raw {
					at = len(codes)
				}
				codes = append(codes, code)
			}
		}
	}
	return codes[((at+by)%len(codes)+len(codes))%len(codes)]
}

// enter opens a parameter, or keeps what was put into it.
func (d *Drive) enter(list []*drive.Register) string {
	p := &d.pad
	switch p.mode {
	case listing:
		p.mode, p.raw = editing, d.raw[list[p.at].Setting]
	case editing:
		r := list[p.at]
		if err := d.set(r, p.raw); err != nil {
			return "It runs: this is set while it stands."
		}
		p.mode = listing
		if p.guide > 0 {
			p.guide++
			d.guided(list)
		}
	}
	return ""
}

// guided opens the parameter that the guided set-up has come to.
func (d *Drive) guided(list []*drive.Register) {
	p := &d.pad
	if p.guide > len(d.c.Profile.Panel.Guide) {
		p.mode, p.guide = monitoring, 0
		return
	}
	for i, r := range list {
		if r.Setting == d.c.Profile.Panel.Guide[p.guide-1] {
			p.at, p.mode, p.raw = i, editing, d.raw[r.Setting]
		}
	}
}
