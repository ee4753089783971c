package strict

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Cell keeps a spreadsheet from taking a text for a formula, whatever blanks stand before its
// sign and however wide that is written.
func Cell(text string) string {
	if armed(text) {
		return "'" + text
	}
	return text
}

// Uncelled is the text of a cell that Cell wrote.
func Uncelled(text string) string {
	if rest, quoted := strings.CutPrefix(text, "'"); quoted && armed(rest) {
		return rest
	}
	return text
}

// armed says whether a text is a formula, or would be taken for one that Cell wrote.
func armed(text string) bool {
	rest, quoted := strings.CutPrefix(text, "'")
	return formula(text) || quoted && armed(rest)
}

func formula(text string) bool {
	shown := strings.TrimLeftFunc(text, func(r rune) bool { return !unicode.IsGraphic(r) || unicode.IsSpace(r) })
	return strings.HasPrefix(text, "\t") || strings.HasPrefix(text, "\r") ||
		shown != "" && strings.ContainsAny("=+-@＝＋－＠", firstOf(shown))
}

func firstOf(text string) string {
	_, size := utf8.DecodeRuneInString(text)
	return text[:size]
}
