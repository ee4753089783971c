package hard_test

import (
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A disk that is full at any place refuses, in words, and loses nothing that was acknowledged.
func TestDiskFull(t *testing.T) {
	places := times(2, 50)
	refused := 0
	for n := range places {
		disk := filepath.Join(t.TempDir(), "disk")
		require.NoError(t, os.Mkdir(disk, 0o700))
		size := fmt.Sprintf("size=%dk", 420+rand.IntN(900))
		if out, err := exec.Command("mount", "-t", "tmpfs", "-o", size, "none", disk).CombinedOutput(); err != nil {
			if full {
				t.Fatal("no small disk can be made: ", string(out))
			}
			t.Skip("no small disk can be made here")
		}
		db := filepath.Join(disk, "shop.db")
		func() {
			defer func() { _ = exec.Command("umount", "-l", disk).Run() }() // it is in a temporary folder
			p := serves(t, "demo", db)
			if p == nil {
				return // too small to begin with, which it said
			}
			var acknowledged []string
			for k := 0; k < 400 && refused < (n+1)*20; k++ {
				name := fmt.Sprintf("full-%d-%d-%s", n, k, strings.Repeat("x", 40))
				if addMachine(p.address, name) {
					acknowledged = append(acknowledged, name)
				} else {
					refused++
				}
			}
			status, _ := ask("GET", p.address+"/api/shops", "", "")
			assert.Equal(t, 200, status, "it still answers")
			p.kill()
			away := filepath.Join(t.TempDir(), "away.db")
			copied(t, db, away)
			if _, err := os.Stat(db + "-wal"); err == nil {
				copied(t, db+"-wal", away+"-wal")
			}
			again := serves(t, "serve", away)
			require.NotNil(t, again)
			again.kill()
			there := sound(t, away)
			for _, name := range acknowledged {
				require.Contains(t, there, name, "acknowledged on a full disk, and lost")
			}
		}()
	}
	told(t, "a full disk", "at %d places, %d writes refused, none acknowledged and lost", places, refused)
}

// What no page sends is refused, quickly and in words, and never as a fault of ours.
func TestHostileRequests(t *testing.T) {
	p := serves(t, "demo", filepath.Join(t.TempDir(), "shop.db"))
	require.NotNil(t, p)
	defer p.kill()
	deep := strings.Repeat(`{"a":`, 5000) + "1" + strings.Repeat("}", 5000)
	bodies := map[string]string{
		"huge exponent":   `{"version": 1, "value": 1e99999999}`,
		"tiny exponent":   `{"version": 1e-1000000}`,
		"million digits":  `{"version": ` + strings.Repeat("9", 1_000_000) + `}`,
		"deep":            deep,
		"deep lists":      strings.Repeat("[", 100_000),
		"key in capitals": `{"Version": 1, "Value": {}, "Name": "x"}`,
		"key twice":       `{"name": "a", "name": "b", "version": 1, "version": 2}`,
		"no JSON":         `{"name": `,
		"a list":          `[1, 2, 3]`,
		"a text":          `"x"`,
		"null":            `null`,
		"nothing":         ``,
		"not UTF-8":       "{\"name\": \"\xff\xfe\"}",
		"unknown keys": `{"` + strings.Repeat(
			"k",
			5000,
		) + `": 1}`,
		"long name":   `{"name": "` + strings.Repeat("x", 5000) + `"}`,
		"nul":         "{\"name\": \"\\u0000\"}",
		"wrong types": `{"name": {}, "version": "x", "value": []}`,
		"infinite":    `{"version": Infinity}`,
		"prototype":   `{"__proto__": {"version": 1}}`,
		"many faults": `{"format": "brackmoor.shops/1", "shops": [` + strings.Repeat(`{},`, 50_000) + `{}]}`,
	}
	places := [][2]string{
		{"POST", "/api/shops"}, {"PUT", "/api/shops/tarn-hollow"}, {"POST", "/api/shops/tarn-hollow/machines"},
		{"PUT", "/api/motors/tarn-shaper-m1/plate"}, {"PUT", "/api/motors/tarn-shaper-m1/way"},
		{"PUT", "/api/motors/tarn-shaper-m1/leads"}, {"POST", "/api/motors/tarn-shaper-m1/ways/rotary/trial"},
		{"POST", "/api/plates"}, {"POST", "/api/import"}, {"POST", "/api/motors/tarn-shaper-m1/photos"},
	}
	slowest, worst := time.Duration(0), ""
	count := 0
	for name, body := range bodies {
		for _, place := range places {
			begun := time.Now()
			status, text := ask(place[0], p.address+place[1], "application/json", body)
			took := time.Since(begun)
			if took > slowest {
				slowest, worst = took, name+" to "+place[1]
			}
			count++
			assert.True(t, status >= 400 && status < 500, "%s to %s: %d", name, place[1], status)
			assert.Less(t, len(text), 20_000, "%s to %s", name, place[1])
			assert.NotContains(t, string(text), "goroutine")
			assert.NotContains(t, string(text), strings.Repeat("x", 100), "%s to %s: it is echoed", name, place[1])
		}
	}
	status, _ := ask("GET", p.address+"/api/shops", "", "")
	assert.Equal(t, 200, status)
	told(t, "hostile documents and requests", "%d by name, each refused in words; the slowest %d ms (%s); peak %d MB",
		count, slowest.Milliseconds(), worst, p.peak(t))
}

// memory reads a figure of the process in MB; peak is the most it ever took.
func (p *process) memory(t *testing.T, name string) int {
	t.Helper()
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.Process.Pid))
	require.NoError(t, err)
	for line := range strings.SplitSeq(string(text), "\n") {
		if figure, ok := strings.CutPrefix(line, name+":"); ok {
			kilobytes, err := strconv.Atoi(strings.Fields(figure)[0])
			require.NoError(t, err)
			return kilobytes / 1024
		}
	}
	t.Fatal("no such figure: ", name)
	return 0
}

