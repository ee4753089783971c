package browser

import (
	"testing"
)

// Somebody practises under a name: a wrong plate is answered and its mistake named, a lesson answered, and both stand
// in the record.
// Every screen says in a sentence what it is for, and leads on to the lesson that goes with it.
func TestHelpOnEveryScreen(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	for _, screen := range [][2]string{
		{"/", "Switch things on"}, {"/machines", "as its plate"}, {"/stores", "on the shelf"},
		{"/bench", "nothing is live"}, {"/daybook", "stays written down"}, {"/rulebook", "its source"},
		{"/day", "together today"}, {"/converters/tarn-converter", "hangs on it"},
		{"/motors/tarn-shaper-m1/sheet", "to print"}, {"/machines/tarn-shaper/wire", "wire by wire"},
	} {
		p.visit(screen[0])
		p.click("[aria-label='What this is for']")
		p.shows(".help", screen[1])
	}
	p.press("A lesson: A line is lost while it runs")
	p.shows(".lesson h2", "A line is lost while it runs")
}

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
	sound(p, "an exercise")
	p.press("Next plate")
	p.shows(".exercise", "Plate 2")
	p.press("Who has answered what")
	p.shows(".practice h2", "Ada")
	p.shows(".practice", "1 of 2 answers right")
	p.shows(".practice", "A wrong plate, level 1")
	sound(p, "a record of practice")
}
