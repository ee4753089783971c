package server

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/ladder"
)

// Wiring is a motor's power and control circuit by the way that is taken: what can be chosen of it, its
// parts and wires, and what running it through all its states found.
type Wiring struct {
	Choices []circuit.Choice `json:"choices" nullable:"false"`
	Circuit circuit.Circuit  `json:"circuit"`
	Check   ladder.Check     `json:"check"`
}

func (s *service) wirings(api huma.API) {
	huma.Register(
		api,
		operation("wiringOfMotor", "GET", "/motors/{id}/wiring",
			"A motor's circuit, wire by wire, run through every state before it is built"),
		func(ctx context.Context, in *WithID) (*body[Wiring], error) {
			made, err := s.wiringOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			return &body[Wiring]{made}, nil
		},
	)
}

// wiringOf is a motor's circuit, remembered.
func (s *service) wiringOf(ctx context.Context, id string) (Wiring, error) {
	key, _, q, err := s.question(ctx, id)
	if err != nil {
		return Wiring{}, err
	}
	w := q.Choice.Taken()
	made, err := s.wired.get(ctx, sized{key, w.Info().Name}, slotted(s.slots, func(halt.Sign) Wiring {
		own := Wiring{Choices: feed.Wirings(w), Circuit: w.Wire(q, q.Choice.Wiring)}
		own.Check = ladder.Search(&own.Circuit)
		return own
	}))
	if err != nil {
		return Wiring{}, s.fault(ctx, err)
	}
	if len(made.Circuit.Parts) == 0 {
		return Wiring{}, huma.Error409Conflict("This way is not to be had for the machine on its supply.")
	}
	return made, nil
}

// circuitJSON sends a motor's circuit in its open format.
func (s *service) circuitJSON(w http.ResponseWriter, r *http.Request) {
	made, err := s.wiringOf(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, err)
		return
	}
	text, err := json.MarshalIndent(made.Circuit, "", " ")
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", `attachment; filename="circuit.json"`)
	_, _ = w.Write(text) // a failed write means that the caller has gone
}
