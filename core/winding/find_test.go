package winding

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// hidden is a motor whose leads nobody has sorted: mark i of its template is lead
// place[i].
type hidden struct {
	t     template
	place []int
	ohms  float64   // of one coil
	noise []float64 // drawn meter errors, used in turn
	used  int
}

func drawHidden(t *rapid.T, kinds ...Kind) *hidden {
	if len(kinds) == 0 {
		kinds = []Kind{ThreeLead, StarOut, SixLead, NineWye, NineDelta, TwelveLead}
	}
	h := &hidden{t: templates[rapid.SampledFrom(kinds).Draw(t, "kind")]}
	order := make([]int, len(h.t.marks))
	for i := range order {
		order[i] = i
	}
	h.place = rapid.Permutation(order).Draw(t, "leads")
	h.ohms = math.Exp(rapid.Float64Range(math.Log(0.05), math.Log(200)).Draw(t, "ln ohms"))
	h.noise = rapid.SliceOfN(rapid.Float64Range(-0.02, 0.02), 50, 50).Draw(t, "noise")
	return h
}

func (h *hidden) labels() labels {
	l := make(labels, len(h.place))
	for i, lead := range h.place {
		l[lead] = h.t.marks[i]
	}
	return l
}

// read is what a meter with 2 percent of error says between two leads.
func (h *hidden) read(p Pair) float64 {
	l := h.labels()
	_, coils, ok := h.t.path(l[p[0]], l[p[1]])
	if !ok {
		return math.Inf(1)
	}
	h.used++
	return float64(coils) * h.ohms * (1 + h.noise[h.used%len(h.noise)])
}

// settle answers what find asks until it asks no more.
func (h *hidden) settle(t require.TestingT, m meter) (found, int) {
	n := len(h.place)
	asked := 0
	for {
		f := find(n, m)
		if f.next == nil {
			return f, asked
		}
		_, again := m[*f.next]
		require.False(t, again, "a pair is asked for twice")
		m[*f.next] = h.read(*f.next)
		asked++
	}
}

func sameGroups(t require.TestingT, h *hidden, f found) {
	l := h.labels()
	leads := 0
	for _, g := range f.groups {
		leads += len(g)
		for _, other := range f.groups {
			_, _, joined := h.t.path(l[g[0]], l[other[0]])
			assert.Equal(t, g[0] == other[0], joined, "groups %v", f.groups)
		}
		for _, lead := range g {
			_, _, joined := h.t.path(l[g[0]], l[lead])
			assert.True(t, joined, "groups %v", f.groups)
		}
	}
	assert.Equal(t, len(h.place), leads)
}

// Whatever the motor, however its leads are ordered, with a meter two percent off:
// the right kind, groups and ohms, within the stated number of readings.
func TestEveryMotorIsFound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := drawHidden(t)
		f, asked := h.settle(t, meter{})
		require.Equal(t, h.t.kind, f.kind)
		sameGroups(t, h, f)
		assert.LessOrEqual(t, asked, Bound(len(h.place)))
		for _, r := range f.coils {
			assert.InDelta(t, h.ohms, r.each(), 0.065*h.ohms)
		}
		l := h.labels()
		for i, hub := range f.hub {
			if h.t.kind == StarOut {
				assert.Equal(t, "T0", l[hub])
			} else {
				assert.Contains(t, []string{"T1", "T2", "T3"}, l[hub], "corner of group %d", i)
			}
		}
	})
}

// Readings taken in any order before asking are used, and none is asked for again.
func TestReadingsInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := drawHidden(t)
		n := len(h.place)
		m := meter{}
		for range rapid.IntRange(0, 12).Draw(t, "before") {
			a := rapid.IntRange(0, n-1).Draw(t, "a")
			b := rapid.IntRange(0, n-1).Draw(t, "b")
			if a != b {
				m[pairOf(a, b)] = h.read(pairOf(a, b))
			}
		}
		before := len(m)
		f, asked := h.settle(t, m)
		require.Equal(t, h.t.kind, f.kind)
		sameGroups(t, h, f)
		assert.LessOrEqual(t, asked, Bound(n))
		assert.Equal(t, before+asked, len(m))
	})
}

