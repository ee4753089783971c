package feed

import (
	"fmt"
	"math"

	"brackmoor/core/capacitor"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
)

// nearPercent is how near to a capacitance what is on hand must come, in percent: about the tolerance of new cans
// (IEC 60252-1, 2.7).
const nearPercent = 5

// OnHand makes a bank up of what the shop has on hand; ok is false where that does not come near it.
func (q *Question) OnHand(kind string, microfarad float64, b capacitor.Bank) (m stock.Made, ok bool) {
	if microfarad <= 0 || b.Volts.Rated == 0 {
		return m, false
	}
	return stock.Combine(q.Stores, kind, microfarad, b.Volts.Needed, nearPercent, q.MachineID)
}

// HandWords are the cans of a bank that are on hand, for a rating; ok is false where they do not come near it.
func (q *Question) HandWords(kind string, microfarad float64, volts capacitor.Rating) (words string, ok bool) {
	m, ok := q.OnHand(kind, microfarad, capacitor.Bank{Volts: volts})
	return canWords(m), ok
}

// less is the question with cans fewer in its stores, which a bank has taken.
func (q *Question) less(m stock.Made) *Question {
	left := *q
	left.Stores = stock.Less(q.Stores, m)
	return &left
}

// HandRow is what of a bank the shop has on hand, with what that costs against the capacitance wanted, and the question
// with the rest of the stores; ok is false where nothing is on hand at all.
func (q *Question) HandRow(
	label, kind string, microfarad float64, b capacitor.Bank,
) (row rule.Row, left *Question, ok bool) {
	if len(q.Stores) == 0 || microfarad <= 0 {
		return row, q, false
	}
	row = rule.Row{Label: label + ", from the stores", Value: "none",
		Remark: fmt.Sprintf("nothing on hand comes within %d %% of it: buy the standard values", nearPercent)}
	m, found := q.OnHand(kind, microfarad, b)
	if !found {
		return row, q, true
	}
	row.Value = canWords(m)
	off := 100 * (m.Microfarad/microfarad - 1)
	row.Remark = fmt.Sprintf("%s µF in all by the meter, %.1f %% %s the %s wanted", quantity.Figures(m.Microfarad, 3),
		math.Abs(off), map[bool]string{true: "over", false: "under"}[off >= 0], quantity.Figures(microfarad, 3))
	for _, c := range m.Cans {
		if c.Series {
			row.Remark += "; two in series share the volts by a balancing resistor at each"
			break
		}
	}
	return row, q.less(m), true
}

// HandPart is a motor or drive of the stores that is taken, nil for none; ok is false where nothing is on hand at all.
func (q *Question) HandPart(label string, i *stock.Item) (row rule.Row, ok bool) {
	row = rule.Row{Label: label + ", from the stores", Value: "none", Remark: "none on hand is of its size and volts"}
	if i != nil {
		row.Value = q.Power(i.Watts)
		row.Remark = i.Name
		if i.Amps > 0 {
			row.Remark += fmt.Sprintf("; %s A by its plate", quantity.Figures(i.Amps, 3))
		}
		if i.Volts == 0 {
			row.Remark += "; its volts are not put down: look at its plate first"
		}
	}
	return row, len(q.Stores) > 0
}

// canWords are the cans of a bank, by their marks.
func canWords(m stock.Made) (words string) {
	for i, c := range m.Cans {
		if i > 0 {
			words += " + "
		}
		words += canWord(c)
	}
	return words
}

func canWord(c stock.Can) string {
	word := quantity.Figures(c.Item.Microfarad, 3) + " µF"
	if c.Series {
		return "2 in series of " + word
	}
	return word
}
