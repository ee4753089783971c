package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/docs/schema"
	"brackmoor/server"
	"brackmoor/store"
)

// maker makes values that a schema takes, odd ones with them.
type maker struct {
	*rand.Rand
	root  map[string]any
	names int
}

// texts are what somebody types, or sends.
var texts = []string{
	"", "3 hp", "230/460", "9.0/4.5", "60", "1745", "2,2 kW", "400", "50", "-1", "0", "1e9", "NaN", "½", "½ hp", "1/0",
	"\u2028", "'; DROP TABLE motors; --", "<script>alert(1)</script>", "400 Y", "=1+1", strings.Repeat("9", 60), "open",
	"0.5", "208-230/460", "good", "Ω", "1450 | 1750",
}

// plausible are plates that are answered.
var plausible = []map[string]any{
	{"output": "3 hp", "volts": "230/460", "amps": "9.0/4.5", "hertz": "60", "rpm": "1745"},
	{"output": "2.2 kW", "volts": "230/400", "amps": "8.6/5", "hertz": "50", "rpm": "1430"},
	{"output": "10 hp", "volts": "208-230/460", "amps": "26/13", "rpm": "1760", "service_factor": "1.15"},
	{"output": "0.18 kW", "volts": "400", "rpm": "900"},
}

func (m *maker) of(s map[string]any, depth int) any {
	if ref, ok := s["$ref"].(string); ok {
		s = m.root["$defs"].(map[string]any)[strings.TrimPrefix(ref, "#/$defs/")].(map[string]any)
	}
	if s["title"] == "plate" && m.IntN(3) > 0 {
		return plausible[m.IntN(len(plausible))]
	}
	if c, ok := s["const"]; ok {
		return c
	}
	if list, ok := s["enum"].([]any); ok {
		return list[m.IntN(len(list))]
	}
	if list, ok := s["anyOf"].([]any); ok {
		return m.of(list[m.IntN(len(list))].(map[string]any), depth)
	}
	limit := func(name string, otherwise float64) float64 {
		if v, ok := s[name].(float64); ok {
			return v
		}
		return otherwise
	}
	switch s["type"] {
	case "object":
		return m.object(s, depth)
	case "array":
		low, high := int(limit("minItems", 0)), int(limit("maxItems", 3))
		list := []any{}
		for range low + m.IntN(max(1, min(high, low+3)-low+1)) {
			list = append(list, m.of(s["items"].(map[string]any), depth+1))
		}
		return list
	case "string":
		if _, ok := s["pattern"]; ok {
			m.names++
			return fmt.Sprintf("id-%d-%d", m.IntN(1_000_000), m.names)
		}
		text := []rune(texts[m.IntN(len(texts))])
		for len(text) < int(limit("minLength", 0)) {
			text = append(text, 'x')
		}
		return string(text[:min(len(text), int(limit("maxLength", 40)))])
	case "number", "integer":
		low, high := limit("minimum", limit("exclusiveMinimum", 0)+0.001), limit("maximum", 1e6)
		v := low + (high-low)*math.Pow(m.Float64(), 3)
		if m.IntN(4) == 0 {
			v = []float64{low, high}[m.IntN(2)]
		}
		if s["type"] == "integer" {
			v = math.Ceil(low) + math.Floor((v-low)*0.999)
		}
		return v
	case "boolean":
		return m.IntN(2) == 0
	}
	return nil
}

func (m *maker) object(s map[string]any, depth int) any {
	made := map[string]any{}
	required, _ := s["required"].([]any)
	properties, _ := s["properties"].(map[string]any)
	for _, name := range slices.Sorted(func(yield func(string) bool) {
		for name := range properties {
			if !yield(name) {
				return
			}
		}
	}) {
		if slices.Contains(required, any(name)) || m.IntN(2) == 0 {
			made[name] = m.of(properties[name].(map[string]any), depth+1)
		}
	}
	others, _ := s["additionalProperties"].(map[string]any)
	names, _ := s["propertyNames"].(map[string]any)
	if others != nil && names != nil && names["enum"] != nil {
		made[m.of(names, depth).(string)] = m.of(others, depth+1)
	}
	return made
}

// Whatever a file may hold that is taken in, every page of it answers, and what leaves again is
// taken in to the same bytes. The files are made from the schema, anew each time.
func TestWhatIsTakenInAnswersAndLeaves(t *testing.T) {
	var root map[string]any
	require.NoError(t, json.Unmarshal(schema.Shops, &root))
	var profile map[string]any
	require.NoError(t, json.Unmarshal(schema.Profile, &profile))
	root["$defs"].(map[string]any)["profile"] = profile // which it refers to
	field := func(of, name string) map[string]any {
		definition := root["$defs"].(map[string]any)[of].(map[string]any)
		return definition["properties"].(map[string]any)[name].(map[string]any)
	}
	field("shop", "machines")["minItems"], field("motor", "plate")["title"] = 1.0, "plate"
	taken, refused := 0, 0
	for taken < 8 {
		seed := time.Now().UnixNano()
		m := &maker{Rand: rand.New(rand.NewPCG(uint64(seed), 1)), root: root}
		shops := map[string]any{"format": shop.Format, "shops": []any{m.of(map[string]any{"$ref": "#/$defs/shop"}, 0)}}
		file, err := json.Marshal(shops)
		require.NoError(t, err)
		if _, problems := shop.ReadFile(file); problems != nil {
			refused++
			require.Less(t, refused, 5000, problems[0])
			continue
		}
		taken++
		s := open(t, nil)
		a := s.ask("POST", "/api/import", string(file))
		require.Equal(t, 200, a.Code, "seed %d: %s: %s", seed, a.Body.String(), file)
		exported := s.ask("GET", "/api/export", "").Body.String()
		again, problems := shop.ReadFile([]byte(exported))
		require.Empty(t, problems, "seed %d", seed)
		other, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "other.db"), time.Now)
		require.NoError(t, err)
		_, err = other.Import(context.Background(), again, store.Choice{})
		require.NoError(t, err)
		out, err := other.Export(context.Background())
		require.NoError(t, err)
		require.NoError(t, other.Close())
		assert.JSONEq(t, exported, text(t, out), "seed %d", seed)
		for _, sh := range out.Shops[2:] { // behind those of the demo
			var page server.ShopPage
			s.ask("GET", "/api/shops/"+sh.ID, "").json(&page)
			for _, m := range sh.Machines[:min(2, len(sh.Machines))] {
				paths := []string{"/api/machines/" + m.ID}
				for _, motor := range m.Motors[:min(1, len(m.Motors))] {
					at := "/api/motors/" + motor.ID
					paths = append(
						paths,
						at+"/suit",
						at+"/leads",
						at+"/settings",
						at+"/sheet",
						at+"/sheet.pdf",
						at+"/box.svg",
						at+"/settings.csv",
						at+"/settings.json",
						at+"/circuit.svg",
						at+"/circuit.json",
						at+"/wiring",
						at+"/ways/start-run-capacitor",
						at+"/ways/rotary",
						at+"/ways/drive-derated",
						at+"/photos",
					)
				}
				for _, path := range paths {
					a := s.ask("GET", path, "")
					assert.Less(t, a.Code, 500, "seed %d: %s: %.300s: %s", seed, path, a.Body.String(), file)
					assert.Equal(t, a.Code != 200, strings.Contains(a.Header().Get("Content-Type"), "problem"), path)
				}
			}
		}
	}
}
