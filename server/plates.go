package server

import (
	"context"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/plate"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
)

// PlateText is what was read from the text of a nameplate: the fields as they
// would be typed, the words each came from, what may be a slip, and what was not understood.
type PlateText struct {
	Plate     plate.Typed      `json:"plate"`
	Rows      []plate.Row      `json:"rows"      nullable:"false"`
	Deduced   []plate.Deduced  `json:"deduced"   nullable:"false"`
	Proposals []plate.Proposal `json:"proposals" nullable:"false"`
	Unread    []string         `json:"unread"    nullable:"false"`
	Verdicts  []rule.Verdict   `json:"verdicts"  nullable:"false"`
}

// PlateQuestion is the text of a nameplate.
type PlateQuestion struct {
	Text string `json:"text" maxLength:"4000"`
}

// SeenPlate is what was read from a picture of a nameplate, field by field with the piece of picture it came from.
type SeenPlate struct {
	Text     string            `json:"text"`
	Fields   []plate.SeenField `json:"fields"   nullable:"false"`
	Deduced  []plate.Deduced   `json:"deduced"  nullable:"false"`
	Unread   []string          `json:"unread"   nullable:"false"`
	Verdicts []rule.Verdict    `json:"verdicts" nullable:"false"`
}

// SeenQuestion is the words that were found in a picture, in one or several readings of it.
type SeenQuestion struct {
	Readings []struct {
		Words []plate.SeenWord `json:"words" nullable:"false" maxItems:"500"`
	} `json:"readings" nullable:"false" maxItems:"3"`
}

func (s *service) plates(api huma.API) {
	huma.Register(
		api,
		operation("readPlate", "POST", "/plates", "Read the text of a nameplate into fields"),
		func(_ context.Context, in *body[PlateQuestion]) (*body[PlateText], error) {
			if strings.TrimSpace(in.Body.Text) == "" {
				return nil, huma.Error422UnprocessableEntity(
					"There is no text to read.",
					&huma.ErrorDetail{Location: "body.text", Message: "There is no text to read."},
				)
			}
			d := plate.ReadText(in.Body.Text)
			return &body[PlateText]{PlateText{d.Typed(), d.Rows(), d.Deduced, d.Proposals, d.Unread, d.Verdicts}}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"readSeenPlate",
			"POST",
			"/plates/seen",
			"Read the words found in a picture of a nameplate into fields",
		),
		func(_ context.Context, in *body[SeenQuestion]) (*body[SeenPlate], error) {
			var readings [][]plate.SeenWord
			for _, r := range in.Body.Readings {
				readings = append(readings, r.Words)
			}
			seen := plate.ReadSeen(readings)
			return &body[SeenPlate]{SeenPlate{seen.Text, seen.Fields, seen.Deduced, seen.Unread, seen.Verdicts}}, nil
		},
	)
	huma.Register(
		api,
		operation("takePlate", "POST", "/shops/{id}/plates", "Add a machine by the text of its nameplate"),
		func(ctx context.Context, in *struct {
			WithID
			Body PlateQuestion
		}) (*body[shop.Machine], error) {
			d := plate.ReadText(in.Body.Text)
			typed := d.Typed()
			for _, v := range d.Verdicts {
				if v.Rule == "plate.not-three-phase" {
					return nil, huma.Error422UnprocessableEntity(v.Title + ": " + v.Says)
				}
			}
			if typed.Output == "" && typed.Volts == "" {
				return nil, huma.Error422UnprocessableEntity("No output and no volts were found in it: it is no plate.")
			}
			m, err := s.Store.AddPlate(ctx, in.ID, strings.TrimSpace("New machine "+typed.Output), typed)
			return &body[shop.Machine]{m}, s.fault(ctx, err)
		},
	)
}
