package server

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/daybook"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/machine"
	"brackmoor/core/prove"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/study"
	"brackmoor/core/supply"
	"brackmoor/store"
)

// Proof is what was read on a motor beside what was foretold, and what was learned of it and counts everywhere.
type Proof struct {
	prove.Page
	Machine   string           `json:"machine"`
	MachineID string           `json:"machine_id"`
	Taken     *machine.Learned `json:"taken"`
}

func (s *service) prove(api huma.API) {
	huma.Register(
		api,
		operation("proveMotor", "GET", "/motors/{id}/prove", "What was read on a motor beside what was foretold"),
		func(ctx context.Context, in *WithID) (*body[Proof], error) {
			page, err := s.provedAs(ctx, in.ID)
			return &body[Proof]{page}, err
		},
	)
	huma.Register(
		api,
		operation("addReading", "POST", "/motors/{id}/readings",
			"Write down what was read; one that is sent twice is written once"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				prove.Reading
				// In is the unit of a figure, by its place, where it was read in another than the place's.
				In map[string]string `json:"in,omitempty"`
			}
		}) (*body[Proof], error) {
			in.Body.Hand = byHand(ctx, in.Body.Hand)
			if problems := append(in.Body.Check(), in.Body.From(in.Body.In)...); problems != nil {
				return nil, refusal("It could not be written down.", "body.", problems)
			}
			if at, _ := time.Parse(time.RFC3339, in.Body.At); at.After(s.Now().Add(24 * time.Hour)) {
				return nil, refusal("It could not be written down.", "body.",
					rule.Problems{{Path: "at", Says: "lies in the future"}})
			}
			if err := s.Store.AddReading(ctx, in.ID, in.Body.Reading); err != nil {
				return nil, s.fault(ctx, err)
			}
			page, err := s.provedAs(ctx, in.ID)
			return &body[Proof]{page}, err
		},
	)
	huma.Register(
		api,
		operation("fitBank", "POST", "/motors/{id}/bank",
			"Say that other capacitors are in on a motor's way now; it is written down"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				ID   string  `json:"id" minLength:"1" maxLength:"64"`
				Hand string  `json:"hand" maxLength:"40"`
				AC   float64 `json:"ac_microfarad" minimum:"0" maximum:"5000"`
				BC   float64 `json:"bc_microfarad" minimum:"0" maximum:"5000"`
			}
		}) (*body[Proof], error) {
			page, err := s.provedAs(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var problems rule.Problems
			if byHand(ctx, in.Body.Hand) == "" {
				problems.Say("hand", "who changed them is not said")
			}
			if len(page.Banks) == 0 {
				problems.Say("ac_microfarad", "no capacitor is on this way that could be changed")
			}
			if problems != nil {
				return nil, refusal("It could not be written down.", "body.", problems)
			}
			words := []string{}
			for _, b := range page.Banks {
				now := map[string]float64{"ac": in.Body.AC, "bc": in.Body.BC}[b.Name]
				words = append(words, fmt.Sprintf("%s from %s to %s µF", b.Title, quantity.Figures(b.Microfarad, 4),
					quantity.Figures(now, 4)))
			}
			if err := s.Store.FitBank(ctx, in.ID, in.Body.AC, in.Body.BC, daybook.Entry{
				ID: in.Body.ID, At: s.Now().UTC().Format(time.RFC3339), Hand: byHand(ctx, in.Body.Hand),
				Says: "Capacitors changed: " + strings.Join(words, "; ") + ".",
			}); err != nil {
				return nil, s.fault(ctx, err)
			}
			page, err = s.provedAs(ctx, in.ID)
			return &body[Proof]{page}, err
		},
	)
	huma.Register(
		api,
		operation("readMeterLog", "POST", "/motors/{id}/meter-log",
			"What a logging meter’s table comes to as a reading of a state; nothing is kept"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				State string `json:"state" maxLength:"20"`
				Text  string `json:"text"`
			}
		}) (*body[prove.Log], error) {
			p, err := s.Store.Motor(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			log, problems := prove.ReadLog(in.Body.Text, in.Body.State, p.Shop.Supply.Hertz)
			if problems != nil {
				return nil, refusal("The table could not be read.", "body.", problems)
			}
			return &body[prove.Log]{log}, nil
		},
	)
	huma.Register(
		api,
		operation("learnMotor", "POST", "/motors/{id}/learned",
			"Take what readings told of a motor in the place of what its plate gives, or lay it aside"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				Take bool   `json:"take"`
				Hand string `json:"hand" maxLength:"40"`
			}
		}) (*body[Proof], error) {
			page, err := s.provedAs(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var taken *machine.Learned
			if in.Body.Take {
				var problems rule.Problems
				if page.Fitted == nil {
					problems.Say("take", "nothing is read that a machine could be learned from")
				}
				if byHand(ctx, in.Body.Hand) == "" {
					problems.Say("hand", "who takes it is not said")
				}
				if problems != nil {
					return nil, refusal("It could not be taken.", "body.", problems)
				}
				taken = page.Fitted
				taken.At, taken.Hand = s.Now().UTC().Format(time.RFC3339), byHand(ctx, in.Body.Hand)
			}
			if err := s.Store.Learn(ctx, in.ID, taken); err != nil {
				return nil, s.fault(ctx, err)
			}
			page.Taken = taken
			return &body[Proof]{page}, nil
		},
	)
}

