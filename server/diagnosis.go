package server

import (
	"context"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/diagnose"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
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
	// Drive is what a drive tells of itself, where there is one; empty otherwise. Faults is how many of them it names
	// itself: they stand first.
	Drive  []DriveTrouble `json:"drive" nullable:"false"`
	Faults int            `json:"faults"`
}

// DriveTrouble is a fault of a drive, or what it does wrong without one: what its display shows for it, "" for a sign
// without a fault or a drive that nobody has told of, and the settings that may be behind it.
type DriveTrouble struct {
	drive.Fault
	Shown  string            `json:"shown" told:"figures"`
	Behind []TroubledSetting `json:"behind" nullable:"false"`
}

// TroubledSetting is a setting behind a trouble: what is meant, and what was read back last, "" where nobody has.
type TroubledSetting struct {
	Title string `json:"title"`
	Meant string `json:"meant"`
	Read  string `json:"read"`
	Off   bool   `json:"off"`
}

// troubles are those of a motor's drive.
func (s *service) troubles(ctx context.Context, motor string) ([]DriveTrouble, error) {
	p, v, err := s.settings(ctx, motor)
	if err != nil {
		return nil, err
	}
	list := []DriveTrouble{}
	panel := drive.Among(p.Shop.Profiles, p.Motor.Way.Profile).Panel
	for _, f := range append(slices.Clone(drive.Faults), drive.Signs...) {
		t := DriveTrouble{Fault: f, Behind: []TroubledSetting{}}
		if panel != nil {
			t.Shown = panel.Shows[f.Name]
		}
		for _, e := range v.Entries {
			if slices.Contains(f.Settings, e.Name) {
				found := v.Found[e.Name]
				t.Behind = append(t.Behind, TroubledSetting{e.Title, e.Value, found.Read, found.Off})
			}
		}
		list = append(list, t)
	}
	return list, nil
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
				Since    bool              `json:"since,omitempty"` // what was read was read since it went wrong
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
				Symptoms: []diagnose.Symptom{},
				Looks:    diagnose.Looks,
				Answer:   diagnose.Answer{Causes: []diagnose.Cause{}},
				Drive:    []DriveTrouble{},
				Faults:   len(drive.Faults),
			}
			made, err := slotted(s.slots, func(stop halt.Sign) weighed {
				c, ok, err := prove.Fault(at.q.Until(stop), at.readings)
				if err != nil || !ok {
					return weighed{err: err}
				}
				c.Symptoms, c.Looked, c.Before = in.Body.Symptoms, in.Body.Looked, !in.Body.Since
				return weighed{diagnose.Diagnose(&c), c.Sayable(), len(c.Readings), true, nil}
			})(ctx)
			if err == nil {
				err = made.err
			}
			if made.ok {
				d.Answer, d.Known, d.Readings, d.Symptoms = made.answer, true, made.readings, made.sayable
			}
			if _, driven := at.q.Choice.Taken().(feed.Driven); driven && err == nil {
				if d.Drive, err = s.troubles(ctx, in.ID); err != nil {
					return nil, err
				}
			}
			return &body[Diagnosis]{d}, s.fault(ctx, err)
		},
	)
}

// weighed is a diagnosis, or why there is none.
type weighed struct {
	answer   diagnose.Answer
	sayable  []diagnose.Symptom
	readings int
	ok       bool
	err      error
}
