package hard_test

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// window is how much of what was acknowledged may be lost with the machine: as docs/replica.md states it.
const window = 2 * time.Second

// A machine that is lost is brought back from its replica: all is there that was acknowledged before the window.
func TestReplica(t *testing.T) {
	if !full {
		t.Skip("the engine takes minutes to build: make hard does")
	}
	engine := filepath.Join(t.TempDir(), "litestream")
	out, err := exec.Command("go", "build", "-C", "replica", "-o", engine,
		"github.com/benbjohnson/litestream/cmd/litestream").CombinedOutput()
	require.NoError(t, err, string(out))
	const rounds = 6
	acknowledged, lost, longest := 0, 0, time.Duration(0)
	for n := range rounds {
		here, away := t.TempDir(), t.TempDir()
		db, replica := filepath.Join(here, "shop.db"), filepath.Join(away, "replica")
		config := filepath.Join(here, "litestream.yml")
		require.NoError(t, os.WriteFile(config, fmt.Appendf(
			nil,
			"dbs:\n  - path: %s\n    replica:\n      type: file\n      path: %s\n      sync-interval: 1s\n",
			db,
			replica,
		), 0o600))
		shop := serves(t, "demo", db)
		require.NotNil(t, shop)
		companion := exec.Command(engine, "replicate", "-config", config)
		require.NoError(t, companion.Start())
		written := map[string]time.Time{}
		for end := time.Now().Add(time.Duration(4+rand.IntN(8)) * time.Second); time.Now().Before(end); {
			name := fmt.Sprintf("replica-%d-%d", n, len(written))
			if addMachine(shop.address, name) {
				written[name] = time.Now()
			}
			time.Sleep(time.Duration(rand.IntN(60)) * time.Millisecond)
		}
		died := time.Now()
		shop.kill()
		_ = companion.Process.Kill() // the machine is gone with all that ran on it
		_ = companion.Wait()
		require.NoError(t, os.RemoveAll(db))
		restored := filepath.Join(away, "restored.db")
		out, err := exec.Command(engine, "restore", "-o", restored, "file://"+replica).CombinedOutput()
		require.NoError(t, err, string(out))
		there := sound(t, restored)
		again := serves(t, "serve", restored)
		require.NotNil(t, again)
		again.kill()
		for name, at := range written {
			acknowledged++
			if !strings.Contains(there, `"`+name+`"`) {
				lost++
				longest = max(longest, died.Sub(at))
				assert.Less(t, died.Sub(at), window, "%s was acknowledged before the window, and is lost", name)
			}
		}
	}
	told(
		t,
		"a machine lost, brought back from its replica",
		"%d times: %d writes acknowledged, %d of the last moments "+
			"lost, the oldest %d ms old; the window is %v",
		rounds,
		acknowledged,
		lost,
		longest.Milliseconds(),
		window,
	)
}
