// Package browser drives the whole product as a person would, in headless
// Chromium.
package browser

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"net/url"
	"os"
	"os/exec"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/demo"
	"brackmoor/server"
	"brackmoor/store"
	"brackmoor/web"
)

// required says that a missing browser or web application is a failure.
var required = os.Getenv("BRACKMOOR_BROWSER") == "required"

// chromium is the one browser of all tests; every test has a context of its own.
var chromium = sync.OnceValues(func() (context.Context, error) {
	path, err := exec.LookPath("chromium")
	if err != nil {
		return nil, err
	}
	data, err := os.MkdirTemp("", "brackmoor-chromium")
	if err != nil {
		return nil, err
	}
	options := append(
		chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath(path),
		chromedp.NoSandbox,
		chromedp.DisableGPU,
		chromedp.Flag(
			"disable-component-update",
			true,
		),
		chromedp.Flag("disable-quic", true),
		chromedp.Flag("hide-scrollbars", true),
		chromedp.WindowSize(1280, 800),
		chromedp.UserDataDir(data),
	)
	allocator, _ := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, stop := chromedp.NewContext(allocator)
	shutdown = func() {
		stop()
		_ = os.RemoveAll(data) // it lies in the system's temporary folder
	}
	return ctx, chromedp.Do(ctx, chromedp.Navigate("about:blank"))
})

var shutdown = func() {}

func TestMain(m *testing.M) {
	code := m.Run()
	shutdown()
	os.Exit(code)
}

// shopServer is a Brackmoor on a port of its own, which can be stopped and
// started again on the same database.
type shopServer struct {
	db, address string
	passphrase  string // the encoded hash of one that is asked for
	store       *store.Store
	stop        func()
}

func (s *shopServer) start(t testing.TB) {
	t.Helper()
	app, ok := web.App()
	if !ok {
		if required {
			t.Fatal("the web application is not built: make build")
		}
		t.Skip("the web application is not built")
	}
	st, err := store.Open(context.Background(), s.db, time.Now)
	require.NoError(t, err)
	listener, err := net.Listen("tcp", s.address)
	require.NoError(t, err)
	s.address, s.store = listener.Addr().String(), st
	var passphrase func(context.Context) (string, error)
	if hash := s.passphrase; hash != "" {
		passphrase = func(context.Context) (string, error) { return hash, nil }
	}
	h := server.HTTP(
		server.New(
			server.Options{
				Store:      st,
				App:        app,
				Now:        time.Now,
				Log:        slog.New(slog.DiscardHandler),
				Passphrase: passphrase,
			},
		),
	)
	go func() { _ = h.Serve(listener) }() // it ends with Close
	s.stop = func() {
		ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
		defer cancel()
		if h.Shutdown(ctx) != nil {
			_ = h.Close() // a kept connection does not hold the test
		}
		require.NoError(t, st.Close())
	}
}

// page is a browser tab on a Brackmoor.
type page struct {
	testing.TB
	ctx     context.Context
	server  *shopServer
	mu      sync.Mutex
	faults  []string
	allowed []string
}

// open starts a Brackmoor with the named demo files and a tab on it. When the
// test ends, no request may have left the machine and the console must be clean.
func open(t testing.TB, files ...string) *page {
	t.Helper()
	root, err := chromium()
	if err != nil && !required {
		t.Skip("no chromium: ", err)
	}
	require.NoError(t, err)
	s := &shopServer{db: t.TempDir() + "/test.db", address: "127.0.0.1:0"}
	s.start(t)
	t.Cleanup(func() { s.stop() })
	for _, name := range files {
		text, err := demo.Files.ReadFile(name)
		require.NoError(t, err)
		file, problems := shop.ReadFile(text)
		require.Empty(t, problems)
		_, err = s.store.Import(context.Background(), file, store.Choice{})
		require.NoError(t, err)
	}
	if slices.Contains(files, "tarn-hollow.json") {
		require.NoError(t, demo.Write(context.Background(), s.store))
	}
	p := &page{TB: t, server: s}
	p.tab(root)
	return p
}

