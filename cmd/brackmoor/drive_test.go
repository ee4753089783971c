package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/web"
)

// running starts a simulated drive and gives its address, and that of its page, "" where none is served.
func running(t *testing.T, args ...string) (address, page string) {
	t.Helper()
	ctx, stop := context.WithCancel(context.Background())
	out, in := io.Pipe()
	done := make(chan int, 1)
	var errs bytes.Buffer
	args = append([]string{"drive-sim", "--listen", "127.0.0.1:0"}, args...)
	go func() {
		code := run(ctx, &console{strings.NewReader(""), in, &errs}, args)
		_ = in.Close()
		done <- code
	}()
	t.Cleanup(func() {
		stop()
		assert.Equal(t, 0, <-done, errs.String())
	})
	lines := bufio.NewReader(out)
	after := func(words string) string {
		line, err := lines.ReadString('\n')
		require.NoError(t, err, errs.String())
		_, rest, found := strings.Cut(line, words)
		require.True(t, found, line)
		return strings.Fields(rest)[0]
	}
	address = after("answers at ")
	if _, built := web.App(); built && !slices.Contains(args, "--page=") {
		page = after("Its keypad is at ")
	}
	return address, page
}

// A simulated drive has a page of its own: its keypad moves what its bus tells, and nobody else's page may press it.
func TestTheKeypadOnItsPage(t *testing.T) {
	at, page := running(t, "--profile", "fell-20")
	if page == "" {
		t.Skip("the web application is not built")
	}
	answer, err := http.Get(page)
	require.NoError(t, err)
	defer answer.Body.Close()
	assert.Equal(t, page+"/keypad/alone", answer.Request.URL.String())
	assert.Contains(t, answer.Header.Get("Content-Type"), "text/html")
	press := func(key, site string) int {
		body := strings.NewReader(`{"key": "` + key + `", "times": 1}`)
		request, err := http.NewRequest(http.MethodPost, page+"/api/bench/drives/alone/keys", body)
		require.NoError(t, err)
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Sec-Fetch-Site", site)
		answer, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		return answer.StatusCode
	}
	assert.Equal(t, http.StatusForbidden, press("run", "cross-site"))
	turns := func() bool {
		watched := brackmoor("", "drive", "watch", "--at", at, "--profile", "fell-20", "--times", "1")
		require.Equal(t, 0, watched.code, watched.err)
		return strings.Contains(watched.out, `"state":"running"`)
	}
	assert.False(t, turns())
	assert.Equal(t, http.StatusOK, press("run", "same-origin"))
	require.Eventually(t, turns, 20*time.Second, 100*time.Millisecond)
	for _, gone := range []string{"/api/shops", "/api/bench/drives/other", "/api/motors/m/bus"} {
		answer, err := http.Get(page + gone)
		require.NoError(t, err)
		_ = answer.Body.Close()
		assert.Equal(t, http.StatusNotFound, answer.StatusCode, gone)
	}
	other := brackmoor("", "drive-sim", "--listen", "127.0.0.1:0", "--page", "0.0.0.0:0")
	assert.Equal(t, 2, other.code)
	assert.Contains(t, other.err, "this machine alone")
}

// A drive is commissioned on the command line: read, compared, written, read back; and what was read serves as what is
// meant.
func TestDriveOnItsBus(t *testing.T) {
	profile := filepath.Join(t.TempDir(), "profile.json")
	printed := brackmoor("", "drive-sim", "--profile-out", "marram-3")
	require.Equal(t, 0, printed.code, printed.err)
	require.NoError(t, os.WriteFile(profile, []byte(printed.out), 0o600))
	at, _ := running(t, "--profile", profile, "--seed", "3", "--three-phase")
	over := func(what, meant string, more ...string) outcome {
		args := append([]string{"drive", what, "--at", at, "--profile", profile}, more...)
		return brackmoor(meant, args...)
	}
	read := over("read", "")
	require.Equal(t, 0, read.code, read.err)
	assert.Contains(t, read.out, `"brackmoor.drive-settings/1"`)
	same := over("compare", read.out, "--meant", "-")
	assert.Equal(t, 0, same.code, same.err)
	meant := `{"format": "brackmoor.drive-settings/1", "settings": [{"setting": "motor_amps", "value": 6.2},
		{"setting": "restart", "value": "off"}, {"setting": "poles", "value": 4},
		{"setting": "motor_volts", "value": null}]}`
	off := over("compare", meant, "--meant", "-")
	assert.Equal(t, 1, off.code)
	assert.Contains(t, off.err, "brackmoor drive compare: 2 of 2 settings are other than is meant")
	wrote := over("write", meant, "--meant", "-")
	require.Equal(t, 0, wrote.code, wrote.err)
	var list struct {
		Format   string
		Settings []struct {
			Setting         string
			Is, Meant       any
			Agrees, Written bool
		}
	}
	require.NoError(t, json.Unmarshal([]byte(wrote.out), &list))
	assert.Equal(t, "brackmoor.drive-compare/1", list.Format)
	require.Len(t, list.Settings, 2, "it has no setting for poles")
	for _, s := range list.Settings {
		assert.True(t, s.Agrees && s.Written, s.Setting)
		assert.Equal(t, s.Meant, s.Is)
	}
	watched := over("watch", "", "--times", "2", "--every", time.Millisecond.String())
	require.Equal(t, 0, watched.code, watched.err)
	assert.Equal(t, 2, strings.Count(watched.out, `"state":"stopped"`))
}

// What cannot be done is said, by the flag or the place in the file.
func TestDriveOnItsBusRefuses(t *testing.T) {
	settings := `{"format": "brackmoor.drive-settings/1", "settings": [`
	for says, c := range map[string]struct {
		in   string
		args []string
		code int
	}{
		"--profile: a profile is wanted; there are fell-20, marram-3": {
			"", strings.Fields("drive read --at 127.0.0.1:1"), 2,
		},
		"no address such as": {"", strings.Fields("drive read --at x --profile fell-20"), 2},
		"Nobody answers at":  {"", strings.Fields("drive read --at 127.0.0.1:1 --profile fell-20"), 1},
		"--meant: a file":    {"", strings.Fields("drive compare --at 127.0.0.1:1 --profile fell-20"), 2},
		"there is no setting \"colour\"": {
			settings + `{"setting": "colour", "value": 1}]}`,
			strings.Fields("drive compare --at 127.0.0.1:1 --profile fell-20 --meant -"), 2,
		},
		"motor_amps stands twice": {
			settings + `{"setting": "motor_amps", "value": 1}, {"setting": "motor_amps", "value": 2}]}`,
			strings.Fields("drive write --at 127.0.0.1:1 --profile fell-20 --meant -"), 2,
		},
		"lacks name": {
			`{"format": "brackmoor.drive-profile/1", "parameters": {}}`,
			strings.Fields("drive read --at 127.0.0.1:1 --profile -"), 2,
		},
		"there is no profile \"fell\"; did you mean fell-20?": {"", strings.Fields("drive-sim --profile-out fell"), 2},
		"has no registers": {
			`{"format": "brackmoor.drive-profile/1", "name": "x", "parameters": {}}`,
			strings.Fields("drive-sim --profile -"), 2,
		},
		"--lines: 0, 2 or 3":  {"", strings.Fields("drive-sim --lines 1"), 2},
		"--supply":            {"", strings.Fields("drive-sim --supply 120/60"), 2},
		"--load lies between": {"", strings.Fields("drive-sim --load 9"), 2},
	} {
		o := brackmoor(c.in, c.args...)
		assert.Equal(t, c.code, o.code, says)
		assert.Contains(t, o.err, says)
	}
}
