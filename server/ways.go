package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
	"brackmoor/core/study"
	"brackmoor/core/waveform"
	"brackmoor/store"
)

// asked is a motor at a version, with the motors beside it, in a shop at a version.
type asked struct {
	motor, motors string
	shop          int
}

// sized is that on one way.
type sized struct {
	asked
	way string
}

type paged struct {
	page feed.Page
	err  error
}

type opened struct {
	after feed.After
	err   error
}

// Trial is what is tried by hand in place of what was chosen; what is left out stays.
type Trial struct {
	RunMicrofarad   *float64 `json:"run_microfarad,omitempty" minimum:"0" maximum:"5000"`
	StartMicrofarad *float64 `json:"start_microfarad,omitempty" minimum:"0" maximum:"5000"`
	IdlerWatts      *float64 `json:"idler_watts,omitempty" minimum:"100" maximum:"100000"`
	BalanceAC       *float64 `json:"balance_ac_microfarad,omitempty" minimum:"0" maximum:"5000"`
	BalanceBC       *float64 `json:"balance_bc_microfarad,omitempty" minimum:"0" maximum:"5000"`
	SecondAC        *float64 `json:"second_ac_microfarad,omitempty" minimum:"0" maximum:"5000"`
	SecondBC        *float64 `json:"second_bc_microfarad,omitempty" minimum:"0" maximum:"5000"`
	LoadShare       *float64 `json:"load_share,omitempty" minimum:"0" maximum:"1"`
	BusMicrofarad   *float64 `json:"bus_microfarad,omitempty" minimum:"50" maximum:"50000"`
}

// into is a question on a way with the trial in the place of what was chosen.
func (t Trial) into(q *feed.Question, w feed.Way) *feed.Question {
	return q.With(func(tried *feed.Question) {
		tried.Bank, tried.Choice.Route = q.For(w).Bank, w.Info().Name
		for _, c := range []struct{ to, from *(*float64) }{
			{&tried.Bank.RunMicrofarad, &t.RunMicrofarad}, {&tried.Bank.StartMicrofarad, &t.StartMicrofarad},
			{&tried.Choice.IdlerWatts, &t.IdlerWatts}, {&tried.Choice.BalanceAC, &t.BalanceAC},
			{&tried.Choice.BalanceBC, &t.BalanceBC}, {&tried.LoadShare, &t.LoadShare},
			{&tried.Choice.SecondAC, &t.SecondAC}, {&tried.Choice.SecondBC, &t.SecondBC},
			{&tried.Choice.BusMicrofarad, &t.BusMicrofarad},
		} {
			if *c.from != nil {
				*c.to = *c.from
			}
		}
	})
}

// studied reads a motor and studies it; it must have a sound plate.
func (s *service) studied(ctx context.Context, id string) (store.Place, study.Study, error) {
	p, err := s.Store.Motor(ctx, id)
	if err != nil {
		return p, study.Study{}, s.fault(ctx, err)
	}
	st := study.Of(p.Shop.Supply, p.Motor, s.fit, p.Shop.Own.Loads...)
	if !st.Reading.Sound {
		return p, st, s.fault(ctx, errUnsound)
	}
	return p, st, nil
}

// errUnsound says that nothing can be worked out of a plate as it stands.
var errUnsound = errors.New("the plate is not sound")

// question is a motor as the ways of feeding are asked about it, remembered with what they
// work out.
func (s *service) question(ctx context.Context, id string) (asked, store.Place, *feed.Question, error) {
	return s.questionAs(ctx, id, false)
}

// questionAs is that, or, plain, of the motor as its plate has it, whatever was learned of it.
func (s *service) questionAs(ctx context.Context, id string, plain bool) (asked, store.Place, *feed.Question, error) {
	p, err := s.Store.Motor(ctx, id)
	if err != nil {
		return asked{}, p, nil, s.fault(ctx, err)
	}
	key := asked{motor: id, shop: p.Shop.Version}
	of := p.Motor
	if plain && of.Learned != nil {
		key.motors, of.Learned = "plain ", nil
	}
	for _, m := range p.Machine.Motors {
		key.motors += fmt.Sprint(m.ID, " ", m.Computed(), " ")
	}
	q, err := s.questions.get(ctx, key, func(context.Context) (*feed.Question, error) {
		st := study.Of(p.Shop.Supply, of, s.fit, p.Shop.Own.Loads...)
		if !st.Reading.Sound {
			return nil, errUnsound
		}
		return st.Ask(p.Shop, p.Machine), nil
	})
	return key, p, q, s.fault(ctx, err)
}

