package server

import (
	"cmp"
	"context"
	"fmt"
	"math/rand/v2"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/drive"
	"brackmoor/core/halt"
	"brackmoor/core/inverter"
	"brackmoor/core/study"
	"brackmoor/drivebus"
	"brackmoor/store"
)

// BenchDrive is a simulated drive that stands on the Bench with a motor of the shop. Address is where its bus answers,
// on this machine alone.
type BenchDrive struct {
	ID      string          `json:"id"`
	Shop    string          `json:"shop"`
	Machine string          `json:"machine"`
	Motor   string          `json:"motor"`
	Title   string          `json:"title"`
	Profile string          `json:"profile"`
	Rating  inverter.Rating `json:"rating"`
	Seed    uint64          `json:"seed"`
	Address string          `json:"address"`
	// Keys are what is on its keypad, by our names; Inputs what its terminals are marked with.
	Keys      map[string]string `json:"keys"`
	Terminals map[string]string `json:"terminals"`
	Faults    map[string]string `json:"faults"` // what its display shows for each
	Titles    map[string]string `json:"titles"` // and what each is called
	Guided    bool              `json:"guided"`
}

// BenchPicture is a simulated drive as it stands. Says is why nothing came of a key, "" where something did.
type BenchPicture struct {
	BenchDrive
	inverter.Picture
	Load  float64      `json:"load"`  // share of rated torque on the shaft
	Means *drive.Fault `json:"means"` // the fault that stands, nil for none
	Says  string       `json:"says" told:"figures"`
}

// benches has the simulated drives and the rigs that stand there.
type benches struct {
	mu   sync.Mutex
	sims []*standing
	rigs []*rigged
	next int
}

// standing is one of them: it is taken down by its timer when nobody has looked at it for long.
type standing struct {
	BenchDrive
	in    drive.Input
	load  float64
	sim   *drivebus.Sim
	timer *time.Timer
}

// mostDrives stand on the Bench at a time, unlooked at for forgotten at most: each takes some of a core.
const (
	mostDrives = 4
	forgotten  = 30 * time.Minute
)

// find is one by its id, kept standing.
func (b *benches) find(id string) (*standing, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, st := range b.sims {
		if st.ID == id {
			if st.timer != nil {
				st.timer.Reset(forgotten)
			}
			return st, nil
		}
	}
	return nil, huma.Error404NotFound("This drive does not stand on the Bench any more.")
}

// clear takes one down.
func (b *benches) clear(id string) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	for i, st := range b.sims {
		if st.ID == id {
			b.sims = append(b.sims[:i:i], b.sims[i+1:]...)
			st.timer.Stop()
			return st.sim.Close()
		}
	}
	return nil
}

// picture looks at one, after something was done to it.
func (st *standing) picture(do func(d *inverter.Drive) string) BenchPicture {
	var says string
	p := BenchPicture{BenchDrive: st.BenchDrive}
	st.sim.Do(func(d *inverter.Drive) {
		if do != nil {
			says = do(d)
		}
		p.Picture, p.Load = d.Picture(), st.load
	})
	p.Says, p.Means = says, drive.FaultOf(p.Fault)
	return p
}

