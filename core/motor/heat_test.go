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
	th := motor.ThermalOf(motor.Body{Watts: 2200, Class: "F", AmbientC: 25})
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
		th := motor.ThermalOf(motor.Body{Watts: 1500, Class: class, AmbientC: 40})
		assert.Equal(t, limit, th.LimitC)
		assert.False(t, th.ClassAssumed)
		assert.LessOrEqual(t, th.Settled(plateLoad).Hottest(), limit)
	}
	th := motor.ThermalOf(motor.Body{Watts: 1500, RiseK: 60, AmbientC: 40})
	assert.True(t, th.ClassAssumed)
	assert.InDelta(t, 100, th.Settled(plateLoad).Hottest(), 1e-9, "the rise of the plate")
}

// Off and standing nothing heats: windings and frame fall along two exponentials, those of the
// pair of first-order equations, whose eigenvalues have a closed form.
func TestCoolingAgainstTheClosedForm(t *testing.T) {
	th := motor.ThermalOf(motor.Body{Watts: 1500, Class: "B", AmbientC: 20})
	duty := []motor.Spell{{Minutes: 30, Heating: plateLoad}, {Minutes: 200}}
	session := th.Session(duty, 230)
	var off motor.Temperatures
	for _, s := range session {
		if math.Abs(s.Minutes-30) < 1e-9 {
			off = s
		}
	}
	require.Positive(t, off.Minutes)
	// x is the frame's rise, y the winding's over it: x' = −k·x + p·y, y' = k·x − (1/τ + p)·y.
	k := th.StandingShare / th.FrameMinutes
	p := th.CopperShare * th.FrameRiseK / (th.WindingRiseK - th.FrameRiseK) / th.FrameMinutes
	d := 1/th.WindingMinutes + p
	root := math.Sqrt((k-d)*(k-d)/4 + p*k)
	fast, slow := -(k+d)/2-root, -(k+d)/2+root
	x0, y0 := off.Frame-20, off.Windings[0]-off.Frame
	// x = A·e^(slow·t) + B·e^(fast·t), with x'(0) = −k·x0 + p·y0.
	first := (-k*x0 + p*y0 - fast*x0) / (slow - fast)
	for _, s := range session {
		if s.Minutes <= 30 {
			continue
		}
		at := s.Minutes - 30
		frame := first*math.Exp(slow*at) + (x0-first)*math.Exp(fast*at)
		over := ((slow+k)*first*math.Exp(slow*at) + (fast+k)*(x0-first)*math.Exp(fast*at)) / p
		assert.InDelta(t, 20+frame, s.Frame, 0.02)
		assert.InDelta(t, 20+frame+over, s.Windings[0], 0.02)
	}
}

// The first moments of a start are adiabatic: the winding rises by the heat put in.
func TestStartRiseIsTheStepsLimit(t *testing.T) {
	th := motor.ThermalOf(motor.Body{Watts: 1500, Class: "F", AmbientC: 40})
	seconds := 1.0
	hot := motor.Heating{Windings: [3]float64{36, 36, 36}, Losses: 1, Turning: true}
	th.AmbientC = 40
	session := th.Session([]motor.Spell{{Minutes: seconds / 60, Heating: hot}}, seconds/60)
	rise := session[len(session)-1].Windings[0] - 40
	cold := (234.5 + 40) / (234.5 + 120) // copper is colder than at rated heat
	assert.InEpsilon(t, th.StartRiseK(36*seconds)*cold, rise, 0.02)
}

