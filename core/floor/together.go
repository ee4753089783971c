package floor

import (
	"context"
	"math/bits"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"brackmoor/core/site"
)

// Together is what may run together: the largest permitted sets, and the smallest forbidden ones,
// each of which any one off makes permitted. Every set that is told was solved.
//
// A set is looked for as if what is permitted stayed so with a machine off. Machines that run help a
// made leg, so that this need not be: of a shop with no more than mostTried machines every set is
// solved, and Exact says so. In a larger one Exact is false, and TriedUpTo is the size up to which
// every set was solved; larger forbidden ones are found where a largest set runs into one.
type Together struct {
	Largest   [][]string           `json:"largest" nullable:"false"`
	Forbidden []Forbidden          `json:"forbidden" nullable:"false"`
	Startable map[string]Startable `json:"startable"`
	Exact     bool                 `json:"exact"`
	TriedUpTo int                  `json:"tried_up_to"`
	Among     []string             `json:"among" nullable:"false"` // whom it was asked of
}

// Forbidden is a smallest forbidden set, the limit that breaks first, and How an interlock keeps it
// from running.
type Forbidden struct {
	Machines []string `json:"machines" nullable:"false"`
	Names    []string `json:"names" nullable:"false"`
	Rule     string   `json:"rule"`
	Where    string   `json:"where"`
	Value    float64  `json:"value"`
	Limit    float64  `json:"limit"`
	Says     string   `json:"says" told:"figures"`
	How      string   `json:"how" told:"figures"`
	Contacts bool     `json:"contacts"` // break contacts of their contactors keep them apart
}

// Startable is beside which others, each by itself, a machine can be started, and the smallest sets
// beside which it cannot, among those that may run together with it.
type Startable struct {
	With    []string   `json:"with" nullable:"false"`
	NotWith [][]string `json:"not_with" nullable:"false"`
}

const (
	mostTried = 8    // machines of which every set is solved
	mostAsked = 60   // machines that are looked at, a bit of a word each
	mostSets  = 2000 // sets that are solved in a larger shop

	mostStarts = 1500 // starts that are followed; machines beyond them are not told of
)

// set is some of those that are looked at, a bit each.
type set uint64

func (s set) has(i int) bool    { return s>>i&1 == 1 }
func (s set) with(i int) set    { return s | 1<<i }
func (s set) without(i int) set { return s &^ (1 << i) }
func (s set) size() int         { return bits.OnesCount64(uint64(s)) }
func (s set) holds(of set) bool { return s&of == of }

// each does something for each that is in it.
func (s set) each(do func(i int)) {
	for rest := s; rest != 0; rest &= rest - 1 {
		do(bits.TrailingZeros64(uint64(rest)))
	}
}

// search is a search of sets under way.
type search struct {
	f      *Floor
	base   site.State
	among  []member
	mu     sync.Mutex
	known  map[set]*Broken // nil for a permitted one
	solved int
	starts atomic.Int64
}

// member is who may be on: a machine, or a load that is not always on. Sides are those of the
// change-over that it hangs on.
type member struct {
	id            string
	converters    []string
	circuit, side string
}

// Together looks for what may run together, at the loads of a state. Converters run where a
// machine on them does, change-overs stand where a set wants them, and loads that are always on
// are.
func (f *Floor) Together(ctx context.Context, s site.State) (Together, error) {
	q := &search{f: f, known: map[set]*Broken{}, base: site.State{Shares: s.Shares}}
	for _, l := range f.Shop.Site.Loads {
		if l.Always {
			q.base.On = append(q.base.On, l.ID)
		}
	}
	q.members()
	t := Together{Largest: [][]string{}, Forbidden: []Forbidden{}, Startable: map[string]Startable{}, Among: []string{}}
	for _, m := range q.among {
		t.Among = append(t.Among, m.id)
	}
	var forbidden, largest []set
	var err error
	if t.Exact = len(q.among) <= mostTried; t.Exact {
		t.TriedUpTo = len(q.among)
		forbidden, largest, err = q.every(ctx)
	} else {
		forbidden, largest, t.TriedUpTo, err = q.larger(ctx)
	}
	if err != nil {
		return t, err
	}
	slices.SortFunc(forbidden, bySize)
	slices.SortFunc(largest, func(a, b set) int { return bySize(b, a) })
	for _, x := range forbidden {
		b := q.known[x]
		ids := q.ids(x)
		t.Forbidden = append(t.Forbidden, Forbidden{
			ids, f.names(ids), b.Rule, b.Where, b.Value, b.Limit, b.Says, f.how(ids, b.Rule), f.contacts(ids, b.Rule),
		})
	}
	for _, x := range largest {
		t.Largest = append(t.Largest, q.ids(x))
	}
	return t, f.startable(ctx, q, &t, largest)
}

