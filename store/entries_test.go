package store_test

import (
	"database/sql"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	book "brackmoor/core/daybook"
	"brackmoor/store"
)

// withMachine is a store with a shop and a machine in it.
func withMachine(t testing.TB) (s *store.Store, shopID, machineID string) {
	t.Helper()
	s, _ = open(t)
	sh, err := s.AddShop(ctx, "Shop", house)
	require.NoError(t, err)
	m, err := s.AddMachine(ctx, sh.ID, "Lathe")
	require.NoError(t, err)
	return s, sh.ID, m.ID
}

// line is an entry of a kind about a machine.
func line(id, kind, machine, says string) book.Entry {
	return book.Entry{ID: id, At: "2026-03-01T08:00:00Z", Hand: "A.", Kind: kind, Machine: machine, Says: says}
}

// What is written down stays as it is; what is sent twice is there once; what ends or corrects another says so.
func TestEntries(t *testing.T) {
	s, shopID, machineID := withMachine(t)
	fault := line("f", "fault", machineID, "It hums and does not start")
	for range 2 {
		require.NoError(t, s.AddEntry(ctx, shopID, fault))
	}
	assert.ErrorIs(t, s.AddEntry(ctx, shopID, line("f", "fault", machineID, "Another")), store.ErrOther)
	for _, bad := range []book.Entry{line("x", "note", "nobody", "x"), {ID: "y", Ends: "nothing"}} {
		assert.ErrorIs(t, s.AddEntry(ctx, shopID, bad), store.ErrNotFound)
	}
	assert.ErrorIs(t, s.AddEntry(ctx, "nowhere", fault), store.ErrNotFound)
	open := func() (ids []string) {
		list, err := s.Entries(ctx, shopID, book.Sought{Open: true}, 10)
		require.NoError(t, err)
		for _, l := range list {
			ids = append(ids, l.ID)
		}
		return ids
	}
	assert.Equal(t, []string{"f"}, open())
	late := line("late", "open", machineID, "Oil it")
	late.Due = "2020-01-01"
	require.NoError(t, s.AddEntry(ctx, shopID, late))
	list, err := s.Entries(ctx, shopID, book.Sought{}, 10)
	require.NoError(t, err)
	assert.True(t, list[0].Open && list[0].Late && list[1].Open && !list[1].Late)
	oiled := line("oiled", "done", machineID, "Oiled")
	oiled.Ends = "late"
	require.NoError(t, s.AddEntry(ctx, shopID, oiled))
	cure := line("c", "cure", machineID, "A wire was loose")
	cure.Ends = "f"
	require.NoError(t, s.AddEntry(ctx, shopID, cure))
	assert.Empty(t, open())
	mend := line("m", "cure", machineID, "A lug was loose")
	mend.Corrects = "c"
	require.NoError(t, s.AddEntry(ctx, shopID, mend))
	list, err = s.Entries(ctx, shopID, book.Sought{}, 10)
	require.NoError(t, err)
	require.Len(t, list, 5)
	assert.Equal(t, "c", list[4].EndedBy)
	assert.Equal(t, "m", list[1].Corrected)
	assert.False(t, list[4].Open || list[3].Open)
	for _, q := range []string{"UPDATE entries SET says = 'x'", "DELETE FROM entries"} {
		_, err := s.DB.ExecContext(ctx, q)
		assert.ErrorContains(t, err, "stays")
	}
	for _, hostile := range []string{`"; DROP TABLE entries; -- hums`, "\x00", "NEAR(", "\xff hums*", "(", `"`} {
		_, err := s.Entries(ctx, shopID, book.Sought{Words: hostile}, 10)
		assert.NoError(t, err, "%q", hostile)
	}
}