func TestStartsPerHour(t *testing.T) {
	th := motor.ThermalOf(motor.Body{Watts: 1500, Class: "F", AmbientC: 40})
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
		th := motor.ThermalOf(motor.Body{
			Watts:    rapid.Float64Range(50, 30000).Draw(t, "watts"),
			Class:    rapid.SampledFrom([]string{"", "B", "F", "H"}).Draw(t, "class"),
			AmbientC: rapid.Float64Range(-20, 50).Draw(t, "air"),
			Open:     rapid.Bool().Draw(t, "open"),
		})
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
	th := motor.ThermalOf(motor.Body{Watts: 2200, Class: "F", AmbientC: 40})
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

// Energy closes: what copper, hot as it is, and the rest of the losses put in is what windings
// and frame have stored and the frame has given off.
func TestHeatClosesItsEnergy(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lost := rapid.Float64Range(80, 1500).Draw(t, "lost")
		th := motor.ThermalOf(motor.Body{Watts: 2200, Class: "F", AmbientC: 25, LostWatts: lost,
			CopperShare: rapid.Float64Range(0.2, 0.6).Draw(t, "copper"), Open: rapid.Bool().Draw(t, "open")})
		q := rapid.Float64Range(0.3, 1.6)
		h := motor.Heating{Windings: [3]float64{q.Draw(t, "a"), q.Draw(t, "b"), q.Draw(t, "c")}, Losses: 1.4,
			Turning: true}
		rise, rated := th.WindingRiseK-th.FrameRiseK, 234.5+th.AmbientC+th.WindingRiseK
		within := th.CopperShare * lost / 3 / rise // W/K from a winding into the frame
		out := lost / th.FrameRiseK                // W/K from the frame into the air
		stored, in, given := 0.0, 0.0, 0.0
		session := th.Session([]motor.Spell{{Minutes: 120, Heating: h}}, 120)
		for i := 1; i < len(session); i++ {
			was, now := session[i-1], session[i]
			seconds := 60 * (now.Minutes - was.Minutes)
			watts := lost * 1.4
			for k, w := range h.Windings {
				middle := (was.Windings[k] + now.Windings[k]) / 2
				watts += th.CopperShare * lost / 3 * w * ((234.5+middle)/rated - 1) // over what the losses count
				stored += within * 60 * th.WindingMinutes * (now.Windings[k] - was.Windings[k])
			}
			in += watts * seconds
			given += out * ((was.Frame+now.Frame)/2 - th.AmbientC) * seconds
			stored += out * 60 * th.FrameMinutes * (now.Frame - was.Frame)
		}
		assert.InEpsilon(t, in, stored+given, 2e-3)
		// And where it settles it gives off all that it gets.
		end := th.Settled(h)
		hot := lost * 1.4
		for k, w := range h.Windings {
			hot += th.CopperShare * lost / 3 * w * ((234.5+end.Windings[k])/rated - 1)
		}
		assert.InEpsilon(t, hot, out*(end.Frame-th.AmbientC), 1e-9)
	})
}

// Time constants are those of mass and losses: a quarter to half an hour for the frame, two to
// five minutes for a winding; a motor with air through it is quicker, and stands hotter.
func TestTimeConstants(t *testing.T) {
	for _, c := range []struct{ watts, height, lost float64 }{
		{370, 71, 180}, {1500, 90, 430}, {4000, 112, 780}, {7500, 132, 1150}, {11000, 160, 1500},
	} {
		by := motor.Body{Watts: c.watts, Class: "F", AmbientC: 40, LostWatts: c.lost}
		usual := motor.ThermalOf(by)
		by.MassKg = motor.MassOf(c.height)
		framed := motor.ThermalOf(by)
		assert.InEpsilon(t, usual.FrameMinutes, framed.FrameMinutes, 0.4, "%.0f W", c.watts)
		assert.True(
			t,
			13 < framed.FrameMinutes && framed.FrameMinutes < 33,
			"%.0f W: %.0f",
			c.watts,
			framed.FrameMinutes,
		)
		assert.True(t, 2 < framed.WindingMinutes && framed.WindingMinutes < 5)
		by.Open = true
		through := motor.ThermalOf(by)
		assert.Less(t, through.FrameMinutes, framed.FrameMinutes)
		assert.Less(t, through.StandingShare, framed.StandingShare)
		worse, better := framed.Doubt()
		load := motor.Heating{Windings: [3]float64{1.3, 1.3, 1.3}, Losses: 1.2, Turning: true}
		hot := func(th motor.Thermal) float64 { return motor.HottestOf(th.Session(load.Work(10, 10), 120)).Hottest() }
		assert.Less(t, hot(better), hot(framed))
		assert.Less(t, hot(framed), hot(worse))
	}
}
