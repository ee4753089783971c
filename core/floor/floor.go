// Package floor is the whole shop on its one supply: what is switched on, solved as one network,
// judged by what its mains, wires, converters and motors bear; what comes of starting a machine
// with the others on; and which machines may run together.
package floor

import (
	"slices"
	"sync"

	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/rotary"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// Floor is a shop ready to be asked.
type Floor struct {
	Shop     shop.Shop
	machines []machine
	idlers   map[string]idler // by the converter's id
	order    []*site.Circuit  // what feeds stands before what it feeds
	cards    func() []Card    // made once
	code     supply.Code
	buses    map[string]func() *bus // by the converter's id, each made once
}

// machine is a machine tool on the floor; idlers of converters are none.
type machine struct {
	id, name string
	motors   []motor
	first    string // the motor that starts before the others, "" for all at once
}

// motor is one motor with where it hangs. A question of nil is a plate that is not understood.
type motor struct {
	shop.Motor
	machine string
	name    string // with its machine's
	place   site.Hung
	apart   bool // has a switch of its own
	q       *feed.Question
	way     feed.Way
	head    Head
}

// idler is what idles in a converter.
type idler struct {
	rotary.IdlerMotor
	winding float64 // amps it is rated for
	by      string  // what it was taken from
	unknown bool    // its plate is not understood
}

// Of makes a shop ready; fitter finds the circuits of plates.
func Of(sh shop.Shop, fitter study.Fitter) *Floor {
	f := &Floor{Shop: sh, idlers: map[string]idler{}}
	f.Shop.Supply = sh.Supply.Settled()
	f.Shop.Site = sh.Site.Kept(sh.Has) // what was deleted hangs nowhere, until it comes back
	sh.Site = f.Shop.Site
	f.code = supply.CodeOf(f.Shop.Supply.Hertz, sh.Own.Code)
	f.arrange()
	f.cards = sync.OnceValue(f.makeCards)
	type job struct{ machine, motor int }
	var jobs []job
	for _, m := range sh.Machines {
		if sh.Site.Idles(m.ID) {
			continue
		}
		first, apart := sh.Site.Runs(m.ID)
		kept := machine{id: m.ID, name: m.Name, motors: make([]motor, len(m.Motors)), first: first}
		for k, own := range m.Motors {
			name := m.Name
			if len(m.Motors) > 1 && own.Name != "" {
				name += ", " + own.Name
			}
			kept.motors[k] = motor{
				Motor: own, machine: m.ID, name: name, place: sh.Site.Place(m.ID, own.ID),
				apart: slices.Contains(apart, own.ID),
			}
			jobs = append(jobs, job{len(f.machines), k})
		}
		f.machines = append(f.machines, kept)
	}
	var all sync.WaitGroup
	for _, j := range jobs {
		m := &f.machines[j.machine].motors[j.motor]
		all.Go(func() { f.know(m, fitter) })
	}
	for _, c := range sh.Site.Converters {
		if c.Kind != site.BusKind {
			f.idlers[c.ID] = f.idles(c, fitter)
		}
	}
	all.Wait()
	f.makeBuses()
	return f
}

// Head is how a motor is told on the floor, and how far it has come. Amps are its plate's.
type Head struct {
	ID       string         `json:"id"`
	Name     string         `json:"name"`
	Title    string         `json:"title"`
	Amps     float64        `json:"amps"`
	Stage    string         `json:"stage"`
	Progress study.Progress `json:"progress"`
}

// Heads are those of all motors on the floor.
func (f *Floor) Heads() []Head {
	list := []Head{}
	for _, m := range f.machines {
		for _, o := range m.motors {
			list = append(list, o.head)
		}
	}
	return list
}

// arrange puts the circuits so that what feeds stands before what it feeds.
func (f *Floor) arrange() {
	for i := range f.Shop.Site.Circuits {
		f.order = append(f.order, &f.Shop.Site.Circuits[i])
	}
	slices.SortStableFunc(f.order, func(a, b *site.Circuit) int { return f.Shop.Site.Inner(a) - f.Shop.Site.Inner(b) })
}

// know asks a motor's plate.
func (f *Floor) know(m *motor, fitter study.Fitter) {
	st := study.Of(f.behind(f.Shop.Site.Converter(m.place.On)), m.Motor, fitter, f.Shop.Own.Loads...)
	m.head = Head{
		ID:       m.ID,
		Name:     m.Name,
		Title:    st.Reading.Title,
		Stage:    st.Stage(m.Motor),
		Progress: st.Progress(m.Motor),
	}
	if !st.Reading.Sound {
		return
	}
	m.head.Amps = st.Plate.Amps.Value
	m.q = st.Ask(f.Shop.Around(), shop.Machine{})
	m.way = m.Way.Taken()
}

// idles makes the idler of a converter.
func (f *Floor) idles(c site.Converter, fitter study.Fitter) idler {
	su := f.behind(&c)
	if m := f.Shop.Idles(&c); m != nil {
		st := study.Of(su, m.Motors[0], fitter, f.Shop.Own.Loads...)
		if !st.Reading.Sound {
			return idler{unknown: true, by: m.Name}
		}
		return f.asLearned(&c, idler{
			IdlerMotor: st.Idler(c.ID + "-idler"), winding: st.Machine.WindingAmps(), by: "its plate",
		})
	}
	usual, err := rotary.UsualIdler(c.ID+"-idler", c.IdlerWatts, su.Volts, su.Hertz)
	if err != nil {
		return idler{unknown: true, by: "a usual motor"}
	}
	return f.asLearned(&c, idler{IdlerMotor: usual, winding: usual.Amps, by: "a usual motor"})
}

// asLearned is an idler with what was learned of it last, on one of the machines behind its converter.
func (f *Floor) asLearned(c *site.Converter, own idler) idler {
	var last shop.Motor
	for _, m := range f.Shop.Machines {
		for _, o := range m.Motors {
			if o.Learned == nil || o.Learned.IdlerWatts != own.Watts || f.Shop.Site.Place(m.ID, o.ID).On != c.ID {
				continue
			}
			if last.Learned == nil || o.Learned.At > last.Learned.At {
				last = o
			}
		}
	}
	if last.Learned != nil {
		own.Motor, own.by = last.Learned.WithIdler(own.Motor, own.Watts), "readings"
	}
	return own
}

// share is what a motor does of its plate's output in a state.
func (m *motor) share(s *site.State) float64 {
	if share, ok := s.Shares[m.ID]; ok {
		return share
	}
	return m.q.Share()
}

// on says whether a motor is switched on.
func (m *motor) on(s *site.State) bool { return s.Has(m.ID) || !m.apart && s.Has(m.machine) }

// dead is what hangs on the side of a change-over switch that it does not stand at.
func (f *Floor) dead(s *site.State, on, side string) bool {
	c := f.Shop.Site.Circuit(on)
	return c != nil && c.ChangeOver && side != "" && side != s.Side(on)
}

// wire is what a circuit's conductors carry, 0 where their size is not known, and the ohms of
// the loop.
func (f *Floor) wire(c *site.Circuit) (carried supply.Carried, ohms network.Conductor) {
	carried, _ = f.code.Carries(c.Laid)
	loop := complex(2*c.Metre, 0) * carried.Ohm
	if f.onePole(c) {
		loop *= poleOhms
	}
	return carried, network.Conductor{ResistanceOhm: real(loop), ReactanceOhm: imag(loop)}
}
