package hard_test

import (
	"compress/gzip"
	"fmt"
	"image"
	"image/png"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// another is a shop that is added to a file of them.
const another = `{"id": %q, "name": %q, "machines": [],
	"supply": {"kind": "split-phase", "volts": 240, "hertz": 60, "main_amps": 100, "class": "usual"}},`

// soon is a time at which something is killed.
func soon(most time.Duration) time.Duration { return time.Duration(rand.Int64N(int64(most))) }

// Nothing that was acknowledged is lost when the server is killed under writes of every kind, and
// the database is sound.
func TestKillsUnderWrites(t *testing.T) {
	db := made(t)
	shops, code := says(t, "export", "--db", db)
	require.Equal(t, 0, code)
	var picture strings.Builder
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 64, 64))))
	var mu sync.Mutex
	acknowledged := map[string]bool{}
	asked := 0
	kills := times(5, 400)
	for n := range kills {
		p := serves(t, "serve", db)
		require.NotNil(t, p)
		var wait sync.WaitGroup
		for worker := range 4 {
			wait.Go(func() {
				for k := 0; ; k++ {
					name := fmt.Sprintf("k%d-%d-%d", n, worker, k)
					var done bool
					switch {
					case worker == 0 && k%3 == 1:
						text := strings.Replace(shops, `"shops": [`, fmt.Sprintf(`"shops": [`+another, name, name), 1)
						status, _ := ask("POST", p.address+"/api/import", "application/json", text)
						done = status == 200
					case worker == 1 && k%3 == 1:
						status, _ := ask("POST", p.address+"/api/motors/tarn-shaper-m1/photos?name="+name, "image/png",
							picture.String())
						done = status == 200
						if done {
							_, list := ask("GET", p.address+"/api/motors/tarn-shaper-m1/photos", "", "")
							done = strings.Contains(string(list), name)
						}
						name = "" // there is room for a few only, and the export has none
					default:
						done = addMachine(p.address, name)
					}
					mu.Lock()
					asked++
					if done && name != "" {
						acknowledged[name] = true
					}
					mu.Unlock()
					if !done && p.ended() {
						return
					}
				}
			})
		}
		time.Sleep(20*time.Millisecond + soon(200*time.Millisecond))
		p.kill()
		wait.Wait()
		if n%times(1, 25) == 0 || n == kills-1 {
			there := sound(t, db)
			for name := range acknowledged {
				require.Contains(t, there, `"`+name+`"`, "acknowledged, and lost after kill %d", n)
			}
		}
		if len(acknowledged) > 300 { // there is room for so many machines in a shop
			db, acknowledged = made(t), map[string]bool{}
		}
	}
	told(
		t,
		"kills under API writes, imports and photos",
		"%d kills, %d writes asked, none acknowledged and lost, every "+
			"database sound",
		kills,
		asked,
	)
}

// ended says that nothing is heard of it any more.
func (p *process) ended() bool {
	status, _ := ask("GET", p.address+"/api/shops", "", "")
	return status == 0
}

// Commands that are killed leave what was there, or the whole of what they were to make.
func TestKillsOfCommands(t *testing.T) {
	db := made(t)
	before := sound(t, db)
	folder := t.TempDir()
	backup, other, file := filepath.Join(folder, "b.db"), filepath.Join(folder, "o.db"), filepath.Join(folder, "s.json")
	more := strings.ReplaceAll(before, `"tarn-`, `"more-`)
	more = strings.ReplaceAll(more, `"ferry-`, `"moor-`)
	require.NoError(t, os.WriteFile(file, []byte(more), 0o600))
	_, code := says(t, "backup", "--db", db, backup)
	require.Equal(t, 0, code)
	kill := func(args ...string) {
		c := command(t, args...)
		require.NoError(t, c.Start())
		time.Sleep(soon(160 * time.Millisecond))
		_ = c.Process.Kill() // it may have ended
		_ = c.Wait()
	}
	rounds := times(4, 110)
	whole := map[string]int{}
	for range rounds {
		out := filepath.Join(folder, "out.db")
		kill("backup", "--db", db, out)
		if _, err := os.Stat(out); err == nil {
			assert.Equal(t, before, sound(t, out), "under its final name a backup is whole")
			require.NoError(t, os.Remove(out))
			whole["backup"]++
		}
		json := filepath.Join(folder, "out.json")
		kill("export", "--db", db, json)
		if text, err := os.ReadFile(json); err == nil {
			assert.Equal(t, before, string(text))
			require.NoError(t, os.Remove(json))
			whole["export"]++
		}
		copied(t, backup, other)
		kill("import", "--db", other, file)
		after := sound(t, other)
		if after != before {
			assert.Equal(t, 2*strings.Count(before, `"plate"`), strings.Count(after, `"plate"`), "all of it or nothing")
			whole["import"]++
		}
		kill("restore", "--db", other, backup)
		there := sound(t, other)
		assert.True(t, there == before || there == after, "the old one or the new one")
		fresh := filepath.Join(folder, "fresh.db")
		kill("demo", "--db", fresh, "--listen", "127.0.0.1:0")
		if _, err := os.Stat(fresh); err == nil {
			p := serves(t, "serve", fresh)
			require.NotNil(t, p, "it opens again")
			p.kill()
			shops := strings.Count(sound(t, fresh), `"supply"`)
			assert.True(t, shops == 0 || shops == 2, "%d shops of the demo", shops)
			whole["demo"] += shops / 2
		}
		for _, of := range []string{"", "-wal", "-shm"} {
			_ = os.Remove(fresh + of) // there or not
		}
	}
	told(t, "kills of backup, export, import, restore and demo", "%d of each: nothing half made; whole in the end %v",
		rounds, whole)
}

// A database whose upgrade is killed comes up to date the next time, whole.
func TestKillsOfUpgrades(t *testing.T) {
	rounds := times(3, 100)
	for n := range rounds {
		db := filepath.Join(t.TempDir(), "old.db")
		packed, err := os.Open(fmt.Sprintf("../store/testdata/schema-%d.db.gz", 1+n%4))
		require.NoError(t, err)
		z, err := gzip.NewReader(packed)
		require.NoError(t, err)
		text, err := io.ReadAll(z)
		require.NoError(t, err)
		require.NoError(t, packed.Close())
		require.NoError(t, os.WriteFile(db, text, 0o600))
		c := command(t, "serve", "--db", db, "--listen", "127.0.0.1:0")
		require.NoError(t, c.Start())
		time.Sleep(soon(80 * time.Millisecond))
		_ = c.Process.Kill() // it may have ended
		_ = c.Wait()
		p := serves(t, "serve", db)
		require.NotNil(t, p, "it opens again")
		p.kill()
		assert.Equal(t, 11, strings.Count(sound(t, db), `"plate"`))
	}
	told(t, "kills of upgrades from schema 1 to 4", "%d kills: up to date and whole the next time", rounds)
}
