package plate

import (
	"regexp"
	"slices"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"brackmoor/core/quantity"
)

// claim is a stretch of a plate's text that was understood: what it says, and
// the words it stands in.
type claim struct {
	from, to int
	field    string
	values   []string // what the pattern caught
	words    string
}

// Pieces of the patterns below. A list keeps its strokes, so that groups such
// as 208-230/460 are seen.
const (
	num     = `(?:\d+(?:[.,]\d+)?|[.,]\d+)`
	list    = `(` + num + `(?:\s*[-/–]\s*` + num + `)*)`
	one     = `(` + num + `)`
	frac    = `(\d+\s+\d/\d+|\d+-\d/\d+|\d/\d+|\d*\s?[½¼¾⅓⅔]|` + num + `(?:\s*/\s*` + num + `)*)`
	is      = `\s*[:=]?\s*`
	joint   = `(?:Δ|∆|△|DELTA|WYE|STAR|YY|Y|D|SERIES|PARALLEL)`
	bearing = `(?:6[0-9]{3}|N[UJ]?\s?[23]\d{2}|[23]\d{2})(?:[-\s]?(?:2?ZZ?|2?RS1?|LLU|DDU|C3)){0,3}`
	joints  = `(` + joint + `(?:\s*/\s*` + joint + `)*)`
)

// pattern is one way in which a plate states a field, in upper case.
type pattern struct {
	field string
	match *regexp.Regexp
}

// compile makes a pattern. A figure and its label stand on one line, so space is
// never the end of one.
func compile(field, expression string) pattern {
	return pattern{field, regexp.MustCompile(strings.ReplaceAll(expression, `\s`, `[\t ]`))}
}

// edge stands where no letter or figure may run on.
const (
	start = `(?:^|[^\pL\pN.,])`
	stop  = `(?:$|[^\pL\pN])`
)

