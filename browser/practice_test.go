package browser

import (
	"testing"
)

// Somebody practises under a name: a wrong plate is answered and its mistake named, a lesson answered, and both stand
// in the record.
func TestPracticeIsKeptByPerson(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	p.visit("/rulebook?tab=lessons&motor=tarn-hobber-m1")
	p.over("[aria-label='Who practises']", "Ada")
	p.press("5.8 A")
	p.shows(".lesson-right", "Right.")
	p.press("A wrong plate")
	p.shows(".exercise", "One figure on this plate is wrong")
	p.click(".exercise-plate button:nth-child(2)") // its volts, which are never wrong
	p.shows(".lesson-wrong", "It is another.")
	axe(p, "an exercise")
	p.press("Next plate")
	p.shows(".exercise", "Plate 2")
	p.press("Who has answered what")
	p.shows(".practice h2", "Ada")
	p.shows(".practice", "1 of 2 answers right")
	p.shows(".practice", "A wrong plate, level 1")
	axe(p, "a record of practice")
}
