package plate_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/plate"
)

// spread lays a text out as a reader of letters finds it: word by word, in any order, each in its box.
func spread(t *rapid.T, text string, sure float64) (words []plate.SeenWord) {
	lines := strings.Split(strings.ReplaceAll(text, "\r", ""), "\n")
	wide := 1.0
	for _, l := range lines {
		wide = max(wide, float64(len([]rune(l))))
	}
	high := float64(len(lines))
	for y, line := range lines {
		letters := []rune(line)
		for from := 0; from < len(letters); from++ {
			to := from
			for to < len(letters) && letters[to] != ' ' {
				to++
			}
			if to > from {
				words = append(words, plate.SeenWord{Text: string(letters[from:to]), Sure: sure, Box: plate.Box{
					Left: float64(from) / wide, Right: float64(to) / wide,
					Top: (float64(y) + 0.2) / high, Bottom: (float64(y) + 0.8) / high,
				}})
			}
			from = to
		}
	}
	return rapid.Permutation(words).Draw(t, "as they were found")
}

func field(t require.TestingT, s plate.Seen, name string) plate.SeenField {
	for _, f := range s.Fields {
		if f.Field == name {
			return f
		}
	}
	require.Fail(t, "no field "+name, "%+v", s.Fields)
	return plate.SeenField{}
}

// A plate that is seen clearly twice is read as its text is, whatever order its words are found in, and each field
// lies where its words lie.
func TestAPlateSeenClearlyIsReadAsItsText(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := draw(t).write(t)
		words := spread(t, text, 0.95)
		got := plate.ReadSeen([][]plate.SeenWord{words, words})
		want := plate.ReadText(got.Text)
		assert.Equal(
			t,
			len(strings.Fields(text)),
			len(strings.Fields(got.Text)),
			"no word is lost:\n%s\n%s",
			text,
			got.Text,
		)
		rows := 0
		for _, row := range want.Rows() {
			if row.Text == "" {
				continue
			}
			rows++
			f := field(t, got, row.Field)
			assert.Equal(t, row, f.Row)
			assert.Greater(t, f.Box.Right, f.Box.Left)
			if len(want.Proposals) == 0 {
				assert.Empty(t, f.Doubts, row.Field)
			}
		}
		assert.Len(t, got.Fields, rows)
	})
}

// What is not seen alike, not seen twice, not seen clearly, or does not go with the rest of the plate is in doubt.
func TestWhatIsInDoubtOfASeenPlate(t *testing.T) {
	const text = "3 HP\nVOLTS 230/460\nAMPS 9.6/4.8\nRPM 1745\nHZ 60"
	rapid.Check(t, func(t *rapid.T) {
		whole := spread(t, text, 0.9)
		read := func(second string, sure float64) plate.Seen {
			return plate.ReadSeen([][]plate.SeenWord{whole, spread(t, second, sure)})
		}
		for name, c := range map[string]struct {
			seen  plate.Seen
			field string
			doubt string
			other []string
		}{
			"alike": {read(text, 0.8), "amps", "", nil},
			"another figure": {
				read(strings.Replace(text, "9.6/4.8", "9.8/4.9", 1), 0.8),
				"amps", "read once as 9.8/4.9", []string{"9.8/4.9"},
			},
			"once": {
				read(strings.Replace(text, "AMPS 9.6/4.8", "", 1), 0.8), "amps", "seen in one reading alone", nil,
			},
			"in the lesser reading alone": {
				plate.ReadSeen([][]plate.SeenWord{spread(t, text, 0.4), spread(t, "SF 1.15", 0.9)}),
				"service_factor", "seen in one reading alone", nil,
			},
			"not clearly": {
				plate.ReadSeen([][]plate.SeenWord{spread(t, text, 0.3), spread(t, text, 0.3)}),
				"rpm", "not seen clearly: 30 percent", nil,
			},
			"by itself": {plate.ReadSeen([][]plate.SeenWord{whole}), "volts", "seen in one reading alone", nil},
		} {
			f := field(t, c.seen, c.field)
			if c.doubt == "" {
				assert.Empty(t, f.Doubts, name)
			} else {
				assert.Contains(t, f.Doubts, c.doubt, name)
			}
			assert.ElementsMatch(t, c.other, f.Else, name)
		}
		// Of two that are whole the one that agrees with itself is shown, though the other was seen more clearly.
		point := strings.Replace(text, "9.6/4.8", "9.6/48", 1)
		mended := field(t, plate.ReadSeen([][]plate.SeenWord{spread(t, point, 0.9), spread(t, text, 0.8)}), "amps")
		assert.Equal(t, "9.6/4.8", mended.Text)
		assert.Equal(t, []string{"9.6/48"}, mended.Else)
		assert.NotEmpty(t, mended.Doubts)
		// Ten times the amps: both readings agree, the plate does not.
		wrong := strings.Replace(text, "9.6/4.8", "96/48", 1)
		amps := field(t, plate.ReadSeen([][]plate.SeenWord{spread(t, wrong, 0.9), spread(t, wrong, 0.9)}), "amps")
		assert.NotEmpty(t, amps.Doubts)
		assert.Contains(t, amps.Else, "9.6/4.8")
	})
}

