package strict_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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
