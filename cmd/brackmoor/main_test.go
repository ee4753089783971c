package main

import (
	"bytes"
	"context"
	"crypto/tls"
	"crypto/x509"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/load"
	"brackmoor/core/shop"
	"brackmoor/store"
)

type outcome struct {
	code     int
	out, err string
}

func brackmoor(stdin string, args ...string) outcome {
	var out, errs bytes.Buffer
	code := run(context.Background(), &console{strings.NewReader(stdin), &out, &errs}, args)
	return outcome{code, out.String(), errs.String()}
}

const caseText = `{"format": "brackmoor.case/1", "analysis": "steady", "supply": {"volts": 240, "hertz": 60},
 "motors": [{"id": "m", "poles": 4, "rated_hertz": 60, "circuit": {"r1_ohm": 0.6, "x1_ohm": 1.2, "xm_ohm": 30,
 "cages": [{"r_ohm": 0.5, "x_ohm": 1.3}]}, "load": {"kind": "power", "watts": 900}}],
 "capacitors": [{"id": "run", "between": "ac", "microfarad": 60}]}`

func TestSolve(t *testing.T) {
	o := brackmoor(caseText, "solve", "-")
	require.Equal(t, 0, o.code, o.err)
	var result map[string]any
	require.NoError(t, json.Unmarshal([]byte(o.out), &result))
	assert.Equal(t, "brackmoor.result/1", result["format"])
	file := filepath.Join(t.TempDir(), "case.json")
	require.NoError(t, os.WriteFile(file, []byte(caseText), 0o600))
	assert.Equal(t, o.out, brackmoor("", "solve", file).out)
}

func TestSpice(t *testing.T) {
	o := brackmoor(caseText, "spice", "-")
	require.Equal(t, 0, o.code, o.err)
	assert.True(t, strings.HasPrefix(o.out, "* steady case"), o.out[:40])
	assert.True(t, strings.HasSuffix(o.out, ".end\n"))
	assert.Contains(t, o.out, "meas tran volts_ca")
	bad := brackmoor(
		`{"format": "brackmoor.case/1", "analysis": "stop", "stop": {"inertia_kgm2": 1, "rpm": 1000,
 "bus_microfarad": 100, "bus_volts": 300, "trip_volts": 400, "loss_watts": 1}}`,
		"spice",
		"-",
	)
	assert.Equal(t, 2, bad.code)
	assert.Contains(t, bad.err, "only steady, waveform and rectifier cases are circuits")
	assert.Equal(t, 2, brackmoor("{}", "spice", "-").code)
}

func TestPlate(t *testing.T) {
	o := brackmoor("3 HP 230/460V 9.0/4.5A 60HZ 1745RPM SF1.15 CODE K DES B NEMA NOM EFF 87.5\n", "plate", "-")
	require.Equal(t, 0, o.code, o.err)
	var d map[string]any
	require.NoError(t, json.Unmarshal([]byte(o.out), &d))
	assert.Equal(t, "brackmoor.plate/1", d["format"])
	assert.Len(t, d["plate"].(map[string]any)["ratings"], 2)
	assert.Nil(t, d["plate"].(map[string]any)["frame"])
	for _, bad := range []string{"", "  \n", "\xff", strings.Repeat("HP ", 30000)} {
		o := brackmoor(bad, "plate", "-")
		assert.Equal(t, 2, o.code)
		assert.True(t, strings.HasPrefix(o.err, "$: "), o.err)
	}
}

func TestLeads(t *testing.T) {
	const text = `{"format": "brackmoor.leads/1", "leads": ["A","B","C","D","E","F"], "marks": {"A": "T1"},
 "lead_ohms": 0.1, "celsius": 20,
"readings": [{"between": ["A","B"], "ohms": 2.4}, {"between": ["A","C"], "open": true}, {"between": ["A","frame"],
 "megohms": 200, "test_volts": 500}],
"polarity": [{"driven": ["A","B"], "sensed": ["C","D"], "sign": "+"}]}`
	o := brackmoor(text, "leads", "-")
	require.Equal(t, 0, o.code, o.err)
	var d struct {
		Groups      [][]string
		Winding     string
		Next        []string
		Marks       map[string]string
		Connectable bool
	}
	require.NoError(t, json.Unmarshal([]byte(o.out), &d))
	assert.Equal(t, "unknown", d.Winding)
	assert.Contains(t, d.Groups, []string{"A", "B"})
	assert.Len(t, d.Next, 2)
	assert.Equal(t, map[string]string{"A": "U1"}, d.Marks)
	assert.False(t, d.Connectable)
	assert.Contains(t, o.out, `"next_polarity": null`)
	bad := brackmoor(strings.Replace(text, `"open": true`, `"open": true, "ohms": 3`, 1), "leads", "-")
	assert.Equal(t, 2, bad.code)
	assert.Equal(t, "$.readings[1]: needs one of ohms, open and megohms\n", bad.err)
}

