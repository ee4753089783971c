package sheet_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	"brackmoor/core/rule"
)

// Every rule of the catalogue has a case: one of the demo's machines on one of the ways
// hears it or shows it in a working, or a test of the core asks for it by its id.
func TestEveryRuleHasACase(t *testing.T) {
	heard := map[string]bool{}
	hear := func(list []rule.Verdict) {
		for _, v := range list {
			heard[v.Rule] = true
		}
	}
	for _, machine := range []string{"tarn-shaper", "tarn-extractor", "tarn-borer"} {
		s, q := made(t, "tarn-hollow.json", machine)
		hear(s.Verdicts)
		hear(s.Cautions)
		for _, w := range feed.All() {
			page, err := w.Size(q)
			require.NoError(t, err)
			hear(page.Verdicts)
			hear(feed.CautionsOf(w, q))
			if watched, ok := w.(feed.Watched); ok {
				after, err := watched.SwitchOff(q)
				require.NoError(t, err)
				hear(after.Verdicts)
			}
			for _, working := range page.Workings {
				for _, id := range working.Rules {
					heard[id] = true
				}
			}
		}
	}
	var asked strings.Builder
	require.NoError(t, filepath.WalkDir("../core", func(path string, d fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(path, "_test.go") {
			return err
		}
		text, err := os.ReadFile(path)
		asked.Write(text)
		return err
	}))
	for _, r := range rule.Catalogue {
		assert.True(t, heard[r.ID] || strings.Contains(asked.String(), `"`+r.ID+`"`), "no case for %s", r.ID)
	}
}
