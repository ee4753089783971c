package compare_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
)

// A shop that counts in another money, at a hundred of it for one, is told the same for
// whatever it wishes.
func TestAnotherMoneyChangesNothing(t *testing.T) {
	for _, c := range []struct{ plate, supply, load string }{
		{shaper, "240/60", "ram"}, {"0.75 kW 230/400 V 3.2/1.85 A 50 Hz 1400 rpm", "230/50", "pump"},
	} {
		q := ask(t, c.plate, c.supply, c.load, feed.Wishes{})
		other := q.With(func(q *feed.Question) {
			p := &q.Prices
			for _, money := range []*float64{
				&p.RunPerMicrofarad, &p.StartPerMicrofarad, &p.StartRelay, &p.StaticBox, &p.PhaseBox,
				&p.IdlerPerKilowatt, &p.IdlerBase, &p.DrivePerKilowatt, &p.DriveBase, &p.Reactor, &p.MotorPerKilowatt,
				&p.Switchgear, &p.TransformerPerKVA,
				&p.MotorBase, &p.Hour, &p.Tariff,
			} {
				*money *= 100
			}
		})
		worked, reworked := compare.Work(q), compare.Work(other)
		for range 300 {
			wish := func(q *feed.Question) {
				for _, w := range feed.WishList {
					*w.Of(&q.Matters.Wishes) = rand.N(3) == 0
				}
				q.Matters.HoursPerDay = 0.5 + 8*rand.Float64()
				q.Matters.Controls.Interlocks = rand.N(4)
				for _, f := range feed.WeightFields {
					*f.Of(&q.Weights) *= 2 * rand.Float64()
				}
			}
			one := q.With(wish)
			two := other.With(func(q *feed.Question) { q.Matters, q.Weights = one.Matters, one.Weights })
			a, b := compare.Rank(one, worked), compare.Rank(two, reworked)
			assert.Equal(t, a.Recommended, b.Recommended, "%+v", one.Matters)
			for i := range a.Routes {
				assert.Equal(t, a.Routes[i].Name, b.Routes[i].Name)
				assert.InEpsilon(t, 100*a.Routes[i].Cost.PerYear, b.Routes[i].Cost.PerYear, 1e-9)
			}
		}
	}
}
