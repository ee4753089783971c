package stock

import "math"

// How much larger than needed something on hand may be before it is left: an idler that is larger takes more idling, a
// drive that is larger measures its motor poorly.
const (
	mostIdler = 1.6
	mostDrive = 2.0
)

// suits says whether volts on a part come near those wanted; one that says none is taken at its word.
func suits(own, want float64) bool { return own == 0 || math.Abs(own-want) <= 0.1*want }

// free says whether a part may be taken for a machine.
func (i *Item) free(machine string) bool {
	return i.Count >= 1 && (i.For == "" || i.For == machine) && i.Condition != "unknown" && i.Doubtful() == nil
}

// Idler is the smallest motor on hand that is large enough for an idler of so many watts on a supply of volts, and
// not far too large; nil where there is none.
func Idler(list []Item, watts, volts float64, machine string) (best *Item) {
	for k := range list {
		i := &list[k]
		if i.Kind == "motor" && i.free(machine) && suits(i.Volts, volts) && i.Watts >= watts*(1-1e-3) &&
			i.Watts <= mostIdler*watts && (best == nil || i.Watts < best.Watts) {
			best = i
		}
	}
	return best
}

// Drive is the smallest drive on hand of a rating of watts or more that gives a motor's amps at its volts; nil where
// there is none. For one phase its maker must permit that; one of which it is not known is left, unless it is derated
// so.
func Drive(list []Item, watts, amps, volts float64, onePhase bool, machine string) (best *Item) {
	for k := range list {
		i := &list[k]
		if i.Kind == "drive" && i.free(machine) && suits(i.Volts, volts) && i.Watts >= watts*(1-1e-3) &&
			i.Watts <= mostDrive*watts && (i.Amps == 0 || i.Amps >= amps) &&
			i.OnePhase != "no" && (i.OnePhase == "yes" || !onePhase) && (best == nil || i.Watts < best.Watts) {
			best = i
		}
	}
	return best
}

// IDs is the id of a part, none for nil.
func (i *Item) IDs() []string {
	if i == nil {
		return nil
	}
	return []string{i.ID}
}
