package motor_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
)

var plateLoad = motor.Heating{Windings: [3]float64{1, 1, 1}, Losses: 1, Turning: true}

// Plate load on balanced lines settles at the rises it was made with, by the closed
// form and by stepping.
func TestPlateLoadSettlesAtItsRises(t *testing.T) {
	th := motor.ThermalOf(2200, "F", 0, 25)
	s := th.Settled(plateLoad)
	assert.InDelta(t, 25+80, s.Hottest(), 1e-9)
	assert.InDelta(t, 25+0.55*80, s.Frame, 1e-9)
	session := th.Session([]motor.Spell{{Minutes: 600, Heating: plateLoad}}, 600)
	end := session[len(session)-1]
	assert.InDelta(t, 600, end.Minutes, 1e-6)
	assert.InDelta(t, s.Hottest(), end.Hottest(), 0.01)
	assert.InDelta(t, s.Frame, end.Frame, 0.01)
}

func TestClasses(t *testing.T) {
	for class, limit := range map[string]float64{"A": 100, "B": 120, "F": 145, "H": 165, "f": 145} {
		th := motor.ThermalOf(1500, class, 0, 40)
		assert.Equal(t, limit, th.LimitC)
		assert.False(t, th.ClassAssumed)
		assert.LessOrEqual(t, th.Settled(plateLoad).Hottest(), limit)
	}
	th := motor.ThermalOf(1500, "", 60, 40)
	assert.True(t, th.ClassAssumed)
	assert.InDelta(t, 100, th.Settled(plateLoad).Hottest(), 1e-9, "the rise of the plate")
}

// Off and standing nothing heats: the frame falls along one exponential, the winding
// along two, as the pair of first-order equations has it.
func TestCoolingAgainstTheClosedForm(t *testing.T) {
	th := motor.ThermalOf(1500, "B", 0, 20)
	duty := []motor.Spell{{Minutes: 30, Heating: plateLoad}, {Minutes: 200}}
	session := th.Session(duty, 230)
	var off motor.Temperatures
	for _, s := range session {
		if math.Abs(s.Minutes-30) < 1e-9 {
			off = s
		}
	}
	require.Positive(t, off.Minutes)
	frameTau := th.FrameMinutes / th.StandingShare
	for _, s := range session {
		if s.Minutes <= 30 {
			continue
		}
		d := s.Minutes - 30
		frame := (off.Frame - 20) * math.Exp(-d/frameTau)
		assert.InDelta(t, 20+frame, s.Frame, 0.02)
		forced := (off.Frame - 20) / (1 - th.WindingMinutes/frameTau)
		winding := forced*math.Exp(-d/frameTau) + (off.Windings[0]-20-forced)*math.Exp(-d/th.WindingMinutes)
		assert.InDelta(t, 20+winding, s.Windings[0], 0.02)
	}
}

// The first moments of a start are adiabatic: the winding rises by the heat put in.
func TestStartRiseIsTheStepsLimit(t *testing.T) {
	th := motor.ThermalOf(1500, "F", 0, 40)
	seconds := 1.0
	hot := motor.Heating{Windings: [3]float64{36, 36, 36}, Losses: 1, Turning: true}
	th.AmbientC = 40
	session := th.Session([]motor.Spell{{Minutes: seconds / 60, Heating: hot}}, seconds/60)
	rise := session[len(session)-1].Windings[0] - 40
	cold := (234.5 + 40) / (234.5 + 120) // copper is colder than at rated heat
	assert.InEpsilon(t, th.StartRiseK(36*seconds)*cold, rise, 0.02)
}

func TestStartsPerHour(t *testing.T) {
	th := motor.ThermalOf(1500, "F", 0, 40)
	running := motor.Heating{Windings: [3]float64{0.5, 0.9, 0.4}, Losses: 0.7, Turning: true}
	starts := [3]float64{60, 90, 50}
	n := th.StartsPerHour(running, starts, 9000, 400)
	require.Positive(t, n)
	// Added up the other way: that many starts an hour as spells beside the running.
	minutes := 60 / n
	short := 1.0 / 60
	spike := motor.Heating{Losses: running.Losses + 9000/400, Turning: true}
	for k := range spike.Windings {
		spike.Windings[k] = running.Windings[k] + starts[k]
	}
	peak := 0.0
	for _, s := range th.Session([]motor.Spell{{Minutes: short, Heating: spike}, {Minutes: minutes - short,
		Heating: running}}, 600) {
		peak = math.Max(peak, s.Hottest())
	}
	assert.InDelta(t, th.LimitC, peak, 6)
	assert.Zero(
		t,
		th.StartsPerHour(motor.Heating{Windings: [3]float64{3, 1, 1}, Losses: 2, Turning: true}, starts, 9000, 400),
		"too hot already",
	)
	assert.Greater(t, th.StartsPerHour(running, [3]float64{30, 45, 25}, 4500, 400), n)
}

