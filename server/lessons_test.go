package server_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/lesson"
	"brackmoor/server"
)

// Answers are kept by person, once each, of exercises as the server judges them; without a name nothing is kept.
func TestPracticeIsKept(t *testing.T) {
	s := open(t, nil)
	const at = "/api/shops/tarn-hollow/"
	var x lesson.Exercise
	s.ask("GET", "/api/exercises/2/17", "").json(&x)
	assert.Len(t, x.Fields, 7)
	s.ask("GET", "/api/exercises/4/17", "").problem(422)
	right := lesson.Answer(17, 2, "").Field
	given := func(id, person, field string) (a lesson.Answered) {
		s.ask("POST", at+"exercises", `{"id": "`+id+`", "person": "`+person+`", "level": 2, "seed": 17, "field": "`+
			field+`"}`).json(&a)
		return a
	}
	assert.True(t, given("1", "Ada", right).Right)
	assert.True(t, given("1", "Ada", right).Right, "sent twice it is kept once")
	assert.False(t, given("2", "Ada", "volts").Right)
	assert.False(t, given("3", " ", "volts").Right)
	keep := func(body string) answer { return s.ask("POST", at+"practice", body) }
	keep(`{"id": "4", "person": "Ben", "kind": "lesson", "name": "no-magnet", "right": true}`)
	keep(`{"id": "5", "person": "Ben", "kind": "lesson", "name": "magnets", "right": true}`).problem(422)
	keep(`{"id": "6", "person": "", "kind": "lesson", "name": "no-magnet", "right": true}`).problem(422)
	s.ask("POST", "/api/shops/nowhere/practice",
		`{"id": "7", "person": "Ben", "kind": "lesson", "name": "no-magnet", "right": true}`).problem(404)
	var list []server.Practised
	s.ask("GET", at+"practice", "").json(&list)
	require.Len(t, list, 2)
	assert.Equal(t, "A wrong plate, level 2", list[0].Title)
	assert.Equal(t, [2]int{2, 1}, [2]int{list[0].Tries, list[0].Right})
	assert.Equal(t, "Ben", list[1].Person)
	s.ask("GET", "/api/shops/ferry-stairs/practice", "").json(&list)
	assert.Empty(t, list)
}
