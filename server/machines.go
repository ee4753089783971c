package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/controls"
	"brackmoor/core/feed"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/winding"
	"brackmoor/store"
)

// MotorView is a motor with what was understood of its plate.
type MotorView struct {
	ID    string      `json:"id"`
	Name  string      `json:"name"`
	Plate plate.Typed `json:"plate"`
	shop.Driven
	shop.Fed
	Mine     []string            `json:"mine" nullable:"false"`
	Built    []string            `json:"built" nullable:"false"`
	Own      []controls.Terminal `json:"controls" nullable:"false"`
	Leads    winding.Typed       `json:"leads"`
	Matters  feed.Matters        `json:"matters"`
	Version  int                 `json:"version"`  // of all its parts
	Versions shop.Versions       `json:"versions"` // of each
	Stage    string              `json:"stage"`
	Progress study.Progress      `json:"progress"`
	Reading  study.Reading       `json:"reading"`
}

// MachinePage is a machine with its motors and the shop it stands in.
type MachinePage struct {
	Shop    ShopHead      `json:"shop"`
	ID      string        `json:"id"`
	Name    string        `json:"name"`
	Note    string        `json:"note"`
	Version int           `json:"version"`
	Motors  []MotorView   `json:"motors" nullable:"false"`
	History []store.Entry `json:"history" nullable:"false"`
}

func (s *service) view(sh *shop.Shop, m shop.Motor) MotorView {
	st := study.Of(sh.Supply, m, s.fit, sh.Own.Loads...)
	return MotorView{
		ID:     m.ID,
		Name:   m.Name,
		Plate:  m.Plate,
		Driven: m.Driven,
		Fed:    m.Fed,
		Mine:   m.Mine,
		Built:  append([]string{}, m.Built...), Own: append([]controls.Terminal{}, m.Own...),
		Leads:    m.Leads,
		Matters:  m.Matters,
		Version:  m.Version,
		Versions: m.Versions,
		Stage:    st.Stage(m),
		Progress: st.Progress(m),
		Reading:  st.Reading,
	}
}

func (s *service) machines(api huma.API) {
	withName(
		s,
		api,
		operation("addMachine", "POST", "/shops/{id}/machines", "Add a machine with a blank plate"),
		s.Store.AddMachine,
	)
	huma.Register(
		api,
		operation("readMachine", "GET", "/machines/{id}", "A machine with its motors"),
		func(ctx context.Context, in *WithID) (*body[MachinePage], error) {
			p, err := s.Store.Machine(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			page := MachinePage{
				Shop:    head(p.Shop),
				ID:      p.Machine.ID,
				Name:    p.Machine.Name,
				Note:    p.Machine.Note,
				Version: p.Machine.Version,
				Motors:  []MotorView{},
			}
			for _, m := range p.Machine.Motors {
				page.Motors = append(page.Motors, s.view(&p.Shop, m))
			}
			page.History, err = s.Store.History(ctx, in.ID, 40)
			return &body[MachinePage]{page}, s.fault(ctx, err)
		},
	)
	huma.Register(
		api,
		operation("changeMachine", "PUT", "/machines/{id}", "Change a machine's name and note"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				Named
				Note    string `json:"note" maxLength:"2000"`
				Version int    `json:"version"`
			}
		}) (*body[shop.Machine], error) {
			name, err := trimmed(in.Body.Name)
			if err != nil {
				return nil, err
			}
			m, err := s.Store.ChangeMachine(ctx, in.ID, in.Body.Version, name, in.Body.Note)
			return &body[shop.Machine]{m}, s.fault(ctx, err)
		},
	)
	s.deletable(api, "Machine", "/machines/{id}", s.Store.DeleteMachine, s.Store.RestoreMachine)
	withName(
		s,
		api,
		operation("copyMachine", "POST", "/machines/{id}/copy", "Copy a machine under a new name"),
		s.Store.DuplicateMachine,
	)
	withName(
		s,
		api,
		operation("addMotor", "POST", "/machines/{id}/motors", "Add a motor with a blank plate"),
		s.Store.AddMotor,
	)
}
