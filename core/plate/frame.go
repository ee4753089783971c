package plate

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// frameClass is a family of frames: what output stands in a frame, by pole count
// 2, 4 and 6, in watts.
type frameClass struct {
	source string
	most   map[string][3]float64 // the usual outputs by letter of length, "" where there is one
}

const hp = quantity.WattsPerHorsepower

// T frames of totally enclosed motors at 60 Hz (NEMA MG 1, part 13).
var nemaFrames = frameClass{
	"NEMA MG 1, part 13, totally enclosed, 60 Hz",
	map[string][3]float64{
		"143": {
			1.5 * hp,
			1 * hp,
			0.75 * hp,
		},
		"145": {2 * hp, 2 * hp, 1 * hp},
		"182": {3 * hp, 3 * hp, 1.5 * hp},
		"184": {5 * hp, 5 * hp, 2 * hp},
		"213": {
			7.5 * hp,
			7.5 * hp,
			3 * hp,
		},
		"215": {10 * hp, 10 * hp, 5 * hp},
		"254": {15 * hp, 15 * hp, 7.5 * hp},
		"256": {20 * hp, 20 * hp, 10 * hp},
		"284": {25 * hp, 25 * hp, 15 * hp},
		"286": {30 * hp, 30 * hp, 20 * hp},
	},
}

// Metric frames of totally enclosed motors at 50 Hz (EN 50347).
var iecFrames = frameClass{
	"EN 50347, totally enclosed, 50 Hz",
	map[string][3]float64{
		"56": {
			120,
			90,
			0,
		},
		"63":  {250, 180, 90},
		"71":  {550, 370, 250},
		"80":  {1100, 750, 550},
		"90S": {1500, 1100, 750},
		"90L": {2200, 1500, 1100},
		"100L": {
			3000,
			3000,
			1500,
		},
		"112M": {4000, 4000, 2200},
		"132S": {7500, 5500, 3000},
		"132M": {9000, 7500, 5500},
		"160M": {15000, 11000, 7500},
		"160L": {18500, 15000, 11000},
		"180M": {22000, 18500, 0},
		"180L": {22000, 22000, 15000},
	},
}

var frameName = regexp.MustCompile(`^(?:FR(?:AME)?\.?\s*)?(?:IEC\s*)?(\d{2,3})\s*([A-Z]{0,2})`)

// usualOutput is the usual output of a frame at a pole count in watts; ok is false
// for a frame that is in no table. A metric frame has no letter or S, M or L, and one of
// 60 Hz that is called 42, 48 or 56 is the small American one, in which no output is usual
// (NEMA MG 1, 4.4.1).
func usualOutput(frame string, poles int, hertz float64) (watts float64, source string, ok bool) {
	m := frameName.FindStringSubmatch(strings.ToUpper(strings.TrimSpace(frame)))
	if m == nil {
		return 0, "", false
	}
	if strings.HasPrefix(m[2], "T") {
		watts = nemaFrames.most[m[1]][column(poles)]
		return watts, nemaFrames.source, watts > 0
	}
	if len(m[2]) > 1 || m[2] != "" && !strings.Contains("SML", m[2]) ||
		quantity.SixtyHertz(hertz) && strings.Contains("42 48 56", m[1]) {
		return 0, "", false
	}
	for _, name := range []string{m[1] + m[2], m[1]} {
		if row, there := iecFrames.most[name]; there {
			return row[column(poles)], iecFrames.source, row[column(poles)] > 0
		}
	}
	return 0, "", false
}

// ShaftHeight is the height of a frame's shaft in mm: what a metric frame is called by, a
// quarter of an inch for each of the first two of three American digits, a sixteenth for each of
// two (NEMA MG 1, 4.2); ok is false for a name that is neither.
func ShaftHeight(frame string, hertz float64) (mm float64, ok bool) {
	m := frameName.FindStringSubmatch(strings.ToUpper(strings.TrimSpace(frame)))
	if m == nil {
		return 0, false
	}
	number, _ := strconv.Atoi(m[1]) // digits, by the pattern
	const inch = 25.4
	american := strings.ContainsAny(m[2], "TUHZYCJ") || quantity.SixtyHertz(hertz) && m[2] == ""
	switch {
	case american && number < 100:
		mm = float64(number) / 16 * inch
	case american:
		mm = float64(number/10) / 4 * inch
	default:
		mm = float64(number)
	}
	return mm, mm >= leastHeight && mm <= mostHeight
}

