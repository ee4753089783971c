package lesson_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/lesson"
	"brackmoor/core/plate"
)

// On every exercise one figure is wrong, and it is the one that is named: put right, the plate agrees with itself and
// as it stands it does not. The reader of plates, which knows nothing of what was planted, names the same figure
// among its guesses in most that it can see at all.
func TestExercisesHaveOneMistake(t *testing.T) {
	from := rand.Uint64()
	named, seen := 0, 0
	fields := map[int]map[string]bool{}
	for level := lesson.Easy; level <= lesson.Hard; level++ {
		fields[level] = map[string]bool{}
		for k := range uint64(60) {
			seed := from%1e9 + k
			x := lesson.ExerciseOf(seed, level)
			require.Equal(t, x, lesson.ExerciseOf(seed, level), "the same for everybody")
			a := lesson.Answer(seed, level, "volts")
			fields[level][a.Field] = true
			assert.False(t, a.Right)
			assert.True(t, lesson.Answer(seed, level, a.Field).Right)
			assert.NotEmpty(t, a.Says)
			wrong, right := x.Plate, x.Plate
			for _, f := range x.Fields {
				if f.Name == a.Field {
					assert.NotEqual(t, f.Value, a.Should)
				}
			}
			switch a.Field {
			case "amps":
				right.Amps = a.Should
			case "rpm":
				right.RPM = a.Should
			case "output":
				right.Output = a.Should
			case "hertz":
				right.Hertz = a.Should
			case "efficiency":
				right.Efficiency = a.Should
			case "power_factor":
				right.PowerFactor = a.Should
			}
			good, problems := plate.Read(right)
			require.Empty(t, problems)
			supply := plate.Supply{Volts: good.Ratings[0].Volts, Hertz: good.Hertz}
			assert.Empty(t, plate.Misreadings(good, supply), "seed %d level %d: %+v", seed, level, right)
			bad, problems := plate.Read(wrong)
			if problems != nil {
				continue // it is seen as it is read
			}
			guesses := plate.Misreadings(bad, supply)
			require.NotEmpty(t, guesses, "it can be seen")
			seen++
			for _, g := range guesses {
				if g.Field == a.Field {
					named++
					break
				}
			}
		}
		assert.Len(t, fields[level], 3, "each error of level %d is planted", level)
	}
	t.Logf("%d of %d that contradict themselves are named by the reader of plates", named, seen)
	assert.Greater(t, named, 8*seen/10)
}

// An answer is by somebody, to something that there is.
func TestPractisedIsChecked(t *testing.T) {
	good := lesson.Practised{ID: "1", Person: "Ada", Kind: lesson.OfLesson, Name: "no-magnet"}
	assert.Empty(t, good.Check())
	for _, change := range []func(p *lesson.Practised){
		func(p *lesson.Practised) { p.Person = " " }, func(p *lesson.Practised) { p.Name = "magnets" },
		func(p *lesson.Practised) { p.Kind = lesson.OfExercise },
	} {
		bad := good
		change(&bad)
		assert.NotEmpty(t, bad.Check())
	}
	assert.Equal(t, "A wrong plate, level 2", lesson.Title(lesson.OfExercise, "level 2"))
	assert.Equal(t, "No magnet makes the third leg", lesson.Title(lesson.OfLesson, "no-magnet"))
}
