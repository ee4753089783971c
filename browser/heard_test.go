package browser

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/accessibility"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// listener goes through a page by ear alone: forwards over what a screen reader says, in the order in which it says it.
type listener struct {
	*page
	at cdp.BackendNodeID // what was heard last, 0 at the beginning
}

// said is what is said of a place.
type said struct {
	role, name string
	node       cdp.BackendNodeID
}

// all is all that is said of the page as it stands, in order.
func (l *listener) all() (list []said) {
	l.Helper()
	tree, err := chromedp.Call(l.ctx, accessibility.GetFullAXTree, accessibility.GetFullAXTreeParams{})
	require.NoError(l, err)
	by := map[accessibility.NodeID]*accessibility.Node{}
	for _, n := range tree.Nodes {
		by[n.NodeID] = n
	}
	text := func(v *accessibility.Value) (s string) {
		if v != nil {
			_ = json.Unmarshal([]byte(v.Value), &s)
		}
		return s
	}
	var walk func(id accessibility.NodeID)
	walk = func(id accessibility.NodeID) {
		n := by[id]
		if n == nil {
			return
		}
		if !n.Ignored {
			list = append(list, said{text(n.Role), text(n.Name), n.BackendDOMNodeID})
		}
		for _, child := range n.ChildIDs {
			walk(child)
		}
	}
	walk(tree.Nodes[0].NodeID)
	return list
}

// hears goes forward to the next of a role whose name begins so. What lies behind is not heard any more, but where what
// was heard last is gone it begins anew.
func (l *listener) hears(role, name string) said {
	l.Helper()
	var words []string
	for end := time.Now().Add(20 * time.Second); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		list, from := l.all(), 0
		for i, s := range list {
			if l.at != 0 && s.node == l.at {
				from = i + 1
			}
		}
		words = words[:0]
		for _, s := range list[from:] {
			if s.role == role && strings.HasPrefix(s.name, name) {
				l.at = s.node
				return s
			}
			words = append(words, fmt.Sprintf("%s %q", s.role, s.name))
		}
	}
	l.Fatalf("%s %q is not heard from there on: %s", role, name, strings.Join(words, ", "))
	return said{}
}

// types goes forward to a field and replaces what stands in it.
func (l *listener) types(name, text string) {
	l.Helper()
	l.presses("textbox", name, "")
	eval[bool](l.page, "(document.activeElement.select?.(), true)")
	l.keys(text)
}

// presses goes forward to a button, link or choice and presses it.
func (l *listener) presses(role, name, key string) {
	l.Helper()
	from := l.at
	err := errors.New("not tried yet")
	for tries := 0; err != nil && tries < 200; tries++ {
		time.Sleep(50 * time.Millisecond)
		l.at = from // it may not be there to be pressed for a moment, or be drawn anew
		_, err = chromedp.Call(l.ctx, dom.Focus, dom.FocusParams{BackendNodeID: l.hears(role, name).node})
	}
	require.NoError(l, err, "%s %q", role, name)
	if key != "" {
		l.keys(key)
	}
}

// top begins at the top again, as one who jumps to the page's landmarks.
func (l *listener) top() { l.at = 0 }

// From nothing to a sized machine by ear: whatever is wanted next lies further on, under its own name and role.
func TestAJourneyByEar(t *testing.T) {
	p := open(t)
	p.visit("/")
	l := &listener{page: p}
	l.hears("heading", "Your shop first")
	l.hears("radiogroup", "Where is it?")
	l.presses("radio", "Europe", " ")
	l.hears("radiogroup", "What comes in?")
	l.types("Whose is it?", "Quay loft")
	l.presses("button", "On to the first plate", "\r")

	l.hears("main", "")
	l.hears("heading", "First machine")
	l.types("Output, hp or kW", "1.5 kW")
	l.types("Speed in rpm", "1430")
	l.types("Volts", "230/400")
	l.types("Amps", "5.9/3.4\t")
	l.hears("heading", "Verdicts")
	p.saved()

	l.top()
	l.hears("radiogroup", "Steps")
	l.presses("radio", "Size", " ")
	l.hears("term", "Run")
	l.presses("button", "Run ", "\r")
	l.hears("dialog", "")
	l.hears("list", "")
	p.keys("\u001b")
	p.until("!document.querySelector('.ant-drawer-open')")
	l.top()
	l.hears("DescriptionList", "Answer")
	l.presses("button", "Take it", "\r")
	l.hears("image", "Leg volts: ")
	p.saved()

	l.top()
	l.presses("button", "Job sheet", "\r")
	l.top()
	l.hears("button", "Print")
	l.hears("heading", "First machine")
	l.hears("DescriptionList", "Answer")
	l.hears("heading", "Is this mine to do?")
	l.hears("heading", "Cautions")

	l.top()
	l.presses("link", "Floor", "\r")
	l.top()
	l.hears("main", "")
	l.hears("heading", "Floor")
	l.presses("switch", "First machine, on", " ")
	p.until("document.querySelector('.floor .motor [role=switch][aria-checked=true], .floor .ant-switch-checked')")

	l.top()
	l.presses("link", "Daybook", "\r")
	l.top()
	l.hears("main", "")
	l.presses("button", "Write a line", "\r")
	l.types("What happened", "Ran it for an hour")
	l.types("Written by", "E.")
	l.presses("button", "Write it down", "\r")
	p.shows(".lines", "Ran it for an hour")
}
