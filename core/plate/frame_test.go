package plate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/plate"
)

// A plate for two frequencies gives each supply its own figures.
func TestTwoFrequencies(t *testing.T) {
	type figures struct {
		volts, amps, rpm, watts float64
	}
	for _, c := range []struct {
		name   string
		typed  plate.Typed
		fifty  figures
		sixty  figures
		ampsOf int // how many ratings at 60 Hz have amps
	}{
		{"volts in pairs", plate.Typed{Output: "2.2/2.6 kW", Volts: "400/460", Amps: "4.9/4.8", Hertz: "50/60",
			RPM: "1430/1730"},
			figures{400, 4.9, 1430, 2200}, figures{460, 4.8, 1730, 2600}, 1},
		{"strokes", plate.Typed{Output: "3/4 hp | 3/4 hp", Volts: "190/380 | 230/460", Amps: "3.0/1.5 | 2.8/1.4",
			Hertz: "50/60 Hz", RPM: "1420 | 1720"},
			figures{190, 3.0, 1420, 0.75 * 745.7}, figures{230, 2.8, 1720, 0.75 * 745.7}, 2},
		{"the same volts for both", plate.Typed{Output: "1.5 kW", Volts: "230/400", Amps: "6.0/3.5", Hertz: "60/50",
			RPM: "1720/1420"},
			figures{230, 0, 1420, 1500}, figures{230, 6.0, 1720, 1500}, 2},
		{"amps for both in a row", plate.Typed{Output: "1.5 kW", Volts: "230/400", Amps: "6.0/3.5/5.8/3.4",
			Hertz: "50/60", RPM: "1420/1720"},
			figures{230, 6.0, 1420, 1500}, figures{230, 5.8, 1720, 1500}, 2},
	} {
		t.Run(c.name, func(t *testing.T) {
			read, problems := plate.Read(c.typed)
			require.Empty(t, problems)
			for hertz, want := range map[float64]figures{50: c.fifty, 60: c.sixty} {
				p := read.On(hertz)
				assert.InDelta(t, hertz, p.Hertz, 1e-9)
				assert.InDelta(t, want.volts, p.Ratings[0].Volts, 1e-9)
				assert.InDelta(t, want.amps, p.Ratings[0].Amps, 1e-9)
				assert.InDelta(t, want.rpm, p.RPM, 1e-9)
				assert.InDelta(t, want.watts, p.OutputWatts, 1e-6)
				assert.InDelta(t, 110-hertz, p.Second.Hertz, 1e-9)
				filled, missing := plate.Fill(read, plate.Supply{Volts: want.volts, Hertz: hertz})
				require.Empty(t, missing)
				assert.InDelta(t, want.rpm, filled.RPM.Value, 1e-9)
				assert.NotContains(t, ids(plate.Check(filled)), "plate.fifty-against-sixty")
			}
			assert.InDelta(t, 50, read.On(50).On(60).On(50).Hertz, 1e-9)
		})
	}
}

// What was read from text for two frequencies is typed so that it is read back.
func TestTwoFrequenciesFromText(t *testing.T) {
	d := plate.ReadText("2.2/2.6 kW 400/460 V 50/60 Hz 4.9/4.8 A 1430/1730 rpm")
	typed := d.Typed()
	assert.Equal(t, "50/60", typed.Hertz)
	read, problems := plate.Read(typed)
	require.Empty(t, problems)
	plain, ok := d.Plate.Plain()
	require.True(t, ok)
	for _, hertz := range []float64{50, 60} {
		got, want := read.On(hertz), plain.On(hertz)
		assert.InDelta(t, want.OutputWatts, got.OutputWatts, 1)
		assert.Equal(t, want.Ratings, got.Ratings)
		assert.InDelta(t, want.RPM, got.RPM, 1e-9)
	}
}

