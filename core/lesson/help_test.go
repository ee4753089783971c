package lesson_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/lesson"
)

// Every help is one sentence for a place of its own, and its lesson is one that there is.
func TestHelpIsASentenceAndALesson(t *testing.T) {
	places := map[string]bool{}
	for _, h := range lesson.Helps {
		assert.False(t, places[h.Place], "twice: %s", h.Place)
		places[h.Place] = true
		assert.Equal(t, 1, strings.Count(h.Says, "."), h.Says)
		assert.True(t, strings.HasSuffix(h.Says, "."), h.Says)
		assert.NotEmpty(t, h.Title, "no lesson is called %s", h.Lesson)
	}
}