// The stated bound is reached by some motor: it is no idle promise.
func TestBoundsAreTight(t *testing.T) {
	worst := map[int]int{}
	for _, kind := range []Kind{ThreeLead, StarOut, SixLead, NineWye, NineDelta, TwelveLead} {
		n := len(templates[kind].marks)
		r := rand.New(rand.NewPCG(1, 2))
		for range 100 {
			h := &hidden{t: templates[kind], place: r.Perm(n), ohms: 2, noise: []float64{0}}
			_, asked := h.settle(t, meter{})
			worst[n] = max(worst[n], asked)
		}
	}
	for n, asked := range worst {
		assert.InDelta(t, Bound(n), asked, 4, "%d leads", n)
	}
	t.Log(worst)
}

// The stated bound of polarity readings is the worst of all motors.
func TestPolarityBoundsAreExact(t *testing.T) {
	for _, kind := range []Kind{SixLead, NineWye, NineDelta, TwelveLead} {
		h := &hidden{t: templates[kind], place: numbers(len(templates[kind].marks)), ohms: 2, noise: []float64{0}}
		f, _ := h.settle(t, meter{})
		all := f.possible()
		worst, first := 0, f.ask(f.possible())
		for _, truth := range all {
			var kicks []kick
			for q := first; q != nil; q = f.ask(h.t.sift(all, kicks)) {
				sign, _ := h.t.expected(truth, q.driven, q.sensed)
				kicks = append(kicks, kick{q.driven, q.sensed, sign})
			}
			require.Equal(t, []labels{truth}, h.t.sift(all, kicks))
			worst = max(worst, len(kicks))
		}
		assert.Equal(t, PolarityBound(kind), worst, kind)
	}
}

func numbers(n int) []int {
	list := make([]int, n)
	for i := range list {
		list[i] = i
	}
	return list
}

func TestPartitionsAreCounted(t *testing.T) {
	// 6!/(2!³·3!), 9!/(2!³·3!·3!) + 9!/(3!³·3!), 12!/(2!⁶·6!)
	for leads, count := range map[int]int{3: 1, 4: 1, 6: 15, 9: 1260 + 280, 12: 10395} {
		list := partitions(leads)
		assert.Len(t, list, count)
		seen := map[string]bool{}
		for i := range list {
			seen[fmt.Sprint(members(&list[i], leads))] = true
		}
		assert.Len(t, seen, count, "no partition comes twice")
	}
}

// An open winding, leads that are all joined, and readings that contradict each
// other end in no kind, and the asking stops.
func TestFaultyMotorsAreNotFound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := drawHidden(t, SixLead, NineWye, TwelveLead)
		broken := rapid.IntRange(0, 2).Draw(t, "broken")
		l := h.labels()
		m := meter{}
		for {
			f := find(len(l), m)
			if f.next == nil {
				require.Equal(t, UnknownKind, f.kind)
				alone := 0
				for _, g := range f.groups {
					if len(g) == 1 {
						alone++
						assert.Contains(t, []string{h.t.coils[broken].start, h.t.coils[broken].finish}, l[g[0]])
					}
				}
				assert.Equal(t, 2, alone)
				return
			}
			p := *f.next
			m[p] = h.read(p)
			if l[p[0]] == h.t.coils[broken].start || l[p[1]] == h.t.coils[broken].start {
				m[p] = math.Inf(1)
			}
		}
	})
	for _, n := range []int{6, 9, 12} {
		m := meter{}
		f := find(n, m)
		for ; f.next != nil; f = find(n, m) {
			m[*f.next] = 1
		}
		assert.Equal(t, UnknownKind, f.kind)
		assert.Len(t, f.groups, 1)
	}
	f := find(6, meter{{0, 1}: 2, {1, 2}: 2, {0, 2}: math.Inf(1)})
	assert.Equal(t, []Pair{{0, 2}}, f.against)
	assert.Equal(t, &Pair{0, 2}, f.next)
}

