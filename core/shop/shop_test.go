package shop_test

import (
	"encoding/json"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/demo"
)

func demoFile(t *testing.T, name string) (shop.File, []byte) {
	t.Helper()
	text, err := demo.Files.ReadFile(name)
	require.NoError(t, err)
	file, problems := shop.ReadFile(text)
	require.Empty(t, problems)
	return file, text
}

func TestReadFileRefuses(t *testing.T) {
	_, text := demoFile(t, "ferry-stairs.json")
	const own = `{"format": "brackmoor.drive-profile/1", "name": "Ours", "parameters": {}}`
	for _, c := range []struct{ old, new, path string }{
		{`"format": "brackmoor.shops/1"`, `"format": "else"`, "$.format"},
		{`"id": "ferry-fan",` + "\n          \"name\"", `"id": "ferry-planer",` + "\n          \"name\"",
			"$.shops[0].machines[1].id"},
		{`"id": "ferry-mortiser",`, `"id": "ferry-winch",`, "$.shops[0].site.hung"},
		{`"size": "10 mm²"`, `"size": "10 AWG"`, "$.shops[0].site.circuits[0].size"},
		{`"class": "usual"`, `"class": "transformer"`, "$.shops[0].supply.kva"},
		{`"volts": 230,`, `"volts": -230,`, "$.shops[0].supply.volts"},
		{`"kind": "line-neutral"`, `"kind": "nuclear"`, "$.shops[0].supply.kind"},
		{`"output": "4 kW"`, `"output": "4 kW", "colour": "red"`, "$.shops[0].machines[0].motors[0].plate"},
		{`"reversed": false`, `"reversed": "no"`, "$.shops[0].machines[0].motors[0].reversed"},
		{`"load_share": null`, `"load_share": 7`, "$.shops[0].machines[0].motors[0].load_share"},
		{"\"A\",\n                  \"B\",", `"A",`, "$.shops[0].machines[0].motors[0].leads"},
		{`"machines": [`, `"profiles": [` + own + `, ` + own + `], "machines": [`, "$.shops[0].profiles[1]"},
	} {
		require.Contains(t, string(text), c.old)
		_, problems := shop.ReadFile([]byte(strings.Replace(string(text), c.old, c.new, 1)))
		require.NotEmpty(t, problems, c.new)
		assert.True(t, strings.HasPrefix(problems[0].Path, c.path), "%s: %s", c.new, problems[0])
	}
}

// What is written is read back the same.
func TestFileRoundTrip(t *testing.T) {
	for _, name := range []string{"tarn-hollow.json", "ferry-stairs.json"} {
		file, _ := demoFile(t, name)
		text, err := json.Marshal(file)
		require.NoError(t, err)
		again, problems := shop.ReadFile(text)
		require.Empty(t, problems)
		assert.Equal(t, file, again)
	}
}

func TestBareAndCopy(t *testing.T) {
	file, _ := demoFile(t, "tarn-hollow.json")
	original := file.Shops[0]
	original.Version, original.Machines[0].Version, original.Machines[0].Motors[0].Version = 3, 4, 5
	bare := original.Bare()
	assert.Zero(t, bare.Version+bare.Machines[0].Version+bare.Machines[0].Motors[0].Version)
	assert.Equal(t, 5, original.Machines[0].Motors[0].Version, "the shop given stays as it was")
	n := 0
	copied := original.Copy(func() string { n++; return "id-" + strconv.Itoa(n) })
	seen := map[string]bool{copied.ID: true}
	for i, m := range copied.Machines {
		assert.False(t, seen[m.ID])
		seen[m.ID] = true
		for k, motor := range m.Motors {
			assert.False(t, seen[motor.ID])
			seen[motor.ID] = true
			assert.Equal(t, original.Machines[i].Motors[k].Plate, motor.Plate)
			assert.NotEqual(t, original.Machines[i].Motors[k].ID, motor.ID)
		}
	}
}

func TestChecklist(t *testing.T) {
	seen := map[string]bool{}
	for _, item := range shop.Checklist {
		assert.False(t, seen[item.Name])
		seen[item.Name] = true
		assert.True(t, strings.HasSuffix(item.Says, "."))
	}
}
