package server_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/shop"
	"brackmoor/server"
)

// benched puts a drive of a profile on the Bench for the borer, powers it, and sets its motor's way to it.
func benched(t *testing.T, s *site, profile int, starts bool) (server.BenchPicture, string) {
	t.Helper()
	const motor = "tarn-borer-m1"
	name := drive.Profiles()[profile].Name
	var b server.BenchPicture
	s.ask("POST", "/api/bench/drives", fmt.Sprintf(`{"motor": %q, "profile": %q, "three_phase": false, "seed": 3}`,
		motor, name)).json(&b)
	t.Cleanup(func() { s.ask("DELETE", "/api/bench/drives/"+b.ID, "") })
	assert.Equal(t, "dark", b.Display.Mode)
	wire(s, b.ID, `"run": false`)
	require.Eventually(t, func() bool {
		s.ask("GET", "/api/bench/drives/"+b.ID, "").json(&b)
		return b.Bus > 320
	}, 5*time.Second, 50*time.Millisecond)
	m := s.motor(motor)
	m.Way.Profile, m.Way.Bus, m.Way.BusStarts = name, b.Address, starts
	s.part(m, shop.WayPart, m.Fed)
	return b, motor
}

func wire(s *site, id, more string) (b server.BenchPicture) {
	s.ask("PUT", "/api/bench/drives/"+id+"/inputs", `{"lines": 2, "reverse": false, "preset": 0, "turned": 0.5,
		"enable": true, "earth_bad": false, "load": 0, `+more+`}`).json(&b)
	return b
}

func press(s *site, id, key string, times int) (b server.BenchPicture) {
	s.ask("POST", "/api/bench/drives/"+id+"/keys", fmt.Sprintf(`{"key": %q, "times": %d}`, key, times)).json(&b)
	return b
}

// A drive is commissioned over its bus from what it ships with: compared, confirmed, written, read back, and logged.
func TestADriveIsCommissionedOverItsBus(t *testing.T) {
	s := open(t, nil)
	for profile := range drive.Profiles() {
		b, motor := benched(t, s, profile, false)
		at := "/api/motors/" + motor + "/bus/"
		var list server.BusList
		s.ask("POST", at+"compare", "").json(&list)
		changes := []server.BusChange{}
		for _, r := range list.Rows {
			require.Empty(t, r.Says, r.Setting)
			if !r.Agrees {
				changes = append(changes, server.BusChange{Setting: r.Setting, Is: r.Is, Meant: r.Meant})
			}
		}
		require.NotEmpty(t, changes, "it ships for another country")
		body := func(hand string, stands bool, changes []server.BusChange) string {
			return text(t, map[string]any{
				"id": fmt.Sprint("write-", profile), "hand": hand, "stands": stands, "changes": changes,
			})
		}
		s.ask("POST", at+"write", body(" ", true, changes)).problem(422)
		s.ask("POST", at+"write", body("Ada", false, changes)).problem(422)
		other := append([]server.BusChange{}, changes...)
		other[0].Is = "77"
		s.ask("POST", at+"write", body("Ada", true, other)).problem(409)
		s.ask("POST", at+"write", body("Ada", true, changes)).json(&list)
		assert.Empty(t, list.Broken)
		for _, r := range list.Rows {
			assert.True(t, r.Agrees, "%s %s", r.Setting, r.Says)
			assert.Equal(t, "yes", r.Written, r.Setting)
		}
		var again server.BusList
		s.ask("POST", at+"compare", "").json(&again)
		for _, r := range again.Rows {
			assert.True(t, r.Agrees, r.Setting)
		}
		// The line of the daybook has what it was, what was meant and what was read back, and Settings shows it.
		var book server.Daybook
		s.ask("GET", "/api/shops/"+b.Shop+"/entries?kind=setting", "").json(&book)
		require.NotEmpty(t, book.Lines)
		line := book.Lines[0]
		assert.Equal(t, "Ada", line.Hand)
		assert.Contains(t, line.Says, "Drive settings over the bus. Written: ")
		assert.Len(t, line.Settings, len(changes))
		var v server.SettingsView
		s.ask("GET", "/api/motors/"+motor+"/settings", "").json(&v)
		assert.True(t, v.OnBus)
		for _, c := range changes {
			found := v.Found[c.Setting]
			assert.Equal(t, c.Is, found.Was)
			assert.NotEmpty(t, found.Read)
			assert.False(t, found.Off, "%s: %s", c.Setting, found.Read)
		}
		var now server.BusNow
		s.ask("GET", at+"now", "").json(&now)
		assert.Equal(t, drive.Stopped, now.State)
		assert.Nil(t, now.Fault)
	}
}

// While the motor runs nothing is written, and the line of it says so; settings that a drive refuses are told.
func TestNothingIsWrittenWhileItRuns(t *testing.T) {
	s := open(t, nil)
	b, motor := benched(t, s, 0, false)
	press(s, b.ID, "run", 1)
	press(s, b.ID, "up", 200)
	require.Eventually(t, func() bool {
		s.ask("GET", "/api/bench/drives/"+b.ID, "").json(&b)
		return b.RPM > 100
	}, 5*time.Second, 50*time.Millisecond)
	at := "/api/motors/" + motor + "/bus/"
	var list server.BusList
	s.ask("POST", at+"compare", "").json(&list)
	for _, r := range list.Rows {
		if r.Setting == "motor_amps" {
			s.ask("POST", at+"write", text(t, map[string]any{
				"id": "w", "hand": "Ada", "stands": true,
				"changes": []server.BusChange{{Setting: r.Setting, Is: r.Is, Meant: r.Meant}},
			})).json(&list)
		}
	}
	assert.Equal(t, "no", list.Rows[0].Written)
	assert.Contains(t, list.Broken, "The motor runs")
	var book server.Daybook
	s.ask("GET", "/api/shops/"+b.Shop+"/entries?kind=setting", "").json(&book)
	assert.Contains(t, book.Lines[0].Says, "Not written: Motor amps. The motor runs")
	press(s, b.ID, "stop", 1)
}

