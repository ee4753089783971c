package store_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"math"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/supply"
	"brackmoor/demo"
	"brackmoor/store"
)

var (
	ctx   = context.Background()
	noon  = time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)
	house = supply.Supply{
		Kind:          "split-phase",
		Volts:         240,
		Hertz:         60,
		MainAmps:      100,
		Class:         "usual",
		ResistanceOhm: 0.15,
		ReactanceOhm:  0.08,
	}
)

func open(t testing.TB) (*store.Store, string) {
	t.Helper()
	path := filepath.Join(t.TempDir(), "a folder", "shop #1.db")
	s, err := store.Open(ctx, path, func() time.Time { return noon })
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s, path
}

func demoFile(t *testing.T) shop.File {
	t.Helper()
	text, err := demo.Files.ReadFile("tarn-hollow.json")
	require.NoError(t, err)
	file, problems := shop.ReadFile(text)
	require.Empty(t, problems)
	return file
}

func daybook(t *testing.T, s *store.Store) (lines []string) {
	t.Helper()
	rows, err := s.DB.Query("SELECT what FROM daybook ORDER BY id")
	require.NoError(t, err)
	defer func() { require.NoError(t, rows.Close()) }()
	for rows.Next() {
		var what string
		require.NoError(t, rows.Scan(&what))
		lines = append(lines, what)
	}
	return lines
}

func TestPragmas(t *testing.T) {
	s, _ := open(t)
	for pragma, want := range map[string]string{"journal_mode": "wal", "foreign_keys": "1", "synchronous": "2",
		"busy_timeout": "5000"} {
		var got string
		require.NoError(t, s.DB.QueryRow("PRAGMA "+pragma).Scan(&got))
		assert.Equal(t, want, got, pragma)
	}
}

// A database that another program holds is told from one that is broken.
func TestBusyIsNoFault(t *testing.T) {
	s, path := open(t)
	tx, err := s.DB.Begin() // it takes the lock at once
	require.NoError(t, err)
	other, err := sql.Open("sqlite", "file:"+(&url.URL{Path: path}).EscapedPath()+"?_pragma=busy_timeout(0)")
	require.NoError(t, err)
	_, err = other.Exec("UPDATE shops SET name = ''")
	assert.True(t, store.Busy(err), "%v", err)
	require.NoError(t, tx.Rollback())
	_, err = other.Exec("UPDATE shops SET name = ''")
	require.NoError(t, err)
	_, err = other.Exec("UPDATE nothing SET name = ''")
	assert.False(t, store.Busy(err), "%v", err)
	require.NoError(t, other.Close())
}