var patterns = []pattern{
	compile("rpm", start+`(`+list+`\s*(?:RPM|R\.P\.M\.?|R/MIN|1/MIN|MIN-1|MIN⁻¹|U/MIN|T/MIN|TR/MIN))`+stop),
	compile("rpm", start+`((?:RPM|R\.P\.M\.?|SPEED)`+is+list+`)`+stop),
	compile(
		"efficiency",
		start+`((?:NEMA\s+)?(?:(?:GUARANTEED|MIN|NOM|NOMINAL)\.?\s*)*EFF(?:ICIENCY|IC)?\.?(?:\s*NOM(?:`+
			`INAL)?\.?)?`+is+one+`\s*%?)`+stop,
	),
	compile("efficiency", start+`((?:IE[1-5]\s*[-:]?\s*|η`+is+`)`+`(\d\d(?:[.,]\d+)?)\s*%?)`+stop),
	compile("efficiency", start+`(`+one+`\s*%\s*EFF(?:ICIENCY)?\.?)`+stop),
	compile(
		"service_factor_amps",
		start+`((?:S\.?F\.?\s*A(?:MPS|MP)?\.?|SERVICE\s*FACTOR\s*AMPS|AMPS?\s*(?:AT|@)`+
			`\s*S\.?F\.?)`+is+list+`\s*A?)`+stop,
	),
	compile(
		"service_factor",
		start+`((?:S\.?\s?F\.?|SER(?:V(?:ICE)?)?\.?\s*F(?:ACT(?:OR)?)?\.?)`+is+`([12](?:[.,]\d+)?))`+stop,
	),
	compile("power_factor", start+`((?:P\.?\s?F\.?|POWER\s*FACTOR|COS\s*(?:Φ|PHI|Ø|ϕ)?)`+is+one+`\s*%?)`+stop),
	compile("code_letter", start+`((?:KVA\s*)?CODE(?:\s*LETTER)?`+is+`([A-HJ-NPR-V]))`+stop),
	compile("code_letter", start+`(KVA\s*(?:CODE)?`+is+`([A-HJ-NPR-V]))`+stop),
	compile("design_letter", start+`((?:NEMA\s*)?DES(?:IGN|GN)?\.?(?:\s*LETTER)?`+is+`(N[YE]|H[YE]|[ABCDNH]))`+stop),
	compile(
		"insulation_class",
		start+`((?:INS(?:UL(?:ATION)?)?\.?\s*(?:SYSTEM\s*)?(?:CL(?:ASS)?\.?)?|IS(?:OL?)?\.?\s*(?:KL|CL)\.?|TH(?:`+
			`ERM)?\.?\s*CL(?:ASS)?\.?|CLASS|CL\.?)`+is+`([ABEFHN]))`+stop,
	),
	compile("temperature_rise_kelvin", start+`((?:TEMP(?:ERATURE)?\.?\s*)?RISE`+is+one+`\s*°?\s*[CK]?)`+stop),
	compile("temperature_rise_kelvin", start+`(`+one+`\s*°?\s*[CK]\s*(?:TEMP(?:ERATURE)?\.?\s*)?RISE)`+stop),
	compile(
		"ambient_celsius",
		start+`((?:MAX\.?\s*)?AMB(?:IENT)?\.?(?:\s*TEMP\.?)?(?:\s*MAX\.?)?`+is+one+`\s*°?\s*C?)`+stop,
	),
	compile("ambient_celsius", start+`(`+one+`\s*°?\s*C\s*(?:MAX\.?\s*)?AMB(?:IENT)?\.?)`+stop),
	compile("altitude_metre", start+`((?:MAX\.?\s*)?ALT(?:ITUDE)?\.?(?:\s*MAX\.?)?`+is+one+`\s*(MTR|M|FT|FEET))`+stop),
	compile(
		"duty",
		start+`((?:DUTY|TIME\s*RATING|TIME|RATING)?`+is+`(S(?:10|[1-9])(?:\s*[-,]?\s*\d+\s*(?:MIN|%))?))`+stop,
	),
	compile(
		"duty",
		start+`((?:DUTY|TIME\s*RATING|TIME|RATING)?`+is+`(CONT(?:INUOUS)?|INT(?:ERMITTENT)?|\d+\s*MIN(?:UTES)?)`+
			`\.?(?:\s*DUTY)?)`+stop,
	),
	compile("frame", start+`((?:FR(?:AME)?)\.?(?:\s*SIZE)?`+is+`(\d{2,3}\s?[A-Z]{0,3}\d?))`+stop),
	compile("frame", start+`(((?:48|56|66|14[35]|18[24]|21[35]|25[46]|28[46])(?:TC|TS|T|U|C|J|HZ|H|Y|Z)))`+stop),
	compile("cooling", start+`(IC\s*-?\s*(\d{2,3}[A-Z]?\d?[A-Z]?\d?))`+stop),
	compile(
		"bearings",
		start+`((?:BEARINGS?|BRGS?|BRG|LAGER)\.?`+is+`(`+bearing+`(?:\s*[/,-]?\s*(?:O?DE|NDE|D-?E|N-?DE|A|`+
			`B)?\s*`+bearing+`)?))`+stop,
	),
	compile(
		"bearings",
		start+`((?:(?:BRG|BEARING)\.?\s*)?(?:DE|D-END)`+is+`(`+bearing+`)\s*[/,;]?\s*(?:N\.?D\.?E|ODE|O\.D\.E)`+
			`\.?`+is+`(`+bearing+`))`+stop,
	),
	compile(
		"part_load_efficiency",
		start+`((?:EFF(?:ICIENCY)?\.?\s*)?(?:AT\s*)?(?:3/4|75)\s*%?\s*(?:LOAD)?`+is+`(\d\d[.,]\d)\s*%?\s*[,`+
			`;/]?\s*(?:1/2|50)\s*%?\s*(?:LOAD)?`+is+`(\d\d[.,]\d)\s*%?)`+stop,
	),
	compile("ip", start+`(IP\s*-?\s*([0-6X][0-9X][A-Z]?))`+stop),
	compile(
		"enclosure",
		start+`((?:ENC(?:L(?:OSURE)?)?\.?)?`+is+`(TEFC|TENV|TEAO|TEBC|ODP|WPI{1,2}|DRIP\s*PROOF|OPEN|DP|XP))`+stop,
	),
	compile("leads", start+`((?:NO\.?\s*OF\s*)?LEADS?`+is+`(\d{1,2}))`+stop),
	compile("leads", start+`((\d{1,2})\s*-?\s*LEADS?)`+stop),
	compile(
		"year",
		start+`((?:YEAR|DATE|MFD|MFG|MADE|BUILT|BAUJAHR|BJ)\.?`+is+`(?:\d{1,2}[/.-])?((?:19|20)\d\d))`+stop,
	),
	compile("weight", start+`((?:WEIGHT|WT|MASS|GEWICHT)?\.?`+is+one+`\s*(KG|LBS?))`+stop),
	compile("phases", start+`((?:PH(?:ASE)?S?\.?)`+is+`([123]))`+stop),
	compile("phases", start+`((?:MOT(?:OR)?\.?\s*)?([123])\s*-?\s*(?:PH(?:ASE)?S?\.?|Φ|Ø|ϕ|~))`+`(?:$|[^\pL])`),
	compile("phases", start+`((SINGLE|TWO|THREE)\s*-?\s*PHASE)`+stop),
	compile("poles", start+`((\d{1,2})\s*-?\s*POLES?)`+stop),
	compile("poles", start+`(POLES?`+is+`(\d{1,2}))`+stop),
	compile("hertz", start+`(`+list+`\s*(?:HZ|HERTZ|CYCLES?|CYC?\.?|CPS|C/S|~))`+stop),
	compile("hertz", start+`((?:HZ|HERTZ|CYCLES?|CYC\.?|FREQ(?:UENCY)?\.?)`+is+list+`)`+stop),
	compile("output", start+`(`+frac+`\s*(KW|B?HP|H\.P\.|PS|CV|CH|WATTS?|W))`+stop),
	compile("output", start+`((?:OUTPUT`+is+`)?(KW|HP|H\.P\.|PS|CV)`+is+frac+`)`+stop),
	compile("volts", start+`(`+joints+`\s*`+list+`\s*(?:VOLTS?|VAC|V))`+stop),
	compile("volts", start+`(`+list+`\s*(?:VOLTS?|VAC|V)\s*`+joints+`)`+stop),
	compile("volts", start+`((`+num+`\s*`+joint+`(?:\s*[/-]\s*`+num+`\s*`+joint+`)*)\s*(?:VOLTS?|VAC|V)?)`+stop),
	compile("volts", start+`((`+joint+`\s*`+num+`(?:\s*[/-]\s*`+joint+`\s*`+num+`)+)\s*(?:VOLTS?|VAC|V)?)`+stop),
	compile("volts", start+`(`+list+`\s*(?:VOLTS?|VAC|V))`+stop),
	compile("volts", start+`((?:VOLTS?|VOLTAGE|V)`+is+list+`)`+stop),
	compile("amps", start+`(`+list+`\s*(?:AMPERES?|AMPS?\.?|A))`+stop),
	compile("amps", start+`((?:F\.?L\.?\s*A(?:MPS)?\.?|F\.?L\.?C\.?|AMPERES?|AMPS?\.?|CURRENT)`+is+list+`)`+stop),
	compile("connection", start+`((?:CONN(?:ECTION)?\.?|CONNECTED)?`+is+`(DELTA|WYE|STAR|Δ|∆|△))`+stop),
}

