package plate

import (
	"regexp"
	"strings"
	"unicode/utf8"
)

// line is a stretch of the text between two ends of line.
type line struct{ from, to int }

// cell is a stretch of a line between two gaps.
type cell struct {
	from, to int
	field    string // of a head
	unit     string // of an output's head
}

func lines(text string) (list []line) {
	at := 0
	for part := range strings.SplitAfterSeq(text, "\n") {
		end := at + len(strings.TrimRight(part, "\r\n"))
		list = append(list, line{at, end})
		at += len(part)
	}
	return list
}

// columns reads what is laid out in columns: a line of words with lines of values under it
// (or one above it), and rows that begin or end with one word for several values. What it
// claims is blank in the rest. A line of words may have as many that are worn as is said, over its values.
func columns(text, upper string, mostWorn int) (found []claim, rest string) {
	all := lines(upper)
	blank := []byte(upper)
	take := func(claims []claim) {
		found = append(found, claims...)
		for _, c := range claims {
			for _, at := range [][2]int{{c.from, c.to}, c.head} {
				for i := at[0]; i < at[1]; i++ {
					blank[i] = ' '
				}
			}
		}
	}
	for i := 0; i < len(all); i++ {
		head, worn := headsOf(upper, all[i])
		if len(head) < 2 || worn > mostWorn {
			continue
		}
		var under []claim
		at := i + 1
		for ; at < len(all); at++ {
			if ruled.MatchString(upper[all[at].from:all[at].to]) {
				continue
			}
			row := values(text, upper, all[at], head)
			if row == nil {
				break
			}
			under = append(under, row...)
		}
		for k := range under {
			under[k].under = at > i+2
			under[k].worn = worn > 0
		}
		if under == nil && worn == 0 && i > 0 && strings.TrimSpace(string(blank[all[i-1].from:all[i-1].to])) != "" {
			under = values(text, upper, all[i-1], head)
		}
		if under != nil {
			take(under)
			i = max(at-1, i)
		}
	}
	take(stack(text, string(blank), all))
	take(rows(text, string(blank), all))
	return found, string(blank)
}

// stack reads a word a line and its value a line, by turns, the word first or the value first;
// of such pairs there are three at least, one after another.
func stack(text, upper string, all []line) (found []claim) {
	var filled []line
	for _, l := range all {
		if strings.TrimSpace(upper[l.from:l.to]) != "" {
			filled = append(filled, l)
		}
	}
	pair := func(word, value line) []claim {
		if head := heads(upper, word); len(head) == 1 {
			return values(text, upper, value, head)
		}
		return nil
	}
	for i := 0; i+1 < len(filled); {
		first, second := pair(filled[i], filled[i+1]) != nil, false
		if !first {
			second = pair(filled[i+1], filled[i]) != nil
		}
		var claims []claim
		pairs, k := 0, i
		for ; (first || second) && k+1 < len(filled); k += 2 {
			word, value := filled[k], filled[k+1]
			if second {
				word, value = value, word
			}
			one := pair(word, value)
			if one == nil {
				break
			}
			claims = append(claims, one...)
			pairs++
		}
		if pairs >= 3 {
			found = append(found, claims...)
			i = k
		} else {
			i++
		}
	}
	return found
}

// headings are the words that head a column, the longest first.
var headings = func() (list []pattern) {
	for _, f := range figures {
		words := f.units
		if f.called != "" {
			words = f.called + "|" + f.units
		}
		unit := `(?:\s*[,(\[]?\s*(?:` + f.units + `)[)\]]?)?`
		group := `(?:` + words + `)` + unit
		if f.field == "output" {
			group = `(?:(?:` + f.called + `)\s*[,(\[]?\s*)?` + outputUnits + `[)\]]?|(?:` + f.called + `)`
		}
		list = append(list, compile(f.field, `^(?:`+group+`)`+stop))
		if f.letters != "" {
			list = append(list, compile(f.field, `^(?:`+f.letters+`)\s*[,(\[]\s*(?:`+f.units+`)[)\]]`))
		}
	}
	return append(list,
		compile("efficiency", `^(?:IE[1-5]|η)`+stop),
		compile("phases", `^(?:PH(?:ASE)?S?\.?)`+stop),
		compile("connection", `^(?:(?:`+connected+`)\.?)`+stop),
		compile("frame", `^(?:FR(?:AME)?\.?)`+stop),
		compile("code_letter", `^(?:(?:KVA\s*)?CODE)`+stop),
		compile("design_letter", `^(?:DES(?:IGN)?\.?)`+stop),
		compile("insulation_class", `^(?:INS(?:UL)?\.?(?:\s*CL(?:ASS)?\.?)?|CLASS)`+stop),
		compile("duty", `^(?:DUTY)`+stop),
	)
}()