func (p *process) peak(t *testing.T) int { return p.memory(t, "VmHWM") }

// Fifty write at once: each is done or refused, and none that was acknowledged is lost.
func TestParallelWriters(t *testing.T) {
	db := filepath.Join(t.TempDir(), "shop.db")
	p := serves(t, "demo", db)
	require.NotNil(t, p)
	var mu sync.Mutex
	var acknowledged []string
	refused := 0
	var wait sync.WaitGroup
	for worker := range 50 {
		wait.Go(func() {
			for k := range times(2, 9) {
				name := fmt.Sprintf("p%d-%d", worker, k)
				done := addMachine(p.address, name)
				mu.Lock()
				if done {
					acknowledged = append(acknowledged, name)
				} else {
					refused++
				}
				mu.Unlock()
			}
		})
	}
	wait.Wait()
	p.kill()
	there := sound(t, db)
	for _, name := range acknowledged {
		require.Contains(t, there, `"`+name+`"`)
	}
	assert.NotEmpty(t, acknowledged)
	told(t, "fifty writers at once", "%d writes acknowledged, none lost, %d refused", len(acknowledged), refused)
}

// Clients that send a letter at a time hold nobody else up, and are let go of.
func TestSlowClients(t *testing.T) {
	p := serves(t, "demo", filepath.Join(t.TempDir(), "shop.db"))
	require.NotNil(t, p)
	defer p.kill()
	lines := []net.Conn{}
	for range times(50, 400) {
		line, err := net.Dial("tcp", strings.TrimPrefix(p.address, "http://"))
		require.NoError(t, err)
		_, err = line.Write([]byte("POST /api/shops HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: "))
		require.NoError(t, err)
		lines = append(lines, line)
	}
	begun := time.Now()
	status, _ := ask("GET", p.address+"/api/shops", "", "")
	took := time.Since(begun)
	assert.Equal(t, 200, status)
	for _, line := range lines {
		require.NoError(t, line.SetReadDeadline(time.Now().Add(20*time.Second)))
		_, err := line.Read(make([]byte, 1))
		for err == nil { // what it says before it lets go
			_, err = line.Read(make([]byte, 512))
		}
		assert.NotErrorIs(t, err, os.ErrDeadlineExceeded, "it is let go of")
		_ = line.Close()
	}
	told(t, "slow clients", "%d held open: another is answered in %d ms meanwhile, each is let go of", len(lines),
		took.Milliseconds())
}

