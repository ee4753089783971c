package server

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/bench"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/lesson"
	"brackmoor/core/prove"
	"brackmoor/core/shop"
	"brackmoor/core/study"
)

// Rigged is a rig that stands on the Bench: a motor of the shop on its way, a little off its plate by a seed.
type Rigged struct {
	ID      string    `json:"id"`
	Shop    string    `json:"shop"`
	Machine string    `json:"machine"`
	Motor   string    `json:"motor"`
	Title   string    `json:"title"`
	Way     string    `json:"way"`
	Seed    uint64    `json:"seed"`
	Lines   [3]string `json:"lines" nullable:"false"` // what a, b and c are called
	Pairs   [3]string `json:"pairs" nullable:"false"`
	Earths  []string  `json:"earths" nullable:"false"` // its lines to earth, none where it is not earthed
}

// RigPicture is a rig as it stands. Meters are what those show that are asked for with it, traces the signals.
type RigPicture struct {
	Rigged
	bench.Picture
	Pace     float64                `json:"pace"` // of time; 0 is paused
	Signals  []string               `json:"signals" nullable:"false"`
	Traces   []bench.Trace          `json:"traces" nullable:"false"`
	PerCycle int                    `json:"per_cycle"` // samples of a trace
	Meters   map[string]bench.Shown `json:"meters"`
	Says     string                 `json:"says" told:"figures"`
	Hidden   string                 `json:"hidden"` // what was planted, for a teacher; "" for anybody else
}

// rigged is a rig in the time of a clock.
type rigged struct {
	Rigged
	mu       sync.Mutex
	b        *bench.Bench
	q        *feed.Question
	now      func() time.Time
	last     time.Time
	pace     float64
	readings []prove.Reading
	plant    string
	timer    *time.Timer
	done     chan struct{}
}

// Of rigs: how often one is brought up to now by itself, and how far it catches up at most.
const (
	rigEvery   = 50 * time.Millisecond
	rigCatchUp = 400 * time.Millisecond
)

// run keeps it up with the clock.
func (r *rigged) run() {
	tick := time.NewTicker(rigEvery)
	defer tick.Stop()
	for {
		select {
		case <-r.done:
			return
		case <-tick.C:
			r.mu.Lock()
			r.catchUp()
			r.mu.Unlock()
		}
	}
}

// catchUp brings it up to now, at its pace; one that has no next step stands still.
func (r *rigged) catchUp() {
	now := r.now()
	behind := min(now.Sub(r.last), rigCatchUp)
	r.last = now
	if r.pace > 0 && r.b.Advance(behind.Seconds()*r.pace) != nil {
		r.pace = 0
	}
}

// picture does something to it and looks at it.
func (r *rigged) picture(probes, signals []string, do func() string) RigPicture {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.catchUp()
	says := ""
	if do != nil {
		says = do()
	}
	p := RigPicture{
		Rigged: r.Rigged, Picture: r.b.Picture(), Pace: r.pace, Signals: r.b.Signals(), Traces: r.b.Traces(signals),
		Meters: map[string]bench.Shown{}, PerCycle: bench.PerCycle, Says: says,
	}
	for _, probe := range probes {
		meter, at, _ := strings.Cut(probe, ":")
		// Only what may lie on a live circuit is read again and again.
		if slices.ContainsFunc(bench.Meters, func(m bench.Meter) bool { return m.Name == meter && m.Lies }) {
			p.Meters[probe] = r.b.Read(meter, at)
		}
	}
	return p
}

// findRig is one by its id, kept standing.
func (b *benches) findRig(id string) (*rigged, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, r := range b.rigs {
		if r.ID == id {
			r.timer.Reset(forgotten)
			return r, nil
		}
	}
	return nil, huma.Error404NotFound("This rig does not stand on the Bench any more.")
}

// clearRig takes one down.
func (b *benches) clearRig(id string) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for i, r := range b.rigs {
		if r.ID == id {
			b.rigs = append(b.rigs[:i:i], b.rigs[i+1:]...)
			r.timer.Stop()
			close(r.done)
			return
		}
	}
}

// invented is a machine that nobody has, by a seed, on a shop's supply and on a converter with an idler of its own.
func (s *service) invented(ctx context.Context, shopID string, seed uint64) (at asRead, err error) {
	sh, err := s.Store.Shop(ctx, shopID)
	if err != nil {
		return at, s.fault(ctx, err)
	}
	m := shop.Motor{Plate: lesson.Invented(seed, sh.Supply.Hertz)}
	for _, w := range feed.All() {
		if _, idled := w.(feed.Idled); idled {
			m.Way.Route = w.Info().Name
			break
		}
	}
	st := study.Of(sh.Supply, m, s.fit)
	if !st.Reading.Sound {
		return at, huma.Error409Conflict(
			"No machine is invented for this supply: the made-up ones are for 230 and 240 V.",
		)
	}
	at.place.Shop, at.q = sh, st.Ask(sh, shop.Machine{Motors: []shop.Motor{m}})
	at.place.Machine.Name = "Invented, " + m.Plate.Output
	return at, nil
}

