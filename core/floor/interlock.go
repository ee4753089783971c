package floor

import (
	"slices"

	"brackmoor/core/site"
)

// contacts says whether break contacts of contactors keep things apart: machines that no change-over parts.
func (f *Floor) contacts(ids []string, broken string) bool {
	return len(ids) > 1 && broken != "floor.change-over" && !f.heaters(ids)
}

// heaters says whether any of some things is a load without a contactor.
func (f *Floor) heaters(ids []string) bool {
	return slices.ContainsFunc(f.Shop.Site.Loads, func(l site.Load) bool { return slices.Contains(ids, l.ID) })
}

// how is how things that must not run together are kept from it.
func (f *Floor) how(ids []string, broken string) string {
	switch {
	case len(ids) == 1:
		return "It does not run here by itself either: another way, another circuit, or less load."
	case broken == "floor.change-over":
		return "The change-over switch keeps them apart."
	case f.heaters(ids):
		return "A change-over switch with both on it, or a break contact of the machine’s contactor in the line of a " +
			"contactor for the other."
	case len(ids) == 2:
		return "A break contact of each one’s contactor in the coil line of the other."
	}
	return "In each one’s coil line a break contact of every other’s contactor, those in parallel: the last of them " +
		"finds no way left."
}