func TestAStalledMotorIsAResult(t *testing.T) {
	o := brackmoor(strings.Replace(caseText, "900", "90000", 1), "solve", "-")
	require.Equal(t, 0, o.code)
	assert.Contains(t, o.out, `"state": "stalled"`)
}

func TestBadInputExitsTwoWithALineEach(t *testing.T) {
	o := brackmoor(
		strings.NewReplacer(`"volts": 240`, `"volts": -240`, `"microfarad": 60`, `"microfarad": -60`).Replace(caseText),
		"solve",
		"-",
	)
	assert.Equal(t, 2, o.code)
	assert.Empty(t, o.out)
	lines := strings.Split(strings.TrimSpace(o.err), "\n")
	require.Len(t, lines, 2)
	assert.True(t, strings.HasPrefix(lines[0], "$.capacitors[0].microfarad: "), lines[0])
	assert.True(t, strings.HasPrefix(lines[1], "$.supply.volts: "), lines[1])
}

func TestUsage(t *testing.T) {
	for _, args := range [][]string{nil, {"help"}, {"--help"}} {
		o := brackmoor("", args...)
		assert.Equal(t, 0, o.code)
		assert.Contains(t, o.out, "Set the ways of feeding a motor side by side")
	}
	for _, command := range []string{"backup", "demo", "export", "import", "leads", "openapi", "passphrase", "plate",
		"restore", "serve", "size", "solve", "spice"} {
		o := brackmoor("", command, "--help")
		assert.Equal(t, 0, o.code)
		assert.Regexp(t, `Examples:\n  .*brackmoor `+command, o.out)
	}
	kinds := brackmoor("", "size", "--help").out
	for _, k := range load.Kinds {
		assert.Contains(t, kinds, k.Name)
	}
	for typed, nearest := range map[string]string{"sise": "size", "sovle": "solve", "size --suply=240/60 -": "supply",
		"size --supply=240/60 --load=grindr -": "grinder", "size --supply=240/60 --route=rotry -": "rotary"} {
		o := brackmoor(`{"format": "brackmoor.plate/1", "plate": {"ratings": []}}`, strings.Fields(typed)...)
		assert.Equal(t, 2, o.code)
		assert.Contains(t, o.err, nearest, typed)
	}
	assert.Contains(t, brackmoor("", "completion", "bash").out, "brackmoor")
	for _, args := range [][]string{{"unknown"}, {"solve"}, {"solve", "a", "b"}, {"solve", "/no/such/file"}, {"serve",
		"--nonsense"}, {"backup"}} {
		assert.Equal(t, 2, brackmoor("", args...).code, "%v", args)
	}
	assert.Equal(t, 2, brackmoor(strings.Repeat(" ", 17<<20), "solve", "-").code)
}

// blank makes a database with nothing in it.
func blank(t *testing.T, folder, name string) string {
	t.Helper()
	path := filepath.Join(folder, name)
	st, err := store.Open(context.Background(), path, time.Now)
	require.NoError(t, err)
	require.NoError(t, st.Close())
	return path
}