// rig puts a motor on its way on the Bench, or, for none, an invented one.
func (s *service) rig(ctx context.Context, in rigging) (*rigged, error) {
	motor, plant, seed := in.Motor, in.Plant, in.Seed
	at, err := asRead{}, error(nil)
	if motor == "" {
		at, err = s.invented(ctx, in.Shop, seed)
	} else {
		at, err = s.readAs(ctx, motor, true)
	}
	if err != nil {
		return nil, err
	}
	var draw func() float64
	if seed != 0 {
		draw = rand.New(rand.NewPCG(seed, 1)).Float64
	}
	if !slices.ContainsFunc(prove.Plants, func(p prove.Plant) bool { return p.Name == plant }) {
		return nil, huma.Error422UnprocessableEntity("It was not rigged.", &huma.ErrorDetail{
			Location: "body.plant", Message: "There is no such fault to plant.",
		})
	}
	c, clipped, err := prove.Rig(at.q, plant, draw)
	if err != nil {
		return nil, huma.Error409Conflict(err.Error() + ".")
	}
	s.bench.mu.Lock()
	defer s.bench.mu.Unlock()
	if len(s.bench.rigs) >= mostDrives {
		return nil, huma.Error409Conflict(fmt.Sprintf("%d rigs stand on the Bench: clear one first.", mostDrives))
	}
	s.bench.next++
	lines := at.q.Lines()
	r := &rigged{
		b: bench.New(c), q: at.q, now: time.Now, last: time.Now(), pace: 1, plant: plant, done: make(chan struct{}),
		Rigged: Rigged{
			ID: fmt.Sprintf("rig-%d", s.bench.next), Shop: at.place.Shop.ID, Machine: at.place.Machine.ID, Motor: motor,
			Title: titleOf(at.place), Way: at.q.Choice.Taken().Info().Title, Seed: seed,
			Lines: lines.Marks, Pairs: lines.Pairs(), Earths: []string{},
		},
	}
	if r.b.Earthed() {
		for _, line := range []string{lines.A, lines.B, lines.Made} {
			r.Earths = append(r.Earths, line+"–earth")
		}
	}
	for _, d := range clipped {
		r.b.Do(d)
	}
	r.timer = time.AfterFunc(forgotten, func() { s.bench.clearRig(r.ID) })
	s.bench.rigs = append(s.bench.rigs, r)
	go r.run()
	return r, nil
}

// rigging is what is asked for: a motor of the shop, or "" for one that is invented by the seed; and what is hidden.
type rigging struct {
	Shop  string `json:"shop" minLength:"1" maxLength:"64"`
	Motor string `json:"motor" maxLength:"64"`
	Plant string `json:"plant" maxLength:"40"`
	Seed  uint64 `json:"seed" maximum:"9007199254740991"`
}

// BenchRigs are the rigs that stand on the Bench, what can be hidden in one, and the meters that lie there.
type BenchRigs struct {
	Rigs   []Rigged      `json:"rigs" nullable:"false"`
	Plants []prove.Plant `json:"plants" nullable:"false"`
	Meters []bench.Meter `json:"meters" nullable:"false"`
}

// OnRig is a rig, and what is looked at with it. Teacher sees what is hidden.
type OnRig struct {
	Teacher bool   `query:"teacher"`
	ID      string `path:"id" maxLength:"64"`
	Probes  string `query:"probes" maxLength:"400"`  // instrument:place, parted by commas
	Signals string `query:"signals" maxLength:"200"` // of the scope, parted by commas
}

func parted(list string) []string {
	if list == "" {
		return nil
	}
	return strings.Split(list, ",")
}

