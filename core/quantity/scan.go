package quantity

import (
	"math"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// scanner walks over a typed text once, from left to right.
type scanner struct {
	text      string
	at        int
	thousands bool // a mark before exactly three figures parts thousands
	parts     bool // a stroke parts values, and makes no fraction of them
	fractured bool // a fraction was read
}

var vulgar = map[rune]float64{
	'½': 0.5,
	'¼': 0.25,
	'¾': 0.75,
	'⅓': 1.0 / 3,
	'⅔': 2.0 / 3,
	'⅛': 0.125,
	'⅜': 0.375,
	'⅝': 0.625,
	'⅞': 0.875,
}

func (s *scanner) peek() rune {
	r, _ := utf8.DecodeRuneInString(s.text[s.at:])
	if s.at >= len(s.text) {
		return -1
	}
	return r
}

func (s *scanner) skip() {
	for s.at < len(s.text) {
		r, size := utf8.DecodeRuneInString(s.text[s.at:])
		if !unicode.IsSpace(r) {
			return
		}
		s.at += size
	}
}

func (s *scanner) done() bool {
	s.skip()
	return s.at >= len(s.text)
}

func (s *scanner) end() error {
	if s.done() {
		return nil
	}
	return fail(s.text, s.at, "Did not understand %s.", left(s.text, s.at))
}

func (s *scanner) only(units []unit, what string) (float64, error) {
	value, err := s.positive()
	if err != nil {
		return 0, err
	}
	if factor, ok := s.unit(units); ok {
		value *= factor
	}
	if !s.done() {
		return 0, fail(s.text, s.at, "Expected %s, did not understand %s.", what, left(s.text, s.at))
	}
	return value, nil
}

// positive reads a number above nothing and of a size that a shop can meet.
func (s *scanner) positive() (float64, error) {
	s.skip()
	start := s.at
	value, ok := s.number()
	if !ok {
		return 0, fail(s.text, start, "Expected a number, found %s.", left(s.text, start))
	}
	if value <= 0 {
		return 0, fail(s.text, start, "The number must be above zero.")
	}
	if value > 1e7 {
		return 0, fail(s.text, start, "The number is far too large.")
	}
	return value, nil
}

func (s *scanner) digits() string {
	start := s.at
	for s.at < len(s.text) && s.text[s.at] >= '0' && s.text[s.at] <= '9' {
		s.at++
	}
	return s.text[start:s.at]
}

// number reads a decimal, a fraction or a mixed number.
func (s *scanner) number() (float64, bool) {
	whole := s.digits()
	if whole == "" {
		if share, ok := vulgar[s.peek()]; ok {
			s.at += utf8.RuneLen(s.peek())
			return share, true
		}
		if s.peek() != '.' && s.peek() != ',' {
			return 0, false
		}
	}
	text := whole
	for s.at < len(s.text) && (s.text[s.at] == '.' || s.text[s.at] == ',') {
		mark := s.at
		s.at++
		part := s.digits()
		if part == "" {
			s.at = mark
			break
		}
		if s.thousands && len(part) == 3 && whole != "" {
			text += part
			continue
		}
		text += "." + part
		break
	}
	value, err := strconv.ParseFloat(text, 64)
	if err != nil || math.IsInf(value, 0) {
		return 0, false
	}
	if text == whole {
		value = s.fraction(value)
	}
	return value, true
}

// fraction looks behind a whole number for the rest of a fraction: "1/2" and
// "1 1/2" are fractions when the denominator is one that a rule is marked with;
// "230/460" is a list.
func (s *scanner) fraction(whole float64) float64 {
	if s.parts {
		return whole
	}
	at := s.at
	defer func() { s.fractured = s.fractured || s.at > at }()
	if d, size := denominator(s.text[s.at:]); size > 0 && whole < d {
		s.at += size
		return whole / d
	}
	back := s.at
	if s.peek() == '-' {
		s.at++
	}
	s.skip()
	if share, ok := vulgar[s.peek()]; ok {
		s.at += utf8.RuneLen(s.peek())
		return whole + share
	}
	if s.at > back {
		if top := s.digits(); top != "" {
			n, _ := strconv.ParseFloat(top, 64)
			if d, size := denominator(s.text[s.at:]); size > 0 && n < d {
				s.at += size
				return whole + n/d
			}
		}
	}
	s.at = back
	return whole
}

func denominator(rest string) (value float64, size int) {
	for _, d := range []string{"16", "12", "2", "3", "4", "6", "8"} {
		if strings.HasPrefix(rest, "/"+d) {
			end := 1 + len(d)
			if end < len(rest) && (rest[end] >= '0' && rest[end] <= '9' || rest[end] == '.' || rest[end] == ',') {
				continue
			}
			value, _ = strconv.ParseFloat(d, 64)
			return value, end
		}
	}
	return 0, 0
}

// unit reads one of the units, whatever its case, and gives its factor.
func (s *scanner) unit(units []unit) (factor float64, ok bool) {
	s.skip()
	rest := strings.ToLower(s.text[s.at:])
	if len(rest) != len(s.text)-s.at {
		return 1, false // a letter that changes length in lower case is no unit
	}
	best := 0
	factor = 1
	for _, u := range units {
		for _, name := range u.names {
			if len(name) > best && strings.HasPrefix(rest, name) && !letterFollows(rest[len(name):]) {
				best, factor = len(name), u.factor
			}
		}
	}
	s.at += best
	return factor, best > 0
}

func letterFollows(rest string) bool {
	r, _ := utf8.DecodeRuneInString(rest)
	return unicode.IsLetter(r)
}

func (s *scanner) separator() bool {
	s.skip()
	switch r := s.peek(); r {
	case '/', '-', '–', ';', '\\':
		s.at += utf8.RuneLen(r)
		return true
	}
	return false
}