// A head that cannot be read takes nothing from the columns beside it, all of which are in doubt; its own stays out or
// is known by itself. A text that nobody confirms piece by piece is not read so.
func TestAWornHeadAmongHeads(t *testing.T) {
	fields := []string{"output", "volts", "amps", "rpm", "hertz", "service_factor", "code"}
	heads := []string{"HP", "VOLTS", "AMPS", "RPM", "HZ", "S.F.", "CODE"}
	values := []string{"3", "230/460", "9.6/4.8", "1745", "60", "1.15", "J"}
	typed := []string{"3 hp", "230/460", "9.6/4.8", "1745", "60", "1.15", "J"}
	rapid.Check(t, func(t *rapid.T) {
		first := rapid.IntRange(0, 6).Draw(t, "first")
		gone := rapid.IntRange(0, 5).Draw(t, "which is worn") // a code letter is no figure, and left whole
		as := rapid.SampledFrom([]string{`\%`, "k;", "=(", "P..", "¢", "ccc"}).Draw(t, "as")
		var above, below strings.Builder
		for at := range heads {
			i := (first + at) % len(heads)
			head := heads[i]
			if i == gone {
				head = as
			}
			fmt.Fprintf(&above, "%-10s", head)
			fmt.Fprintf(&below, "%-10s", values[i])
		}
		text := "INDUCTION MOTOR\n" + above.String() + "\n" + below.String()
		seen := spread(t, text, 0.9)
		got := plate.ReadSeen([][]plate.SeenWord{seen, seen})
		for i, name := range fields {
			if i != gone {
				f := field(t, got, name)
				assert.Equal(t, typed[i], f.Text, name)
				assert.Contains(t, f.Doubts, "a word beside its head could not be read", name)
			}
		}
		for _, f := range got.Fields {
			if i := slices.Index(fields, f.Field); i >= 0 {
				assert.Equal(t, typed[i], f.Text, f.Field)
			}
		}
		if gone != 2 {
			assert.Empty(t, plate.ReadText(text).Typed().Amps)
		}
	})
	for _, text := range []string{
		"HP ? AMPS !\n3 230/460 9.6/4.8 1745", // two that are worn
		"HP what AMPS RPM\n3 230/460 9.6/4.8 1745",
		"HP ? AMPS RPM\n3 230/460 made 1745", // a figure of the others is worn too
		"3 230/460 9.6/4.8 1745\nHP ? AMPS RPM",
	} {
		rapid.Check(t, func(t *rapid.T) {
			for _, f := range plate.ReadSeen([][]plate.SeenWord{spread(t, text, 0.9)}).Fields {
				assert.NotEqual(t, "amps", f.Field, text)
			}
		})
	}
}

// A J behind its word is often seen as the bracket that it is like: it is read, and in doubt.
func TestABracketIsAJ(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		seen := spread(t, "3 HP\nVOLTS 230/460\nCODE"+rapid.SampledFrom([]string{"]", ")", "}"}).Draw(t, "as"), 0.9)
		code := field(t, plate.ReadSeen([][]plate.SeenWord{seen, seen}), "code")
		assert.Equal(t, "J", code.Text)
		assert.Equal(t, []string{"a bracket was taken for a J"}, code.Doubts)
	})
}

// Whatever a browser sends as words and boxes is read without harm, and each place is within the text.
func TestAnyWordsAreRead(t *testing.T) {
	part := rapid.Float64Range(0, 1)
	word := rapid.Custom(func(t *rapid.T) plate.SeenWord {
		return plate.SeenWord{Text: rapid.String().Draw(t, "text"), Sure: part.Draw(t, "sure"), Box: plate.Box{
			Left: part.Draw(t, "left"), Top: part.Draw(t, "top"),
			Right: part.Draw(t, "right"), Bottom: part.Draw(t, "bottom"),
		}}
	})
	thin := func(left float64) plate.SeenWord { // its letters are next to nothing wide
		return plate.SeenWord{Text: "A", Box: plate.Box{Left: left, Right: left + 1e-20, Bottom: 1}}
	}
	wide := plate.SeenWord{Text: "A", Box: plate.Box{Left: 0.5, Right: 1, Bottom: 1}}
	assert.Empty(t, plate.ReadSeen([][]plate.SeenWord{{thin(0), thin(0), wide}}).Fields)
	rapid.Check(t, func(t *rapid.T) {
		got := plate.ReadSeen(rapid.SliceOfN(rapid.SliceOfN(word, 0, 40), 0, 3).Draw(t, "readings"))
		assert.NotNil(t, got.Fields)
		assert.LessOrEqual(t, len(got.Text), 4100)
	})
}
