package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/circuit"
	"brackmoor/core/controls"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/install"
	"brackmoor/core/ladder"
	"brackmoor/core/schematic"
	"brackmoor/core/wiring"
	"brackmoor/sheet"
)

// Wiring is a motor's power and control circuit by the way that is taken: what can be chosen of it, its
// parts and wires, and what running it through all its states found.
type Wiring struct {
	Choices []circuit.Choice `json:"choices" nullable:"false"`
	Chosen  circuit.Choices  `json:"chosen"` // as they count, the usual where nothing was chosen
	sheet.Wired
	Drawings []wiring.Drawing   `json:"drawings" nullable:"false"` // power and control, as it rests
	Own      []controls.Becomes `json:"controls" nullable:"false"` // what becomes of the machine's own controls
	Hours    float64            `json:"control_hours"`
	Cabinet  wiring.Drawing     `json:"cabinet"`                 // to scale
	Faults   []ladder.Fault     `json:"faults" nullable:"false"` // single things that can be broken as it is played
}

// Playing is what is done to a circuit as it is played, with something broken or nothing, up to a moment.
type Playing struct {
	Broken  string          `json:"broken,omitempty" maxLength:"40"`
	Actions []ladder.Action `json:"actions" maxItems:"500" nullable:"false"`
	Now     int32           `json:"now_ms" minimum:"0" maximum:"3600000"`
}

// Played is how a circuit came to stand, and its drawings as it stands.
type Played struct {
	ladder.Played
	Drawings []wiring.Drawing `json:"drawings" nullable:"false"`
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
	huma.Register(
		api,
		operation("playWiring", "POST", "/motors/{id}/wiring/play",
			"A motor's circuit after hands, time and the supply did something to it"),
		func(ctx context.Context, in *struct {
			WithID
			Body Playing
		}) (*body[Played], error) {
			made, err := s.wiringOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			played, err := ladder.Play(&made.Circuit, in.Body.Broken, in.Body.Actions, in.Body.Now)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(
					"That cannot be done to this circuit; it may have changed since.",
				)
			}
			out := Played{Played: played, Drawings: []wiring.Drawing{}}
			at := &schematic.Stance{Closed: played.Closed, In: played.In, Live: played.Live}
			for _, on := range schematic.Sheets {
				out.Drawings = append(out.Drawings, schematic.Draw(&made.Circuit, on, at))
			}
			return &body[Played]{out}, nil
		},
	)
}

// wiringOf is a motor's circuit; an error where its way is not to be had.
func (s *service) wiringOf(ctx context.Context, id string) (Wiring, error) {
	made, err := s.wiredAs(ctx, id)
	if err == nil && len(made.Circuit.Parts) == 0 {
		err = huma.Error409Conflict("This way is not to be had for the machine on its supply.")
	}
	return made, err
}

// wiredAs is a motor's circuit, remembered; one without parts where its way is not to be had.
func (s *service) wiredAs(ctx context.Context, id string) (Wiring, error) {
	key, place, q, err := s.question(ctx, id)
	if err != nil {
		return Wiring{}, err
	}
	if err := s.wholeOnConverter(ctx, &place, id); err != nil {
		return Wiring{}, err
	}
	for _, m := range place.Shop.Machines { // of a converter: its idler, and the others on it
		key.motors += m.ID + m.Name
		for _, o := range m.Motors {
			key.motors += fmt.Sprint(o.ID, " ", o.Computed(), " ")
		}
	}
	as := place.Shop.WiredBy(place.Machine, id, q)
	w := as.Choice.Taken()
	made, err := s.wired.get(
		ctx,
		sized{key, w.Info().Name + " " + place.Machine.Name},
		slotted(s.slots, func(halt.Sign) Wiring {
			own := Wiring{
				Choices: feed.Wirings(w, as.Choice.Wiring), Chosen: as.Choice.Wiring.Filled(),
				Wired: sheet.WiredAs(q, &place.Shop, place.Machine, id),
			}
			_, driven := w.(feed.Driven)
			own.Own = controls.Plan(place.Motor.Own, controls.On{
				Driven: driven, Stop: stopsAt(as), Mark: as.Profile.Mark,
			})
			own.Hours = controls.Total(own.Own)
			own.Cabinet = install.Cabinet(&own.Circuit, install.Site{Choices: q.Choice.Wiring})
			own.Faults = append([]ladder.Fault{}, ladder.Faults(&own.Circuit)...)
			for _, on := range schematic.Sheets {
				own.Drawings = append(own.Drawings, schematic.Draw(&own.Circuit, on, nil))
			}
			return own
		}),
	)
	if err != nil {
		return Wiring{}, s.fault(ctx, err)
	}
	return made, nil
}

// stopsAt is where the emergency stop of a drive's circuit comes to.
func stopsAt(q *feed.Question) string {
	switch how := q.Choice.Wiring.Filled(); {
	case how.Relay:
		return "both channels of the safety relay"
	case how.Safe == circuit.SafeTorqueOff:
		return q.Profile.Mark("sto1") + " and " + q.Profile.Mark("sto2")
	case how.Safe == circuit.SafeContactor:
		return "the contactor before the drive"
	}
	return q.Profile.Mark("enable")
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
