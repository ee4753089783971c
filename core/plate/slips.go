package plate

import (
	"regexp"
	"slices"
	"strings"
)

// Proposal is a field that may have been misread, by an eye or a camera, as it would be
// typed. It is put nowhere unless somebody confirms it.
type Proposal struct {
	Field   string `json:"field"` // as in Typed
	From    string `json:"from"`  // the words, or the figure, as they stand
	To      string `json:"to"`    // as it would be typed
	Because string `json:"because" told:"figures"`
}

// slips are letters that are read for figures.
var slips = map[byte]byte{'O': '0', 'Q': '0', 'D': '0', 'I': '1', 'L': '1', 'S': '5', 'B': '8', 'Z': '2'}

// slipped is a run of figures with such letters among them, up to an end or a unit.
var slipped = regexp.MustCompile(
	`(?:^|[^\pL\pN.,/-])([0-9OQDILSBZ][0-9OQDILSBZ.,/-]*?)\s*` +
		`(?:$|[\s;:]|(?:KW|B?HP|V|A|HZ|RPM|/MIN|VOLTS?|AMPS?)(?:[^\pL]|$))`,
)

// pointless is a service factor that lost its point.
var pointless = compile(
	"service_factor",
	start+`((?:S\.?\s?F\.?|S(?:ER(?:V(?:ICE)?)?|VC)\.?\s*F(?:AC(?:T(?:OR)?)?)?\.?)`+is+
		`1(\d\d))`+stop,
)

// mended is a text with every such letter as the figure that it is read for, and the places
// of what was changed.
func mended(text string) (figures string, changed [][2]int) {
	upper, b := fold(text), []byte(text)
	for at := 0; at < len(upper); {
		m := slipped.FindStringSubmatchIndex(upper[at:])
		if m == nil {
			break
		}
		from, to := at+m[2], at+m[3]
		run := upper[from:to]
		if strings.ContainsAny(run, "OQDILSBZ") &&
			(strings.ContainsAny(run, "0123456789") || strings.ContainsAny(run, "SIL") && len(run) == 1) {
			for i := from; i < to; i++ {
				if figure, ok := slips[upper[i]]; ok {
					b[i] = figure
				}
			}
			changed = append(changed, [2]int{from, to})
		}
		at = max(to, at+1)
	}
	return string(b), changed
}

// misspelled proposes what is read once letters are taken for the figures that they look
// like, where that says something else than the text as it stands.
func misspelled(text string, d Document) (list []Proposal) {
	other, changed := mended(text)
	was, _ := claims(text, 0)
	now, _ := claims(other, 0)
	if len(changed) > 0 && keeps(now, was) {
		before := d.Typed().Fields()
		read, _ := understand(other, 0)
		for i, f := range read.Typed().Fields() {
			if f.Text == "" || f.Text == before[i].Text {
				continue
			}
			if from := touched(text, now, changed, documentNames[f.Name]); from != "" {
				list = append(list, Proposal{f.Name, from, f.Text, "a letter stands where a figure is meant"})
			}
		}
	}
	if m := pointless.match.FindStringSubmatch("\n" + fold(text)); m != nil && d.Plate.ServiceFactor == nil {
		list = append(list, Proposal{"service_factor", strings.TrimSpace(m[1]), "1." + m[2], "the point is missing"})
	}
	return list
}

// keeps says whether all that was read is still read, by itself or as part of more.
func keeps(now, was []claim) bool {
	return !slices.ContainsFunc(was, func(old claim) bool {
		return old.field != "" && !slices.ContainsFunc(now, func(c claim) bool {
			return c.field == old.field && c.from <= old.from && old.to <= c.to
		})
	})
}

// touched are the words of a field that hold something that was changed, as they stand in
// the text; "" for none.
func touched(text string, now []claim, changed [][2]int, field string) string {
	for _, c := range now {
		if c.field == field && slices.ContainsFunc(changed, func(at [2]int) bool {
			return at[0] < c.to && c.from < at[1]
		}) {
			return strings.TrimSpace(text[c.from:c.to])
		}
	}
	return ""
}

// documentNames are the fields of a document by the fields of a typed plate.
var documentNames = map[string]string{
	"output": "output", "volts": "volts", "amps": "amps", "hertz": "hertz", "rpm": "rpm",
	"power_factor": "power_factor", "efficiency": "efficiency", "service_factor": "service_factor",
	"code": "code_letter", "design": "design_letter", "connection": "connection", "leads": "leads",
	"locked_rotor": "locked_rotor_amps", "factor_amps": "service_factor_amps", "insulation": "insulation_class",
	"rise": "temperature_rise_kelvin", "ambient": "ambient_celsius", "altitude": "altitude_metre", "duty": "duty",
	"enclosure": "enclosure", "ip": "ip", "frame": "frame", "cooling": "cooling", "bearings": "bearings",
	"part_load": "part_load_efficiency", "weight": "weight", "year": "year",
}

// contradicted proposes what would make a plate agree with itself that does not.
func (d Document) contradicted() (list []Proposal) {
	p, ok := d.Plate.Plain()
	if !ok || d.Plate.Phases != nil && *d.Plate.Phases != 3 {
		return nil
	}
	for _, m := range Misreadings(p, d.Plate.supply()) {
		to := m.To
		switch m.Field {
		case "amps":
			_, to = m.Plate.columns()
		case "volts":
			to, _ = m.Plate.columns()
		}
		list = append(list, Proposal{m.Field, m.From, to, m.Why})
	}
	return list
}

// supply is the one that the plate is made for.
func (p *Sheet) supply() Supply {
	first := p.Ratings[0]
	s := Supply{Volts: first.Volts, Hertz: 60}
	if first.Hertz != nil {
		s.Hertz = *first.Hertz
	}
	return s
}