// What is sought is what a plain look through all of it finds.
func TestEntriesAgainstALookThroughAll(t *testing.T) {
	s, shopID, machineID := withMachine(t)
	words := []string{"belt", "bearing", "hums", "warm", "L1–made", "10 µF", "noise"}
	kinds := []string{"note", "fault", "open"}
	var all []book.Entry
	for i := range 120 {
		e := line(fmt.Sprint("e", i), kinds[i%3], []string{machineID, ""}[i%2], words[i%7]+" and "+words[i*3%5])
		e.At = fmt.Sprintf("2026-%02d-%02dT08:00:00Z", 1+i/28, 1+i%28)
		require.NoError(t, s.AddEntry(ctx, shopID, e))
		all = append(all, e)
	}
	day := rapid.Custom(func(t *rapid.T) string {
		return fmt.Sprintf(
			"2026-%02d-%02d",
			rapid.IntRange(1, 5).Draw(t, "month"),
			rapid.IntRange(1, 28).Draw(t, "day"),
		)
	})
	rapid.Check(t, func(r *rapid.T) {
		q := book.Sought{
			Machine: rapid.SampledFrom([]string{"", machineID}).Draw(r, "machine"),
			Kind:    rapid.SampledFrom(append([]string{""}, kinds...)).Draw(r, "kind"),
			Words:   rapid.SampledFrom([]string{"", "belt", "bear", "hums warm", "noise"}).Draw(r, "words"),
			From: rapid.OneOf(rapid.Just(""), day).
				Draw(r, "from"),
			Until: rapid.OneOf(rapid.Just(""), day).Draw(r, "until"),
		}
		var want []string
		for _, e := range slices.Backward(all) {
			if (q.Machine == "" || e.Machine == q.Machine) && (q.Kind == "" || e.Kind == q.Kind) &&
				has(e.Says, q.Words) &&
				(q.From == "" || e.At >= q.From) &&
				(q.Until == "" || e.At[:10] <= q.Until) {
				want = append(want, e.ID)
			}
		}
		got, err := s.Entries(ctx, shopID, q, 200)
		if err != nil {
			r.Fatal(err)
		}
		var ids []string
		for _, l := range got {
			ids = append(ids, l.ID)
		}
		if !slices.Equal(want, ids) {
			r.Fatalf("%+v: %v, and there are %v", q, ids, want)
		}
	})
}

// has says whether a line has words, the last of them perhaps not to its end.
func has(says, sought string) bool {
	words := map[string][]string{"": nil, "belt": {"belt"}, "bear": {"bearing"}, "hums warm": {"hums", "warm"},
		"noise": {"noise"}}[sought]
	for _, w := range words {
		if !slices.Contains(fields(says), w) {
			return false
		}
	}
	return true
}

func fields(says string) (list []string) {
	word := ""
	for _, c := range says + " " {
		if c == ' ' {
			list, word = append(list, word), ""
			continue
		}
		word += string(c)
	}
	return list
}

// A daybook of many lines, sought by everything.
func BenchmarkDaybook(b *testing.B) {
	s, shopID, machineID := withMachine(b)
	const lines = 1_000_000
	fill(b, s, shopID, machineID, lines)
	searches := map[string]book.Sought{
		"all": {}, "machine": {Machine: machineID}, "kind": {Kind: "fault"}, "word": {Words: "bearing"},
		"rare word": {Words: "quincunx"}, "open": {Open: true},
		"machine, kind and word": {Machine: machineID, Kind: "fault", Words: "warm"},
		"time":                   {From: "2026-02-01", Until: "2026-02-03"},
	}
	for name, q := range searches {
		b.Run(name, func(b *testing.B) {
			var took []time.Duration
			for b.Loop() {
				start := time.Now()
				if _, err := s.Entries(ctx, shopID, q, 51); err != nil {
					b.Fatal(err)
				}
				took = append(took, time.Since(start))
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
		})
	}
}

// fill writes many lines straight into the table, as years of a shop would.
func fill(b *testing.B, s *store.Store, shopID, machineID string, lines int) {
	words := strings.Fields(`belt bearing hums warm noise cable lug coolant filter contactor spindle guard brake clutch
		oil grease start stop trip fuse lamp switch relay timer can leak drip chirp rattle slips hot cold smell smoke
		loose tight worn new changed cleaned measured ohms volts amps leg idler converter drive ramp setting plug`)
	tx, err := s.DB.BeginTx(ctx, &sql.TxOptions{})
	require.NoError(b, err)
	for i := range lines {
		at := time.Date(2020, 1, 1, 0, 0, 0, 0, time.UTC).Add(time.Duration(i) * 10 * time.Minute).Format(time.RFC3339)
		says := words[i%len(words)] + " " + words[i/7%len(words)] + " " + words[i/53%len(words)]
		if i%50_000 == 7 {
			says += " quincunx"
		}
		_, err := tx.Exec("INSERT INTO entries (id, shop_id, machine_id, motor_id, kind, at, hand, says) "+
			"VALUES (?, ?, ?, '', ?, ?, 'A.', ?)", fmt.Sprint("b", i), shopID, []string{machineID, "", ""}[i%3],
			[]string{"note", "fault", "reading", "done"}[i%4], at, says)
		require.NoError(b, err)
	}
	require.NoError(b, tx.Commit())
}