// gap is what stands between cells.
const gap = " \t|;·"

// heads are the words of a line that consists of heads of columns alone; nil for another.
func heads(upper string, l line) (list []cell) {
	if list, worn := headsOf(upper, l); worn == 0 {
		return list
	}
	return nil
}

// wornLetters is how many letters a head that cannot be read may have.
const wornLetters = 3

// headsOf are the heads of columns in a line, and how many of them are worn: of few letters, no figure and no field
// that is known, so that the others still stand above what is theirs. None where a word is no head.
func headsOf(upper string, l line) (list []cell, worn int) {
	for at := l.from; ; {
		for at < l.to && strings.IndexByte(gap, upper[at]) >= 0 {
			at++
		}
		if at >= l.to {
			return list, worn
		}
		one := headAt(upper, at, l.to)
		if one.to == 0 {
			one = cell{from: at, to: l.to}
			if word := strings.IndexAny(upper[at:l.to], gap); word >= 0 {
				one.to = at + word
			}
			word := upper[one.from:one.to]
			if utf8.RuneCountInString(word) > wornLetters || strings.ContainsAny(word, "0123456789") {
				return nil, 0
			}
			worn++
		}
		list = append(list, one)
		at = one.to
	}
}

// headAt is the longest head of a column that begins at a place; nothing where none does.
func headAt(upper string, at, end int) (best cell) {
	for _, p := range headings {
		m := p.match.FindStringSubmatchIndex(upper[at:end])
		if m == nil {
			continue
		}
		// The edge behind is no part of it.
		to := at + len(strings.TrimRight(upper[at:at+m[1]], gap))
		if to > best.to {
			best = cell{from: at, to: to, field: p.field}
			if p.field == "output" && len(m) > 2 && m[2] >= 0 {
				best.unit = upper[at+m[2] : at+m[3]]
			}
		}
	}
	return best
}

// worded are the values of columns that hold no figures.
var worded = map[string]*regexp.Regexp{
	"phases": regexp.MustCompile(`^[123]$`), "connection": regexp.MustCompile(`^` + joint + `$`),
	"frame": regexp.MustCompile(`^\d{2,3}[A-Z]{0,3}\d?$`), "code_letter": regexp.MustCompile(`^[A-HJ-NPR-V]$`),
	"design_letter": regexp.MustCompile(`^[ABCDNH]$`), "insulation_class": regexp.MustCompile(`^[ABEFHN]$`),
	"duty": regexp.MustCompile(`^(?:CONT|INT|S(?:10|[1-9])|\d+\s*MIN)`),
}

var (
	wide  = regexp.MustCompile(`\s*[|\t;]\s*|[ ]{2,}`)
	tight = regexp.MustCompile(`[ \t|;]+`)
	plain = regexp.MustCompile(`^(?:[\d.,/½¼¾⅓⅔–-]+(?:\s*(?:\d/\d))?)$`)
	named = regexp.MustCompile(`^` + joints + `$`)
	ruled = regexp.MustCompile(`^[-+|:=_ \t]*[-+=_]{3,}[-+|:=_ \t]*$`) // a line drawn under heads
)

// cells parts a line at its gaps.
func cells(upper string, l line, gaps *regexp.Regexp) (list []cell) {
	at := l.from
	add := func(to int) {
		if at < to && strings.Trim(upper[at:to], gap) != "" {
			list = append(list, cell{from: at, to: to})
		}
	}
	for _, m := range gaps.FindAllStringIndex(upper[l.from:l.to], -1) {
		add(l.from + m[0])
		at = l.from + m[1]
	}
	add(l.to)
	return list
}

