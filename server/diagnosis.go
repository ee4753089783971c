package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/diagnose"
	"brackmoor/core/halt"
	"brackmoor/core/prove"
)

// Diagnosis is what may be wrong with a motor, the likeliest first, the look to take next, and everything that can be
// said of it. Known is false for a way whose drive names its own faults.
type Diagnosis struct {
	Shop    string `json:"shop"`
	Machine string `json:"machine"`
	Known   bool   `json:"known"`
	diagnose.Answer
	Symptoms []diagnose.Symptom `json:"symptoms" nullable:"false"`
	Looks    []diagnose.Look    `json:"looks" nullable:"false"`
	Readings int                `json:"readings"` // that were weighed with what is seen
}

func (s *service) diagnosis(api huma.API) {
	huma.Register(
		api,
		operation("diagnoseMotor", "POST", "/motors/{id}/diagnosis",
			"What may be wrong with a motor by what is seen, read and looked at; nothing is kept"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				Symptoms []string          `json:"symptoms" maxItems:"40" nullable:"false"`
				Looked   []diagnose.Looked `json:"looked" maxItems:"40" nullable:"false"`
			}
		}) (*body[Diagnosis], error) {
			at, err := s.readAs(ctx, in.ID, false)
			if err != nil {
				return nil, err
			}
			seen := diagnose.Case{Symptoms: in.Body.Symptoms, Looked: in.Body.Looked}
			if problems := seen.Check(); problems != nil {
				return nil, refusal("It could not be weighed.", "body.", problems)
			}
			d := Diagnosis{
				Shop:     at.place.Shop.ID,
				Machine:  at.place.Machine.ID,
				Symptoms: diagnose.Symptoms,
				Looks:    diagnose.Looks,
				Answer:   diagnose.Answer{Causes: []diagnose.Cause{}},
			}
			made, err := slotted(s.slots, func(stop halt.Sign) weighed {
				c, ok, err := prove.Fault(at.q.Until(stop), at.readings)
				if err != nil || !ok {
					return weighed{err: err}
				}
				c.Symptoms, c.Looked = in.Body.Symptoms, in.Body.Looked
				return weighed{diagnose.Diagnose(&c), len(c.Readings), true, nil}
			})(ctx)
			if err == nil {
				err = made.err
			}
			if made.ok {
				d.Answer, d.Known, d.Readings = made.answer, true, made.readings
			}
			return &body[Diagnosis]{d}, s.fault(ctx, err)
		},
	)
}

// weighed is a diagnosis, or why there is none.
type weighed struct {
	answer   diagnose.Answer
	readings int
	ok       bool
	err      error
}