func TestAShopsLife(t *testing.T) {
	s, _ := open(t)
	sh, err := s.AddShop(ctx, "Kiln Lane", house)
	require.NoError(t, err)
	changed, err := s.ChangeShop(ctx, sh.ID, sh.Version, "Kiln Row", house)
	require.NoError(t, err)
	assert.Equal(t, 2, changed.Version)
	m, err := s.AddMachine(ctx, sh.ID, "Bandsaw")
	require.NoError(t, err)
	copied, err := s.DuplicateShop(ctx, sh.ID, "Kiln Row copy")
	require.NoError(t, err)
	whole, err := s.Shop(ctx, copied.ID)
	require.NoError(t, err)
	require.Len(t, whole.Machines, 1)
	assert.NotEqual(t, m.ID, whole.Machines[0].ID)
	require.NoError(t, s.DeleteShop(ctx, sh.ID))
	_, err = s.Shop(ctx, sh.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Machine(ctx, m.ID)
	require.ErrorIs(t, err, store.ErrNotFound, "with its shop its machines are out of sight")
	require.ErrorIs(t, s.DeleteShop(ctx, sh.ID), store.ErrNotFound)
	require.NoError(t, s.RestoreShop(ctx, sh.ID))
	require.ErrorIs(t, s.RestoreShop(ctx, sh.ID), store.ErrNotFound)
	_, err = s.Machine(ctx, m.ID)
	require.NoError(t, err)
	list, err := s.Shops(ctx)
	require.NoError(t, err)
	assert.Len(t, list, 2)
	assert.Equal(
		t,
		[]string{"shop added", "shop changed", "machine added", "shop copied", "shop deleted", "shop restored"},
		daybook(t, s),
	)
}

func TestAMachinesLife(t *testing.T) {
	s, _ := open(t)
	sh, err := s.AddShop(ctx, "Kiln Lane", house)
	require.NoError(t, err)
	m, err := s.AddMachine(ctx, sh.ID, "Bandsaw")
	require.NoError(t, err)
	_, err = s.ChangeMachine(ctx, m.ID, 1, "Big bandsaw", "with a note")
	require.NoError(t, err)
	second, err := s.AddMotor(ctx, m.ID, "feed")
	require.NoError(t, err)
	require.NoError(t, s.DeleteMotor(ctx, second.ID))
	require.NoError(t, s.RestoreMotor(ctx, second.ID))
	copied, err := s.DuplicateMachine(ctx, m.ID, "Bandsaw copy")
	require.NoError(t, err)
	assert.Len(t, copied.Motors, 2)
	require.NoError(t, s.DeleteMachine(ctx, m.ID))
	_, err = s.Motor(ctx, second.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, s.RestoreMachine(ctx, m.ID))
	p, err := s.Motor(ctx, second.ID)
	require.NoError(t, err)
	assert.Equal(t, "Big bandsaw", p.Machine.Name)
	assert.Equal(t, sh.ID, p.Shop.ID)
	history, err := s.History(ctx, m.ID, 3)
	require.NoError(t, err)
	require.Len(t, history, 3)
	assert.Equal(t, "machine restored", history[0].What)
	assert.Equal(t, noon, history[0].At)
}

func TestNothingIsFoundThatIsNotThere(t *testing.T) {
	s, _ := open(t)
	_, err := s.AddMachine(ctx, "none", "x")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.AddMotor(ctx, "none", "x")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.ChangeShop(ctx, "none", 1, "x", house)
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.ChangeMachine(ctx, "none", 1, "x", "")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.ChangePart(ctx, "none", shop.PlatePart, 1, func(*shop.Motor) {})
	require.ErrorIs(t, err, store.ErrNotFound)
	for _, gone := range []func(context.Context, string) error{s.DeleteMachine, s.RestoreMachine, s.DeleteMotor,
		s.RestoreMotor, s.RestoreShop} {
		require.ErrorIs(t, gone(ctx, "none"), store.ErrNotFound)
	}
	assert.Empty(t, daybook(t, s), "what failed left no line")
}

// Two that start from the same version: one is written, the other is told.
func TestAStaleWriteIsRefused(t *testing.T) {
	s, _ := open(t)
	sh, err := s.AddShop(ctx, "Kiln Lane", house)
	require.NoError(t, err)
	m, err := s.AddMachine(ctx, sh.ID, "Bandsaw")
	require.NoError(t, err)
	mo := m.Motors[0]
	var wait sync.WaitGroup
	errs := make([]error, 8)
	for i := range errs {
		wait.Go(func() {
			_, errs[i] = s.ChangePart(ctx, mo.ID, shop.PlatePart, mo.Versions.Plate, func(m *shop.Motor) {
				m.Plate = plate.Typed{RPM: string(rune('1' + i))}
			})
		})
	}
	wait.Wait()
	written := 0
	for _, err := range errs {
		if err == nil {
			written++
		} else {
			require.ErrorIs(t, err, store.ErrChanged)
		}
	}
	assert.Equal(t, 1, written)
	p, err := s.Motor(ctx, mo.ID)
	require.NoError(t, err)
	assert.Equal(t, 2, p.Motor.Version)
}

func TestTheDaybookIsAppendOnly(t *testing.T) {
	s, _ := open(t)
	_, err := s.AddShop(ctx, "Kiln Lane", house)
	require.NoError(t, err)
	_, err = s.DB.Exec("UPDATE daybook SET what = 'x'")
	require.ErrorContains(t, err, "append-only")
	_, err = s.DB.Exec("DELETE FROM daybook")
	require.ErrorContains(t, err, "append-only")
}

func TestExportImportRoundTrip(t *testing.T) {
	s, _ := open(t)
	file := demoFile(t)
	report, err := s.Import(ctx, file, store.Choice{})
	require.NoError(t, err)
	assert.Equal(t, 0, report.Changed+report.Unchanged)
	out, err := s.Export(ctx)
	require.NoError(t, err)
	require.Len(t, out.Shops, 1)
	assert.Equal(t, file.Shops[0], out.Shops[0].Bare())
	before := daybook(t, s)
	report, err = s.Import(ctx, out, store.Choice{})
	require.NoError(t, err)
	assert.Zero(t, report.Added+report.Changed+report.Kept)
	assert.Equal(t, before, daybook(t, s), "what is the same adds nothing")
	other, _ := open(t)
	_, err = other.Import(ctx, out, store.Choice{})
	require.NoError(t, err)
	again, err := other.Export(ctx)
	require.NoError(t, err)
	assert.Equal(t, out, again)
}

func TestImportMergesAndSaysWhatItDid(t *testing.T) {
	s, _ := open(t)
	file := demoFile(t)
	_, err := s.Import(ctx, file, store.Choice{})
	require.NoError(t, err)
	require.NoError(t, s.DeleteMachine(ctx, "tarn-hobber"))
	changed := demoFile(t)
	changed.Shops[0].Name = "Tarn Hollow Works"
	changed.Shops[0].Machines[1].Motors[0].Plate.RPM = "1750"
	changed.Shops[0].Machines = append(
		changed.Shops[0].Machines,
		shop.Machine{
			ID:     "new",
			Name:   "Lathe",
			Motors: []shop.Motor{{ID: "new-m1", Driven: shop.Driven{Load: "spindle"}, Mine: []string{}}},
		},
	)
	report, err := s.Import(ctx, changed, store.Choice{})
	require.NoError(t, err)
	assert.Equal(t, 2, report.Added)
	assert.Equal(t, 3, report.Changed)
	assert.Contains(t, report.Lines, "shop Tarn Hollow Works changed")
	assert.Contains(t, report.Lines, "motor of Metal shaper changed")
	assert.Contains(t, report.Lines, "machine Lathe added")
	_, err = s.Machine(ctx, "tarn-hobber")
	require.NoError(t, err, "what had been deleted is back")
}

// What was changed here since a file was written is told as such and kept unless somebody takes
// the file's; what is only looked at changes nothing; each change is one line of the daybook,
// with before and after, in the machine's history too.
func TestImportTellsWhatIsOlder(t *testing.T) {
	s, _ := open(t)
	_, err := s.Import(ctx, demoFile(t), store.Choice{})
	require.NoError(t, err)
	written, err := s.Export(ctx)
	require.NoError(t, err)
	changed, err := s.Export(ctx)
	require.NoError(t, err)
	motor := &changed.Shops[0].Machines[1].Motors[0]
	motor.Plate.RPM, motor.Version = "1750", motor.Version+1
	_, err = s.Import(ctx, changed, store.Choice{})
	require.NoError(t, err)
	require.NoError(t, s.DeleteMachine(ctx, "tarn-hobber"))
	written.Shops[0].Machines[2].Name = "Another grinder"

	status := func(r store.Report) map[string]store.Status {
		all := map[string]store.Status{}
		for _, row := range r.Rows {
			if row.Status != store.RowSame {
				all[row.ID] = row.Status
			}
		}
		return all
	}
	rpm := func() string {
		p, err := s.Motor(ctx, "tarn-shaper-m1")
		require.NoError(t, err)
		return p.Motor.Plate.RPM
	}
	before := daybook(t, s)
	looked, err := s.Import(ctx, written, store.Choice{Preview: true})
	require.NoError(t, err)
	assert.Equal(t, map[string]store.Status{
		"tarn-shaper-m1": store.RowOlder, "tarn-grinder": store.RowChanged, "tarn-hobber": store.RowBack,
	}, status(looked))
	assert.Equal(t, before, daybook(t, s))
	_, err = s.Machine(ctx, "tarn-hobber")
	require.ErrorIs(t, err, store.ErrNotFound)

	done, err := s.Import(ctx, written, store.Choice{Keep: map[string]bool{"tarn-hobber": true}})
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1, 2}, []int{done.Added, done.Changed, done.Kept})
	assert.Contains(t, done.Lines, "motor of Metal shaper not changed: kept as it is here")
	assert.Equal(t, "1750", rpm(), "what was changed here since is kept")
	_, err = s.Machine(ctx, "tarn-hobber")
	require.ErrorIs(t, err, store.ErrNotFound, "and what somebody keeps deleted stays so")
	assert.Len(t, daybook(t, s), len(before)+1)

	_, err = s.Import(ctx, written, store.Choice{Take: map[string]bool{"tarn-shaper-m1": true}})
	require.NoError(t, err)
	assert.Equal(t, "1745", rpm())
	history, err := s.History(ctx, "tarn-shaper", 1)
	require.NoError(t, err)
	require.Len(t, history, 1)
	assert.Equal(t, "motor imported", history[0].What)
	var was, is string
	require.NoError(t, s.DB.QueryRow("SELECT before, after FROM daybook WHERE motor_id = 'tarn-shaper-m1' "+
		"ORDER BY id DESC LIMIT 1").Scan(&was, &is))
	assert.Contains(t, was, `"rpm":"1750"`)
	assert.Contains(t, is, `"rpm":"1745"`)
	_, err = s.Machine(ctx, "tarn-hobber")
	require.NoError(t, err, "brought back")
}