// bySize orders sets by their size, and alike ones by who is in them first.
func bySize(a, b set) int {
	if a.size() != b.size() {
		return a.size() - b.size()
	}
	return bits.TrailingZeros64(uint64(a)) - bits.TrailingZeros64(uint64(b))
}

func (q *search) ids(x set) []string {
	list := []string{}
	x.each(func(i int) { list = append(list, q.among[i].id) })
	return list
}

// members are the machines with a plate that is understood, and the loads that come and go.
func (q *search) members() {
	f := q.f
	for _, m := range f.machines {
		own, known := member{id: m.id}, false
		var apart []member
		for _, o := range m.motors {
			switch {
			case o.q == nil:
			case o.apart:
				one := member{id: o.ID}
				one.hang(f, o.place)
				apart = append(apart, one)
			default:
				known = true
				own.hang(f, o.place)
			}
		}
		if known {
			q.among = append(q.among, own)
		}
		q.among = append(q.among, apart...)
	}
	for _, l := range f.Shop.Site.Loads {
		if !l.Always {
			own := member{id: l.ID}
			own.hang(f, site.Hung{On: l.On, Side: l.Side})
			q.among = append(q.among, own)
		}
	}
	if len(q.among) > mostAsked {
		q.among = q.among[:mostAsked]
	}
}

// hang notes what a member wants of the change-overs and converters that it hangs on.
func (m *member) hang(f *Floor, place site.Hung) {
	if c := f.Shop.Site.Converter(place.On); c != nil {
		if !slices.Contains(m.converters, c.ID) {
			m.converters = append(m.converters, c.ID)
		}
		place.On, place.Side = c.On, c.Side
	}
	if c := f.Shop.Site.Circuit(place.On); c != nil && c.ChangeOver && place.Side != "" {
		m.circuit, m.side = place.On, place.Side
	}
}

// state is that of a set.
func (q *search) state(x set) site.State {
	s := site.State{On: slices.Clone(q.base.On), Shares: q.base.Shares, Thrown: map[string]string{}}
	x.each(func(i int) {
		m := q.among[i]
		s.On = append(s.On, m.id)
		for _, c := range m.converters {
			if !s.Has(c) {
				s.On = append(s.On, c)
			}
		}
		if _, thrown := s.Thrown[m.circuit]; m.side != "" && !thrown {
			s.Thrown[m.circuit] = m.side
		}
	})
	return s
}

// solve says which rule a set breaks first, nil for none, and remembers it.
func (q *search) solve(x set) (*Broken, error) {
	q.mu.Lock()
	b, known := q.known[x]
	q.mu.Unlock()
	if known {
		return b, nil
	}
	p, err := q.f.Solve(q.state(x))
	if err != nil {
		return nil, err
	}
	if !p.Permitted {
		b = &p.Broken[0]
	}
	q.mu.Lock()
	defer q.mu.Unlock()
	q.known[x] = b
	q.solved++
	return b, nil
}

// all solves sets side by side.
func (q *search) all(ctx context.Context, list []set) error {
	var workers sync.WaitGroup
	var mu sync.Mutex
	var failed error
	next := 0
	for range runtime.GOMAXPROCS(0) {
		workers.Go(func() {
			for {
				mu.Lock()
				if failed == nil {
					failed = ctx.Err()
				}
				if next >= len(list) || failed != nil {
					mu.Unlock()
					return
				}
				x := list[next]
				next++
				mu.Unlock()
				if _, err := q.solve(x); err != nil {
					mu.Lock()
					failed = err
					mu.Unlock()
				}
			}
		})
	}
	workers.Wait()
	return failed
}

// every solves every set.
func (q *search) every(ctx context.Context) (forbidden, largest []set, err error) {
	n := len(q.among)
	var list []set
	for x := set(1); x < 1<<n; x++ {
		list = append(list, x)
	}
	if err := q.all(ctx, list); err != nil {
		return nil, nil, err
	}
	for _, x := range list {
		if q.known[x] != nil {
			minimal := true
			x.each(func(i int) { minimal = minimal && (x.size() == 1 || q.known[x.without(i)] == nil) })
			if minimal {
				forbidden = append(forbidden, x)
			}
			continue
		}
		if !slices.ContainsFunc(list, func(y set) bool { return y != x && y.holds(x) && q.known[y] == nil }) {
			largest = append(largest, x)
		}
	}
	return forbidden, largest, nil
}

