package server

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/controls"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/lesson"
	"brackmoor/core/load"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/stock"
	"brackmoor/core/study"
	"brackmoor/core/supply"
	"brackmoor/core/winding"
	"brackmoor/sheet"
)

// ShopHead is a shop without its machines.
type ShopHead struct {
	ID       string          `json:"id"`
	Name     string          `json:"name"`
	Supply   supply.Supply   `json:"supply"`
	Prices   feed.Prices     `json:"prices"`
	Samples  bool            `json:"sample_prices"` // the prices are the sample ones
	Weights  feed.Weights    `json:"weights"`
	Profiles []drive.Profile `json:"profiles" nullable:"false"` // of drives, its own
	Own      shop.Own        `json:"own"`
	Lines    LineNames       `json:"lines"`
	Version  int             `json:"version"`
}

// LineNames are what the lines a, b and c are called in a shop, and the pairs a–b, b–c and c–a.
type LineNames struct {
	A    string `json:"a"`
	B    string `json:"b"`
	Made string `json:"c"`
	AB   string `json:"ab"`
	BC   string `json:"bc"`
	CA   string `json:"ca"`
}

func linesOf(s supply.Supply) LineNames {
	lines := quantity.LinesAt(s.Hertz)
	pairs := lines.Pairs()
	return LineNames{lines.A, lines.B, lines.Made, pairs[0], pairs[1], pairs[2]}
}

func head(s shop.Shop) ShopHead {
	h := ShopHead{
		ID: s.ID, Name: s.Name, Supply: s.Supply.Settled(), Prices: s.Prices, Samples: s.Prices == feed.Prices{},
		Weights: s.Weights, Profiles: append([]drive.Profile{}, s.Profiles...), Own: s.Own, Version: s.Version,
		Lines: linesOf(s.Supply),
	}
	if s.Weights == (feed.Weights{}) {
		h.Weights = feed.SampleWeights
	}
	if h.Samples {
		h.Prices = feed.SamplePrices
	}
	return h
}

// MotorCard is a motor as its small plate on the Machines page shows it.
type MotorCard struct {
	ID      string        `json:"id"`
	Name    string        `json:"name"`
	Title   string        `json:"title"`
	Volts   string        `json:"volts"`
	Amps    string        `json:"amps"`
	RPM     string        `json:"rpm"`
	Stage   string        `json:"stage"`
	Step    string        `json:"step" enum:"plate,route,size"` // where it goes on
	Worst   rule.Severity `json:"worst" enum:",stop,caution,note"`
	Says    string        `json:"says" told:"figures"`
	Answer  string        `json:"answer" told:"figures"`
	Fed     string        `json:"fed"` // by a converter of the shop, "" for none
	Assumed int           `json:"assumed"`
	Pending bool          `json:"pending"` // not worked out yet: ask again

	said []said
}

// said is a verdict on a motor with the step where it is shown.
type said struct {
	verdict rule.Verdict
	step    string
}

// say keeps what is said of a motor on a step, but for what always holds.
func (c *MotorCard) say(step string, verdicts []rule.Verdict) {
	for _, v := range verdicts {
		if !v.Standing {
			c.said = append(c.said, said{v, step})
		}
	}
}

// MachineCard is a machine on the Machines page.
type MachineCard struct {
	ID      string      `json:"id"`
	Name    string      `json:"name"`
	Note    string      `json:"note"`
	Version int         `json:"version"`
	Motors  []MotorCard `json:"motors" nullable:"false"`
}

// ShopPage is a shop with its machines as cards.
type ShopPage struct {
	Shop     ShopHead      `json:"shop"`
	Machines []MachineCard `json:"machines" nullable:"false"`
	Pending  bool          `json:"pending"` // some cards are
}

