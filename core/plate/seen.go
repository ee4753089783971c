package plate

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"
)

// SeenWord is a word that was found in the picture of a plate: how sure its reader is of it, 0 to 1, and where it
// stands, as parts of the picture's width and height.
type SeenWord struct {
	Text string  `json:"text" maxLength:"60"`
	Sure float64 `json:"sure"                minimum:"0" maximum:"1"`
	Box  Box     `json:"box"`
}

// Box is a rectangle in a picture, as parts of its width and height from the top left.
type Box struct {
	Left   float64 `json:"left"   minimum:"0" maximum:"1"`
	Top    float64 `json:"top"    minimum:"0" maximum:"1"`
	Right  float64 `json:"right"  minimum:"0" maximum:"1"`
	Bottom float64 `json:"bottom" minimum:"0" maximum:"1"`
}

func (b Box) with(o Box) Box {
	return Box{min(b.Left, o.Left), min(b.Top, o.Top), max(b.Right, o.Right), max(b.Bottom, o.Bottom)}
}

// SeenField is a field that was read from a picture: where from, how sure its words are, 0 to 1, why it is in doubt
// (nothing where it is not), and what else it may be.
type SeenField struct {
	Row
	Box    Box      `json:"box"`
	Sure   float64  `json:"sure"`
	Doubts []string `json:"doubts" nullable:"false"`
	Else   []string `json:"else"   nullable:"false"`
}

// Seen is a plate that was read from pictures of it.
type Seen struct {
	Document
	Text   string
	Fields []SeenField
}

const (
	// leastSure is how sure the reader of letters must be of every word of a field for it to be in no doubt.
	leastSure = 0.5
	// mostSeen is how long the text of a plate may be, in bytes; what is beyond it is not read.
	mostSeen = 4000
)

// ReadSeen reads a plate from what was seen of it in several readings of one picture, each made ready in another way.
// The fullest of them is taken, one that agrees with itself as if a field more were seen in it; a field is in no doubt
// only where another reading says the same of it, every word of it was seen clearly, and the plate does not contradict
// itself there.
func ReadSeen(readings [][]SeenWord) Seen {
	var list []Seen
	for _, words := range readings {
		list = append(list, readOne(words))
	}
	if len(list) == 0 {
		list = []Seen{readOne(nil)}
	}
	weight := func(s Seen) (sum float64) {
		for _, f := range s.Fields {
			sum += f.Sure
		}
		if p, ok := s.Plate.Plain(); ok {
			if _, fine := consistency(p, s.Plate.supply()); fine {
				sum++
			}
		}
		return sum
	}
	slices.SortStableFunc(list, func(a, b Seen) int {
		return cmp.Compare(weight(b), weight(a))
	})
	best := list[0]
	for i := range best.Fields {
		f := &best.Fields[i]
		agreed := false
		for _, other := range list[1:] {
			if o := other.field(f.Field); o == nil {
				continue
			} else if o.Text == f.Text {
				agreed = true
			} else if !slices.Contains(f.Else, o.Text) {
				f.Else = append(f.Else, o.Text)
				f.Doubts = append(f.Doubts, "read once as "+o.Text)
			}
		}
		if !agreed && len(f.Else) == 0 {
			f.Doubts = append(f.Doubts, "seen in one reading alone")
		}
	}
	for _, other := range list[1:] {
		for _, f := range other.Fields {
			if best.field(f.Field) == nil {
				f.Doubts = append(f.Doubts, "seen in one reading alone")
				best.Fields = append(best.Fields, f)
			}
		}
	}
	for _, p := range best.Proposals {
		if f := best.field(p.Field); f != nil && p.To != f.Text {
			f.Doubts = append(f.Doubts, p.Because)
			if !slices.Contains(f.Else, p.To) {
				f.Else = append(f.Else, p.To)
			}
		}
	}
	return best
}

func (s Seen) field(name string) *SeenField {
	if i := slices.IndexFunc(s.Fields, func(f SeenField) bool { return f.Field == name }); i >= 0 {
		return &s.Fields[i]
	}
	return nil
}

const (
	bracketDoubt = "a bracket was taken for a J"
	wornDoubt    = "a word beside its head could not be read"
)

