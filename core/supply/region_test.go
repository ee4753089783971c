package supply_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/supply"
)

// Every region has services that there are, and its volts and frequency are those of the first of them.
func TestRegionsHaveServices(t *testing.T) {
	for _, r := range supply.Regions {
		for i, name := range r.Kinds {
			at := slices.IndexFunc(supply.Kinds, func(k supply.Kind) bool { return k.Name == name })
			require.GreaterOrEqual(t, at, 0, "%s of %s", name, r.Title)
			if kind := supply.Kinds[at]; i == 0 && r.Volts > 0 {
				assert.Equal(t, [2]float64{kind.Volts, kind.Hertz}, [2]float64{r.Volts, r.Hertz}, r.Title)
			}
		}
	}
}

// A device's time zone guesses one region, whatever it is.
func TestRegionsAreGuessed(t *testing.T) {
	for zone, name := range map[string]string{
		"America/Denver": "60", "Europe/Oslo": "50", "Asia/Kolkata": "50", "Australia/Perth": "50", "UTC": "50",
		"": "50",
	} {
		i := slices.IndexFunc(supply.Regions, func(r supply.Region) bool { return strings.HasPrefix(zone, r.Zones) })
		assert.Equal(t, name, supply.Regions[i].Name, zone)
	}
}
