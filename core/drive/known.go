package drive

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"
)

// ProfileFormat is the name of a drive profile's format.
const ProfileFormat = "brackmoor.drive-profile/1"

// KnownSetting is a setting there may be, and the words that may stand in it; none where
// it is a figure.
type KnownSetting struct {
	Name  string   `json:"name"`
	Title string   `json:"title"`
	Unit  string   `json:"unit"`
	Words []string `json:"words" nullable:"false"`
}

// Known lists every setting in the order of the list.
var Known = []KnownSetting{
	{"run_source", "Run command from", "", []string{"terminals", "keypad", "bus"}},
	{"speed_source", "Speed from", "", []string{"potentiometer", "presets", "keypad", "bus"}},
	{"base_hertz", "Base frequency", "Hz", []string{}},
	{"maximum_hertz", "Highest frequency", "Hz", []string{}},
	{"minimum_hertz", "Lowest frequency", "Hz", []string{}},
	{"motor_volts", "Motor volts", "V", []string{}},
	{"motor_amps", "Motor amps", "A", []string{}},
	{"motor_output", "Motor output", "W", []string{}},
	{"motor_rpm", "Motor rpm", "rpm", []string{}},
	{"power_factor", "Motor power factor", "", []string{}},
	{"poles", "Poles", "", []string{}},
	{"shape", "Volts over frequency", "", []string{"linear", "square"}},
	{"boost_percent", "Boost", "%", []string{}},
	{"acceleration_s", "Ramp up", "s", []string{}},
	{"deceleration_s", "Ramp down", "s", []string{}},
	{"stop_mode", "Stop", "", []string{"ramp", "coast"}},
	{"dc_brake_s", "Direct current at standstill", "s", []string{}},
	{"dc_brake_percent", "Its amps", "%", []string{}},
	{"preset_1_hertz", "Fixed speed 1", "Hz", []string{}},
	{"preset_2_hertz", "Fixed speed 2", "Hz", []string{}},
	{"preset_3_hertz", "Fixed speed 3", "Hz", []string{}},
	{"skip_hertz", "Frequency passed over", "Hz", []string{}},
	{"skip_band_hertz", "Its width", "Hz", []string{}},
	{"carrier_khz", "Carrier", "kHz", []string{}},
	{"current_limit_percent", "Current limit", "%", []string{}},
	{"overload_amps", "Motor overload", "A", []string{}},
	{"input_phase_loss", "Input phase loss", "", []string{"off", "on"}},
	{"restart", "Restart after power loss", "", []string{"off", "on"}},
	{"fault_reset", "Reset after a fault", "", []string{"by hand", "by itself"}},
	{"enable", "Enable input", "", []string{"terminal must be closed", "bridged"}},
	{"reverse", "Reverse", "", []string{"barred", "allowed"}},
	{"link_loss_s", "Stops when its bus is silent for", "s", []string{}},
	{"power_unit", "Output is shown in", "", []string{"kW", "hp"}},
}

// Check says what is wrong with a profile, a sentence each; nothing where it is sound.
func (p Profile) Check() (faults []string) {
	say := func(format string, args ...any) { faults = append(faults, fmt.Sprintf(format, args...)) }
	if p.Format != ProfileFormat {
		say("The format is %q, not %q.", p.Format, ProfileFormat)
	}
	if strings.TrimSpace(p.Name) == "" {
		say("The profile needs a name.")
	}
	if utf8.RuneCountInString(p.Name) > 80 {
		say("A name has at most 80 letters.")
	}
	p.checkTerminals(say)
	p.checkRegisters(say)
	p.checkPanel(say)
	names := make([]string, 0, len(p.Parameters))
	for name := range p.Parameters {
		names = append(names, name)
	}
	slices.Sort(names)
	seen := map[string]string{}
	for _, name := range names {
		q := p.Parameters[name]
		at := slices.IndexFunc(Known, func(k KnownSetting) bool { return k.Name == name })
		if at < 0 {
			say("There is no setting %q.", name)
			continue
		}
		title := Known[at].Title
		switch {
		case strings.TrimSpace(q.Number) == "":
			say("%s: the parameter has no number.", title)
		case utf8.RuneCountInString(q.Number) > 20 || utf8.RuneCountInString(q.Unit) > 20:
			say("%s: number and unit have at most 20 letters.", title)
		case seen[q.Number] != "":
			say("%s and %s have the same number %s.", seen[q.Number], title, q.Number)
		case q.Times < 0 || q.Times > 1e6:
			say("%s: the factor lies above 0, up to a million.", title)
		}
		seen[q.Number] = title
		for word, writes := range q.Writes {
			if len(word) > 40 || len(writes) > 40 {
				say("%s: what is written has at most 40 letters.", title)
			}
		}
	}
	return faults
}

