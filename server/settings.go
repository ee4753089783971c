package server

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/daybook"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/study"
	"brackmoor/drivebus"
	"brackmoor/sheet"
	"brackmoor/store"
)

// SettingsView is what a drive for the motor is to be set to, with the parameters of a
// profile, and the profiles there are.
type SettingsView struct {
	Shop      string           `json:"shop"`
	Machine   string           `json:"machine"`
	Found     map[string]Found `json:"found"` // by a setting's name: as it was found and read back last
	Title     string           `json:"title"`
	Entries   []drive.Entry    `json:"entries" nullable:"false"`
	Profiles  []string         `json:"profiles" nullable:"false"`
	Profile   string           `json:"profile"` // "" for none
	Spindle   study.Spindle    `json:"spindle"`
	Materials []drive.Material `json:"materials" nullable:"false"`
	// Shows is what the drive's display is to tell at each step of its first run.
	Shows []drive.Shows `json:"shows" nullable:"false"`
	// Carriers are what each costs in noise, heat and amps.
	Carriers []drive.Carried `json:"carriers" nullable:"false"`
	// Reach is how a parameter is come to on its keypad, "" where nobody has said; OnBus says that its profile has
	// registers, and CanRun that one of them starts it.
	Reach  string `json:"reach"`
	OnBus  bool   `json:"on_bus"`
	CanRun bool   `json:"can_run"`
	// HoldHertz is what a motor is turned at by who holds it over its bus.
	HoldHertz float64 `json:"hold_hertz"`
}

// Found is a setting as somebody found it and read it back: by whom and when, and whether what was read back is other
// than what is meant now.
type Found struct {
	daybook.Setting
	Hand string `json:"hand"`
	At   string `json:"at"`
	Off  bool   `json:"off"`
}

// found are the settings of a motor's drive as they were written down, each the last time.
func (s *service) found(ctx context.Context, p store.Place, entries []drive.Entry) (map[string]Found, error) {
	lines, err := s.Store.Entries(ctx, p.Shop.ID, daybook.Sought{Motor: p.Motor.ID, Kind: daybook.Set}, 200)
	found := map[string]Found{}
	for i := len(lines) - 1; i >= 0; i-- { // the latest is listed first, and counts
		l := &lines[i]
		if l.Corrected != "" {
			continue
		}
		for _, set := range l.Settings {
			before := found[set.Name]
			if set.Was == "" {
				set.Was = before.Was
			}
			if set.Read == "" {
				set.Read = before.Read
			}
			found[set.Name] = Found{Setting: set, Hand: l.Hand, At: l.At}
		}
	}
	for _, e := range entries {
		if f, ok := found[e.Name]; ok {
			f.Off = f.Read != "" && !e.Agrees(f.Read)
			found[e.Name] = f
		}
	}
	return found, err
}

// settings makes the list of a motor, with the parameters of a profile by its name.
func (s *service) settings(ctx context.Context, motor string) (store.Place, SettingsView, error) {
	_, p, q, err := s.question(ctx, motor)
	if err != nil {
		return p, SettingsView{}, err
	}
	profile := drive.Among(p.Shop.Profiles, p.Motor.Way.Profile)
	v := SettingsView{
		Shop:      p.Shop.ID,
		Machine:   p.Machine.ID,
		Title:     "If a drive feeds it",
		Profiles:  []string{},
		Profile:   profile.Name,
		HoldHertz: drive.FirstHertz,
		OnBus:     len(profile.Registers) > 0,
		CanRun:    profile.Register("command") != nil && profile.Register("link_loss_s") != nil,
		Materials: drive.MaterialsAt(p.Shop.Supply.Hertz),
	}
	list, err := study.Settings(q, p.Shop.Profiles)
	if err != nil {
		return p, v, s.unstepped(ctx, err)
	}
	v.Entries, v.Spindle, v.Shows, v.Carriers = list.Entries, list.Spindle, list.Shows, list.Carriers
	if v.Found, err = s.found(ctx, p, v.Entries); err != nil {
		return p, v, s.fault(ctx, err)
	}
	if profile.Panel != nil {
		v.Reach = strings.ReplaceAll(profile.Panel.Reach, "{n}", "its number")
	}
	if _, ok := q.Choice.Taken().(feed.Driven); ok {
		v.Title = "Drive settings"
	}
	for _, q := range append(append([]drive.Profile{}, p.Shop.Profiles...), drive.Profiles()...) {
		v.Profiles = append(v.Profiles, q.Name)
	}
	return p, v, nil
}

func (s *service) settingsOf(api huma.API) {
	huma.Register(
		api,
		operation(
			"settingsOfMotor",
			"GET",
			"/motors/{id}/settings",
			"What a drive for the motor is to be set to, with the parameters of the drive at hand",
		),
		func(ctx context.Context, in *WithID) (*body[SettingsView], error) {
			_, v, err := s.settings(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			return &body[SettingsView]{v}, nil
		},
	)
}

func (s *service) settingsCSV(w http.ResponseWriter, r *http.Request) {
	p, v, err := s.settings(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, err)
		return
	}
	found := map[string]sheet.Found{}
	for name, f := range v.Found {
		found[name] = sheet.Found{Was: f.Was, Read: f.Read, Date: f.At[:10], Hand: f.Hand}
	}
	text, err := sheet.SettingsCSV(v.Entries, found)
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="`+fileName(p.Machine.Name)+`-drive.csv"`)
	send(w, r, text)
}

// settingsJSON is what is meant as the file by which the command line compares and writes a drive.
func (s *service) settingsJSON(w http.ResponseWriter, r *http.Request) {
	p, v, err := s.settings(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, err)
		return
	}
	w.Header().Set("Content-Disposition", `attachment; filename="`+fileName(p.Machine.Name)+`-drive.json"`)
	writeJSON(w, drivebus.AsMeant(v.Entries))
}