// Choices are the fixed lists that the interface offers.
type Choices struct {
	Supplies  []supply.Kind           `json:"supplies" nullable:"false"`
	Regions   []supply.Region         `json:"regions" nullable:"false"`
	Classes   []supply.Class          `json:"classes" nullable:"false"`
	Earthings []supply.Earthing       `json:"earthings" nullable:"false"`
	Helps     []lesson.Help           `json:"helps" nullable:"false"`   // of each screen
	Reading   []quantity.ReaderChoice `json:"reading" nullable:"false"` // how a person reads figures
	Wires     []Wires                 `json:"wires" nullable:"false"`
	Loads     []load.Kind             `json:"loads" nullable:"false"`
	Checklist []shop.CheckItem        `json:"checklist" nullable:"false"`
	Rest      []plate.RestField       `json:"rest" nullable:"false"`      // further plate fields
	Condition []winding.Item          `json:"condition" nullable:"false"` // what is looked at before leads are joined
	Routes    []feed.Info             `json:"routes" nullable:"false"`
	Route     string                  `json:"route"` // taken while none is
	Wishes    []feed.Wish             `json:"wishes" nullable:"false"`
	Switches  []Choice                `json:"switches" nullable:"false"`  // of a machine's controls
	Functions []controls.Function     `json:"functions" nullable:"false"` // of its own controls, terminal by terminal
	Parts     []stock.Kind            `json:"parts" nullable:"false"`     // that stores hold
}

// Wires are the sizes of conductors in a country, by its hertz, and the unit of their length with how
// many of it a metre has.
type Wires struct {
	Hertz    float64  `json:"hertz"`
	Sizes    []string `json:"sizes" nullable:"false"`
	Unit     string   `json:"unit"`
	PerMetre float64  `json:"per_metre"`
}

func wires(hertz float64) Wires {
	unit, per := quantity.RunUnit(hertz)
	return Wires{hertz, supply.Sizes(hertz), unit, per}
}

// SupplyTested is what a heater told of a supply, and that in words.
type SupplyTested struct {
	supply.Tested
	Says string `json:"says" told:"figures"`
}

// Choice is one of a row, with its name for people.
type Choice struct {
	Name  string `json:"name"`
	Title string `json:"title"`
}

type body[T any] struct{ Body T }

// WithID names what an operation is about.
type WithID struct {
	ID string `path:"id" maxLength:"64"`
}

// Named is a name that a person gives.
type Named struct {
	Name string `json:"name" maxLength:"80"`
}

type shopChange struct {
	Named
	Supply  supply.Supply `json:"supply"`
	Version int           `json:"version"`
}

// sound is the name of a shop whose supply holds together.
func (c shopChange) sound() (string, error) {
	if problems := c.Supply.Problems(); len(problems) > 0 {
		return "", refusal("This supply does not hold together.", "body.supply.", problems)
	}
	return trimmed(c.Name)
}

func trimmed(name string) (string, error) {
	name = strings.TrimSpace(name)
	if name == "" {
		return "", huma.Error422UnprocessableEntity(
			"Give it a name.",
			&huma.ErrorDetail{Location: "body.name", Message: "Give it a name."},
		)
	}
	return name, nil
}

func operation(id, method, path, summary string) huma.Operation {
	o := huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, DefaultStatus: http.StatusOK}
	o.Errors = []int{404, 409, 422}
	o.MaxBodyBytes = bodyLimit
	return o
}

// withName registers an operation that gives a name to what it makes.
func withName[T any](
	s *service,
	api huma.API,
	o huma.Operation,
	do func(ctx context.Context, id, name string) (T, error),
) {
	huma.Register(api, o, func(ctx context.Context, in *struct {
		WithID
		Body Named
	}) (*body[T], error) {
		name, err := trimmed(in.Body.Name)
		if err != nil {
			return nil, err
		}
		made, err := do(ctx, in.ID, name)
		return &body[T]{made}, s.fault(ctx, err)
	})
}

// deletable registers the operations that delete what a path names and bring it
// back.
func (s *service) deletable(
	api huma.API,
	what, path string,
	remove, restore func(ctx context.Context, id string) error,
) {
	huma.Register(
		api,
		operation("delete"+what, "DELETE", path, "Delete it; it can be restored"),
		func(ctx context.Context, in *WithID) (*struct{}, error) {
			return nil, s.fault(ctx, remove(ctx, in.ID))
		},
	)
	huma.Register(
		api,
		operation("restore"+what, "POST", path+"/restore", "Bring it back"),
		func(ctx context.Context, in *WithID) (*struct{}, error) {
			return nil, s.fault(ctx, restore(ctx, in.ID))
		},
	)
}