func TestExportImportBackup(t *testing.T) {
	dir := t.TempDir()
	one, two := blank(t, dir, "one.db"), blank(t, dir, "two.db")
	o := brackmoor("", "import", "--db", one, "../../demo/tarn-hollow.json")
	require.Equal(t, 0, o.code, o.err)
	assert.Contains(t, o.out, "machine Gear hobber added")
	assert.Regexp(t, `\d+ added, 0 changed, 0 as they were`, o.out)
	out := filepath.Join(dir, "out.json")
	require.Equal(t, 0, brackmoor("", "export", "--db", one, out).code)
	printed := brackmoor("", "export", "--db", one)
	written, err := os.ReadFile(out)
	require.NoError(t, err)
	assert.Equal(t, printed.out, string(written))
	require.Equal(t, 0, brackmoor(printed.out, "import", "--db", two, "-").code)
	assert.Equal(t, printed.out, brackmoor("", "export", "--db", two).out)
	bad := brackmoor(`{"format": "x"}`, "import", "--db", two, "-")
	assert.Equal(t, 2, bad.code)
	assert.Contains(t, bad.err, "$")
	copied := filepath.Join(dir, "copy.db")
	require.Equal(t, 0, brackmoor("", "backup", "--db", one, copied).code)
	assert.Equal(t, printed.out, brackmoor("", "export", "--db", copied).out)
	again := brackmoor("", "backup", "--db", one, copied)
	assert.Equal(t, 1, again.code)
	assert.Contains(t, again.err, "overwrites nothing")
	require.Equal(t, 0, brackmoor("", "restore", "--db", two, copied).code)
	assert.Equal(t, printed.out, brackmoor("", "export", "--db", two).out)
	// What stands where it should not is left as it is, and nothing is made by a mistyped name.
	for _, args := range []string{
		"export --db " + one + " " + one, "backup --db " + one + " " + one, "restore --db " + one + " " + one,
		"restore --db " + one + " " + out, "export --db typo.db", "import --db typo.db " + out,
		"backup --db typo.db x.db", "passphrase --db typo.db", "restore --db " + one + " typo.db",
	} {
		o := brackmoor("a passphrase of twelve\n", strings.Fields(args)...)
		assert.NotEqual(t, 0, o.code, args)
		assert.NotContains(t, o.err, "goroutine", args)
		assert.NoFileExists(t, "typo.db", args)
	}
	assert.Equal(t, printed.out, brackmoor("", "export", "--db", one).out)
}

// What holds something else is written over when that is asked for, a database's own file never;
// backups take turns; a database is looked through.
func TestForceKeepAndCheck(t *testing.T) {
	dir := t.TempDir()
	db := blank(t, dir, "shop.db")
	letter := filepath.Join(dir, "letter.txt")
	require.NoError(t, os.WriteFile(letter, []byte("Dear sir"), 0o600))
	for _, c := range []struct {
		args string
		code int
		says string
	}{
		{"export --db " + db + " " + letter, 1, "--force"},
		{"export --force --db " + db + " " + db, 1, "the database itself"},
		{"export --force --db " + db + " " + letter, 0, ""},
		{"backup --keep -1 --db " + db + " " + dir, 2, "--keep"},
		{"backup --keep 2 --db " + db + " " + filepath.Join(dir, "all"), 0, ""},
		{"check --db " + db, 0, "is sound"},
		{"check --db " + letter, 1, letter},
		{"check --db typo.db", 1, "there is no database"},
	} {
		o := brackmoor("", strings.Fields(c.args)...)
		assert.Equal(t, c.code, o.code, c.args)
		assert.Contains(t, o.out+o.err, c.says, c.args)
	}
	text, err := os.ReadFile(letter)
	require.NoError(t, err)
	assert.Contains(t, string(text), shop.Format)
	made, err := filepath.Glob(filepath.Join(dir, "all", "shop-*.db"))
	require.NoError(t, err)
	assert.Len(t, made, 1)
	st, err := store.Open(context.Background(), db, time.Now)
	require.NoError(t, err)
	_, err = st.DB.Exec("INSERT INTO daybook (at, shop_id, what) VALUES ('2036-01-01T00:00:00Z', 'x', 'x')")
	require.NoError(t, err)
	require.NoError(t, st.Close())
	o := brackmoor("", "check", "--db", db)
	assert.Equal(t, 1, o.code)
	assert.Contains(t, o.out, "clock")
}

// While it is served a database is not replaced.
func TestRestoreRefusesWhatIsServed(t *testing.T) {
	dir := t.TempDir()
	db, copied := filepath.Join(dir, "one.db"), filepath.Join(dir, "copy.db")
	_, stop := served(t, "demo", "--db", db, "--listen", "127.0.0.1:0")
	require.Equal(t, 0, brackmoor("", "backup", "--db", db, copied).code)
	o := brackmoor("", "restore", "--db", db, copied)
	assert.NotEqual(t, 0, o.code)
	assert.Contains(t, o.err, "stop what serves it")
	assert.Equal(t, 0, stop())
	o = brackmoor("", "restore", "--db", db, copied)
	assert.Equal(t, 0, o.code, o.err)
	assert.Contains(t, o.out, "is kept as")
}