// another opens a second tab in a browser context of its own.
func (p *page) another() *page {
	root, err := chromium()
	require.NoError(p, err)
	q := &page{TB: p.TB, server: p.server}
	q.tab(root)
	return q
}

func (p *page) tab(root context.Context) {
	p.Helper()
	ctx, stop := chromedp.NewContext(root, chromedp.WithNewBrowserContext(), chromedp.WithListener(p.watch))
	p.ctx = ctx
	p.Cleanup(func() {
		p.mu.Lock()
		defer p.mu.Unlock()
		for _, fault := range p.faults {
			if !p.forgives(fault) {
				p.Error(fault)
			}
		}
		stop()
	})
	// The first call makes the tab, which would close with a timeout's context.
	require.NoError(p, chromedp.Do(ctx, chromedp.Navigate("about:blank")))
	_, err := chromedp.Call(ctx, network.Enable, network.EnableParams{})
	require.NoError(p, err)
	_, err = chromedp.Call(ctx, log.Enable, struct{}{})
	require.NoError(p, err)
	p.do(chromedp.EmulateViewport(1280, 800))
}

func (p *page) forgives(fault string) bool {
	for _, part := range p.allowed {
		if strings.Contains(fault, part) {
			return true
		}
	}
	return false
}

// watch keeps what a clean page must not do.
func (p *page) watch(event any) {
	fault := ""
	switch e := event.(type) {
	case *network.EventRequestWillBeSent:
		if u, err := url.Parse(
			e.Request.URL,
		); err == nil && (u.Scheme == "http" || u.Scheme == "https") &&
			u.Host != p.server.address {
			fault = "a request left the machine: " + e.Request.URL
		}
	case *runtime.EventExceptionThrown:
		fault = "exception: " + e.ExceptionDetails.Text
		if thrown := e.ExceptionDetails.Exception; thrown != nil {
			fault += " " + thrown.Description
		}
	case *runtime.EventConsoleAPICalled:
		if e.Type == "error" || e.Type == "warning" {
			fault = fmt.Sprintf("console %s: %s", e.Type, e.Args[0].Value)
			if e.Args[0].Value == nil {
				fault = fmt.Sprintf("console %s: %s", e.Type, e.Args[0].Description)
			}
		}
	case *log.EventEntryAdded:
		if e.Entry.Level == "error" {
			fault = "log: " + e.Entry.Text
		}
	}
	if fault != "" {
		p.mu.Lock()
		p.faults = append(p.faults, fault)
		p.mu.Unlock()
	}
}

// allow forgives console lines that a test provokes.
func (p *page) allow(part string) { p.allowed = append(p.allowed, part) }

func (p *page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, 30*time.Second)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		p.Fatalf("%v\non %s", err, p.text("body"))
	}
}

func (p *page) visit(path string) {
	p.Helper()
	p.do(chromedp.Navigate("http://" + p.server.address + path))
}

// eval evaluates an expression in the page.
func eval[T any](p *page, expression string) T {
	p.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, 30*time.Second)
	defer cancel()
	value, err := chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	require.NoError(p, err, expression)
	return value
}

// until waits for an expression to become true.
func (p *page) until(expression string) {
	p.Helper()
	p.within(20*time.Second, expression)
}

// within waits for an expression to become true, as long as what it waits for may take.
func (p *page) within(long time.Duration, expression string) {
	p.Helper()
	for end := time.Now().Add(long); time.Now().Before(end); time.Sleep(20 * time.Millisecond) {
		if eval[bool](p, "!!("+expression+")") {
			return
		}
	}
	p.Fatalf("never true: %s\non the page: %s", expression, p.text("body"))
}

func (p *page) text(selector string) string {
	ctx, cancel := context.WithTimeout(p.ctx, 5*time.Second)
	defer cancel()
	value, err := chromedp.Run(
		ctx,
		chromedp.Evaluate[string](fmt.Sprintf("document.querySelector(%q)?.innerText ?? ''", selector)),
	)
	if err != nil {
		return "(" + err.Error() + ")"
	}
	return value
}