// aligned parts a line where the heads of another begin, if it has gaps there.
func aligned(upper string, l line, head []cell) (list []cell) {
	begin := strings.LastIndexByte(upper[:head[0].from], '\n') + 1
	at := l.from
	for i := range head {
		end := l.to
		if i+1 < len(head) {
			end = l.from
			for range utf8.RuneCountInString(upper[begin:head[i+1].from]) {
				_, size := utf8.DecodeRuneInString(upper[end:l.to])
				end += size
			}
			if end > at && strings.IndexByte(gap, upper[end-1]) < 0 {
				return nil
			}
		}
		words := upper[at:end]
		from := at + len(words) - len(strings.TrimLeft(words, gap))
		list = append(list, cell{from: from, to: max(from, at+len(strings.TrimRight(words, gap)))})
		at = end
	}
	return list
}

// values are the claims of a line of values under heads, one for each; nil when the line is
// none. A connection before the first value needs no head, and one cell may be worn or
// misread, which is left then; so is a figure under a worn head, where all others are whole.
func values(text, upper string, l line, head []cell) []claim {
	for _, list := range [][]cell{cells(upper, l, wide), cells(upper, l, tight), aligned(upper, l, head)} {
		under := head
		if len(list) == len(head)+1 && named.MatchString(upper[list[0].from:list[0].to]) {
			under = append([]cell{{field: "connection"}}, head...)
		}
		if len(list) != len(under) {
			continue
		}
		var claims []claim
		left := 0
		for i, c := range list {
			if under[i].field == "" {
				if plain.MatchString(upper[c.from:c.to]) {
					left++
				}
				continue
			}
			one := underHead(text, upper, under[i], c)
			word, is := worded[under[i].field]
			alone := newAssembly()
			if (!is || word.MatchString(one.values[0])) && alone.take(one) {
				claims = append(claims, one)
			}
		}
		if bad := len(list) - len(claims) - left; bad > 1 || bad == 1 && (len(claims) < 3 || left > 0) {
			continue
		}
		if claims != nil {
			return claims
		}
	}
	return nil
}

// underHead is the claim of a value under a head.
func underHead(text, upper string, head, c cell) claim {
	one := claim{from: c.from, to: c.to, field: head.field, values: []string{upper[c.from:c.to]},
		words: text[c.from:c.to], head: [2]int{head.from, head.to}}
	if head.field == "output" {
		one.values = append(one.values, head.unit)
	}
	return one
}

// rows are lines of one word and several values, of which there are two at least with as
// many values each: parted by space alone, or wider where a value has parts of its own.
func rows(text, upper string, all []line) (found []claim) {
	byCount := map[int][]claim{}
	for _, l := range all {
		claims := across(text, upper, cells(upper, l, wide), true)
		if claims == nil {
			claims = across(text, upper, cells(upper, l, tight), false)
		}
		if claims != nil {
			byCount[len(claims)] = append(byCount[len(claims)], claims...)
		}
	}
	for count, claims := range byCount {
		if len(claims) >= 2*count {
			found = append(found, claims...)
		}
	}
	return found
}

// across are the claims of the cells of a line, two at least; nil where it is none. Values may
// have parts where the gaps are wide, and the word may stand close before the first of them.
func across(text, upper string, list []cell, parts bool) (claims []claim) {
	if len(list) < 2 {
		return nil
	}
	word, figures := list[0], list[1:]
	if plain.MatchString(upper[word.from:word.to]) {
		word, figures = list[len(list)-1], list[:len(list)-1]
	} else if first := list[0]; parts && len(heads(upper, line{first.from, first.to})) == 0 {
		k := strings.LastIndexByte(upper[first.from:first.to], ' ')
		if k < 0 {
			return nil
		}
		word = cell{from: first.from, to: first.from + k}
		figures = append([]cell{{from: first.from + k + 1, to: first.to}}, figures...)
	}
	head := heads(upper, line{word.from, word.to})
	if len(head) != 1 || len(figures) < 2 {
		return nil
	}
	for _, c := range figures {
		one := underHead(text, upper, head[0], c)
		if !plain.MatchString(strings.TrimSpace(mark.ReplaceAllString(one.values[0], ""))) {
			return nil
		}
		if alone := newAssembly(); !parts && strings.Contains(upper[c.from:c.to], "/") || !alone.take(one) {
			return nil
		}
		claims = append(claims, one)
	}
	return claims
}
