package browser

import (
	"os"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// ZZ="path|press,press|w|name;..."
func TestZZ(t *testing.T) {
	p := open(t, "tarn-hollow.json", "ferry-stairs.json")
	for _, shot := range strings.Split(os.Getenv("ZZ"), "~") {
		f := strings.Split(shot, "|")
		if f[2] == "phone" {
			p.do(chromedp.EmulateViewport(390, 844))
		} else {
			p.do(chromedp.EmulateViewport(1280, 800))
		}
		p.visit(f[0])
		time.Sleep(1500 * time.Millisecond)
		for _, b := range strings.Split(f[1], ";;") {
			if b == "" {
				continue
			}
			if strings.HasPrefix(b, "k:") {
				p.keys(strings.ReplaceAll(b[2:], "ENTER", "\r"))
			} else if strings.HasPrefix(b, "sel:") {
				p.click("[aria-label=\"" + b[4:] + "\"]")
			} else if strings.HasPrefix(b, "js:") {
				eval[any](p, b[3:])
			} else {
				p.press(b)
			}
			time.Sleep(900 * time.Millisecond)
		}
		png, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
		if err != nil {
			t.Fatal(err)
		}
		os.WriteFile("/tmp/s/"+f[3]+".png", png, 0o644)
	}
}