// A version that leaves no room to count on is refused at the door; the largest that is taken
// leaves the row to be changed.
func TestAVersionLeavesRoom(t *testing.T) {
	s, _ := open(t)
	file := demoFile(t)
	motor := &file.Shops[0].Machines[0].Motors[0]
	for version, taken := range map[int]bool{1_000_000_000: true, 1_000_000_001: false, math.MaxInt64: false} {
		motor.Version = version
		text, err := json.Marshal(file)
		require.NoError(t, err)
		read, problems := shop.ReadFile(text)
		assert.Equal(t, taken, problems == nil, version)
		if taken {
			_, err = s.Import(ctx, read, store.Choice{})
			require.NoError(t, err)
			read.Shops[0].Machines[0].Motors[0].Plate.RPM = "1750"
			_, err = s.Import(ctx, read, store.Choice{})
			require.NoError(t, err)
		}
	}
}

// A file that cannot be merged whole changes nothing.
func TestImportIsAllOrNothing(t *testing.T) {
	s, _ := open(t)
	_, err := s.Import(ctx, demoFile(t), store.Choice{})
	require.NoError(t, err)
	before, err := s.Export(ctx)
	require.NoError(t, err)
	stolen := shop.File{Format: shop.Format, Shops: []shop.Shop{
		{ID: "good", Name: "Good", Supply: house, Machines: []shop.Machine{}},
		{
			ID:       "thief",
			Name:     "Thief",
			Supply:   house,
			Machines: []shop.Machine{{ID: "tarn-hobber", Name: "Stolen", Motors: []shop.Motor{}}},
		},
	}}
	_, err = s.Import(ctx, stolen, store.Choice{})
	var taken *store.TakenError
	require.ErrorAs(t, err, &taken)
	assert.Contains(t, err.Error(), "tarn-hobber")
	after, err := s.Export(ctx)
	require.NoError(t, err)
	assert.Equal(t, before, after)
}