// stand puts a drive for a motor on the Bench.
func (s *service) stand(ctx context.Context, motor, profile string, three bool, seed uint64) (*standing, error) {
	_, place, q, err := s.question(ctx, motor)
	if err != nil {
		return nil, err
	}
	in := study.DriveFor(q)
	in.Kind = drive.OnePhase
	if three {
		in.Kind = drive.Three
	}
	p := drive.Among(place.Shop.Profiles, profile)
	switch {
	case len(p.Registers) == 0:
		return nil, huma.Error422UnprocessableEntity("It was not set up.", &huma.ErrorDetail{
			Location: "body.profile", Message: "A profile with registers is wanted: those that ship have them.",
		})
	case in.Doubles() || in.Supply.Volts > mostBenchVolts:
		return nil, huma.Error409Conflict("The Bench has drives for 200 to 240 V, and this supply is another.")
	}
	var draw func() float64
	if seed != 0 {
		draw = rand.New(rand.NewPCG(seed, 0)).Float64
	}
	c := inverter.Of(in, p, draw)
	d := inverter.New(c)
	s.bench.mu.Lock()
	defer s.bench.mu.Unlock()
	if len(s.bench.sims) >= mostDrives {
		return nil, huma.Error409Conflict(fmt.Sprintf("%d drives stand on the Bench: clear one first.", mostDrives))
	}
	sim, err := drivebus.Listen("127.0.0.1:0", d, time.Now)
	if err != nil {
		return nil, s.fault(ctx, err)
	}
	s.bench.next++
	st := newStanding(fmt.Sprintf("drive-%d", s.bench.next), in, c, sim)
	st.Shop, st.Machine, st.Motor = place.Shop.ID, place.Machine.ID, motor
	st.Title, st.Seed = titleOf(place), seed
	st.timer = time.AfterFunc(forgotten, func() { _ = s.bench.clear(st.ID) }) // it is gone either way
	s.bench.sims = append(s.bench.sims, st)
	return st, nil
}

// newStanding is a drive by its bus, and what is on its keypad and at its terminals.
func newStanding(id string, in drive.Input, c inverter.Case, sim *drivebus.Sim) *standing {
	p := c.Profile
	st := &standing{in: in, sim: sim, BenchDrive: BenchDrive{
		ID: id, Profile: p.Name, Rating: c.Rating, Address: sim.Address, Keys: map[string]string{},
		Terminals: map[string]string{}, Faults: map[string]string{}, Titles: map[string]string{},
	}}
	if p.Panel != nil {
		st.Guided = len(p.Panel.Guide) > 0
		for _, key := range drive.Keys {
			st.Keys[key] = cmp.Or(p.Panel.Keys[key], key)
		}
		st.Faults = p.Panel.Shows
	}
	for _, f := range drive.Faults {
		st.Titles[f.Name] = f.Title
	}
	for _, t := range []string{"L1", "L2", "di1", "di2", "di3", "di4", "enable", "ai1", "com"} {
		st.Terminals[t] = p.Mark(t)
	}
	return st
}

// mostBenchVolts is up to where drives are those for 200 to 240 V.
const mostBenchVolts = 264.0

// titleOf is what a motor is called beside its machine.
func titleOf(p store.Place) string {
	if p.Motor.Name == "" || strings.EqualFold(p.Motor.Name, p.Machine.Name) {
		return p.Machine.Name
	}
	return p.Machine.Name + ", " + p.Motor.Name
}

// OnBench is a drive on the Bench by its id.
type OnBench struct {
	ID string `path:"id" maxLength:"64"`
}