// deflect is the true deflection on a hidden motor, with an error on it, from the
// coils' axes worked out with sines and cosines in place of halves.
func (h *hidden) deflect(q question) Sign {
	l := h.labels()
	vector := func(pair [2]int) (x, y float64) {
		axis, _, _ := h.t.path(l[pair[0]], l[pair[1]])
		for leg, turns := range axis {
			angle := float64(leg) * 2 * math.Pi / 3
			x, y = x+turns*math.Cos(angle), y+turns*math.Sin(angle)
		}
		return x, y
	}
	dx, dy := vector(q.driven)
	sx, sy := vector(q.sensed)
	h.used++
	switch volts := dx*sx + dy*sy + 5*h.noise[h.used%len(h.noise)]; {
	case volts > 0.25:
		return 1
	case volts < -0.25:
		return -1
	}
	return 0
}

// equivalent says whether labels are the hidden motor's own, but for names of legs
// and the turning of all ends.
func equivalent(h *hidden, l labels) bool {
	for _, other := range relabelled(h.t.kind, h.labels()) {
		if fmt.Sprint(other) == fmt.Sprint(l) {
			return true
		}
	}
	return false
}

// Starts and finishes are found, whichever windings' leads were taken the wrong way
// round, within the stated number of readings.
func TestPolarityIsFound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := drawHidden(t, SixLead, NineWye, NineDelta, TwelveLead)
		f, _ := h.settle(t, meter{})
		all := f.possible()
		var kicks []kick
		for {
			fits := h.t.sift(all, kicks)
			require.NotEmpty(t, fits)
			q := f.ask(fits)
			if q == nil {
				require.True(t, equivalent(h, fits[0]), "%v is %v", h.labels(), fits[0])
				break
			}
			kicks = append(kicks, kick{q.driven, q.sensed, h.deflect(*q)})
		}
		assert.LessOrEqual(t, len(kicks), PolarityBound(h.t.kind))
		// A few readings more, and any one wrong answer shows.
		for range 20 {
			q := f.proof(all, kicks)
			if q == nil {
				break
			}
			kicks = append(kicks, kick{q.driven, q.sensed, h.deflect(*q)})
		}
		require.Nil(t, f.proof(all, kicks))
		require.NotEmpty(t, h.t.sift(all, kicks))
		wrong := rapid.IntRange(0, len(kicks)-1).Draw(t, "wrong")
		kicks[wrong].sign = -kicks[wrong].sign
		if kicks[wrong].sign != 0 {
			assert.Empty(t, h.t.sift(all, kicks))
		}
	})
}

// What labels may as well be has the same windings and the same deflections.
func TestRelabelledMotorsAreTheSame(t *testing.T) {
	for kind, count := range map[Kind]int{ThreeLead: 6, StarOut: 6, SixLead: 12, NineWye: 6, NineDelta: 6,
		TwelveLead: 96} {
		tm := templates[kind]
		own := labels(tm.marks)
		list := relabelled(kind, own)
		seen := map[string]bool{}
		for i, l := range list {
			seen[fmt.Sprint(l)] = true
			if i%7 != 0 && len(list) > 12 {
				continue // some of many are enough
			}
			for a := range own {
				for b := range own {
					_, coils, joined := tm.path(own[a], own[b])
					_, coilsToo, joinedToo := tm.path(l[a], l[b])
					require.Equal(t, joined, joinedToo, "%s %v", kind, l)
					require.Equal(t, coils, coilsToo, "%s %v", kind, l)
					for c := range own {
						d := (c + 1) % len(own)
						for d != c {
							sign, ok := tm.expected(own, [2]int{a, b}, [2]int{c, d})
							other, okToo := tm.expected(l, [2]int{a, b}, [2]int{c, d})
							require.Equal(t, ok, okToo)
							require.Equal(t, sign, other, "%s %v", kind, l)
							d = (d + 1) % len(own)
						}
					}
				}
			}
		}
		assert.Len(t, seen, count, kind)
	}
}
