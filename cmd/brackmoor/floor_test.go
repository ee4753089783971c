package main

import (
	"encoding/json"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestFloor(t *testing.T) {
	first := brackmoor("", "floor", tarn, "--on", "tarn-converter,tarn-hobber,tarn-shaper", "--load",
		"tarn-hobber=0.5", "--start", "tarn-shaper", "--together")
	require.Zero(t, first.code, first.err)
	var got struct {
		Format, Shop string
		Main         struct {
			Amps  float64
			Limit float64 `json:"limit_amps"`
		}
		Circuits []struct {
			ID   string
			Drop float64 `json:"drop_percent"`
		}
		Converters []struct {
			ID    string
			On    bool
			Idler float64 `json:"idler_percent"`
			Volts struct{ AB, BC, CA float64 }
		}
		Machines []struct {
			ID     string
			On     bool
			Motors []struct {
				Share   float64 `json:"load_share"`
				Hottest float64 `json:"hottest_winding_percent"`
				RPM     float64
			}
		}
		Start *struct {
			Seconds *float64
			Lowest  float64 `json:"lowest_volts"`
			Holds   bool    `json:"idler_holds"`
		}
		Permitted bool
		Broken    []struct{ Rule, Severity, Where, Says string }
		Together  *struct {
			Largest   [][]string
			Forbidden []struct{ Machines []string }
			Startable map[string]struct {
				With    []string
				NotWith [][]string `json:"not_with"`
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(first.out), &got))
	assert.Equal(t, "brackmoor.floor/1", got.Format)
	assert.Equal(t, "tarn-hollow", got.Shop)
	assert.InDelta(t, 125, got.Main.Limit, 0)
	assert.Positive(t, got.Main.Amps)
	assert.True(t, got.Converters[0].On)
	assert.InDelta(t, 0.5, got.Machines[0].Motors[0].Share, 0)
	assert.Positive(t, got.Machines[1].Motors[0].Hottest)
	assert.False(t, got.Machines[2].On, "what is not named is off")
	assert.NotNil(t, got.Start.Seconds)
	assert.True(t, got.Start.Holds)
	assert.Less(t, got.Start.Lowest, 240.0)
	assert.True(t, got.Permitted)
	assert.NotEmpty(t, got.Together.Largest)
	assert.NotEmpty(t, got.Together.Forbidden)
	assert.Contains(t, got.Together.Startable, "tarn-shaper")

	// Without --on it is as the file left it, and the table for people says the same.
	people := brackmoor("", "floor", tarn, "--text", "--together", "--start", "tarn-shaper")
	assert.Zero(t, people.code)
	for _, words := range []string{
		"Gear hobber", "starting tarn-shaper", "together:", "never:", "licensed electrician",
	} {
		assert.Contains(t, people.out, words)
	}
	assert.NotContains(t, people.out, "Dust extractor  ")

	both := filepath.Join(t.TempDir(), "none.json")
	for _, c := range []struct {
		args []string
		says string
	}{
		{[]string{tarn, "--on", "tarn-hober"}, `did you mean tarn-hobber?`},
		{[]string{tarn, "--load", "tarn-hobber=2"}, "a share from 0 to 1.5"},
		{[]string{tarn, "--load", "tarn-kiln=0.5"}, `no motor or machine "tarn-kiln"`},
		{[]string{tarn, "--start", "nobody"}, `no "nobody" in this shop`},
		{[]string{tarn, "--shop", "else"}, `no shop "else"`},
		{[]string{both}, "no such file"},
	} {
		refused := brackmoor("", append([]string{"floor"}, c.args...)...)
		assert.Equal(t, exitInput, refused.code, c.args)
		assert.Contains(t, refused.err, c.says)
	}
	none := brackmoor(`{"format": "brackmoor.shops/1", "shops": []}`, "floor", "-")
	assert.Equal(t, exitInput, none.code)
	assert.True(t, strings.HasPrefix(none.err, "--shop"), none.err)
}