// A motor is turned over its bus only where that was switched on, somebody says to be there, and its drive watches its
// bus; it stops within a second and a ramp once nobody holds it.
func TestAMotorIsHeldOverItsBus(t *testing.T) {
	s := open(t, nil)
	b, motor := benched(t, s, 0, false)
	at := "/api/motors/" + motor + "/bus/"
	hold := func(more string) answer { return s.ask("POST", at+"hold", `{`+more+`}`) }
	assert.Contains(t, hold(`"hand": "Ada", "here": true`).problem(409)["detail"], "not to be started over its bus")
	m := s.motor(motor)
	m.Way.BusStarts = true
	s.part(m, shop.WayPart, m.Fed)
	hold(`"hand": "", "here": true`).problem(422)
	hold(`"hand": "Ada", "here": false`).problem(422)
	assert.Contains(t, hold(`"hand": "Ada", "here": true`).problem(409)["detail"], "does not take it from its bus")
	// At its keypad: to the bus, P-11 to a second, R-02 short.
	keyed := func(number string, up int) {
		press(s, b.ID, "monitor", 1)
		p := press(s, b.ID, "menu", 1)
		for k := 0; p.Display.Number != number; k++ {
			require.Less(t, k, 60)
			p = press(s, b.ID, "up", 1)
		}
		press(s, b.ID, "enter", 1)
		if up < 0 {
			press(s, b.ID, "down", -up)
		} else {
			press(s, b.ID, "up", up)
		}
		assert.Empty(t, press(s, b.ID, "enter", 1).Says)
	}
	keyed("A-01", 1)
	keyed("A-02", 2)
	assert.Contains(
		t,
		hold(`"hand": "Ada", "here": true`).problem(409)["detail"],
		"does not stop by itself within a second",
	)
	keyed("P-11", 10)
	keyed("R-01", -40)
	var now server.BusNow
	// Held on, it comes up; where this machine itself halts for a second it is let go, and held anew.
	require.Eventually(t, func() bool {
		if a := hold(`"hand": "Ada", "here": true`); a.Code == 200 {
			a.json(&now)
		} else {
			press(s, b.ID, "reset", 1)
		}
		s.ask("GET", "/api/bench/drives/"+b.ID, "").json(&b)
		return b.RPM > 50 && now.State == drive.Running && now.Held
	}, 30*time.Second, 100*time.Millisecond)
	require.Eventually(t, func() bool {
		s.ask("GET", "/api/bench/drives/"+b.ID, "").json(&b)
		return b.State != drive.Running && b.Amps < 0.2
	}, 8*time.Second, 100*time.Millisecond, "let go of it stops")
	var book server.Daybook
	s.ask("GET", "/api/shops/"+b.Shop+"/entries?kind=note", "").json(&book)
	assert.Contains(t, book.Lines[0].Says, "Turned over its bus at 5 Hz")
	s.ask("POST", at+"stop", "").json(&now)
	assert.False(t, now.Held)
}

// What leads nowhere is told: an address outside, none, a drive that is gone, a profile without registers.
func TestADriveThatIsNotThere(t *testing.T) {
	s := open(t, nil)
	b, motor := benched(t, s, 1, false)
	at := "/api/motors/" + motor + "/bus/compare"
	set := func(change func(way *feed.Choice)) {
		m := s.motor(motor)
		change(&m.Way)
		s.part(m, shop.WayPart, m.Fed)
	}
	for address, says := range map[string]string{
		"8.8.8.8:502": "outside of the shop's own network", "drive.example:502": "is no address and port",
		"":            "is no address",
		"127.0.0.1:0": "A port is wanted",
	} {
		set(func(way *feed.Choice) { way.Bus = address })
		assert.Contains(t, s.ask("POST", at, "").Body.String(), says)
	}
	set(func(way *feed.Choice) { way.Bus, way.Profile = b.Address, "" })
	assert.Contains(t, s.ask("POST", at, "").Body.String(), "Say which drive is at hand")
	set(func(way *feed.Choice) { way.Profile = drive.Profiles()[0].Name })
	var list server.BusList
	s.ask("POST", at, "").json(&list)
	assert.Contains(t, list.Rows[0].Says, "the profile is not its own")
	s.ask("DELETE", "/api/bench/drives/"+b.ID, "")
	assert.Contains(t, s.ask("POST", at, "").problem(409)["detail"], "Nobody answers at")
	s.ask("GET", "/api/bench/drives/"+b.ID, "").problem(404)
	s.ask("POST", "/api/bench/drives", `{"motor": "tarn-borer-m1", "profile": "", "three_phase": true, "seed": 0}`).
		problem(422)
	s.ask("PUT", "/api/bench/drives/x/inputs", `{"lines": 1, "run": false, "reverse": false, "preset": 0, "turned": 0.5,
		"enable": true, "earth_bad": false, "load": 0}`).problem(422)
}
