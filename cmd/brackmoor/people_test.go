package main

import (
	"context"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/store"
)

// People are taken in, changed and let go of at the machine itself; what is wrong is told and changes nothing.
func TestPeopleAreKept(t *testing.T) {
	db := filepath.Join(t.TempDir(), "shop.db")
	st, err := store.Open(context.Background(), db, time.Now)
	require.NoError(t, err)
	require.NoError(t, st.Close())
	people := func(in string, args ...string) outcome {
		return brackmoor(in, append(append([]string{"people"}, args...), "--db", db)...)
	}
	assert.Contains(t, people("", "list").out, "Nobody")
	require.Equal(t, 0, people("ada's long passphrase\n", "add", "Ada", "--role", "plans").code)
	for _, wrong := range []struct {
		in, says string
		args     []string
	}{
		{"ada's long passphrase\n", "has this name already", []string{"add", "ada"}},
		{"short\n", "at least 12 characters", []string{"add", "Ben"}},
		{"", "No passphrase", []string{"add", "Ben"}},
		{"ben's long passphrase\n", "no such role", []string{"add", "Ben", "--role", "owner"}},
		{"", "nobody has this name", []string{"role", "Ben", "plans"}},
		{"", "no such role", []string{"role", "Ada", "owner"}},
		{"", "nobody has this name", []string{"end", "Ben"}},
		{"", "one name", []string{"end"}},
	} {
		o := people(wrong.in, wrong.args...)
		assert.Equal(t, 2, o.code, wrong.args)
		assert.Contains(t, o.err, wrong.says, wrong.args)
	}
	assert.Equal(t, 2, people("", "sign-ins", "--end", "none").code)
	require.Equal(t, 0, people("", "role", "Ada", "reads").code)
	require.Equal(t, 0, people("another long passphrase\n", "passphrase", "Ada").code)
	listed := people("", "list")
	assert.Equal(t, []string{"Ada", "reads"}, strings.Fields(listed.out)[:2])
	assert.Contains(t, people("", "sign-ins").out, "Nobody is signed in")
	require.Equal(t, 0, people("", "end", "Ada").code)
	assert.Contains(t, people("", "list").out, "Nobody")
}