func TestBackupAndReopen(t *testing.T) {
	s, path := open(t)
	_, err := s.Import(ctx, demoFile(t), store.Choice{})
	require.NoError(t, err)
	to := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, s.Backup(ctx, to))
	require.ErrorContains(t, s.Backup(ctx, to), "overwrites nothing")
	want, err := s.Export(ctx)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	for _, file := range []string{path, to} {
		again, err := store.Open(ctx, file, time.Now)
		require.NoError(t, err)
		got, err := again.Export(ctx)
		require.NoError(t, err)
		assert.Equal(t, want, got)
		require.NoError(t, again.Close())
	}
}

// A route that is taken is kept whole, told in the daybook, and exported.
// A backup put over a database that crashed is the backup: the log that the crash left is not
// played over it, and what was there is kept with its log.
func TestRestoreAfterACrash(t *testing.T) {
	s, path := open(t)
	_, err := s.Import(ctx, demoFile(t), store.Choice{})
	require.NoError(t, err)
	folder := t.TempDir()
	backup, crashed := filepath.Join(folder, "monday.db"), filepath.Join(folder, "shop.db")
	require.NoError(t, s.Backup(ctx, backup))
	want, err := s.Export(ctx)
	require.NoError(t, err)
	_, err = s.AddShop(ctx, "Later", house)
	require.NoError(t, err)
	for _, of := range []string{"", "-wal"} { // as a crash leaves them: nothing played in
		bytes, err := os.ReadFile(path + of)
		require.NoError(t, err)
		require.NotEmpty(t, bytes)
		require.NoError(t, os.WriteFile(crashed+of, bytes, 0o600))
	}
	kept, err := store.Restore(ctx, crashed, backup, noon)
	require.NoError(t, err)
	assert.Equal(t, crashed+".before-20260301-120000", kept)
	info, err := os.Stat(path)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "as it was made")
	for file, later := range map[string]int{crashed: 0, kept: 1} {
		again, err := store.Open(ctx, file, time.Now)
		require.NoError(t, err)
		got, err := again.Export(ctx)
		require.NoError(t, err)
		assert.Len(t, got.Shops, len(want.Shops)+later, file)
		require.NoError(t, again.Close())
		info, err := os.Stat(file)
		require.NoError(t, err)
		assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), file)
	}
	_, err = store.Restore(ctx, crashed, backup, noon)
	require.ErrorContains(t, err, "is there already")
	// What is broken itself can be replaced; what is no backup replaces nothing.
	require.NoError(t, os.WriteFile(crashed, []byte("rubbish, and enough of it to be a header of a file"), 0o600))
	_, err = store.Restore(ctx, crashed, backup, noon.Add(time.Hour))
	require.NoError(t, err)
	bad := filepath.Join(folder, "bad.db")
	for name, text := range map[string]string{"empty": "", "rubbish": strings.Repeat("x", 5000)} {
		require.NoError(t, os.WriteFile(bad, []byte(text), 0o600))
		_, err = store.Restore(ctx, crashed, bad, noon.Add(2*time.Hour))
		require.ErrorContains(t, err, "database", name)
	}
	again, err := store.Open(ctx, crashed, time.Now)
	require.NoError(t, err)
	_, err = again.DB.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)")
	require.NoError(t, err)
	require.NoError(t, again.Close())
	_, err = store.Open(ctx, crashed, time.Now)
	require.ErrorContains(t, err, "its schema is 999")
}

