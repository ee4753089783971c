package drive

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"unicode/utf8"
)

// Register is where a drive keeps a setting, or something that is seen or done, on its bus (Modbus Application
// Protocol 1.1b3). Its value is what stands there times Scale, in Unit; of words each has its code. Ships is what
// stands there as the drive ships, as it stands in the register.
type Register struct {
	Setting string `json:"setting"` // one of Known, Seen or Orders
	Table   string `json:"table,omitempty"`
	Address uint16 `json:"address"`
	Type    string `json:"type,omitempty"`
	// Scale is 1 where it is left out.
	Scale     float64           `json:"scale,omitempty"`
	Unit      string            `json:"unit,omitempty"`
	Codes     map[string]uint16 `json:"codes,omitempty"`
	Access    string            `json:"access"`
	WriteWhen string            `json:"write_when,omitempty"`
	Menu      string            `json:"menu,omitempty"`
	Ships     uint32            `json:"ships,omitempty"`
	Least     *float64          `json:"least,omitempty"`
	Most      *float64          `json:"most,omitempty"`
}

// Tables of registers, their types, who may do what, and when: the first is meant where nothing is said.
const (
	Holding = "holding"
	Coil    = "coil"

	Uint16 = "uint16"
	Int16  = "int16"
	Uint32 = "uint32" // in two registers, the higher first

	ReadWrite = "rw"
	ReadOnly  = "ro"

	WhenStopped = "stopped"
	WhenAny     = "any"
)

// The states of a drive, as Seen's "state" has them.
const (
	Stopped = "stopped"
	Running = "running"
	Tripped = "fault"
)

// The orders that a drive takes over the bus, as Orders' "command" has them.
const (
	Run   = "run"
	Halt  = "stop"
	Reset = "reset"
)

// Seen is what a drive shows of itself over the bus.
var Seen = []KnownSetting{
	{"state", "State", "", []string{Stopped, Running, Tripped}},
	{"output_hertz", "Output", "Hz", []string{}},
	{"output_amps", "Motor amps", "A", []string{}},
	{"output_volts", "Motor volts", "V", []string{}},
	{"output_watts", "Motor watts", "W", []string{}},
	{"bus_volts", "Bus", "V", []string{}},
	{"fault", "Fault", "", append([]string{"none"}, faultNames()...)},
	{"enabled", "Enable", "", []string{"open", "closed"}},
}

// Orders are what it is told over the bus, where its commands come from there.
var Orders = []KnownSetting{
	{"command", "Command", "", []string{Halt, Run, Reset}},
	{"reference_hertz", "Wanted", "Hz", []string{}},
}

// Value is what stands in a setting: a word, or a figure in its unit.
type Value struct {
	Word   string
	Number float64
}

// MarshalJSON writes a word as a string and a figure as a number.
func (v Value) MarshalJSON() ([]byte, error) {
	if v.Word != "" {
		return json.Marshal(v.Word)
	}
	return json.Marshal(v.Number)
}

// UnmarshalJSON reads either.
func (v *Value) UnmarshalJSON(text []byte) error {
	if err := json.Unmarshal(text, &v.Number); err == nil {
		return nil
	}
	return json.Unmarshal(text, &v.Word)
}

// String is a value as it is read.
func (v Value) String() string {
	if v.Word != "" {
		return v.Word
	}
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.4f", v.Number), "0"), ".")
}

// Words says whether words stand in it.
func (r *Register) Words() bool { return len(r.Codes) > 0 }

// Writable says whether it may be written at all.
func (r *Register) Writable() bool { return r.Access == ReadWrite }

// Size is how many registers it takes.
func (r *Register) Size() uint16 {
	if r.Type == Uint32 {
		return 2
	}
	return 1
}

func (r *Register) scale() float64 {
	if r.Scale == 0 {
		return 1
	}
	return r.Scale
}

// most and least raw figures by type.
func (r *Register) range16() (low, high float64) {
	switch r.Type {
	case Int16:
		return math.MinInt16, math.MaxInt16
	case Uint32:
		return 0, math.MaxUint32
	}
	if r.Table == Coil {
		return 0, 1
	}
	return 0, math.MaxUint16
}

// Encode makes what is written for a value, rounded to what the register can hold. Its error says what does not go in.
func (r *Register) Encode(v Value) (raw uint32, err error) {
	if r.Words() {
		code, ok := r.Codes[v.Word]
		if !ok {
			return 0, fmt.Errorf("the drive has no %q there, but %s", v.String(), r.wordList())
		}
		return uint32(code), nil
	}
	if v.Word != "" {
		return 0, fmt.Errorf("a figure is wanted, not %q", v.Word)
	}
	counts := math.Round(v.Number / r.scale())
	low, high := r.range16()
	least, most := low*r.scale(), high*r.scale()
	if r.Least != nil {
		least = *r.Least
	}
	if r.Most != nil {
		most = *r.Most
	}
	step := r.scale() / 2
	if math.IsNaN(counts) || v.Number < least-step || v.Number > most+step || counts < low || counts > high {
		return 0, fmt.Errorf("%s lies outside of %s to %s%s", v, Value{Number: least}, Value{Number: most},
			strings.TrimRight(" "+r.Unit, " "))
	}
	if r.Type == Int16 {
		return uint32(uint16(int16(counts))), nil
	}
	return uint32(counts), nil
}