// Under a mixed load, which is eight hours of four hands in ten minutes, a request of each every two seconds, its
// memory stays flat, its answers come, and every line that was written down is there once.
func TestSoak(t *testing.T) {
	p := serves(t, "demo", filepath.Join(t.TempDir(), "shop.db"))
	require.NotNil(t, p)
	defer p.kill()
	paths := []string{
		"/api/shops", "/api/shops/tarn-hollow", "/api/machines/tarn-shaper", "/api/motors/tarn-shaper-m1/suit",
		"/api/motors/tarn-hobber-m1/ways/rotary", "/api/motors/tarn-borer-m1/settings", "/api/export",
		"/api/motors/tarn-shaper-m1/leads", "/api/motors/tarn-shaper-m1/ways/start-run-capacitor/scope",
		"/api/motors/tarn-shaper-m1/sheet.pdf",
	}
	last := time.Duration(times(4, 600)) * time.Second
	var mu sync.Mutex
	var took []time.Duration
	bad, lines := 0, 0
	stream, err := http.Get(p.address + "/api/events") // a window that only looks on
	require.NoError(t, err)
	defer func() { _ = stream.Body.Close() }() // it ends with the server
	go func() { _, _ = io.Copy(io.Discard, stream.Body) }()
	until := func(end time.Time) {
		var wait sync.WaitGroup
		for worker := range 4 {
			wait.Go(func() {
				for k := 0; time.Now().Before(end); k++ {
					begun := time.Now()
					var status int
					switch worker {
					case 0:
						status, _ = ask(
							"POST",
							p.address+"/api/motors/tarn-shaper-m1/ways/start-run-capacitor/trial",
							"application/json",
							fmt.Sprintf(`{"run_microfarad": %.4f, "start_microfarad": 290, "load_share": 0.5}`,
								30+40*rand.Float64()),
						)
					case 1:
						status, _ = ask(
							"POST",
							p.address+"/api/shops/tarn-hollow/entries",
							"application/json",
							fmt.Sprintf(
								`{"id": "soak-%d-%d", "at": "2026-01-20T10:00:00Z", "hand": "A.", "kind": "note",
							"machine": "", "motor": "", "says": "soaked", "who": "", "due": "", "ends": "",
							"corrects": ""}`,
								begun.UnixNano(), k),
						)
						if status == 200 {
							lines++ // by this worker alone
						}
						time.Sleep(100 * time.Millisecond)
					default:
						status, _ = ask("GET", p.address+paths[rand.IntN(len(paths))], "", "")
					}
					mu.Lock()
					took = append(took, time.Since(begun))
					if status != 200 && status != 503 {
						bad++
					}
					mu.Unlock()
					time.Sleep(10 * time.Millisecond)
				}
			})
		}
		wait.Wait()
	}
	until(time.Now().Add(last / 4)) // caches fill
	start := p.memory(t, "VmRSS")
	until(time.Now().Add(3 * last / 4))
	end := p.memory(t, "VmRSS")
	assert.Zero(t, bad)
	_, csv := ask("GET", p.address+"/api/shops/tarn-hollow/daybook.csv", "", "")
	assert.Equal(t, lines, strings.Count(string(csv), "soaked"))
	if full {
		assert.Less(t, float64(end), 1.2*float64(start), "memory grows")
		assert.Less(t, p.peak(t), 400)
	}
	slices.Sort(took)
	told(
		t,
		"soak at mixed load",
		"%s, %d requests, %d of them lines written down and there, none failed; "+
			"memory %d MB once warm, %d MB at the end, peak %d MB; "+
			"p50 %d ms, p99 %d ms",
		last,
		len(took),
		lines,
		start,
		end,
		p.peak(t),
		took[len(took)/2].Milliseconds(),
		took[len(took)*99/100].Milliseconds(),
	)
}