func TestPassphrase(t *testing.T) {
	db := blank(t, t.TempDir(), "p.db")
	short := brackmoor("short\n", "passphrase", "--db", db)
	assert.Equal(t, 2, short.code)
	assert.Contains(t, short.err, "at least 12")
	assert.Equal(t, 2, brackmoor("", "passphrase", "--db", db).code)
	assert.Equal(t, 2, brackmoor("            \n", "passphrase", "--db", db).code, "twelve blanks are none")
	require.Equal(t, 0, brackmoor("correct horse battery\n", "passphrase", "--db", db).code)
	st, err := store.Open(context.Background(), db, time.Now)
	require.NoError(t, err)
	defer func() { require.NoError(t, st.Close()) }()
	kept, err := st.Setting(context.Background(), passphraseKey)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(kept, "$argon2id$"))
}

func TestOffLoopbackNeedsAPassphrase(t *testing.T) {
	db := filepath.Join(t.TempDir(), "p.db")
	o := brackmoor("", "serve", "--db", db, "--listen", "0.0.0.0:0")
	assert.Equal(t, 1, o.code)
	assert.Contains(t, o.err, "set a passphrase first")
	for address, want := range map[string]bool{"127.0.0.1:1": true, "localhost:1": true, "[::1]:1": true,
		"127.9.9.9:1": true, "0.0.0.0:1": false, ":1": false, "192.168.1.2:1": false, "shop:1": false, "x": false} {
		assert.Equal(t, want, loopback(address), address)
	}
}

// safe is a buffer that a server writes and a test reads.
type safe struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (s *safe) Write(p []byte) (int, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.b.Write(p)
}

func (s *safe) String() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.b.String()
}

var said = regexp.MustCompile(`Brackmoor is at (https?://[0-9.:]+)`)

// served runs a command that serves until the test ends, and returns its address.
func served(t testing.TB, args ...string) (address string, stop func() int) {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	var out safe
	done := make(chan int, 1)
	go func() { done <- run(ctx, &console{strings.NewReader(""), &out, &safe{}}, args) }()
	require.Eventually(t, func() bool { return said.MatchString(out.String()) }, 10*time.Second, time.Millisecond)
	return said.FindStringSubmatch(out.String())[1], func() int { cancel(); return <-done }
}

func TestDemoServesAndKeepsWhatWasEntered(t *testing.T) {
	db := filepath.Join(t.TempDir(), "demo.db")
	address, stop := served(t, "demo", "--db", db, "--listen", "127.0.0.1:0")
	answer, err := http.Get(address + "/api/shops")
	require.NoError(t, err)
	var shops []map[string]any
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&shops))
	require.NoError(t, answer.Body.Close())
	require.Len(t, shops, 2)
	answer, err = http.Post(
		address+"/api/shops/tarn-hollow/machines",
		"application/json",
		strings.NewReader(`{"name": "Lathe"}`),
	)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	assert.Equal(t, 0, stop())
	_, stop = served(t, "demo", "--db", db, "--listen", "127.0.0.1:0")
	assert.Contains(t, brackmoor("", "export", "--db", db).out, "Lathe")
	assert.Equal(t, 0, stop())
}

// By HTTPS the shop is served to whoever trusts its authority, which is told without TLS; it is the same the next day.
func TestServeByHTTPS(t *testing.T) {
	db := filepath.Join(t.TempDir(), "one.db")
	get := func(client *http.Client, address string) (status int, body []byte) {
		answer, err := client.Get(address)
		require.NoError(t, err)
		defer answer.Body.Close()
		body, err = io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer.StatusCode, body
	}
	pool := x509.NewCertPool()
	trusting := &http.Client{Transport: &http.Transport{
		TLSClientConfig: &tls.Config{RootCAs: pool}, DisableKeepAlives: true,
	}}
	for day := range 2 {
		address, stop := served(t, "demo", "--db", db, "--listen", "127.0.0.1:0", "--tls")
		require.True(t, strings.HasPrefix(address, "https://"), address)
		if day == 0 {
			_, der := get(http.DefaultClient, strings.Replace(address, "https", "http", 1)+"/authority.crt")
			cert, err := x509.ParseCertificate(der)
			require.NoError(t, err)
			pool.AddCert(cert)
		}
		status, body := get(trusting, address+"/api/shops")
		assert.Equal(t, http.StatusOK, status)
		assert.True(t, json.Valid(body))
		assert.Equal(t, 0, stop())
	}
}

