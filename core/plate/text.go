package plate

import (
	"regexp"
	"slices"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"brackmoor/core/quantity"
)

// claim is a stretch of a plate's text that was understood: what it says, and
// the words it stands in.
type claim struct {
	from, to int
	field    string
	values   []string // what the pattern caught
	words    string
	head     [2]int // where the head of its column stands, if it is in one
	under    bool   // it is a line of several under a line of heads
	line     int    // of the text
	worn     bool   // one of the heads beside its own could not be read
}

// claims finds what a text says, field by field. Each stretch of it is understood
// once; of all the ways to part it, the one that understands most is taken, so
// that in “SF 1.00 RPM 1745” the 1.00 is no speed. Columns are read as columns.
// A line may have as many heads of columns that cannot be read as worn says.
func claims(text string, worn int) (found []claim, unread []string) {
	upper := fold(text)
	found, rest := columns(text, upper, worn)
	found = append(found, widest(candidates(text, strings.ReplaceAll(rest, "|", " ")))...)
	slices.SortStableFunc(found, func(a, b claim) int { return a.from - b.from })
	taken := make([]bool, len(upper))
	for i := range found {
		found[i].line = strings.Count(upper[:found[i].from], "\n")
	}
	for _, c := range found {
		for i := c.from; i < c.to && c.field != ""; i++ {
			taken[i] = true
		}
		for i := c.head[0]; i < c.head[1]; i++ {
			taken[i] = true
		}
	}
	return found, leftover(text, upper, taken)
}

// candidates are all claims that some pattern makes and that are plausible by
// themselves, overlapping ones too.
func candidates(text, upper string) (list []claim) {
	edged := "\n" + upper // so that every figure has something before it
	for _, p := range patterns {
		for at := 0; at < len(edged); {
			m := p.match.FindStringSubmatchIndex(edged[at:])
			if m == nil {
				break
			}
			from, to := at+m[2], at+m[3]
			c := claim{from: from - 1, to: to - 1, field: p.field, words: strings.TrimSpace(text[from-1 : to-1])}
			for g := 4; g+1 < len(m); g += 2 {
				if m[g] >= 0 {
					c.values = append(c.values, strings.TrimSpace(edged[at+m[g]:at+m[g+1]]))
				}
			}
			if alone := newAssembly(); c.to > c.from && (c.field == "" || alone.take(c)) {
				list = append(list, c)
			}
			_, size := utf8.DecodeRuneInString(edged[from:])
			at = max(from, at+size)
		}
	}
	types := slices.DeleteFunc(slices.Clone(list), func(c claim) bool { return !framed.MatchString(c.words) })
	return slices.DeleteFunc(list, func(c claim) bool {
		return c.field == "duty" &&
			slices.ContainsFunc(types, func(o claim) bool { return o.field == "" && o.to == c.to })
	})
}

// widest chooses among claims those that do not overlap and together cover most
// of the text, by weighted interval scheduling (Kleinberg and Tardos, Algorithm
// Design, section 6.1).
func widest(list []claim) []claim {
	slices.SortStableFunc(list, func(a, b claim) int { return a.to - b.to })
	best := make([]int, len(list)+1) // letters covered by the first i claims
	before := make([]int, len(list)) // how many claims end before claim i begins
	for i, c := range list {
		before[i] = sort.Search(i, func(k int) bool { return list[k].to > c.from })
		best[i+1] = max(best[i], best[before[i]]+letters(c))
	}
	var chosen []claim
	for i := len(list); i > 0; {
		if best[i] == best[i-1] {
			i--
			continue
		}
		chosen = append(chosen, list[i-1])
		i = before[i-1]
	}
	slices.Reverse(chosen)
	return chosen
}

// letters is the weight of a claim: what it covers but space, several times over, so that
// of two ways to cover as much the one with fewer claims is taken, and a word that only says
// what is no figure weighs less than any figure that is read.
func letters(c claim) int {
	if c.field == "" {
		return 2 * len(c.values[0])
	}
	return 4*len(spaces.Replace(c.words)) - 1
}

// spaces part figures, and weigh nothing.
var spaces = strings.NewReplacer(" ", "", "\t", "", "\u00a0", "", "|", "")

// fold writes a text in upper case, length for length, so that places stay: a
// letter whose upper case is longer or shorter stays as it is, an odd space or a
// quotation mark becomes plain ones, and a byte that is no letter a question mark.
func fold(text string) string {
	var b strings.Builder
	for at := 0; at < len(text); {
		r, size := utf8.DecodeRuneInString(text[at:])
		at += size
		upper := unicode.ToUpper(r)
		switch {
		case r == utf8.RuneError && size == 1:
			b.WriteByte('?')
		case r != '\n' && unicode.IsSpace(r) || strings.ContainsRune("“”„\"«»", r):
			b.WriteString(strings.Repeat(" ", size))
		case r == 'η' || utf8.RuneLen(upper) != size:
			b.WriteRune(r)
		default:
			b.WriteRune(upper)
		}
	}
	return parted.ReplaceAllStringFunc(
		plainer.Replace(b.String()),
		func(s string) string { return strings.Replace(s, ",", " ", 1) },
	)
}

// framed is a type that ends in a frame with its length and poles, such as 90 S4, which is no duty.
var framed = regexp.MustCompile(`(?:^|[^\d])` + metric + `\s?S[2-8]$`)

// plainer takes two strokes for one, and the mark of alternating volts for none.
var plainer = strings.NewReplacer("//", "/ ", "V~", "V ")

// parted is a comma that parts two figures, since a letter stands beside it and no space.
var parted = regexp.MustCompile(`\pL,[\pL\pN]|\pN,\pL`)

// leftover lists the words that nothing claimed.
func leftover(text, upper string, taken []bool) (words []string) {
	at := -1
	end := func(to int) {
		if at >= 0 {
			if word := upper[at:to]; !idle.MatchString(word) {
				words = append(words, text[at:to])
			}
		}
		at = -1
	}
	for i, r := range upper {
		switch {
		case taken[i] || unicode.IsSpace(r):
			end(i)
		case at < 0:
			at = i
		}
	}
	end(len(upper))
	return words
}

// numbers reads a list of numbers with its groups: 208-230/460 is two groups.
func numbers(text string) (groups [][]float64) {
	for _, part := range regexp.MustCompile(`\s*/\s*`).Split(text, -1) {
		var group []float64
		for _, n := range regexp.MustCompile(`\s*[-–]\s*`).Split(part, -1) {
			value, err := quantity.ParseNumber(n)
			if err != nil {
				return nil
			}
			group = append(group, value)
		}
		groups = append(groups, group)
	}
	return groups
}

func flat(groups [][]float64) (all []float64) {
	for _, g := range groups {
		all = append(all, g...)
	}
	return all
}