func (s *service) benchAPI(api huma.API) {
	huma.Register(
		api,
		operation("feedsOfMotor", "GET", "/motors/{id}/feeds",
			"One drive for a motor on three lines, on two, and on a dc bus, at a load"),
		func(ctx context.Context, in *struct {
			WithID
			Share float64 `query:"share" minimum:"0.05" maximum:"1.5"`
		}) (*body[[]drive.Fed], error) {
			_, _, q, err := s.question(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var failed error
			list, err := slotted(s.slots, func(stop halt.Sign) (list []drive.Fed) {
				list, failed = study.DriveFor(q.Until(stop)).Feeds(in.Share)
				return list
			})(ctx)
			return &body[[]drive.Fed]{list}, s.fault(ctx, cmp.Or(err, failed))
		},
	)
	huma.Register(
		api,
		operation("benchDrives", "GET", "/bench/drives", "The simulated drives that stand on the Bench"),
		func(context.Context, *struct{}) (*body[[]BenchDrive], error) {
			s.bench.mu.Lock()
			defer s.bench.mu.Unlock()
			list := []BenchDrive{}
			for _, st := range s.bench.sims {
				list = append(list, st.BenchDrive)
			}
			return &body[[]BenchDrive]{list}, nil
		},
	)
	huma.Register(
		api,
		operation("standDrive", "POST", "/bench/drives", "Put a simulated drive for a motor on the Bench"),
		func(ctx context.Context, in *struct {
			Body struct {
				Motor      string `json:"motor" minLength:"1" maxLength:"64"`
				Profile    string `json:"profile" maxLength:"80"`
				ThreePhase bool   `json:"three_phase"`
				Seed       uint64 `json:"seed" maximum:"9007199254740991"`
			}
		}) (*body[BenchPicture], error) {
			st, err := s.stand(ctx, in.Body.Motor, in.Body.Profile, in.Body.ThreePhase, in.Body.Seed)
			if err != nil {
				return nil, err
			}
			return &body[BenchPicture]{st.picture(nil)}, nil
		},
	)
	huma.Register(
		api,
		operation("clearDrive", "DELETE", "/bench/drives/{id}", "Take a simulated drive off the Bench"),
		func(ctx context.Context, in *OnBench) (*body[struct{}], error) {
			return &body[struct{}]{}, s.fault(ctx, s.bench.clear(in.ID))
		},
	)
	s.keypadAPI(api)
}

// keypadAPI is what is looked at and done at one drive that stands.
func (s *service) keypadAPI(api huma.API) {
	look := func(id string, do func(st *standing, d *inverter.Drive) string) (*body[BenchPicture], error) {
		st, err := s.bench.find(id)
		if err != nil {
			return nil, err
		}
		return &body[BenchPicture]{st.picture(func(d *inverter.Drive) string { return do(st, d) })}, nil
	}
	huma.Register(
		api,
		operation("benchDrive", "GET", "/bench/drives/{id}", "A simulated drive as it stands now"),
		func(_ context.Context, in *OnBench) (*body[BenchPicture], error) {
			return look(in.ID, func(*standing, *inverter.Drive) string { return "" })
		},
	)
	huma.Register(
		api,
		operation("pressKey", "POST", "/bench/drives/{id}/keys", "Press a key of a simulated drive's keypad"),
		func(_ context.Context, in *struct {
			OnBench
			Body struct {
				Key   string `json:"key" maxLength:"20"`
				Times int    `json:"times" minimum:"1" maximum:"1000"`
			}
		}) (*body[BenchPicture], error) {
			return look(
				in.ID,
				func(_ *standing, d *inverter.Drive) string { return d.Press(in.Body.Key, in.Body.Times) },
			)
		},
	)
	huma.Register(
		api,
		operation("wireBench", "PUT", "/bench/drives/{id}/inputs",
			"Set what is wired to a simulated drive, and the load on its motor's shaft"),
		func(_ context.Context, in *struct {
			OnBench
			Body struct {
				Lines    int     `json:"lines" minimum:"0" maximum:"3"`
				Run      bool    `json:"run"`
				Reverse  bool    `json:"reverse"`
				Preset   int     `json:"preset" minimum:"0" maximum:"3"`
				Turned   float64 `json:"turned" minimum:"0" maximum:"1"`
				Enable   bool    `json:"enable"`
				EarthBad bool    `json:"earth_bad"`
				Load     float64 `json:"load" minimum:"0" maximum:"2"`
			}
		}) (*body[BenchPicture], error) {
			b := in.Body
			if b.Lines == 1 {
				return nil, huma.Error422UnprocessableEntity("It was not wired.", &huma.ErrorDetail{
					Location: "body.lines", Message: "By one line nothing is fed.",
				})
			}
			return look(in.ID, func(st *standing, d *inverter.Drive) string {
				d.Wire(inverter.Inputs{
					Lines:    b.Lines,
					Run:      b.Run,
					Reverse:  b.Reverse,
					Preset:   b.Preset,
					Turned:   b.Turned,
					Enable:   b.Enable,
					EarthBad: b.EarthBad,
				})
				if st.load != b.Load {
					st.load = b.Load
					d.Load(inverter.Braked(st.in, b.Load))
				}
				return ""
			})
		},
	)
}
