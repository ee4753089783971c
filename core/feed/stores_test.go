package feed_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/stock"
)

// A bank is made up of what is on hand where that comes near it, and said to be bought where it does not.
func TestBanksFromTheStores(t *testing.T) {
	bank := capacitor.Bank{Run: []float64{55}, Volts: capacitor.Rating{Needed: 300, Rated: 370}}
	q := &feed.Question{Stores: []stock.Item{
		{ID: "a", Kind: stock.Run, Count: 1, Microfarad: 40, Measured: 39.2, Volts: 440},
		{ID: "b", Kind: stock.Run, Count: 1, Microfarad: 15, Volts: 440, Condition: "new"},
		{ID: "c", Kind: stock.Run, Count: 2, Microfarad: 100, Measured: 98, Volts: 250},
	}, MachineID: "lathe"}
	for _, c := range []struct {
		microfarad float64
		value, has string
	}{
		{55, "40 µF + 15 µF", "54.2 µF in all by the meter, 1.5 % under the 55 wanted"},
		{49, "2 in series of 100 µF", "balancing resistor"},
		{75, "none", "buy"},
	} {
		row, left, ok := q.HandRow("Run", stock.Run, c.microfarad, bank)
		require.True(t, ok)
		assert.Equal(t, c.value, row.Value)
		assert.Contains(t, row.Remark, c.has)
		made, rest := q.RunBank(c.microfarad, bank)
		assert.Equal(t, left.Stores, rest.Stores)
		assert.Equal(t, c.value != "none", len(made.OnHand) > 0, "%v", c.microfarad)
		assert.NotEmpty(t, made.Cans)
	}
	_, _, ok := (&feed.Question{}).HandRow("Run", stock.Run, 55, bank)
	assert.False(t, ok, "without stores nothing is said of them")
}