func (s *service) rigs(api huma.API) {
	huma.Register(
		api,
		operation(
			"benchRigs",
			"GET",
			"/bench/rigs",
			"The rigs that stand on the Bench, and the faults that can be planted",
		),
		func(context.Context, *struct{}) (*body[BenchRigs], error) {
			list := BenchRigs{[]Rigged{}, prove.Plants, bench.Meters}
			s.bench.mu.Lock()
			defer s.bench.mu.Unlock()
			for _, r := range s.bench.rigs {
				list.Rigs = append(list.Rigs, r.Rigged)
			}
			return &body[BenchRigs]{list}, nil
		},
	)
	huma.Register(
		api,
		operation("rigMotor", "POST", "/bench/rigs", "Put a motor on its way on the Bench"),
		func(ctx context.Context, in *struct {
			Body rigging
		}) (*body[RigPicture], error) {
			r, err := s.rig(ctx, in.Body)
			if err != nil {
				return nil, err
			}
			return &body[RigPicture]{r.picture(nil, nil, nil)}, nil
		},
	)
	look := func(in *OnRig, do func(r *rigged) string) (*body[RigPicture], error) {
		r, err := s.bench.findRig(in.ID)
		if err != nil {
			return nil, err
		}
		p := r.picture(parted(in.Probes), parted(in.Signals), func() string { return do(r) })
		for _, x := range prove.Plants {
			if in.Teacher && x.Name == r.plant {
				p.Hidden = x.Title
			}
		}
		for i := range p.Motors {
			if !in.Teacher {
				p.Motors[i].Winding = 0
			}
		}
		return &body[RigPicture]{p}, nil
	}
	huma.Register(
		api,
		operation("benchRig", "GET", "/bench/rigs/{id}", "A rig as it stands now, with what its meters show"),
		func(_ context.Context, in *OnRig) (*body[RigPicture], error) {
			return look(in, func(*rigged) string { return "" })
		},
	)
	huma.Register(
		api,
		operation("clearRig", "DELETE", "/bench/rigs/{id}", "Take a rig off the Bench"),
		func(_ context.Context, in *OnRig) (*body[struct{}], error) {
			s.bench.clearRig(in.ID)
			return &body[struct{}]{}, nil
		},
	)
	huma.Register(
		api,
		operation("doToRig", "POST", "/bench/rigs/{id}/doings", "Do something to a rig: a switch, a can, a shaft"),
		func(_ context.Context, in *struct {
			OnRig
			Body bench.Doing
		}) (*body[RigPicture], error) {
			return look(&in.OnRig, func(r *rigged) string { return r.b.Do(in.Body) })
		},
	)
	huma.Register(
		api,
		operation("paceRig", "POST", "/bench/rigs/{id}/pace", "Pause a rig, slow its time, or let it go on"),
		func(_ context.Context, in *struct {
			OnRig
			Body struct {
				Pace float64 `json:"pace" minimum:"0" maximum:"2"`
			}
		}) (*body[RigPicture], error) {
			return look(&in.OnRig, func(r *rigged) string {
				r.pace = in.Body.Pace
				return ""
			})
		},
	)
	huma.Register(
		api,
		operation("probeRig", "POST", "/bench/rigs/{id}/probe", "Put an instrument on a rig once"),
		func(_ context.Context, in *struct {
			OnRig
			Body struct {
				Meter string `json:"meter" maxLength:"20"`
				At    string `json:"at" maxLength:"40"`
			}
		}) (*body[bench.Shown], error) {
			r, err := s.bench.findRig(in.ID)
			if err != nil {
				return nil, err
			}
			r.mu.Lock()
			defer r.mu.Unlock()
			r.catchUp()
			return &body[bench.Shown]{r.b.Read(in.Body.Meter, in.Body.At)}, nil
		},
	)
	s.rigReadings(api)
}

// rigReadings are what is read on a rig beside what was foretold of its motor. They stay on the Bench: nothing of them
// is of the machine itself.
func (s *service) rigReadings(api huma.API) {
	proved := func(ctx context.Context, r *rigged) (*body[Proof], error) {
		r.mu.Lock()
		readings := slices.Clone(r.readings)
		ac, bc := prove.Clipped(r.b)
		r.mu.Unlock()
		made, err := slotted(s.slots, func(stop halt.Sign) proven {
			page, err := prove.OnBench(r.q.Until(stop), readings, ac, bc)
			return proven{page, err}
		})(ctx)
		if err == nil {
			err = made.err
		}
		return &body[Proof]{Proof{made.page, r.Title, r.Machine, nil}}, s.fault(ctx, err)
	}
	huma.Register(
		api,
		operation("proveRig", "GET", "/bench/rigs/{id}/prove", "What was read on a rig beside what was foretold"),
		func(ctx context.Context, in *OnRig) (*body[Proof], error) {
			r, err := s.bench.findRig(in.ID)
			if err != nil {
				return nil, err
			}
			return proved(ctx, r)
		},
	)
	huma.Register(
		api,
		operation("readRig", "POST", "/bench/rigs/{id}/readings", "Read a rig's meters off as a reading of a state"),
		func(ctx context.Context, in *struct {
			OnRig
			Body struct {
				State string `json:"state" maxLength:"20"`
			}
		}) (*body[Proof], error) {
			r, err := s.bench.findRig(in.ID)
			if err != nil {
				return nil, err
			}
			r.mu.Lock()
			r.catchUp()
			reading := prove.ReadOff(r.b, in.Body.State)
			reading.ID = fmt.Sprintf("%s-%d", r.ID, len(r.readings)+1)
			at := s.Now().UTC().Add(time.Duration(len(r.readings)) * time.Second) // each after the one before
			reading.At, reading.Hand = at.Format(time.RFC3339), "Bench"
			problems := reading.Check()
			if says := prove.Fits(r.b, in.Body.State); says != "" {
				problems.Say("state", "%s", says)
			}
			if problems == nil {
				r.readings = append(r.readings, reading)
			}
			r.mu.Unlock()
			if problems != nil {
				return nil, refusal("It was not read.", "body.", problems)
			}
			return proved(ctx, r)
		},
	)
}
