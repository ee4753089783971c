package server

import (
	"context"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/plate"
	"brackmoor/core/rule"
)

// PlateText is what was read from the text of a nameplate: the fields as they
// would be typed, the words each came from, and what was not understood.
type PlateText struct {
	Plate    plate.Typed       `json:"plate"`
	From     map[string]string `json:"from"`
	Unread   []string          `json:"unread" nullable:"false"`
	Verdicts []rule.Verdict    `json:"verdicts" nullable:"false"`
}

// PlateQuestion is the text of a nameplate.
type PlateQuestion struct {
	Text string `json:"text" maxLength:"4000"`
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
			return &body[PlateText]{PlateText{d.Typed(), d.From, d.Unread, d.Verdicts}}, nil
		},
	)
}
