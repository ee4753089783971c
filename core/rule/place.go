package rule

import "strings"

// Place is where rules speak: a name, a title, and the rules.
type Place struct {
	Name  string   `json:"name"`
	Title string   `json:"title"`
	Rules []string `json:"rules" nullable:"false"`
}

// places are where rules speak, by the beginnings of their ids; a whole id goes before a
// beginning.
var places = []struct {
	name, title string
	ids         []string
}{
	{"plate", "Plate and supply", []string{"plate.", "supply."}},
	{"leads", "Leads", []string{"leads."}},
	{"ways", "Ways of feeding", []string{"route.", "rotary.", "drive.", "capacitor.", "start."}},
	{"floor", "The whole shop", []string{"floor."}},
	{"feed", "Feed and code", []string{
		"always.feed", "always.residual-current", "always.plugs", "always.utility", "always.local-code",
		"always.made-leg-to-earth", "route.circuit", "route.long-run", "drive.residual-current", "drive.leakage",
		"drive.harmonics", "bus.",
	}},
	{
		"wiring",
		"Wiring",
		[]string{
			"always.",
			"wire.",
			"capacitor.charged",
			"capacitor.kind",
			"capacitor.volts",
			"capacitor.welded-start",
			"rotary.made-leg",
			"rotary.guard",
			"rotary.load-last",
			"drive.no-contactor",
			"drive.bus-charged",
			"start.no-relay",
		},
	},
	{
		"proving",
		"First run and proving",
		[]string{
			"heat.",
			"energise.",
			"start.live-while-it-spins",
			"start.excites-itself",
			"rotary.lost-line",
			"start.follows-spin",
			"learn.",
			"prove.",
		},
	},
}

// Places are where the rules of the catalogue speak, each rule in one.
func Places() []Place {
	list := make([]Place, len(places))
	for i, p := range places {
		list[i] = Place{p.name, p.title, []string{}}
	}
	for _, r := range Catalogue {
		i := placeOf(r.ID)
		list[i].Rules = append(list[i].Rules, r.ID)
	}
	return list
}

// placeOf is the place of a rule; one without is a fault of the program.
func placeOf(id string) int {
	best, length := -1, 0
	for i, p := range places {
		for _, begins := range p.ids {
			if strings.HasPrefix(id, begins) && len(begins) > length {
				best, length = i, len(begins)
			}
		}
	}
	if best < 0 {
		panic("rule: " + id + " has no place")
	}
	return best
}
