package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/plate"
	"brackmoor/core/reckon"
)

// Reckoned is what follows of some figures, and every quantity that is reckoned with.
type Reckoned struct {
	reckon.Answer
	Quantities []reckon.Quantity `json:"quantities" nullable:"false"`
}

func (s *service) reckoning(api huma.API) {
	huma.Register(
		api,
		operation("reckon", "POST", "/reckonings", "The sums of a motor any way round, from figures that are enough"),
		func(_ context.Context, in *struct {
			Body struct {
				Phases int                `json:"phases" enum:"1,3"`
				Given  map[string]float64 `json:"given" nullable:"false"`
			}
		}) (*body[Reckoned], error) {
			if problems := reckon.Check(in.Body.Phases, in.Body.Given); problems != nil {
				return nil, refusal("It could not be reckoned.", "body.", problems)
			}
			return &body[Reckoned]{Reckoned{reckon.Work(in.Body.Phases, in.Body.Given), reckon.Quantities}}, nil
		},
	)
	huma.Register(
		api,
		operation("figuresOfMotor", "GET", "/motors/{id}/figures", "The figures of a plate, to reckon on with"),
		func(ctx context.Context, in *WithID) (*body[struct {
			Given map[string]float64 `json:"given" nullable:"false"`
		}], error) {
			_, st, err := s.studied(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var out body[struct {
				Given map[string]float64 `json:"given" nullable:"false"`
			}]
			f := &st.Plate
			out.Body.Given = map[string]float64{}
			for name, v := range map[string]plate.Value{
				"volts": f.Volts, "amps": f.Amps, "power_factor": f.PowerFactor, "efficiency": f.Efficiency,
				"rpm": f.RPM, "hertz": f.Hertz, "poles": f.Poles,
			} {
				if v.Value > 0 {
					out.Body.Given[name] = v.Value
				}
			}
			out.Body.Given["efficiency"] *= 100
			return &out, nil
		},
	)
}