// larger searches a shop of too many machines for every set to be solved: all sets of one, of two
// and, where there is room, of three; then the largest sets that hold no forbidden one, each of
// which is solved, and gives either a largest set or one more forbidden one.
func (q *search) larger(ctx context.Context) (forbidden, largest []set, upTo int, err error) {
	level := []set{0}
	for upTo < 3 {
		var next []set
		for _, x := range level {
			for i := bits.Len64(uint64(x)); i < len(q.among); i++ {
				y := x.with(i)
				if !slices.ContainsFunc(forbidden, y.holds) {
					next = append(next, y)
				}
			}
		}
		if len(next)+q.solved > mostSets {
			break
		}
		if err := q.all(ctx, next); err != nil {
			return nil, nil, 0, err
		}
		upTo++
		level = level[:0]
		for _, x := range next {
			if q.known[x] != nil {
				forbidden = append(forbidden, x)
			} else {
				level = append(level, x)
			}
		}
	}
	for q.solved < mostSets {
		candidates := q.independent(forbidden)
		fresh := candidates[:0:0]
		for _, x := range candidates {
			if _, known := q.known[x]; !known {
				fresh = append(fresh, x)
			}
		}
		if err := q.all(ctx, fresh); err != nil {
			return nil, nil, 0, err
		}
		found := len(forbidden)
		for _, x := range candidates {
			if q.known[x] == nil || slices.ContainsFunc(forbidden, x.holds) {
				continue
			}
			x, err = q.shrunk(x)
			if err != nil {
				return nil, nil, 0, err
			}
			forbidden = append(forbidden, x)
		}
		if len(forbidden) == found {
			for _, x := range candidates {
				if q.known[x] == nil && x != 0 {
					largest = append(largest, x)
				}
			}
			break
		}
	}
	return forbidden, largest, upTo, nil
}

// shrunk is a smallest forbidden set within a forbidden one.
func (q *search) shrunk(x set) (set, error) {
	for again := true; again; {
		again = false
		for i := range q.among {
			if !x.has(i) || x.size() == 1 {
				continue
			}
			b, err := q.solve(x.without(i))
			if err != nil {
				return 0, err
			}
			if b != nil {
				x, again = x.without(i), true
			}
		}
	}
	return x, nil
}

// mostCandidates is how many largest sets are looked at in a round.
const mostCandidates = 60

// independent are the largest sets that hold no forbidden one, or many of them.
func (q *search) independent(forbidden []set) []set {
	list := []set{1<<len(q.among) - 1}
	for _, bad := range forbidden {
		var next []set
		for _, x := range list {
			if !x.holds(bad) {
				next = append(next, x)
				continue
			}
			bad.each(func(i int) { next = append(next, x.without(i)) })
		}
		slices.SortFunc(next, func(a, b set) int { return bySize(b, a) })
		list = list[:0:0]
		for _, x := range next {
			if !slices.ContainsFunc(list, func(y set) bool { return y.holds(x) }) && len(list) < mostCandidates {
				list = append(list, x)
			}
		}
	}
	return list
}

// startable looks for what each machine can be started beside: each other by itself, and the
// smallest sets beside which it cannot, within those that may run together.
func (f *Floor) startable(ctx context.Context, q *search, t *Together, largest []set) error {
	found, failed := make([]*Startable, len(q.among)), make([]error, len(q.among))
	var workers sync.WaitGroup
	free := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i, m := range q.among {
		if len(f.starting(m.id)) == 0 {
			continue
		}
		workers.Go(func() {
			free <- struct{}{}
			defer func() { <-free }()
			if failed[i] = ctx.Err(); failed[i] == nil && q.starts.Load() < mostStarts {
				found[i], failed[i] = q.beside(i, largest)
			}
		})
	}
	workers.Wait()
	for i, m := range q.among {
		if failed[i] != nil {
			return failed[i]
		}
		if found[i] != nil {
			t.Startable[m.id] = *found[i]
		}
	}
	return nil
}

// beside is what a machine can be started beside.
func (q *search) beside(i int, largest []set) (*Startable, error) {
	one := &Startable{With: []string{}, NotWith: [][]string{}}
	begins := func(beside set) (bool, error) {
		q.starts.Add(1)
		st, err := q.f.Start(q.state(beside.with(i)), q.among[i].id)
		return st.Permitted, err
	}
	var never []set
	for k, other := range q.among {
		if k == i || q.broken(set(0).with(i).with(k)) {
			continue
		}
		good, err := begins(set(0).with(k))
		if err != nil {
			return nil, err
		}
		if good {
			one.With = append(one.With, other.id)
		} else {
			never = append(never, set(0).with(k))
		}
	}
	for _, x := range largest { // as many as may run beside it
		rest := x.without(i)
		if !x.has(i) || rest.size() < 2 || slices.ContainsFunc(never, rest.holds) {
			continue
		}
		good, err := begins(rest)
		if err != nil {
			return nil, err
		}
		if good {
			continue
		}
		for k := range q.among {
			if !rest.has(k) || rest.size() == 1 {
				continue
			}
			good, err := begins(rest.without(k))
			if err != nil {
				return nil, err
			}
			if !good {
				rest = rest.without(k)
			}
		}
		never = append(never, rest)
	}
	for _, x := range never {
		one.NotWith = append(one.NotWith, q.ids(x))
	}
	return one, nil
}

// broken says whether a set is known not to be permitted.
func (q *search) broken(x set) bool {
	q.mu.Lock()
	defer q.mu.Unlock()
	return q.known[x] != nil
}