// Decode reads what stands in a register. A code that the profile does not know is told as a word of its own.
func (r *Register) Decode(raw uint32) Value {
	if r.Words() {
		for word, code := range r.Codes {
			if uint32(code) == raw {
				return Value{Word: word}
			}
		}
		return Value{Word: fmt.Sprintf("code %d", raw)}
	}
	counts := float64(raw)
	if r.Type == Int16 {
		counts = float64(int16(uint16(raw)))
	}
	// Figures as short as the scale: 0.1·3 is 0.3.
	value := counts * r.scale()
	return Value{Number: math.Round(value*1e6) / 1e6}
}

func (r *Register) wordList() string {
	words := make([]string, 0, len(r.Codes))
	for word := range r.Codes {
		words = append(words, word)
	}
	slices.SortFunc(words, func(a, b string) int { return int(r.Codes[a]) - int(r.Codes[b]) })
	return strings.Join(words, ", ")
}

// Register finds that of a setting, nil where the drive has none on its bus.
func (p *Profile) Register(setting string) *Register {
	for i := range p.Registers {
		if p.Registers[i].Setting == setting {
			return &p.Registers[i]
		}
	}
	return nil
}

// Title is what a setting, or what is seen or ordered, is called.
func Title(setting string) string {
	for _, list := range [][]KnownSetting{Known, Seen, Orders} {
		for _, k := range list {
			if k.Name == setting {
				return k.Title
			}
		}
	}
	return setting
}

// Set says whether a name is one of a setting, rather than of what is seen or ordered.
func Set(name string) bool {
	return slices.ContainsFunc(Known, func(k KnownSetting) bool { return k.Name == name })
}

// mostRegisters bounds a profile's.
const mostRegisters = 120

// checkRegisters says what is wrong with a profile's registers: two on one address among them.
func (p *Profile) checkRegisters(say func(format string, args ...any)) {
	if len(p.Registers) > mostRegisters {
		say("A profile has at most %d registers.", mostRegisters)
		return
	}
	named, taken := map[string]bool{}, map[string]string{}
	for i := range p.Registers {
		r := &p.Registers[i]
		known := find(r.Setting)
		if known == nil {
			say("Register %d: there is no setting %q.", r.Address, r.Setting)
			continue
		}
		title := known.Title
		if named[r.Setting] {
			say("%s has two registers.", title)
		}
		named[r.Setting] = true
		for _, fault := range r.faults(known) {
			say("%s: %s.", title, fault)
		}
		for k := range r.Size() {
			at := fmt.Sprintf("%s %d", r.table(), int(r.Address)+int(k))
			if taken[at] != "" {
				say("%s and %s lie on one address, %s.", taken[at], title, at)
			}
			taken[at] = title
		}
	}
}

func (r *Register) table() string {
	if r.Table == Coil {
		return Coil
	}
	return Holding
}

// find is a setting, or something seen or ordered, by its name.
func find(name string) *KnownSetting {
	for _, list := range [][]KnownSetting{Known, Seen, Orders} {
		for i := range list {
			if list[i].Name == name {
				return &list[i]
			}
		}
	}
	return nil
}

// faults are what is wrong with one register.
func (r *Register) faults(known *KnownSetting) (list []string) {
	one := func(value, what string, of ...string) {
		if value != "" && !slices.Contains(of, value) {
			list = append(list, fmt.Sprintf("%s is one of %s", what, strings.Join(of, ", ")))
		}
	}
	one(r.Table, "its table", Holding, Coil)
	one(r.Type, "its type", Uint16, Int16, Uint32)
	one(r.WriteWhen, "when it is written", WhenStopped, WhenAny)
	if r.Access != ReadWrite && r.Access != ReadOnly {
		list = append(list, "its access is rw or ro")
	}
	switch {
	case r.Scale < 0 || r.Scale > 1e6:
		list = append(list, "its scale lies above 0, up to a million")
	case r.Table == Coil && (r.Type == Uint32 || r.Type == Int16):
		list = append(list, "a coil holds one bit")
	case int(r.Address)+int(r.Size()) > 1<<16:
		list = append(list, "its address lies past the last")
	case utf8.RuneCountInString(r.Unit) > 20 || utf8.RuneCountInString(r.Menu) > 40:
		list = append(list, "unit and menu have at most 20 and 40 letters")
	case len(known.Words) > 0 != r.Words():
		list = append(list, "words have codes, and figures none")
	case r.Least != nil && r.Most != nil && *r.Least > *r.Most:
		list = append(list, "its least is above its most")
	}
	seen := map[uint16]string{}
	for _, word := range slices.Sorted(maps.Keys(r.Codes)) {
		code := r.Codes[word]
		if !slices.Contains(known.Words, word) {
			list = append(list, fmt.Sprintf("there is no word %q", word))
		}
		if seen[code] != "" {
			list = append(list, fmt.Sprintf("%s and %s have one code", seen[code], word))
		}
		if r.Table == Coil && code > 1 {
			list = append(list, "a coil is 0 or 1")
		}
		seen[code] = word
	}
	return list
}
