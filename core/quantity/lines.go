package quantity

// Lines are what people call, on a supply, what the model calls a, b and c: the two lines and the made leg, and a
// motor's three terminals on them.
type Lines struct {
	A, B, Made string
	Marks      [3]string // of a motor's terminals: NEMA MG 1, 2.61, or IEC 60034-8
}

// LinesAt are the names at a frequency: both lines are live where it is 60 Hz, and one is a neutral elsewhere.
func LinesAt(hertz float64) Lines {
	if SixtyHertz(hertz) {
		return Lines{"L1", "L2", "made", [3]string{"T1", "T2", "T3"}}
	}
	return Lines{"L", "N", "made", [3]string{"U", "V", "W"}}
}

// Name is a line by the model's letter.
func (l Lines) Name(letter string) string {
	switch letter {
	case "a":
		return l.A
	case "b":
		return l.B
	}
	return l.Made
}

// Word is a line in a sentence.
func (l Lines) Word(letter string) string {
	if letter == "c" {
		return "the made leg"
	}
	return l.Name(letter)
}

// To is from a line to the made leg, in a sentence.
func (l Lines) To(letter string) string { return l.Name(letter) + " to the made leg" }

// Leg is a line and the made leg, as short as a slider has room for.
func (l Lines) Leg(letter string) string { return l.Name(letter) + "–" + l.Made }

// Both are the two lines in a sentence.
func (l Lines) Both() string { return l.A + " and " + l.B }

// Pairs are the three pairs a–b, b–c and c–a.
func (l Lines) Pairs() [3]string {
	return [3]string{l.A + "–" + l.B, l.B + "–" + l.Made, l.Made + "–" + l.A}
}

// Windings are those of a motor whose leads hang on a, b and c: one at each terminal in a star, one between two in a
// delta.
func (l Lines) Windings(delta bool) [3]string {
	m := l.Marks
	if delta {
		return [3]string{m[0] + "–" + m[1], m[1] + "–" + m[2], m[2] + "–" + m[0]}
	}
	return m
}
