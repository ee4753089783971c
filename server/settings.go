package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/drive"
	"brackmoor/core/study"
	"brackmoor/sheet"
	"brackmoor/store"
)

// SettingsView is what a drive for the motor is to be set to, with the parameters of a
// profile, and the profiles there are.
type SettingsView struct {
	Entries   []drive.Entry    `json:"entries" nullable:"false"`
	Profiles  []string         `json:"profiles" nullable:"false"`
	Profile   string           `json:"profile"` // "" for none
	Spindle   study.Spindle    `json:"spindle"`
	Materials []drive.Material `json:"materials" nullable:"false"`
}

// settings makes the list of a motor, with the parameters of a profile by its name.
func (s *service) settings(ctx context.Context, motor, profile string) (store.Place, SettingsView, error) {
	p, st, err := s.studied(ctx, WhatIf{WithID: WithID{motor}, Run: -1, Start: -1, Share: -1})
	if err != nil {
		return p, SettingsView{}, err
	}
	list, spindle, err := st.Settings(p.Motor.Matters)
	if err != nil {
		return p, SettingsView{}, s.unstepped(ctx, err)
	}
	v := SettingsView{Spindle: spindle, Materials: drive.Materials}
	var chosen drive.Profile
	for _, q := range drive.Profiles() {
		v.Profiles = append(v.Profiles, q.Name)
		if q.Name == profile {
			chosen, v.Profile = q, q.Name
		}
	}
	if profile != "" && v.Profile == "" {
		return p, v, huma.Error422UnprocessableEntity("There is no such drive profile.")
	}
	v.Entries = chosen.Enter(list)
	return p, v, nil
}

func (s *service) settingsOf(api huma.API) {
	huma.Register(api, operation("settingsOfMotor", "GET", "/motors/{id}/settings", "What a drive for the motor is to be set to"), func(ctx context.Context, in *struct {
		WithID
		Profile string `query:"profile" maxLength:"80" doc:"name of a drive profile, for its parameters' numbers"`
	}) (*body[SettingsView], error) {
		_, v, err := s.settings(ctx, in.ID, in.Profile)
		if err != nil {
			return nil, err
		}
		return &body[SettingsView]{v}, nil
	})
}

// settingsCSV is the list as a table, with columns to fill in at the drive.
func (s *service) settingsCSV(w http.ResponseWriter, r *http.Request) {
	p, v, err := s.settings(r.Context(), chi.URLParam(r, "id"), r.URL.Query().Get("profile"))
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
