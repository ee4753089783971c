package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/server"
	"brackmoor/server/passphrase"
	"brackmoor/store"
)

// listen opens the events of a server after the one seen last, and hands over each line of
// data as it comes.
func listen(t *testing.T, address, last, cookie string) <-chan store.Event {
	t.Helper()
	ctx, stop := context.WithTimeout(context.Background(), 20*time.Second)
	t.Cleanup(stop)
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, address+"/api/events", nil)
	require.NoError(t, err)
	r.Header.Set("Last-Event-ID", last)
	r.Header.Set("Cookie", cookie)
	answer, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	t.Cleanup(func() { _ = answer.Body.Close() }) // what is read from it was read
	require.Equal(t, "text/event-stream", answer.Header.Get("Content-Type"))
	events := make(chan store.Event, 100)
	lines := bufio.NewScanner(answer.Body)
	require.True(t, lines.Scan(), "it says that it listens")
	go func() {
		defer close(events)
		for lines.Scan() {
			if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				var e store.Event
				if json.Unmarshal([]byte(data), &e) == nil {
					events <- e
				}
			}
		}
	}()
	return events
}

// Each change is told to every window that listens, with the window that made it; one that
// was away hears what it missed.
func TestEventsReachEveryWindow(t *testing.T) {
	s := open(t, nil)
	live := httptest.NewServer(s.handler)
	t.Cleanup(live.Close)
	one, two := listen(t, live.URL, "", ""), listen(t, live.URL, "", "")
	m := s.motor("tarn-shaper-m1")
	s.ask("PUT", "/api/motors/"+m.ID+"/built", ticked(t, m),
		"X-Window", "phone").
		json(&server.MotorView{})
	heard := <-one
	assert.Equal(t, heard, <-two)
	assert.Equal(t, "phone", heard.Actor)
	assert.Equal(t, store.Kind("motor."+string(shop.BuiltPart)), heard.Kind)
	assert.Equal(t, m.ID, heard.Motor)
	// A name that is too long is no name.
	m = s.motor(m.ID)
	s.ask("PUT", "/api/motors/"+m.ID+"/built", ticked(t, m),
		"X-Window", strings.Repeat("x", 100)).
		json(&server.MotorView{})
	assert.Empty(t, (<-one).Actor)
	later := <-listen(t, live.URL, text(t, heard.ID), "")
	assert.Equal(t, heard.ID+1, later.ID)
}

// Behind a passphrase events are for who gave it, and reach them as they come.
func TestEventsBehindAPassphrase(t *testing.T) {
	s := open(t, func(o *server.Options) {
		st := o.Store
		o.Passphrase = func(ctx context.Context) (string, error) { return st.Setting(ctx, "passphrase") }
	})
	ctx := context.Background()
	require.NoError(t, s.store.SetSetting(ctx, "passphrase", passphrase.Hash("correct horse battery", cheap)))
	s.ask("GET", "/api/events", "").problem(http.StatusUnauthorized)
	in := s.ask("POST", "/api/login", `{"passphrase": "correct horse battery"}`)
	s.cookie = strings.Split(in.Header().Get("Set-Cookie"), ";")[0]
	live := httptest.NewServer(s.handler)
	t.Cleanup(live.Close)
	heard := listen(t, live.URL, "", s.cookie)
	m := s.motor("tarn-shaper-m1")
	s.ask("PUT", "/api/motors/"+m.ID+"/built", ticked(t, m)).
		json(&server.MotorView{})
	assert.Equal(t, m.ID, (<-heard).Motor)
	require.NoError(t, s.store.SetSetting(ctx, "passphrase", passphrase.Hash("another horse battery", cheap)))
	_, err := s.store.AddMachine(ctx, "tarn-hollow", "Lathe")
	require.NoError(t, err)
	_, more := <-heard
	assert.False(t, more, "the stream ends with the passphrase that it was opened under")
}

// A database that is taken away while it is served is noticed: every window is told within a
// second, nothing is answered of it, and all is well once it is back.
func TestADatabaseThatIsTakenAway(t *testing.T) {
	s := open(t, nil)
	live := httptest.NewServer(s.handler)
	t.Cleanup(live.Close)
	answer, err := http.Get(live.URL + "/api/events")
	require.NoError(t, err)
	t.Cleanup(func() { _ = answer.Body.Close() }) // what is read from it was read
	lines := bufio.NewScanner(answer.Body)
	next := func() (data string) {
		for lines.Scan() {
			if said, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				return said
			}
		}
		return ""
	}
	require.NoError(t, os.Rename(s.path, s.path+".away"))
	assert.Contains(t, next(), "taken away")
	s.ask("GET", "/api/shops", "").problem(http.StatusServiceUnavailable)
	s.ask("POST", "/api/shops/tarn-hollow/machines", `{"name": "Saw"}`).problem(http.StatusServiceUnavailable)
	require.NoError(t, os.Rename(s.path+".away", s.path))
	assert.Equal(t, `""`, next())
	assert.Equal(t, 200, s.ask("POST", "/api/shops/tarn-hollow/machines", `{"name": "Saw"}`).Code)
}

// ticked is a change of a motor's ticks of building, made from the version that it has.
func ticked(t *testing.T, m server.MotorView) string {
	return text(t, map[string]any{"version": m.Versions.Built, "value": []string{}})
}
