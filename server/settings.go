package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/study"
	"brackmoor/sheet"
	"brackmoor/store"
)

// SettingsView is what a drive for the motor is to be set to, with the parameters of a
// profile, and the profiles there are.
type SettingsView struct {
	Title     string           `json:"title"`
	Entries   []drive.Entry    `json:"entries" nullable:"false"`
	Profiles  []string         `json:"profiles" nullable:"false"`
	Profile   string           `json:"profile"` // "" for none
	Spindle   study.Spindle    `json:"spindle"`
	Materials []drive.Material `json:"materials" nullable:"false"`
}

// settings makes the list of a motor, with the parameters of a profile by its name.
func (s *service) settings(ctx context.Context, motor string) (store.Place, SettingsView, error) {
	_, p, q, err := s.question(ctx, motor)
	if err != nil {
		return p, SettingsView{}, err
	}
	v := SettingsView{
		Title:     "If a drive feeds it",
		Profiles:  []string{},
		Profile:   drive.Among(p.Shop.Profiles, p.Motor.Way.Profile).Name,
		Materials: drive.MaterialsAt(p.Shop.Supply.Hertz),
	}
	if v.Entries, v.Spindle, err = study.Settings(q, p.Shop.Profiles); err != nil {
		return p, v, s.unstepped(ctx, err)
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
	text, err := sheet.SettingsCSV(v.Entries)
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="`+fileName(p.Machine.Name)+`-drive.csv"`)
	send(w, r, text)
}
