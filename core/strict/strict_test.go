package strict_test

import (
	"encoding/json"
	"fmt"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/strict"
)

var schema = strict.Compile([]byte(`{"type": "object", "required": ["a"], "additionalProperties": false,
	"properties": {"a": {"type": "integer", "minimum": 1}, "list": {"type": "array", "items": {"type": "string"}}}}`))

func TestRead(t *testing.T) {
	var got struct {
		A    int      `json:"a"`
		List []string `json:"list"`
	}
	require.Empty(t, strict.Read([]byte(`{"a": 3, "list": ["x"]}`), schema, &got))
	assert.Equal(t, 3, got.A)
	for text, want := range map[string]string{
		`{"a": 0}`: "$.a: ", `{"b": 1, "a": 1}`: "$: ", `{"a": 1, "list": [1]}`: "$.list[0]: ",
		`{"a": 1} x`: "$: something follows", `{"a": 1, "a": 2}`: "$.a: stands twice",
		``: "$: is not JSON", `{"a": 1, "list": [{"x": 1, "x": 2}]}`: "$.list[0].x: stands twice", `null`: "$: ",
	} {
		problems := strict.Read([]byte(text), schema, &got)
		require.NotEmpty(t, problems, text)
		assert.True(t, strings.HasPrefix(problems[0].String(), want), "%s gave %s", text, problems[0])
	}
}

// Numbers are bounded before anybody computes with them, and quickly, however they are written.
func TestNumbersAreBounded(t *testing.T) {
	long := strings.Repeat("9", 1_000_000)
	for text, says := range map[string]string{
		`{"a": 1e99999999}`: "exponent", `{"a": 1e-1000000}`: "exponent", `{"a": 1E+100}`: "exponent",
		`{"a": ` + long + `}`: "characters", `{"a": 0.` + long + `}`: "characters",
		`{"list": ["x"], "a": [[1e999]]}`: "exponent",
	} {
		p := strict.Sound([]byte(text))
		require.NotNil(t, p, "%.20s", text)
		assert.Contains(t, p.Says, says)
		assert.Less(t, len(p.String()), 120, "nothing of it is echoed")
		assert.NotEmpty(t, strict.Read([]byte(text), schema, new(any)))
	}
	for _, text := range []string{
		`{"a": 1e15}`, `{"a": 1e-07}`, `{"a": 1e007}`, `[-1.7976931348623157e+99]`, `"1e999"`,
	} {
		assert.Nil(t, strict.Sound([]byte(text)), text)
	}
}

// Texts hold what somebody writes; letters of any script and ends of line are among it.
func TestTextsHoldNoControlCharacters(t *testing.T) {
	for _, text := range []string{
		`{"a": "\u0000"}`, `["x\u0007"]`, `["\u0085"]`, `{"\u0001": 1}`, `"\u007f"`, "\"\xff\"", "{\"\xfe\": 1}",
	} {
		assert.NotNil(t, strict.Sound([]byte(text)), "%q", text)
	}
	for _, text := range []string{`"a\tb\r\nc"`, `"\u2028 Ω ½ 漢"`, `{"ключ": "значение"}`} {
		assert.Nil(t, strict.Sound([]byte(text)), text)
	}
}

func TestDepthIsBounded(t *testing.T) {
	deep := strings.Repeat("[", 10000) + strings.Repeat("]", 10000)
	problems := strict.Read([]byte(deep), schema, new(any))
	require.Len(t, problems, 1)
	assert.Contains(t, problems[0].Says, "nested too deeply")
}

func TestCompilePanicsOnAWrongSchema(t *testing.T) {
	assert.Panics(t, func() { strict.Compile([]byte(`{"type": 7}`)) })
	assert.Panics(t, func() { strict.Compile([]byte(`{`)) })
}

// However much is wrong with a text, little is told and little is kept of it: what is found is
// what is found of all of it at once.
func TestFaultsAreBounded(t *testing.T) {
	nested := strict.Compile([]byte(`{"type": "object", "properties": {"rows": {"type": "array", "maxItems": 400,
		"items": {"type": "array", "minItems": 21, "items": {"type": "integer"}}}}}`))
	bad := `{"rows": [[` + strings.Repeat(`"x",`, 1_000_000) + `1]]}`
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	problems := strict.Read([]byte(bad), nested, new(any))
	runtime.ReadMemStats(&after)
	assert.Len(t, problems, 100)
	assert.Equal(t, "$.rows[0][0]", problems[0].Path)
	assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(400<<20), "of four megabytes")

	keys := `{"list": {` + strings.Repeat("x", 100_000) + `: 1}}`
	for _, text := range []string{keys, `{"a": 1, "` + strings.Repeat("k", 100_000) + `": 2}`} {
		for _, p := range strict.Read([]byte(text), schema, new(any)) {
			assert.Less(t, len(p.String()), 250)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		rows := make([][]any, rapid.IntRange(0, 500).Draw(t, "rows"))
		for i := range rows {
			rows[i] = make([]any, rapid.SampledFrom([]int{21, 21, 21, 40, 3}).Draw(t, "length"))
			for k := range rows[i] {
				rows[i][k] = 7
			}
		}
		for range rapid.IntRange(0, 3).Draw(t, "wrong") {
			if len(rows) > 0 {
				row := rows[rapid.IntRange(0, len(rows)-1).Draw(t, "row")]
				row[rapid.IntRange(0, len(row)-1).Draw(t, "at")] = "x"
			}
		}
		text, err := json.Marshal(map[string]any{"rows": rows})
		require.NoError(t, err)
		var wrong []string
		for i, row := range rows {
			for k, v := range row {
				if v != 7 {
					wrong = append(wrong, fmt.Sprintf("$.rows[%d][%d]", i, k))
				}
			}
			if len(row) < 21 {
				wrong = append(wrong, fmt.Sprintf("$.rows[%d]", i))
			}
		}
		if len(rows) > 400 {
			wrong = append(wrong, "$.rows")
		}
		found := strict.Read(text, nested, new(any))
		assert.Equal(t, len(wrong) > 0, len(found) > 0)
		for _, p := range found {
			assert.Contains(t, wrong, p.Path)
		}
	})
}