func TestTheTwoFrequenciesMustAgree(t *testing.T) {
	good := plate.Typed{Output: "2.2/2.6 kW", Volts: "400/460", Amps: "4.9/4.8", Hertz: "50/60", RPM: "1430/1730"}
	for name, edit := range map[string]func(*plate.Typed){
		"speed of the other":   func(p *plate.Typed) { p.RPM = "1430/1430" },
		"less output":          func(p *plate.Typed) { p.Output = "2.2/1.8 kW" },
		"far more output":      func(p *plate.Typed) { p.Output = "2.2/3.7 kW" },
		"amps of something":    func(p *plate.Typed) { p.Amps = "4.9/7.5" },
		"columns turned round": func(p *plate.Typed) { p.RPM = "1730/1430" },
	} {
		typed := good
		edit(&typed)
		read, _ := plate.Read(typed)
		filled, problems := plate.Fill(read, europe)
		if len(problems) == 0 {
			assert.Contains(t, ids(plate.Check(filled)), "plate.fifty-against-sixty", name)
		} else {
			assert.Equal(t, "columns turned round", name)
		}
	}
	_, problems := plate.Read(plate.Typed{Output: "2 kW", Volts: "400", Hertz: "50/60/70"})
	require.Len(t, problems, 1)
	assert.Equal(t, "hertz", problems[0].Field)
}

// Frames of both standards hold what their tables say, and twice as much is doubted.
func TestFrameAgainstOutput(t *testing.T) {
	for _, c := range []struct {
		frame, output, hertz, rpm string
		doubted                   bool
	}{
		{"182T", "3 hp", "60", "1745", false}, {"184T", "5 hp", "60", "1745", false}, {"145T", "2 hp", "60", "1725",
			false}, {"145T", "5 hp", "60", "1745", true},
		{"FR 215T", "10 hp", "60", "1760", false}, {"254T", "1 hp", "60", "1745", true}, {"100L", "3 kW", "50", "1435",
			false}, {"IEC 90S", "1.1 kW", "50", "1415", false},
		{"80", "0.75 kW", "50", "1400", false}, {"80", "2.2 kW", "50", "1430", true}, {"132S", "5.5 kW", "50", "1455",
			false}, {"112M", "0.55 kW", "50", "1400", true},
		{"225", "3 hp", "60", "1745", false}, {"X9", "3 hp", "60", "1745", false},
	} {
		read, problems := plate.Read(
			plate.Typed{Output: c.output, Volts: "230", Hertz: c.hertz, RPM: c.rpm, Rest: plate.Rest{Frame: c.frame}},
		)
		require.Empty(t, problems)
		filled, _ := plate.Fill(read, plate.Supply{Volts: 230, Hertz: read.Hertz})
		assert.Equal(
			t,
			c.doubted,
			contains(ids(plate.Check(filled)), "plate.frame-against-output"),
			"%s in %s",
			c.output,
			c.frame,
		)
	}
}

func contains(list []string, one string) bool {
	for _, item := range list {
		if item == one {
			return true
		}
	}
	return false
}

// Design H starts with one and a half times the torque of design N, never below
// twice rated (IEC 60034-12).
func TestDesignH(t *testing.T) {
	least := func(design string) float64 {
		read, problems := plate.Read(
			plate.Typed{Output: "4 kW", Volts: "400", Hertz: "50", RPM: "1440", Design: design},
		)
		require.Empty(t, problems)
		filled, _ := plate.Fill(read, europe)
		return filled.LockedRotorTorque.Least
	}
	assert.InDelta(t, 1.5*least("N"), least("H"), 1e-9)
	assert.InDelta(t, least("H"), least("HY"), 1e-9)
	assert.InDelta(t, least("N"), least("NE"), 1e-9)
}

// Shaft heights by both manners of naming frames, and which enclosures let air through.
func TestShaftHeight(t *testing.T) {
	for _, c := range []struct {
		frame string
		hertz float64
		mm    float64
	}{
		{"90L", 50, 90}, {"IEC 112M", 50, 112}, {"71", 50, 71}, {"182T", 60, 114.3}, {"145T", 60, 88.9},
		{"FR 213", 60, 133.35}, {"56C", 60, 88.9}, {"56", 60, 88.9}, {"56", 50, 56}, {"48", 60, 76.2}, {"X1", 60, 0},
		{"", 50, 0}, {"999", 50, 0}, {"100L", 60, 100},
	} {
		mm, ok := plate.ShaftHeight(c.frame, c.hertz)
		assert.Equal(t, c.mm > 0, ok, c.frame)
		if ok {
			assert.InDelta(t, c.mm, mm, 0.01, c.frame)
		}
	}
	for words, through := range map[[2]string]bool{
		{"ODP", ""}: true, {"open drip-proof", ""}: true, {"TEFC", ""}: false, {"", "IP23"}: true, {"", "55"}: false,
		{"", "22"}: true, {"TEFC", "IP 44"}: false, {"", ""}: false,
	} {
		assert.Equal(t, through, plate.Open(words[0], words[1]), words)
	}
}