// OnWay is a motor's question and the way that a path names.
type OnWay struct {
	WithID
	Way string `path:"way" maxLength:"40"`
}

func (s *service) onWay(ctx context.Context, in OnWay) (sized, *feed.Question, feed.Way, error) {
	w, ok := feed.ByName(in.Way)
	if !ok {
		return sized{}, nil, nil, huma.Error404NotFound("There is no such way of feeding.")
	}
	key, _, q, err := s.question(ctx, in.ID)
	return sized{key, in.Way}, q, w, err
}

func (s *service) ways(api huma.API) {
	huma.Register(
		api,
		operation(
			"routesOfMotor",
			"POST",
			"/motors/{id}/routes",
			"The ways of feeding a motor side by side, ranked by what is sent as mattering; nothing is kept",
		),
		func(ctx context.Context, in *struct {
			WithID
			Body feed.Matters
		}) (*body[compare.Answer], error) {
			_, p, q, err := s.question(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			in.Body.Controls.Motors = q.Matters.Controls.Motors
			matters := q.With(func(q *feed.Question) { q.Matters = in.Body })
			matters = feed.Ask(*matters)
			// They are worked out once for a plate, a load and a supply; judging them anew is quick.
			bare := p.Motor.Bare()
			bare.Matters, bare.Mine, bare.Name, bare.Way.Kept = feed.Matters{}, nil, "", nil
			bare.Built, bare.Own = nil, nil
			key, err := json.Marshal([]any{bare, p.Shop.Supply, p.Shop.Prices})
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			worked, err := s.routes.get(ctx, string(key), slotted(s.slots, func(stop halt.Sign) []compare.Worked {
				return compare.Work(matters.Until(stop))
			}))
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			return &body[compare.Answer]{compare.Rank(matters, worked)}, nil
		},
	)
	huma.Register(
		api,
		operation("sizeWay", "GET", "/motors/{id}/ways/{way}", "A way of feeding sized for a motor"),
		func(ctx context.Context, in *OnWay) (*body[feed.Page], error) {
			key, q, w, err := s.onWay(ctx, *in)
			if err != nil {
				return nil, err
			}
			made, err := s.pages.get(ctx, key, slotted(s.slots, func(stop halt.Sign) paged {
				q := q.Until(stop)
				page, err := w.Size(q)
				page.Verdicts = feed.Said(w, q, page.Verdicts)
				return paged{page, err}
			}))
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			if made.err != nil {
				return nil, s.unstepped(ctx, made.err)
			}
			return &body[feed.Page]{made.page}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"tryWay",
			"POST",
			"/motors/{id}/ways/{way}/trial",
			"What follows the hand on a way, with what is sent in the place of what was chosen; nothing is kept",
		),
		func(ctx context.Context, in *struct {
			OnWay
			Body Trial
		}) (*body[feed.Page], error) {
			_, q, w, err := s.onWay(ctx, in.OnWay)
			if err != nil {
				return nil, err
			}
			page, err := w.Try(in.Body.into(q.Until(ctx.Done()), w))
			page.Verdicts = feed.Said(w, q, page.Verdicts)
			if err != nil {
				return nil, s.unstepped(ctx, err)
			}
			return &body[feed.Page]{page}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"switchOffWay",
			"GET",
			"/motors/{id}/ways/{way}/off",
			"What the terminals do once the supply opens on the unloaded motor, where its answer leaves that out",
		),
		func(ctx context.Context, in *OnWay) (*body[feed.After], error) {
			key, q, w, err := s.onWay(ctx, *in)
			if err != nil {
				return nil, err
			}
			watched, ok := w.(feed.Watched)
			if !ok {
				return &body[feed.After]{feed.After{Verdicts: []rule.Verdict{}}}, nil
			}
			made, err := s.offs.get(ctx, key, slotted(s.slots, func(stop halt.Sign) opened {
				after, err := watched.SwitchOff(q.Until(stop))
				return opened{after, err}
			}))
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			if made.err != nil {
				return nil, s.unstepped(ctx, made.err)
			}
			return &body[feed.After]{made.after}, nil
		},
	)
}

// unstepped words a case that could not be stepped through.
func (s *service) unstepped(ctx context.Context, err error) error {
	for _, known := range []error{rectifier.ErrCollapse, rectifier.ErrSwing, rectifier.ErrBudget} {
		if errors.Is(err, known) {
			return huma.Error409Conflict("The drive's front end finds no steady state here: " + known.Error() + ".")
		}
	}
	if errors.Is(err, waveform.ErrBudget) {
		return huma.Error409Conflict(
			"This takes more steps through time than are spent on one: try other capacitors or a lighter load.",
		)
	}
	return s.fault(ctx, err)
}