// Shaft heights of small motors in mm.
const leastHeight, mostHeight = 50, 280

var openWords = regexp.MustCompile(`(?i)\b(O\.?D\.?P|D\.?P|open|drip.?proof|tropfwasser|IP ?[0-2][0-3])\b`)

// Open says whether air goes through a motor of this enclosure and protection, as typed.
func Open(enclosure, ip string) bool {
	return openWords.MatchString(enclosure) || openWords.MatchString(ip) ||
		openWords.MatchString("IP"+strings.TrimSpace(ip))
}

// frameAgainstOutput asks whether so much output fits into the frame.
func frameAgainstOutput(f Filled) *rule.Verdict {
	const id = "plate.frame-against-output"
	poles := int(f.Poles.Value)
	if poles > 6 || f.Poles.Origin == rule.Assumed {
		return nil
	}
	usual, source, ok := usualOutput(f.Plate.Frame, poles, f.Hertz.Value)
	if !ok {
		return nil
	}
	share := f.Output.Value / usual
	if share <= rule.Limit(id, "most_share_of_usual") && share >= rule.Limit(id, "least_share_of_usual") {
		return nil
	}
	return speak(
		id,
		rule.Numbers{"share": share, "usual_watts": usual},
		"Read output, frame and speed again; an old or a special motor may be built otherwise.",
		"Frame %s at %s poles carries up to %s as a rule (%s); the plate says %s.",
		strings.TrimSpace(f.Plate.Frame),
		strconv.Itoa(poles),
		f.Plate.Power(usual, f.Hertz.Value),
		source,
		f.Plate.Power(f.Output.Value, f.Hertz.Value),
	)
}

// fiftyAgainstSixty compares the figures of two frequencies: the same windings slip
// alike, and give between the same output and a fifth more.
func fiftyAgainstSixty(f Filled) *rule.Verdict {
	const id = "plate.fifty-against-sixty"
	low, high := f.Plate, f.Plate.Second
	if high == nil || low.Hertz == 0 || high.Hertz == 0 {
		return nil
	}
	if low.Hertz > high.Hertz {
		first := low
		low, high = *high, &first
	}
	hertz := high.Hertz / low.Hertz
	say := func(numbers rule.Numbers, format string, args ...any) *rule.Verdict {
		return speak(
			id,
			numbers,
			"Read the figures of both frequencies again: each must stand in its own column.",
			format,
			args...)
	}
	if low.RPM > 0 && high.RPM > 0 {
		if off := 100 * (high.RPM/low.RPM/hertz - 1); math.Abs(off) > rule.Limit(id, "most_speed_percent") {
			return say(
				rule.Numbers{"speed_off_percent": off},
				"%.0f rpm at %s Hz and %.0f at %s Hz do not go with the frequencies.",
				low.RPM,
				quantity.Figures(low.Hertz, 3),
				high.RPM,
				quantity.Figures(high.Hertz, 3),
			)
		}
	}
	if ratio := high.OutputWatts / low.OutputWatts; ratio < rule.Limit(id, "least_output_share") ||
		ratio > hertz*rule.Limit(id, "most_output_share_of_hertz") {
		return say(
			rule.Numbers{"output_ratio": ratio, "hertz_ratio": hertz},
			"%s at %s Hz and %s at %s Hz: the higher frequency gives between as much and %.2f times as much.",
			low.Power(low.OutputWatts, low.Hertz),
			quantity.Figures(low.Hertz, 3),
			high.Power(high.OutputWatts, high.Hertz),
			quantity.Figures(high.Hertz, 3),
			hertz,
		)
	}
	if a, b := low.apparentPerWatt(), high.apparentPerWatt(); a > 0 && b > 0 {
		if off := 100 * (b/a - 1); math.Abs(off) > rule.Limit(id, "most_apparent_percent") {
			return say(
				rule.Numbers{"apparent_off_percent": off},
				"Volt-amperes for each watt differ by %.0f percent between the frequencies.",
				off,
			)
		}
	}
	return nil
}

// apparentPerWatt is volt-amperes taken for each watt given; 0 where amps are not
// on the plate.
func (p Plate) apparentPerWatt() float64 {
	if len(p.Ratings) == 0 || p.OutputWatts == 0 {
		return 0
	}
	return math.Sqrt(3) * p.Ratings[0].Volts * p.Ratings[0].Amps / p.OutputWatts
}