func TestATakenPortIsSaid(t *testing.T) {
	db := filepath.Join(t.TempDir(), "one.db")
	address, stop := served(t, "serve", "--db", db, "--listen", "127.0.0.1:0")
	o := brackmoor("", "serve", "--db", db, "--listen", strings.TrimPrefix(address, "http://"))
	assert.Equal(t, 1, o.code)
	assert.Contains(t, o.err, "address already in use")
	assert.Equal(t, 0, stop())
}

func TestOpenAPI(t *testing.T) {
	o := brackmoor("", "openapi")
	require.Equal(t, 0, o.code)
	assert.True(t, json.Valid([]byte(o.out)))
}

// BenchmarkStart is from an existing database to the first answer.
func BenchmarkStart(b *testing.B) {
	db := filepath.Join(b.TempDir(), "demo.db")
	_, stop := served(b, "demo", "--db", db, "--listen", "127.0.0.1:0")
	stop()
	for b.Loop() {
		address, stop := served(b, "demo", "--db", db, "--listen", "127.0.0.1:0")
		answer, err := http.Get(address + "/api/shops")
		if err != nil || answer.StatusCode != http.StatusOK {
			b.Fatal(err)
		}
		_ = answer.Body.Close() // it was only waited for
		b.StopTimer()
		stop()
		b.StartTimer()
	}
}

// The routes are had from what the plate command prints, as JSON or as a table.
func TestSize(t *testing.T) {
	read := brackmoor("3 HP 230/460V 9.0/4.5A 60HZ 1745RPM SF1.15 CODE K DES B NEMA NOM EFF 87.5\n", "plate", "-")
	require.Equal(t, 0, read.code, read.err)
	o := brackmoor(read.out, "size", "--supply", "240/60", "--source-ohm", "0.08+0.04", "--load", "ram", "-")
	require.Equal(t, 0, o.code, o.err)
	var a struct {
		Format, Recommended string
		Reasons             []string
		Routes              []map[string]json.RawMessage
	}
	require.NoError(t, json.Unmarshal([]byte(o.out), &a))
	assert.Equal(t, "brackmoor.size/1", a.Format)
	assert.NotEmpty(t, a.Recommended)
	assert.NotEmpty(t, a.Reasons)
	require.Len(t, a.Routes, 9)
	for _, r := range a.Routes {
		for _, key := range []string{"route", "starts", "usable_watts", "hottest_winding_percent", "supply_amps",
			"unbalance_percent", "sizes", "verdicts"} {
			assert.Contains(t, r, key)
		}
		var amps map[string]*float64
		require.NoError(t, json.Unmarshal(r["supply_amps"], &amps))
		assert.Len(t, amps, 4)
	}
	one := brackmoor(read.out, "size", "--supply", "240/60", "--route", "rotary", "--text", "-")
	require.Equal(t, 0, one.code, one.err)
	assert.Contains(t, one.out, "recommended:")
	assert.Contains(t, one.out, "Local code")
	assert.NotContains(t, strings.Split(one.out, "recommended:")[0], "static")
	for _, c := range []struct {
		text, says string
		args       []string
	}{
		{read.out, "--supply: give volts/hertz", []string{"size", "-"}},
		{read.out, "--supply: volts lie between", []string{"size", "--supply", "24/60", "-"}},
		{read.out, "--source-ohm", []string{"size", "--supply", "240/60", "--source-ohm", "much", "-"}},
		{read.out, "no kind of load", []string{"size", "--supply", "240/60", "--load", "tea", "-"}},
		{read.out, "no route", []string{"size", "--supply", "240/60", "--route", "tea", "-"}},
		{strings.Replace(read.out, `"plate":`, `"colour": 1, "plate":`, 1), "colour", []string{"size", "--supply",
			"240/60", "-"}},
		{`{"format": "brackmoor.plate/1", "plate": {"ratings": []}}`, "output", []string{"size", "--supply", "240/60",
			"-"}},
		{`{"format": "brackmoor.plate/1", "plate": {"phases": 1, "ratings": []}}`, "single-phase", []string{"size",
			"--supply", "240/60", "-"}},
	} {
		bad := brackmoor(c.text, c.args...)
		assert.Equal(t, 2, bad.code, c.says)
		assert.Contains(t, bad.err, c.says)
	}
}