// bracketed is a code letter J as readers of letters find it: close behind its word, as the bracket that it is like.
var bracketed = regexp.MustCompile(`^((?i)CODE)[\])}]$`)

// readOne reads the words of one reading, field by field with the words that each came from.
func readOne(words []SeenWord) Seen {
	words, guessed := slices.Clone(words), make([]bool, len(words))
	for i, w := range words {
		words[i].Text = bracketed.ReplaceAllString(w.Text, "${1}J")
		guessed[i] = words[i].Text != w.Text
	}
	text, places := laidOut(words)
	d, claims := understand(text, 1)
	d.Proposals = append(misspelled(text, d), d.contradicted()...)
	s := Seen{d, text, []SeenField{}}
	for _, row := range d.Rows() {
		if row.Text == "" {
			continue // it was understood, but says nothing without what was not
		}
		name := row.Field
		if inDocument, ok := documentNames[name]; ok {
			name = inDocument
		}
		f := SeenField{Row: row, Sure: 1, Doubts: []string{}, Else: []string{}}
		for _, c := range claims[name] {
			if c.worn && !slices.Contains(f.Doubts, wornDoubt) {
				f.Doubts = append(f.Doubts, wornDoubt)
			}
			for i, at := range places {
				if at[0] < c.to && c.from < at[1] || at[0] < c.head[1] && c.head[0] < at[1] {
					f.Sure = min(f.Sure, words[i].Sure)
					if guessed[i] && !slices.Contains(f.Doubts, bracketDoubt) {
						f.Doubts = append(f.Doubts, bracketDoubt)
					}
					if at[0] >= c.to || c.from >= at[1] {
						continue // a head is not the piece of picture to look at
					}
					if f.Box == (Box{}) {
						f.Box = words[i].Box
					}
					f.Box = f.Box.with(words[i].Box)
				}
			}
		}
		if f.Sure < leastSure {
			f.Doubts = append(f.Doubts, fmt.Sprintf("not seen clearly: %.0f percent", 100*f.Sure))
		}
		s.Fields = append(s.Fields, f)
	}
	return s
}

// laidOut writes words as a text that keeps their lines and columns, and says where in it each stands: nowhere, which
// is {0, 0}, for one that found no room.
func laidOut(words []SeenWord) (text string, places [][2]int) {
	places = make([][2]int, len(words))
	var order []int
	for i, w := range words {
		if strings.TrimSpace(w.Text) != "" && w.Box.Bottom > w.Box.Top && w.Box.Right > w.Box.Left {
			order = append(order, i)
		}
	}
	middle := func(i int) float64 { return (words[i].Box.Top + words[i].Box.Bottom) / 2 }
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(middle(a), middle(b)) })
	var letters []float64
	for _, i := range order {
		letters = append(letters, (words[i].Box.Right-words[i].Box.Left)/float64(utf8.RuneCountInString(words[i].Text)))
	}
	slices.Sort(letters)
	var b strings.Builder
	for from := 0; from < len(order); {
		first := words[order[from]].Box
		to := from + 1
		for to < len(order) && middle(order[to]) < first.Bottom && middle(order[from]) > words[order[to]].Box.Top {
			to++
		}
		line := slices.Clone(order[from:to])
		slices.SortStableFunc(line, func(a, b int) int {
			return cmp.Compare(words[a].Box.Left, words[b].Box.Left)
		})
		column := 0
		for n, i := range line {
			at := int(math.Round(min(words[i].Box.Left/letters[len(letters)/2], mostSeen)))
			pad := max(at-column, 1)
			if n == 0 {
				pad = max(at, 0)
			}
			if b.Len()+pad+len(words[i].Text) > mostSeen {
				return b.String(), places
			}
			b.WriteString(strings.Repeat(" ", pad))
			start := b.Len()
			b.WriteString(strings.Join(strings.Fields(words[i].Text), ""))
			places[i] = [2]int{start, b.Len()}
			column += pad + utf8.RuneCountInString(words[i].Text)
		}
		b.WriteByte('\n')
		from = to
	}
	return b.String(), places
}
