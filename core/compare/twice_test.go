package compare_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
)

// The same question gives the same answer to the bit, whichever way is worked out first on
// however many cores.
func TestTheSameAnswerToTheBit(t *testing.T) {
	var first []compare.Route
	for range 3 {
		got := compare.Compare(ask(t, shaper, "240/60", "ram", feed.Wishes{})).Routes
		if first == nil {
			first = got
		}
		require.Len(t, got, len(first))
		for i := range got {
			assert.Equal(t, first[i], got[i])
		}
	}
}