func TestAWayIsKept(t *testing.T) {
	s, _ := open(t)
	ctx := context.Background()
	_, err := s.Import(ctx, demoFile(t), store.Choice{})
	require.NoError(t, err)
	p, err := s.Motor(ctx, "tarn-shaper-m1")
	require.NoError(t, err)
	way := feed.Choice{
		Route:      "phase-box",
		Kept:       []string{"rotary", "phase-box"},
		IdlerWatts: new(3700.0),
		BalanceAC:  new(80.0),
		OneEach:    true,
		Profile:    "Ours",
	}
	after, err := s.ChangePart(ctx, p.Motor.ID, shop.WayPart, p.Motor.Versions.Way, func(m *shop.Motor) { m.Way = way })
	require.NoError(t, err)
	want := way
	want.Kept = []string{"rotary"}
	assert.Equal(t, want, after.Motor.Way)
	history, err := s.History(ctx, "tarn-shaper", 3)
	require.NoError(t, err)
	assert.Equal(t, "route taken: phase-shifting box", history[0].What)
	file, err := s.Export(ctx)
	require.NoError(t, err)
	text, err := json.Marshal(file)
	require.NoError(t, err)
	again, problems := shop.ReadFile(text)
	require.Empty(t, problems)
	found := false
	for _, machine := range again.Shops[0].Machines {
		if machine.ID == "tarn-shaper" {
			found = true
			assert.Equal(t, want, machine.Motors[0].Way)
		}
	}
	assert.True(t, found)
}

func TestSettings(t *testing.T) {
	s, _ := open(t)
	none, err := s.Setting(ctx, "x")
	require.NoError(t, err)
	assert.Empty(t, none)
	require.NoError(t, s.SetSetting(ctx, "x", "1"))
	require.NoError(t, s.SetSetting(ctx, "x", "2"))
	two, err := s.Setting(ctx, "x")
	require.NoError(t, err)
	assert.Equal(t, "2", two)
}

func TestOpenSaysWhichFileFails(t *testing.T) {
	_, err := store.Open(ctx, t.TempDir(), time.Now)
	require.ErrorContains(t, err, "database")
}

func TestIDsDiffer(t *testing.T) {
	seen := map[string]bool{}
	for range 1000 {
		id := store.NewID()
		assert.False(t, seen[id])
		seen[id] = true
	}
}

