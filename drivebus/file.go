package drivebus

import (
	"fmt"
	"slices"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/drive"
	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/docs/schema"
)

// The formats that are read and written.
const (
	SettingsFormat = "brackmoor.drive-settings/1"
	CompareFormat  = "brackmoor.drive-compare/1"
)

// The published schemas, which are also what is enforced.
var (
	profileSchema  = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Profile) })
	settingsSchema = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Settings) })
)

// Settings is a file of settings, as a drive has them or is to have them.
type Settings struct {
	Format   string    `json:"format"`
	Settings []Setting `json:"settings"`
}

// Setting is one of them; nil is a value that is not known.
type Setting struct {
	Setting string       `json:"setting"`
	Value   *drive.Value `json:"value"`
	Unit    string       `json:"unit,omitempty"`
	Says    string       `json:"says,omitempty"`
}

// Compared is what is printed of a comparison, or of what was written.
type Compared struct {
	Format   string `json:"format"`
	Settings []Row  `json:"settings"`
}

// AsRead are rows that were read, as a file of settings.
func AsRead(rows []Row) Settings {
	f := Settings{Format: SettingsFormat, Settings: []Setting{}}
	for i := range rows {
		f.Settings = append(f.Settings, Setting{rows[i].Setting, rows[i].Is, rows[i].Unit, rows[i].Says})
	}
	return f
}

// AsMeant are the settings of a plan as a file, by which a drive is compared and written.
func AsMeant(entries []drive.Entry) Settings {
	f := Settings{Format: SettingsFormat, Settings: []Setting{}}
	for i, m := range MeantBy(entries) {
		f.Settings = append(f.Settings, Setting{Setting: m.Setting, Value: &m.Value, Unit: entries[i].Unit})
	}
	return f
}

// ReadMeant reads a file of settings.
func ReadMeant(text []byte) (list []Meant, problems rule.Problems) {
	var f Settings
	if problems = strict.Read(text, settingsSchema(), &f); problems != nil {
		return nil, problems
	}
	for i, s := range f.Settings {
		switch {
		case !drive.Set(s.Setting):
			problems.Say(fmt.Sprintf("$.settings[%d].setting", i), "there is no setting %q", s.Setting)
		case slices.ContainsFunc(list, func(m Meant) bool { return m.Setting == s.Setting }):
			problems.Say(fmt.Sprintf("$.settings[%d].setting", i), "%s stands twice", s.Setting)
		case s.Value != nil:
			list = append(list, Meant{s.Setting, *s.Value})
		}
	}
	return list, problems
}

// ReadProfile reads a profile.
func ReadProfile(text []byte) (p drive.Profile, problems rule.Problems) {
	if problems = strict.Read(text, profileSchema(), &p); problems != nil {
		return p, problems
	}
	for _, says := range p.Check() {
		problems.Say("$", "%s", says)
	}
	return p, problems
}
