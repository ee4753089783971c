// Package hard_test runs Brackmoor as a program of its own and treats it badly: kills it, fills
// its disk, sends what no page sends, and keeps it busy. A short form of each part runs with every
// test; BRACKMOOR_HARD=1 runs all of it and writes its table.
package hard_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// full says that all of it is wanted, and not a short form.
var full = os.Getenv("BRACKMOOR_HARD") != ""

// times is how often something is done in the short form and in the full one.
func times(short, long int) int {
	if full {
		return long
	}
	return short
}

// binary is the program, built once.
var binary = sync.OnceValues(func() (string, error) {
	folder, err := os.MkdirTemp("", "brackmoor-hard")
	if err != nil {
		return "", err
	}
	path := filepath.Join(folder, "brackmoor")
	out, err := exec.Command("go", "build", "-o", path, "../cmd/brackmoor").CombinedOutput()
	if err != nil {
		err = fmt.Errorf("%w: %s", err, out)
	}
	return path, err
})

func TestMain(m *testing.M) {
	code := m.Run()
	if path, err := binary(); err == nil {
		_ = os.RemoveAll(filepath.Dir(path)) // it lies in the system's temporary folder
	}
	os.Exit(code)
}

// told writes a row of the table: what was done, and what came of it.
func told(t *testing.T, what, came string, args ...any) {
	t.Helper()
	line := fmt.Sprintf("| %s | %s |\n", what, fmt.Sprintf(came, args...))
	t.Log(strings.TrimSpace(line))
	if to := os.Getenv("BRACKMOOR_HARD_TABLE"); to != "" {
		file, err := os.OpenFile(to, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
		require.NoError(t, err)
		_, err = file.WriteString(line)
		require.NoError(t, err)
		require.NoError(t, file.Close())
	}
}

// command is the program with its words, not started yet.
func command(t *testing.T, args ...string) *exec.Cmd {
	t.Helper()
	path, err := binary()
	require.NoError(t, err)
	return exec.Command(path, args...)
}

// says runs the program to its end and returns what it said.
func says(t *testing.T, args ...string) (out string, code int) {
	t.Helper()
	c := command(t, args...)
	text, err := c.CombinedOutput()
	if c.ProcessState == nil {
		require.NoError(t, err)
	}
	return string(text), c.ProcessState.ExitCode()
}

// process is a program that serves.
type process struct {
	*exec.Cmd
	address string
}

var at = regexp.MustCompile(`http://127\.0\.0\.1:\d+`)

// serves starts a program that serves; nil when it ended before it did.
func serves(t *testing.T, verb, db string) *process {
	t.Helper()
	c := command(t, verb, "--db", db, "--listen", "127.0.0.1:0")
	out, err := c.StdoutPipe()
	require.NoError(t, err)
	var fault bytes.Buffer
	c.Stderr = &fault
	require.NoError(t, c.Start())
	line := make([]byte, 200)
	n, _ := out.Read(line) // nothing is read where it ended
	address := at.FindString(string(line[:n]))
	if address == "" {
		_ = c.Wait() // it ended, for what fault says
		t.Log(fault.String())
		return nil
	}
	go func() { _, _ = io.Copy(io.Discard, out) }()
	return &process{c, address}
}

// kill ends it as a power cut does.
func (p *process) kill() {
	_ = p.Process.Kill() // it may have ended
	_ = p.Wait()
}

var client = &http.Client{Timeout: 60 * time.Second}

// ask sends a request and returns its status, 0 where there was no answer, and its body.
func ask(method, address, kind, body string) (status int, text []byte) {
	r, err := http.NewRequest(method, address, strings.NewReader(body))
	if err != nil {
		return 0, nil
	}
	r.Header.Set("Content-Type", kind)
	answer, err := client.Do(r)
	if err != nil {
		return 0, nil
	}
	defer func() { _ = answer.Body.Close() }() // what is wanted of it is read
	text, err = io.ReadAll(answer.Body)
	if err != nil {
		return 0, nil
	}
	return answer.StatusCode, text
}

// addMachine adds a machine to the demo's first shop and says whether that was acknowledged.
func addMachine(address, name string) bool {
	status, text := ask("POST", address+"/api/shops/tarn-hollow/machines", "application/json",
		fmt.Sprintf(`{"name": %q}`, name))
	return status == 200 && json.Valid(text)
}

// sound says that a database is in order, and returns its export.
func sound(t *testing.T, db string) string {
	t.Helper()
	out, code := says(t, "check", "--db", db)
	require.Equal(t, 0, code, out)
	out, code = says(t, "export", "--db", db)
	require.Equal(t, 0, code, out)
	return out
}

// made is a database with the demo in it, that nobody serves.
func made(t *testing.T) string {
	t.Helper()
	db := filepath.Join(t.TempDir(), "shop.db")
	p := serves(t, "demo", db)
	require.NotNil(t, p)
	require.NoError(t, p.Process.Signal(os.Interrupt))
	require.NoError(t, p.Wait())
	return db
}

func copied(t *testing.T, from, to string) {
	t.Helper()
	text, err := os.ReadFile(from)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(to, text, 0o600))
}
