package drive

import (
	"embed"
	"encoding/json"
	"io/fs"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"

	"brackmoor/core/quantity"
)

// Profile maps our names of settings to the parameters of one drive. A setting that it
// lacks, that drive does not have.
type Profile struct {
	Format     string               `json:"format"`
	Name       string               `json:"name"`
	Parameters map[string]Parameter `json:"parameters"`
	Terminals  map[string]string    `json:"terminals,omitempty"` // what our names of terminals are marked with on it
	Links      []Link               `json:"links,omitempty"`
	Registers  []Register           `json:"registers,omitempty"` // on its bus
	Panel      *Panel               `json:"panel,omitempty"`
}

// Panel is how a drive's keypad goes: what is written on its keys, how a parameter is come to by its number, which it
// shows for {n}, what it shows for a fault, and for "open" while its enable is, and the settings that its guided
// set-up asks for, in their order.
type Panel struct {
	Keys  map[string]string `json:"keys,omitempty"`
	Reach string            `json:"reach,omitempty"`
	Shows map[string]string `json:"shows,omitempty"`
	Guide []string          `json:"guide,omitempty"`
}

// Keys of a keypad, by names of our own.
var Keys = []string{"run", "stop", "up", "down", "menu", "enter", "monitor", "reset", "place", "guide", "factory"}

// checkPanel says what is wrong with a profile's keypad.
func (p *Profile) checkPanel(say func(format string, args ...any)) {
	if p.Panel == nil {
		return
	}
	short := func(texts map[string]string, most int, known func(name string) bool, what string) {
		for name, text := range texts {
			if !known(name) {
				say("The keypad has no %s %q.", what, name)
			}
			if strings.TrimSpace(text) == "" || utf8.RuneCountInString(text) > most {
				say("Keypad, %s: 1 to %d letters.", name, most)
			}
		}
	}
	short(p.Panel.Keys, 12, func(name string) bool { return slices.Contains(Keys, name) }, "key")
	short(p.Panel.Shows, 8, func(name string) bool { return FaultOf(name) != nil || name == "open" }, "fault")
	if utf8.RuneCountInString(p.Panel.Reach) > 120 {
		say("How a parameter is come to has at most 120 letters.")
	}
	if len(p.Panel.Guide) > mostRegisters {
		say("A guided set-up has at most %d steps.", mostRegisters)
	}
	for _, name := range p.Panel.Guide {
		if p.Register(name) == nil {
			say("The guided set-up asks for %q, which has no register.", name)
		}
	}
}

// Reached is how a setting is come to on the keypad, "" where nobody has said.
func (p *Profile) Reached(setting string) string {
	number := p.Parameters[setting].Number
	if p.Panel == nil || number == "" {
		return ""
	}
	return strings.ReplaceAll(p.Panel.Reach, "{n}", number)
}

// Mark is what a terminal is marked with on the drive, by our name.
func (p Profile) Mark(terminal string) string {
	if mark := p.Terminals[terminal]; mark != "" {
		return mark
	}
	return terminal
}

// Link is a bridge between two of a drive's terminals, by its own marks, which it has as it ships where it is Fitted.
// It is wanted as long as nothing is wired to the terminal that it is For, by our name; always where it is for none.
type Link struct {
	Between [2]string `json:"between"`
	Fitted  bool      `json:"fitted,omitempty"`
	For     string    `json:"for,omitempty" maxLength:"12"`
	Says    string    `json:"says,omitempty" maxLength:"200"`
}

// Do is what is done with it: fit, remove or leave.
func (l Link) Do(wired func(terminal string) bool) string {
	switch wanted := l.For == "" || !wired(l.For); {
	case wanted && !l.Fitted:
		return "fit"
	case !wanted && l.Fitted:
		return "remove"
	}
	return "leave"
}

// Parameter is a drive's own number for a setting. What it wants is the setting's figure
// times Times, in Unit, or for a word what Writes has for it.
type Parameter struct {
	Number string            `json:"number"`
	Unit   string            `json:"unit,omitempty"`
	Times  float64           `json:"times,omitempty"`
	Writes map[string]string `json:"writes,omitempty"`
}

//go:embed profiles/*.json
var shipped embed.FS

// Profiles are the made-up ones that ship, by name.
var Profiles = sync.OnceValue(func() []Profile {
	names, err := fs.Glob(shipped, "profiles/*.json")
	if err != nil {
		panic(err)
	}
	sort.Strings(names)
	list := make([]Profile, 0, len(names))
	for _, name := range names {
		text, err := shipped.ReadFile(name)
		if err != nil {
			panic(err)
		}
		var p Profile
		if err := json.Unmarshal(text, &p); err != nil {
			panic(name + ": " + err.Error())
		}
		list = append(list, p)
	}
	return list
})

// Among is the profile of a name among a shop's own and those that ship; the zero one,
// which has no parameters, where there is none.
func Among(own []Profile, name string) Profile {
	for _, p := range append(append([]Profile{}, own...), Profiles()...) {
		if p.Name == name {
			return p
		}
	}
	return Profile{}
}

// Entry is a setting as it is entered into a drive: its parameter's number and what is
// written there, both empty where the drive has no such parameter.
type Entry struct {
	Setting
	Parameter string `json:"parameter"`
	Writes    string `json:"writes"`
	Menu      string `json:"menu"` // the page of its keypad, "" where nobody has said
}

// Agrees says whether what was read back of a drive is what is meant: in words as here or as the drive has them, or a
// number that is the same, with whatever unit, but for rounding.
func (e *Entry) Agrees(read string) bool {
	const rounding = 0.005
	for _, meant := range []string{e.Value, e.Writes} {
		if meant != "" && strings.EqualFold(strings.Join(strings.Fields(read), " "), meant) {
			return true
		}
		is, ok := leading(read)
		if want, numeric := leading(meant); ok && numeric && math.Abs(is-want) <= rounding*math.Abs(want) {
			return true
		}
	}
	return false
}

// leading is the number that a text begins with.
func leading(text string) (float64, bool) {
	text = strings.Replace(strings.TrimSpace(text), ",", ".", 1)
	end := strings.IndexFunc(text, func(r rune) bool { return !strings.ContainsRune("+-.0123456789", r) })
	if end < 0 {
		end = len(text)
	}
	value, err := strconv.ParseFloat(text[:end], 64)
	return value, err == nil
}

// Enter gives each setting its parameter of a profile.
func (p Profile) Enter(settings []Setting) []Entry {
	list := make([]Entry, 0, len(settings))
	for _, s := range settings {
		e := Entry{Setting: s}
		if r := p.Register(s.Name); r != nil {
			e.Menu = r.Menu
		}
		if q, ok := p.Parameters[s.Name]; ok {
			e.Parameter = q.Number
			switch {
			case s.Number == nil:
				e.Writes = q.Writes[s.Value]
			default:
				times := q.Times
				if times == 0 {
					times = 1
				}
				e.Writes = quantity.Figures(*s.Number*times, 5)
				switch {
				case strings.HasPrefix(q.Unit, "0."):
					e.Writes += " × " + q.Unit // counted in parts of the unit
				case q.Unit != "":
					e.Writes += " " + q.Unit
				case s.Unit != "":
					e.Writes += " " + s.Unit
				}
			}
		}
		list = append(list, e)
	}
	return list
}