func (s *service) shops(api huma.API) {
	huma.Register(
		api,
		operation("choices", "GET", "/choices", "The fixed lists that the interface offers"),
		func(context.Context, *struct{}) (*body[Choices], error) {
			c := Choices{
				Supplies:  supply.Kinds,
				Regions:   supply.Regions,
				Classes:   supply.Classes,
				Earthings: supply.Earthings,
				Helps:     lesson.Helps,
				Reading:   quantity.ReaderChoices,
				Wires:     []Wires{wires(50), wires(60)},
				Loads:     load.Kinds,
				Checklist: shop.Checklist,
				Rest:      plate.RestFields,
				Condition: winding.Conditions,
				Route:     feed.Default().Info().Name,
				Wishes:    feed.WishList,
				Functions: controls.Functions,
				Parts:     stock.Kinds,
			}
			for _, w := range feed.All() {
				c.Routes = append(c.Routes, w.Info())
			}
			for _, kind := range drive.Switches {
				c.Switches = append(c.Switches, Choice(kind))
			}
			return &body[Choices]{c}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"testSupply",
			"POST",
			"/supply-tests",
			"The ohms of a supply by volts without and with a heater on it",
		),
		func(_ context.Context, in *body[supply.Test]) (*body[SupplyTested], error) {
			if problems := in.Body.Validate(); len(problems) > 0 {
				details := []error{}
				for _, p := range problems {
					details = append(
						details,
						&huma.ErrorDetail{Location: "body." + p.Path, Message: "It " + p.Says + "."},
					)
				}
				return nil, huma.Error422UnprocessableEntity("These readings do not go together.", details...)
			}
			tested := in.Body.Ohms()
			says := tested.Says()
			for _, ohms := range []*float64{&tested.ResistanceOhm, &tested.ReactanceOhm} {
				*ohms = math.Round(1000**ohms) / 1000 // no meter tells more
			}
			return &body[SupplyTested]{SupplyTested{tested, says}}, nil
		},
	)
	huma.Register(
		api,
		operation("listShops", "GET", "/shops", "All shops"),
		func(ctx context.Context, _ *struct{}) (*body[[]ShopHead], error) {
			list, err := s.Store.Shops(ctx)
			heads := make([]ShopHead, 0, len(list))
			for _, sh := range list {
				heads = append(heads, head(sh))
			}
			return &body[[]ShopHead]{heads}, s.fault(ctx, err)
		},
	)
	huma.Register(
		api,
		operation("addShop", "POST", "/shops", "Add a shop"),
		func(ctx context.Context, in *body[shopChange]) (*body[ShopHead], error) {
			name, err := in.Body.sound()
			if err != nil {
				return nil, err
			}
			sh, err := s.Store.AddShop(ctx, name, in.Body.Supply.Settled())
			return &body[ShopHead]{head(sh)}, s.fault(ctx, err)
		},
	)
	huma.Register(
		api,
		operation("readShop", "GET", "/shops/{id}", "A shop with its machines"),
		func(ctx context.Context, in *WithID) (*body[ShopPage], error) {
			sh, err := s.Store.Shop(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			page := ShopPage{Shop: head(sh), Machines: []MachineCard{}}
			patience := time.Now().Add(cardTime)
			for _, m := range sh.Machines {
				card := MachineCard{ID: m.ID, Name: m.Name, Note: m.Note, Version: m.Version, Motors: []MotorCard{}}
				for _, motor := range m.Motors {
					one, err := s.card(ctx, sh, motor, time.Now().After(patience))
					if err != nil {
						return nil, s.fault(ctx, err)
					}
					page.Pending = page.Pending || one.Pending
					if one.Fed = fedBy(&sh.Site, m.ID, motor.ID); sh.Site.Idles(m.ID) {
						one.Answer = "" // it needs no way of its own
					}
					card.Motors = append(card.Motors, one)
				}
				page.Machines = append(page.Machines, card)
			}
			return &body[ShopPage]{page}, nil
		},
	)
	huma.Register(
		api,
		operation("changeShop", "PUT", "/shops/{id}", "Change a shop's name and supply"),
		func(ctx context.Context, in *struct {
			WithID
			Body shopChange
		}) (*body[ShopHead], error) {
			name, err := in.Body.sound()
			if err != nil {
				return nil, err
			}
			sh, err := s.Store.ChangeShop(ctx, in.ID, in.Body.Version, name, in.Body.Supply.Settled())
			return &body[ShopHead]{head(sh)}, s.fault(ctx, err)
		},
	)
	s.deletable(api, "Shop", "/shops/{id}", s.Store.DeleteShop, s.Store.RestoreShop)
	withName(
		s,
		api,
		operation("copyShop", "POST", "/shops/{id}/copy", "Copy a shop under a new name"),
		func(ctx context.Context, id, name string) (ShopHead, error) {
			sh, err := s.Store.DuplicateShop(ctx, id, name)
			return head(sh), err
		},
	)
}

// fedBy says that a motor hangs on a converter, or idles in one, whatever way is taken for it;
// empty where neither is so.
func fedBy(s *site.Site, machine, motor string) string {
	for _, c := range s.Converters {
		if c.Idler == machine && machine != "" {
			return "idles in " + c.Name
		}
	}
	if c := s.Converter(s.Place(machine, motor).On); c != nil {
		return "on " + c.Name
	}
	return ""
}

// mostCards is how many cards are remembered: those of a shop that is full. cardTime is how long a
// list waits for those that are not known yet; it shows without the rest, which come as it is
// asked for again.
const (
	mostCards = shop.MostMachines * shop.MostMotors
	cardTime  = 150 * time.Millisecond
)

// card is a motor for the Machines page, remembered by all that it is made from. One that is
// not known is what is typed alone where there is no time to work it out.
func (s *service) card(ctx context.Context, sh shop.Shop, m shop.Motor, late bool) (MotorCard, error) {
	id, name := m.ID, m.Name
	m.ID, m.Name, m.Version = "", "", 0 // of what it is made from, no part
	all, err := json.Marshal([]any{sh.Supply, sh.Own, m})
	if err != nil {
		return MotorCard{}, err
	}
	key := sha256.Sum256(all)
	if late && !s.cards.has(key) {
		return MotorCard{
			ID: id, Name: name, Title: m.Plate.Output, Volts: m.Plate.Volts, Amps: m.Plate.Amps, RPM: m.Plate.RPM,
			Stage: "being worked out", Step: "plate", Pending: true,
		}, nil
	}
	card, err := s.cards.get(ctx, key, slotted(s.slots, func(stop halt.Sign) MotorCard {
		return s.study(sh, m, stop)
	}))
	card.ID, card.Name = id, name
	return card, err
}

func (s *service) study(sh shop.Shop, m shop.Motor, stop halt.Sign) MotorCard {
	st := study.Of(sh.Supply, m, s.fit, sh.Own.Loads...)
	st.Machine.Stop = stop
	card := MotorCard{
		ID:      m.ID,
		Name:    m.Name,
		Title:   st.Reading.Title,
		Volts:   m.Plate.Volts,
		Amps:    m.Plate.Amps,
		RPM:     m.Plate.RPM,
		Stage:   st.Stage(m),
		Step:    "plate",
		Assumed: len(st.Reading.Assumed),
	}
	verdicts := st.Reading.Verdicts
	card.say("leads", st.LeadVerdicts())
	card.say("plate", slices.DeleteFunc(slices.Clone(verdicts), func(v rule.Verdict) bool {
		return strings.HasPrefix(v.Rule, "leads.")
	}))
	if st.Reading.Sound {
		q := st.Ask(shop.Shop{Supply: sh.Supply, Own: sh.Own}, shop.Machine{})
		brief, said, err := sheet.Brief(q)
		if err != nil {
			brief = "see its Size step"
		}
		if m.Way.Route == "" {
			brief = "not taken; would be " + brief // a size of what nobody has taken is none yet
		}
		card.Answer = brief
		card.Step = "route"
		if m.Way.Route != "" { // what is said of a way is said of one that somebody has taken
			card.Step = "size"
			said = feed.Said(q.Choice.Taken(), q, said)
			card.say("size", said)
			verdicts = append(append([]rule.Verdict{}, verdicts...), said...)
		}
	}
	if sorted := rule.Sorted(verdicts); len(sorted) > 0 {
		card.Worst, card.Says = sorted[0].Severity, sorted[0].Title
	} else if len(st.Reading.Problems) > 0 {
		card.Says = st.Reading.Problems[0].Says
	}
	return card
}