// idle are words that stand on plates and say nothing by themselves.
var idle = regexp.MustCompile(
	`^(?:AC|A\.C\.|MOTOR|MOT\.?|INDUCTION|ELECTRIC|TYPE|NEMA|IEC|3~|RATING|RATED|NOM\.?|CONT\.?|THREE|PHASE|MADE|IN|` +
		`OF|AT|AND|THE|[-/|;:,.=·*]+)$`,
)

// claims finds what a text says, field by field. Each stretch of it is understood
// once; of all the ways to part it, the one that understands most is taken, so
// that in “SF 1.00 RPM 1745” the 1.00 is no speed.
func claims(text string) (found []claim, unread []string) {
	upper := fold(text)
	found = widest(candidates(text, upper))
	taken := make([]bool, len(upper))
	for _, c := range found {
		for i := c.from; i < c.to; i++ {
			taken[i] = true
		}
	}
	return found, leftover(text, upper, taken)
}

// candidates are all claims that some pattern makes and that are plausible by
// themselves, overlapping ones too.
func candidates(text, upper string) (list []claim) {
	for _, p := range patterns {
		for at := 0; at < len(upper); {
			m := p.match.FindStringSubmatchIndex(upper[at:])
			if m == nil {
				break
			}
			c := claim{
				from:  at + m[2],
				to:    at + m[3],
				field: p.field,
				words: strings.TrimSpace(text[at+m[2] : at+m[3]]),
			}
			for g := 4; g+1 < len(m); g += 2 {
				if m[g] >= 0 {
					c.values = append(c.values, strings.TrimSpace(upper[at+m[g]:at+m[g+1]]))
				}
			}
			if alone := newAssembly(); c.to > c.from && alone.take(c) {
				list = append(list, c)
			}
			_, size := utf8.DecodeRuneInString(upper[c.from:])
			at = c.from + size
		}
	}
	return list
}