// shows waits until an element holds a text.
func (p *page) shows(selector, text string) {
	p.Helper()
	p.until(fmt.Sprintf("[...document.querySelectorAll(%q)].some((e) => e.innerText.includes(%q))", selector, text))
}

func (p *page) keys(text string) {
	p.Helper()
	p.do(chromedp.KeyEvent(text))
}

func (p *page) click(selector string) {
	p.Helper()
	p.until(fmt.Sprintf("document.querySelector(%q)", selector))
	p.do(chromedp.Click(chromedp.CSS(selector)))
}

// atRest waits until what is to be pressed lies still: a page that still scrolls takes it
// away from under the click.
const atRest = `(async () => {
	for (let was = null, now = null; ; was = now) {
		now = document.querySelector('[data-press]')?.getBoundingClientRect().top ?? null;
		if (now === was) return true;
		await new Promise((done) => setTimeout(done, 50));
	}
})()`

// marked marks what is to be pressed and notes when it is; pressed takes the mark away and tells whether it was:
// a page that is still being laid out moves it from under the click.
const (
	marked = `(e => {
		window.wasPressed = false;
		e?.setAttribute('data-press', '1');
		e?.addEventListener('click', () => { window.wasPressed = true; }, { once: true, capture: true });
		return !!e;
	})(`
	pressed = `(() => {
		document.querySelectorAll('[data-press]').forEach(e => e.removeAttribute('data-press'));
		return window.wasPressed !== false;
	})()`
)

// press clicks the button, link or choice that carries a text. One that is drawn anew
// while it is being clicked is looked for again.
func (p *page) press(text string) {
	p.Helper()
	find := fmt.Sprintf(
		"[...document.querySelectorAll('button, a, [role=menuitem], .ant-segmented-item, label')].filter((e) => "+
			"e.innerText.trim() === %q && e.getClientRects().length).at(-1)",
		text,
	)
	var err error
	for range 6 {
		p.until(find)
		if !eval[bool](p, marked+find+")") {
			continue
		}
		eval[bool](p, atRest)
		ctx, cancel := context.WithTimeout(p.ctx, 5*time.Second)
		err = chromedp.Do(ctx, chromedp.Click(chromedp.CSS("[data-press]")))
		cancel()
		if eval[bool](p, pressed) {
			return
		}
	}
	p.Fatalf("%q is not to be pressed: %v\non the page: %s", text, err, p.text("body"))
}

// field writes into a field of the plate, replacing what stood there.
func (p *page) field(name, text string) {
	p.Helper()
	p.over(fmt.Sprintf(".plate input[name=%s]", name), text)
}

// labelled writes into a field by its label, replacing what stood there.
func (p *page) labelled(label, text string) {
	p.Helper()
	p.over(fmt.Sprintf("[aria-label='%s']", label), text)
}

func (p *page) over(selector, text string) {
	p.Helper()
	p.until(fmt.Sprintf("document.querySelector(%q)", selector))
	eval[bool](p, fmt.Sprintf("(document.querySelector(%q).focus(), document.activeElement.select(), true)", selector))
	if text == "" {
		text = "\b"
	}
	p.keys(text)
}

// saved waits until nothing typed waits in the browser any more.
func (p *page) saved() {
	p.Helper()
	p.until(
		"/^Saved/.test(document.querySelector('.saved')?.innerText ?? '') && !Object.keys(localStorage).some((key) " +
			"=> key.startsWith('brackmoor.draft.'))",
	)
}

// figure is the large figure of the answer with a label.
func (p *page) figure(label string) string {
	p.Helper()
	return eval[string](
		p,
		fmt.Sprintf(
			"[...document.querySelectorAll('.band > div')].find((e) => "+
				"e.querySelector('dt').innerText.startsWith(%q))?.querySelector('dd').innerText ?? ''",
			label,
		),
	)
}
