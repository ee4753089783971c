package server

import (
	"context"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/daybook"
	"brackmoor/core/halt"
	"brackmoor/core/prove"
	"brackmoor/core/rule"
	"brackmoor/store"
)

// Acceptance is whether a machine is accepted, and how it was signed last; nil for never. Since says why that no longer
// holds as it was signed.
type Acceptance struct {
	prove.Acceptance
	Signed *store.Line `json:"signed"`
	Since  string      `json:"since"`
}

func (s *service) acceptance(api huma.API) {
	huma.Register(
		api,
		operation("acceptanceOfMotor", "GET", "/motors/{id}/acceptance",
			"Whether a motor is accepted on its way by what was read and done"),
		func(ctx context.Context, in *WithID) (*body[Acceptance], error) {
			_, a, err := s.acceptedAs(ctx, in.ID)
			return &body[Acceptance]{a}, err
		},
	)
	huma.Register(
		api,
		operation("signMotor", "POST", "/motors/{id}/acceptance",
			"Sign that a motor is accepted, within its limits, or that it failed"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				ID   string `json:"id" minLength:"1" maxLength:"64"`
				Hand string `json:"hand" maxLength:"40"`
				Note string `json:"note" maxLength:"500"`
			}
		}) (*body[Acceptance], error) {
			place, a, err := s.acceptedAs(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var problems rule.Problems
			if byHand(ctx, in.Body.Hand) == "" {
				problems.Say("hand", "who signs is not said")
			}
			if a.Verdict == prove.NotYet {
				var open []string
				for _, n := range a.Needs {
					if !n.Done {
						open = append(open, rule.InSentence(n.Title))
					}
				}
				problems.Say("hand", "nothing is signed yet: %s is missing", strings.Join(open, ", "))
			}
			if problems != nil {
				return nil, refusal("It could not be signed.", "body.", problems)
			}
			signed := a.Sign()
			says := signed.Words()
			if note := strings.TrimSpace(in.Body.Note); note != "" {
				says += " " + note
			}
			if err := s.Store.AddEntry(ctx, place.Shop.ID, daybook.Entry{
				ID: in.Body.ID, At: s.Now().UTC().Format(time.RFC3339), Hand: byHand(ctx, in.Body.Hand),
				Kind: daybook.Accepted, Machine: place.Machine.ID, Motor: in.ID, Says: daybook.Cut(says),
				More: daybook.More{Signed: signed},
			}); err != nil {
				return nil, s.fault(ctx, err)
			}
			_, a, err = s.acceptedAs(ctx, in.ID)
			return &body[Acceptance]{a}, err
		},
	)
}

// acceptedAs judges a motor by its readings, its checks and its first run.
func (s *service) acceptedAs(ctx context.Context, id string) (place store.Place, a Acceptance, err error) {
	at, err := s.readAs(ctx, id, true)
	if err != nil {
		return place, a, err
	}
	wired, err := s.wiredAs(ctx, id)
	if err != nil {
		return place, a, err
	}
	place = at.place
	lines, err := s.Store.Entries(ctx, place.Shop.ID, daybook.Sought{Motor: id, Kind: daybook.Step}, 1000)
	if err != nil {
		return place, a, s.fault(ctx, err)
	}
	done := prove.Done{
		Checks: len(wired.Work.Checks), Passed: passed(wired.Work.Checks, place.Motor.Built),
		Steps: len(wired.Work.Powering), Failed: []string{}, Stops: wired.Stops(at.q, nil),
	}
	for i := range wired.Work.Powering {
		step := &wired.Work.Powering[i]
		switch l := lastOf(step.Key(), lines); {
		case l == nil:
		case l.Went == daybook.NotWell:
			done.Failed = append(done.Failed, l.Says)
		default:
			done.Well++
		}
	}
	made, err := slotted(s.slots, func(stop halt.Sign) judged {
		a, err := prove.Accept(at.q.Until(stop), at.readings, done)
		return judged{a, err}
	})(ctx)
	if err == nil {
		err = made.err
	}
	if err != nil {
		return place, a, s.fault(ctx, err)
	}
	a.Acceptance = made.of
	if a.Signed, err = s.Store.Signed(ctx, place.Shop.ID, id); err != nil {
		return place, a, s.fault(ctx, err)
	}
	if a.Signed != nil && a.Signed.Signed != nil {
		a.Since = a.Acceptance.Since(a.Signed.Signed)
	}
	return place, a, nil
}

// judged is an acceptance, or why there is none.
type judged struct {
	of  prove.Acceptance
	err error
}
