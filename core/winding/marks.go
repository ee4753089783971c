package winding

import (
	"slices"
	"strings"
)

// pairsOfMarks are the marks of NEMA MG 1, 2.60 to 2.66, and of IEC 60034-8 for
// the same ends. Part windings are 5 and 6 in IEC.
var pairsOfMarks = [][2]string{
	{"T1", "U1"}, {"T2", "V1"}, {"T3", "W1"}, {"T4", "U2"}, {"T5", "V2"}, {"T6", "W2"},
	{"T7", "U5"}, {"T8", "V5"}, {"T9", "W5"}, {"T10", "U6"}, {"T11", "V6"}, {"T12", "W6"}, {"T0", "N"},
}

// oldMarks are letters of older motors that stand for the same ends, and other
// ways of writing them.
var oldMarks = map[string]string{
	"U":    "T1",
	"V":    "T2",
	"W":    "T3",
	"X":    "T4",
	"Y":    "T5",
	"Z":    "T6",
	"A":    "T1",
	"B":    "T2",
	"C":    "T3",
	"1":    "T1",
	"2":    "T2",
	"3":    "T3",
	"4":    "T4",
	"5":    "T5",
	"6":    "T6",
	"7":    "T7",
	"8":    "T8",
	"9":    "T9",
	"10":   "T10",
	"11":   "T11",
	"12":   "T12",
	"0":    "T0",
	"MP":   "T0",
	"STAR": "T0",
}

// Canonical is the T number of a mark as somebody typed it: a T number, an IEC
// mark, or an old letter. ok is false for a mark that is none.
func Canonical(typed string) (mark string, ok bool) {
	typed = strings.ToUpper(
		strings.Join(strings.FieldsFunc(typed, func(r rune) bool { return strings.ContainsRune(" -._", r) }), ""),
	)
	for _, pair := range pairsOfMarks {
		if slices.Contains(pair[:], typed) {
			return pair[0], true
		}
	}
	mark, ok = oldMarks[typed]
	return mark, ok
}

// IEC is the IEC 60034-8 mark of a T number, "" for none.
func IEC(mark string) string {
	for _, pair := range pairsOfMarks {
		if pair[0] == mark {
			return pair[1]
		}
	}
	return ""
}