// Terminal is a terminal of drives by our name, and what it is for.
type Terminal struct {
	Name  string `json:"name"`
	Title string `json:"title"`
}

// Terminals are those that there are.
var Terminals = []Terminal{
	{"L1", "line"}, {"L2", "line"}, {"U", "motor"}, {"V", "motor"}, {"W", "motor"}, {"PE", "earth"},
	{"dc+", "bus"}, {"dc-", "bus"}, {"com", "what inputs are closed to"}, {"di1", "forward, or run"},
	{"di2", "reverse, or stop"}, {"di3", "fixed speed"}, {"di4", "another fixed speed"}, {"enable", "enable"},
	{"sto1", "safe torque off"}, {"sto2", "safe torque off, its other channel"}, {"10v", "potentiometer, its high end"},
	{"ai1", "potentiometer, its slider"}, {"acom", "potentiometer, its low end"}, {"24v", "its own 24 V"},
	{"0v", "of its 24 V"}, {"r1", "relay, closed as it runs"}, {"r2", "relay"},
}

// checkTerminals says what is wrong with a profile's terminals and links.
func (p Profile) checkTerminals(say func(format string, args ...any)) {
	const most, links = 12, 12
	mark := func(m string) bool { return strings.TrimSpace(m) != "" && utf8.RuneCountInString(m) <= most }
	marked := map[string]string{}
	for _, t := range Terminals {
		m, ok := p.Terminals[t.Name]
		switch {
		case !ok:
			continue
		case !mark(m) || strings.ContainsAny(m, ": "):
			say("Terminal %s: its mark has 1 to %d letters, without blanks and colons.", t.Name, most)
		case marked[m] != "":
			say("Terminals %s and %s have the same mark %s.", marked[m], t.Name, m)
		}
		marked[m] = t.Name
	}
	known := func(name string) bool {
		return slices.ContainsFunc(Terminals, func(t Terminal) bool { return t.Name == name })
	}
	for name := range p.Terminals {
		if !known(name) {
			say("There is no terminal %q.", name)
		}
	}
	if len(p.Links) > links {
		say("A profile has at most %d links.", links)
	}
	for _, l := range p.Links {
		switch {
		case !mark(l.Between[0]) || !mark(l.Between[1]):
			say("A link is between two marks of 1 to %d letters.", most)
		case l.For != "" && !known(l.For):
			say("Link %s–%s: there is no terminal %q.", l.Between[0], l.Between[1], l.For)
		case utf8.RuneCountInString(l.Says) > 200:
			say("Link %s–%s: what is said of it has at most 200 letters.", l.Between[0], l.Between[1])
		}
	}
}

// CheckOwn says what is wrong with a shop's own profiles, each sentence with the place of its
// profile. No two have one name, nor that of one that ships.
func CheckOwn(own []Profile, say func(i int, says string)) {
	names := map[string]bool{}
	for _, p := range Profiles() {
		names[p.Name] = true
	}
	for i, p := range own {
		for _, says := range p.Check() {
			say(i, says)
		}
		if names[p.Name] {
			say(i, "There is a profile of this name already.")
		}
		names[p.Name] = true
	}
}
