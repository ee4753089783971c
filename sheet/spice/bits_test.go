package spice_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/casefile"
)

// A case gives the same answer to the bit however often it is solved: two hundred times
// where it is steady, a few where it is followed through time.
func TestTheSameAnswerToTheBit(t *testing.T) {
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			times := 4
			if strings.HasPrefix(c.name, "steady") {
				times = 200
			}
			first := ""
			for range times {
				d, problems := casefile.Read([]byte(c.text))
				require.Empty(t, problems)
				answer, err := casefile.Solve(d)
				require.NoError(t, err)
				text, err := json.Marshal(answer)
				require.NoError(t, err)
				if first == "" {
					first = string(text)
				}
				require.Equal(t, first, string(text))
			}
			assert.NotEmpty(t, first)
		})
	}
}