// Whatever the duty, temperatures stay between the air and the bound, and a session is
// a few hundred points.
func TestSessions(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		th := motor.ThermalOf(
			rapid.Float64Range(50, 30000).Draw(t, "watts"),
			rapid.SampledFrom([]string{"", "B", "F", "H"}).Draw(t, "class"),
			0,
			rapid.Float64Range(-20, 50).Draw(t, "air"),
		)
		var duty []motor.Spell
		for range rapid.IntRange(1, 4).Draw(t, "spells") {
			q := rapid.Float64Range(0, 60)
			duty = append(
				duty,
				motor.Spell{
					Minutes: rapid.Float64Range(0, 200).Draw(t, "minutes"),
					Heating: motor.Heating{Windings: [3]float64{q.Draw(t, "a"), q.Draw(t, "b"), q.Draw(t, "c")},
						Losses: rapid.Float64Range(0, 20).Draw(t, "losses"), Turning: rapid.Bool().Draw(t, "turning")},
				},
			)
		}
		session := th.Session(duty, rapid.Float64Range(0, 2000).Draw(t, "session"))
		assert.Less(t, len(session), 8000)
		for _, s := range session {
			for _, c := range []float64{s.Windings[0], s.Windings[1], s.Windings[2], s.Frame} {
				assert.False(t, math.IsNaN(c) || c > 1000 || c < th.AmbientC-1e-6, "%v", c)
			}
		}
	})
}

// The load inertia of NEMA MG 1's table 12-55, in lb·ft² at 0.04214 kg·m²: 1 hp and
// 5 hp at 1800 rpm, 5 hp at 3600 rpm.
func TestMostLoadInertia(t *testing.T) {
	for _, c := range []struct{ hp, rpm, poundFoot2 float64 }{{1, 1800, 5.8}, {5, 1800, 27}, {10, 1800, 51}} {
		assert.InEpsilon(t, c.poundFoot2*0.04214, motor.MostLoadInertia(c.hp*745.7, c.rpm), 0.02)
	}
	assert.Greater(t, motor.RotorInertia(4000, 6), motor.RotorInertia(4000, 4))
}

// The most a duty bears lies where its session just reaches the limit: more for a pause,
// and at the edge neither over nor far under it.
func TestMostShare(t *testing.T) {
	th := motor.ThermalOf(2200, "F", 0, 40)
	heat := func(share float64) motor.Heating {
		q := 0.15 + 1.05*share*share // a hot one: at plate load a little past rated
		return motor.Heating{Windings: [3]float64{q, q, q}, Losses: q, Turning: true}
	}
	most := func(on, off float64) float64 {
		share := th.MostShare(func(share float64) []motor.Spell { return heat(share).Work(on, off) })
		require.NotNil(t, share)
		return *share
	}
	always := most(30, 0)
	assert.LessOrEqual(t, th.Settled(heat(always)).Hottest(), th.LimitC)
	assert.Greater(t, th.Settled(heat(always+0.01)).Hottest(), th.LimitC)
	assert.Greater(t, most(10, 10), always, "a pause lets more through")
	reached := motor.HottestOf(th.Session(heat(most(30, 10)).Work(30, 10), motor.SessionMinutes)).Hottest()
	assert.LessOrEqual(t, reached, th.LimitC)
	assert.Nil(t, th.MostShare(func(float64) []motor.Spell { return nil }), "it never runs")
	hot := th.MostShare(func(float64) []motor.Spell {
		return motor.Heating{Windings: [3]float64{9, 9, 9}, Losses: 9, Turning: true}.Work(30, 0)
	})
	assert.Nil(t, hot)
}
