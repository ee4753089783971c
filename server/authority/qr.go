package authority

import (
	"fmt"
	"strings"

	"rsc.io/qr"
)

// quiet is the white around a code, in modules (ISO/IEC 18004).
const quiet = 4

// InTerminal is a text as a code of half blocks, what is white of it lit, for a phone to read off a dark terminal.
func InTerminal(text string) (string, error) {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return "", err
	}
	var b strings.Builder
	for y := -quiet; y < code.Size+quiet; y += 2 {
		for x := -quiet; x < code.Size+quiet; x++ {
			switch up, down := code.Black(x, y), code.Black(x, y+1); {
			case up && down:
				b.WriteByte(' ')
			case up:
				b.WriteString("▄")
			case down:
				b.WriteString("▀")
			default:
				b.WriteString("█")
			}
		}
		b.WriteByte('\n')
	}
	return b.String(), nil
}

// SVG is a text as a code, one path on white, as wide as it is made.
func SVG(text string) (string, error) {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return "", err
	}
	var path strings.Builder
	for y := range code.Size {
		for x := range code.Size {
			if code.Black(x, y) {
				fmt.Fprintf(&path, "M%d %dh1v1h-1z", x+quiet, y+quiet)
			}
		}
	}
	wide := code.Size + 2*quiet
	return fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" role="img" aria-label="QR code">`+
		`<path fill="#fff" d="M0 0h%dv%dH0z"/><path d="%s"/></svg>`, wide, wide, wide, wide, path.String()), nil
}
