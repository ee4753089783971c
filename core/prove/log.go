package prove

import (
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"gonum.org/v1/gonum/stat"

	"brackmoor/core/rule"
)

// Log is what a logging meter's table of comma-separated values comes to as one reading: a figure for each column that
// is understood, of how many rows, and the columns that are not.
type Log struct {
	Figures []Figure `json:"figures" nullable:"false"`
	Rows    int      `json:"rows"`
	Left    []string `json:"left" nullable:"false"`
	Note    string   `json:"note"`
}

// How much of a meter's log is read.
const (
	MostLogBytes = 4 << 20
	mostLogRows  = 200_000
)

// scales are units that a column may be in, and what one of them is of the unit that its place has.
var scales = map[string]struct {
	unit  string
	times float64
	plus  float64
}{
	"v": {"V", 1, 0}, "mv": {"V", 1e-3, 0}, "kv": {"V", 1e3, 0}, "a": {"A", 1, 0}, "ma": {"A", 1e-3, 0},
	"w": {"W", 1, 0}, "kw": {"W", 1e3, 0}, "hz": {"Hz", 1, 0}, "rpm": {"rpm", 1, 0}, "1/min": {"rpm", 1, 0},
	"s": {"s", 1, 0}, "ms": {"s", 1e-3, 0}, "h": {"h", 1, 0}, "°c": {"°C", 1, 0}, "c": {"°C", 1, 0},
	"°f": {"°C", 5.0 / 9, -32 * 5.0 / 9}, "f": {"°C", 5.0 / 9, -32 * 5.0 / 9}, "ω": {"Ω", 1, 0}, "ohm": {"Ω", 1, 0},
	"mω": {"Ω", 1e-3, 0},
}

// also are short names of columns that meters of every kind use, by place.
var also = map[string][]string{
	"volts.ab": {"u12", "v12", "vab"}, "volts.bc": {"u23", "v23", "vbc"}, "volts.ca": {"u31", "v31", "vca"},
	"amps.machine.a": {"i1", "ia"}, "amps.machine.b": {"i2", "ib"}, "amps.machine.c": {"i3", "ic"},
	"hertz": {"freq", "f"}, "watts": {"p", "power"}, "amps.supply": {"isupply"}, "bus": {"udc", "vdc"},
}

// column is one of a log that is understood.
type column struct {
	at          int
	place       Place
	times, plus float64
	values      []float64
}

// squeezed is a name of a column by its letters and digits alone.
func squeezed(text string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, text)
}

// ReadLog understands a logging meter's table: a head with names of places, as this program, its lines or the meter
// calls them, perhaps with a unit behind; then rows. What ran steadily comes to the median of each column, which one
// spike does not move; while another machine starts the lowest volts and the highest of all else count.
func ReadLog(text, state string, hertz float64) (log Log, problems rule.Problems) {
	log = Log{Figures: []Figure{}, Left: []string{}}
	if len(text) > MostLogBytes {
		problems.Say("text", "it is longer than %d MB: cut it to what matters", MostLogBytes>>20)
		return log, problems
	}
	text = strings.TrimPrefix(text, "\ufeff")
	first, _, _ := strings.Cut(text, "\n")
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord, r.LazyQuotes, r.TrimLeadingSpace = -1, true, true
	for _, comma := range []rune{'\t', ';'} {
		if strings.ContainsRune(first, comma) {
			r.Comma = comma
			break
		}
	}
	head, err := r.Read()
	if err != nil {
		problems.Say("text", "there is no head with the names of columns")
		return log, problems
	}
	columns := log.columns(head, hertz)
	if len(columns) == 0 {
		problems.Say("text", "no column is understood; a head such as volts.ab, volts.bc, amps.supply is")
		return log, problems
	}
	for log.Rows < mostLogRows {
		row, err := r.Read()
		if err != nil {
			break
		}
		read := false
		for i := range columns {
			c := &columns[i]
			if c.at >= len(row) {
				continue
			}
			if value, ok := decimal(row[c.at], r.Comma); ok {
				c.values, read = append(c.values, value*c.times+c.plus), true
			}
		}
		if read {
			log.Rows++
		}
	}
	for i := range columns {
		if value, ok := columns[i].comes(state); ok {
			log.Figures = append(log.Figures, Figure{columns[i].place.Name, value})
		}
	}
	if len(log.Figures) == 0 {
		problems.Say("text", "no row has a number in the columns that are understood")
		return log, problems
	}
	how := "the median of each"
	if state == Starting {
		how = "the lowest volts and the highest of all else"
	}
	log.Note = fmt.Sprintf("From a meter’s log of %d rows: %s.", log.Rows, how)
	return log, problems
}

// columns are those of a head that are understood; the others are left.
func (log *Log) columns(head []string, hertz float64) (list []column) {
	names := map[string]Place{}
	for _, p := range places(hertz, true) {
		for _, name := range append([]string{p.Name, p.Title, p.alone(), p.Group + p.Title}, also[p.Name]...) {
			if key := squeezed(name); key != "" {
				if _, taken := names[key]; !taken {
					names[key] = p
				}
			}
		}
	}
	for i, title := range head {
		name, unit := parted(title)
		place, ok := names[squeezed(name)]
		scale, known := scales[strings.ToLower(unit)]
		known = known && !strings.HasPrefix(unit, "M") // a million of them, which no place here comes to
		switch {
		case !ok || unit != "" && (!known || scale.unit != place.Unit),
			slices.ContainsFunc(list, func(c column) bool { return c.place.Name == place.Name }):
			if strings.TrimSpace(title) != "" {
				log.Left = append(log.Left, strings.TrimSpace(title))
			}
			continue
		case unit == "":
			scale.times = 1
		}
		list = append(list, column{at: i, place: place, times: scale.times, plus: scale.plus})
	}
	return list
}

// parted is a head's name and its unit: the last word, in brackets or not, where that is one.
func parted(title string) (name, unit string) {
	title = strings.TrimSpace(title)
	cut := strings.LastIndexAny(title, " ([/")
	if strings.HasSuffix(strings.ToLower(title), "1/min") {
		cut = len(title) - len("1/min") - 1
	}
	if cut < 1 {
		return title, ""
	}
	unit = strings.Trim(title[cut:], " ()[]/")
	if _, ok := scales[strings.ToLower(unit)]; !ok { // of another kind: a part of the name
		return title, ""
	}
	return title[:cut], unit
}

// decimal is a number of a row; where columns are parted otherwise its point may be a comma.
func decimal(text string, comma rune) (float64, bool) {
	text = strings.TrimSpace(text)
	if comma != ',' {
		text = strings.Replace(text, ",", ".", 1)
	}
	value, err := strconv.ParseFloat(text, 64)
	return value, err == nil && !math.IsNaN(value) && !math.IsInf(value, 0)
}

// comes is what a column comes to in a state.
func (c *column) comes(state string) (float64, bool) {
	if len(c.values) == 0 {
		return 0, false
	}
	slices.Sort(c.values)
	value := stat.Quantile(0.5, stat.Empirical, c.values, nil)
	if state == Starting {
		value = c.values[len(c.values)-1]
		if c.place.Unit == "V" {
			value = c.values[0]
		}
	}
	const digits = 4
	if value != 0 {
		by := math.Pow(10, digits-1-math.Floor(math.Log10(math.Abs(value))))
		value = math.Round(value*by) / by
	}
	return value, true
}