// A photo is kept with its motor, can be taken away and brought back, and leaves
// lines in the daybook.
func TestAPhotosLife(t *testing.T) {
	s, _ := open(t)
	_, err := s.Import(ctx, demoFile(t), store.Choice{})
	require.NoError(t, err)
	const motor = "tarn-shaper-m1"
	added, err := s.AddPhoto(ctx, motor, store.Photo{Name: "plate.jpg", Width: 4, Height: 3}, []byte("jpeg"))
	require.NoError(t, err)
	list, err := s.Photos(ctx, motor)
	require.NoError(t, err)
	assert.Equal(t, []store.Photo{added}, list)
	again, err := s.AddPhoto(ctx, motor, store.Photo{ID: added.ID, Name: "other"}, []byte("again"))
	require.NoError(t, err)
	assert.Equal(t, added, again, "sent twice, kept once")
	_, err = s.AddPhoto(ctx, "tarn-hobber-m1", store.Photo{ID: added.ID}, []byte("x"))
	require.ErrorIs(t, err, store.ErrNotFound, "another's id")
	image, err := s.PhotoImage(ctx, added.ID)
	require.NoError(t, err)
	assert.Equal(t, "jpeg", string(image))
	require.NoError(t, s.DeletePhoto(ctx, added.ID))
	_, err = s.PhotoImage(ctx, added.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	list, err = s.Photos(ctx, motor)
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, s.RestorePhoto(ctx, added.ID))
	lines := daybook(t, s)
	assert.Equal(t, []string{"photo added", "photo deleted", "photo restored"}, lines[len(lines)-3:])
	for range store.MostPhotos - 1 {
		_, err = s.AddPhoto(ctx, motor, store.Photo{}, []byte("x"))
		require.NoError(t, err)
	}
	var full *store.FullError
	_, err = s.AddPhoto(ctx, motor, store.Photo{}, []byte("x"))
	require.ErrorAs(t, err, &full)
	require.NoError(t, s.DeletePhoto(ctx, added.ID))
	_, err = s.AddPhoto(ctx, motor, store.Photo{}, []byte("x"))
	require.NoError(t, err)
	require.ErrorAs(t, s.RestorePhoto(ctx, added.ID), &full, "brought back past what there is room for")
	_, err = s.AddPhoto(ctx, "nobody", store.Photo{}, []byte("x"))
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, s.DeletePhoto(ctx, "nothing"), store.ErrNotFound)
	list, err = s.Photos(ctx, motor)
	require.NoError(t, err)
	require.NoError(t, s.DeleteMachine(ctx, "tarn-shaper"))
	_, err = s.PhotoImage(ctx, list[0].ID)
	require.ErrorIs(t, err, store.ErrNotFound, "of a machine that is no more")
}

// What a file may hold is what the database takes, one at a time, brought back or imported
// beside what is there: each is refused whole at the same number.
func TestThereIsRoomForSoMany(t *testing.T) {
	s, _ := open(t)
	file := demoFile(t)
	_, err := s.Import(ctx, file, store.Choice{})
	require.NoError(t, err)
	machine := file.Shops[0].Machines[0]
	var full *store.FullError
	var added []string
	for {
		m, err := s.AddMotor(ctx, machine.ID, "")
		if err != nil {
			require.ErrorAs(t, err, &full)
			break
		}
		added = append(added, m.ID)
	}
	assert.Equal(t, shop.MostMotors, len(added)+len(machine.Motors))
	require.NoError(t, s.DeleteMotor(ctx, added[0]))
	_, err = s.AddMotor(ctx, machine.ID, "")
	require.NoError(t, err)
	require.ErrorAs(t, s.RestoreMotor(ctx, added[0]), &full)
	more := demoFile(t)
	more.Shops[0].Name = "renamed"
	more.Shops[0].Machines[0].Motors = append(more.Shops[0].Machines[0].Motors, shop.Motor{ID: "one-more"}.Filled())
	_, err = s.Import(ctx, more, store.Choice{})
	require.ErrorAs(t, err, &full)
	kept, err := s.Shop(ctx, file.Shops[0].ID)
	require.NoError(t, err)
	assert.Equal(t, file.Shops[0].Name, kept.Name, "all or nothing")
	assert.Len(t, kept.Machines[0].Motors, shop.MostMotors)
	for {
		if _, err = s.DuplicateShop(ctx, file.Shops[0].ID, "copy"); err != nil {
			break
		}
	}
	require.ErrorAs(t, err, &full)
	shops, err := s.Shops(ctx)
	require.NoError(t, err)
	assert.Len(t, shops, shop.MostShops)
}