// widest chooses among claims those that do not overlap and together cover most
// of the text, by weighted interval scheduling (Kleinberg and Tardos, Algorithm
// Design, section 6.1).
func widest(list []claim) []claim {
	slices.SortStableFunc(list, func(a, b claim) int { return a.to - b.to })
	best := make([]int, len(list)+1) // letters covered by the first i claims
	before := make([]int, len(list)) // how many claims end before claim i begins
	for i, c := range list {
		before[i] = sort.Search(i, func(k int) bool { return list[k].to > c.from })
		best[i+1] = max(best[i], best[before[i]]+letters(c))
	}
	var chosen []claim
	for i := len(list); i > 0; {
		if best[i] == best[i-1] {
			i--
			continue
		}
		chosen = append(chosen, list[i-1])
		i = before[i-1]
	}
	slices.Reverse(chosen)
	return chosen
}

// letters is the weight of a claim: what it covers but space.
func letters(c claim) int { return len(strings.Join(strings.Fields(c.words), "")) }

// fold writes a text in upper case, length for length, so that places stay: a
// letter whose upper case is longer or shorter stays as it is, an odd space
// becomes plain ones, and a byte that is no letter a question mark.
func fold(text string) string {
	var b strings.Builder
	for at := 0; at < len(text); {
		r, size := utf8.DecodeRuneInString(text[at:])
		at += size
		upper := unicode.ToUpper(r)
		switch {
		case r == utf8.RuneError && size == 1:
			b.WriteByte('?')
		case r != '\n' && unicode.IsSpace(r):
			b.WriteString(strings.Repeat(" ", size))
		case r == 'η' || utf8.RuneLen(upper) != size:
			b.WriteRune(r)
		default:
			b.WriteRune(upper)
		}
	}
	return b.String()
}

// leftover lists the words that nothing claimed.
func leftover(text, upper string, taken []bool) (words []string) {
	at := -1
	end := func(to int) {
		if at >= 0 {
			if word := upper[at:to]; !idle.MatchString(word) {
				words = append(words, text[at:to])
			}
		}
		at = -1
	}
	for i, r := range upper {
		switch {
		case taken[i] || unicode.IsSpace(r):
			end(i)
		case at < 0:
			at = i
		}
	}
	end(len(upper))
	return words
}

// numbers reads a list of numbers with its groups: 208-230/460 is two groups.
func numbers(text string) (groups [][]float64) {
	for _, part := range regexp.MustCompile(`\s*/\s*`).Split(text, -1) {
		var group []float64
		for _, n := range regexp.MustCompile(`\s*[-–]\s*`).Split(part, -1) {
			value, err := quantity.ParseNumber(n)
			if err != nil {
				return nil
			}
			group = append(group, value)
		}
		groups = append(groups, group)
	}
	return groups
}

func flat(groups [][]float64) (all []float64) {
	for _, g := range groups {
		all = append(all, g...)
	}
	return all
}