// asRead is a motor on its way as it hangs in its shop, with what was read on it.
type asRead struct {
	place    store.Place
	q        *feed.Question
	readings []prove.Reading
}

// readAs is that; plain is as its plate has it. What is foretold beside readings is foretold from that: what was
// learned before would count twice.
func (s *service) readAs(ctx context.Context, id string, plain bool) (at asRead, err error) {
	_, place, q, err := s.questionAs(ctx, id, plain)
	if err != nil {
		return at, err
	}
	if err := s.wholeOnConverter(ctx, &place, id); err != nil {
		return at, err
	}
	readings, err := s.Store.Readings(ctx, id)
	if err != nil {
		return at, s.fault(ctx, err)
	}
	as := place.Shop.WiredBy(place.Machine, id, q)
	on := place.Shop.Site.Converter(place.Shop.Site.Place(place.Machine.ID, id).On)
	return asRead{place, s.idledBy(as, &place.Shop, on), readings}, nil
}

// provedAs is a motor beside what was read on it.
func (s *service) provedAs(ctx context.Context, id string) (page Proof, err error) {
	at, err := s.readAs(ctx, id, true)
	if err != nil {
		return page, err
	}
	made, err := slotted(s.slots, func(stop halt.Sign) proven {
		page, err := prove.Of(at.q.Until(stop), at.readings)
		return proven{page, err}
	})(ctx)
	if err != nil {
		return page, s.fault(ctx, err)
	}
	m := &at.place.Machine
	return Proof{made.page, m.Name, m.ID, at.place.Motor.Learned}, s.fault(ctx, made.err)
}

// proven is a page, or why there is none.
type proven struct {
	page prove.Page
	err  error
}

// idledBy is a question with the idler of the converter of its shop that it hangs on, by that motor's own plate, where
// it has a sound one.
func (s *service) idledBy(q *feed.Question, sh *shop.Shop, on *site.Converter) *feed.Question {
	if on == nil {
		return q
	}
	m := sh.Idles(on)
	if m == nil {
		return q
	}
	su, stepped := sh.Supply, q.Stepped()
	if volts := stepped.Supply.Volts; volts != su.Volts {
		su.Volts, su.Class = volts, supply.Own
	}
	st := study.Of(su, m.Motors[0], s.fit, sh.Own.Loads...)
	if !st.Reading.Sound {
		return q
	}
	return q.With(func(q *feed.Question) { q.Fed.Idler = new(st.Idler("idler")) })
}

// wholeOnConverter reads the machines of a shop whose converter a motor hangs on: its idler is one of them.
func (s *service) wholeOnConverter(ctx context.Context, place *store.Place, id string) error {
	if place.Shop.Site.Converter(place.Shop.Site.Place(place.Machine.ID, id).On) == nil {
		return nil
	}
	whole, err := s.Store.Shop(ctx, place.Shop.ID)
	if err != nil {
		return s.fault(ctx, err)
	}
	place.Shop.Machines = whole.Machines
	return nil
}
