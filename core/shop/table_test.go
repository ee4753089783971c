package shop_test

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/shop"
	"brackmoor/core/site"
)

// ids gives one new id after another.
func ids() func() string {
	n := 0
	return func() string { n++; return fmt.Sprint("new-", n) }
}

// What a table says is read back as it was: every row the same, the shop to the last byte.
func TestATableIsReadBackTheSame(t *testing.T) {
	for _, name := range []string{"tarn-hollow.json", "ferry-stairs.json"} {
		file, _ := demoFile(t, name)
		sh := file.Shops[0]
		for _, table := range shop.Tables {
			text, err := sh.Table(table)
			require.NoError(t, err)
			again, lines, problems := sh.ReadTable(text, ids())
			require.Empty(t, problems, "%s %s", name, table)
			for _, l := range lines {
				assert.Equal(t, "same", l.Status, "%s, line %d: %s", table, l.Number, l.Title)
			}
			assert.Equal(t, sh, again)
			// As a spreadsheet with decimal commas writes it.
			r, err := csv.NewReader(strings.NewReader(string(text))).ReadAll()
			require.NoError(t, err)
			var b strings.Builder
			w := csv.NewWriter(&b)
			w.Comma = ';'
			require.NoError(t, w.WriteAll(r))
			again, _, problems = sh.ReadTable([]byte("\xef\xbb\xbf"+b.String()), ids())
			require.Empty(t, problems)
			assert.Equal(t, sh, again)
		}
	}
	_, err := new(shop.Shop).Table("friends")
	require.Error(t, err)
}

func TestATableChangesWhatItNames(t *testing.T) {
	file, _ := demoFile(t, "tarn-hollow.json")
	sh := file.Shops[0]
	before, err := json.Marshal(sh)
	require.NoError(t, err)
	read := func(text string) (shop.Shop, []shop.Line) {
		got, lines, problems := sh.ReadTable([]byte(text), ids())
		require.Empty(t, problems, text)
		return got, lines
	}
	got, lines := read("circuit,breaker_amps,metre,panel\ntarn-barn,70,\"24,4\",yes\n,20,,no\n")
	assert.Equal(t, []shop.Line{{2, "Barn feed", "changed"}, {3, "", "new"}}, lines)
	assert.InDelta(t, 70, got.Site.Circuits[0].BreakerAmps, 0)
	assert.InDelta(t, 24.4, got.Site.Circuits[0].Metre, 0)
	assert.Equal(t, "4 AWG", got.Site.Circuits[0].Size, "a column that is not there leaves what is")
	assert.Equal(t, "new-1", got.Site.Circuits[6].ID)

	got, lines = read(
		"load,name,kind,amps,on\nwelder,Welder,welder,30,tarn-bench-feed\ntarn-kiln,Kiln,heater,22,tarn-kiln-feed\n",
	)
	assert.Equal(t, []string{"new", "changed"}, []string{lines[0].Status, lines[1].Status})
	assert.Equal(t, "b", got.Site.Place("tarn-hacksaw", "").Side)
	assert.Len(t, got.Site.Loads, 3)

	got, lines = read("machine,name,motor,output,volts,amps,rpm,on\n" +
		"tarn-hobber,Hobber,,2 hp,230/460,6/3,1745,tarn-converter\n,Lathe,,3 hp,230,9,1740,tarn-converter\n" +
		"tarn-borer,Jig borer,tarn-borer-m2,1/3 hp,230,1.3,1725,tarn-borer-feed\n")
	assert.Equal(t, []string{"changed", "new", "changed"}, []string{lines[0].Status, lines[1].Status, lines[2].Status})
	assert.Equal(t, "6/3", got.Machines[0].Motors[0].Plate.Amps)
	assert.Equal(t, "spindle-in-gear", got.Machines[0].Motors[0].Load)
	lathe := got.Machines[len(got.Machines)-1]
	assert.Equal(t, "3 hp", lathe.Motors[0].Plate.Output)
	assert.Equal(t, "tarn-converter", got.Site.Place(lathe.ID, "").On)
	assert.Equal(t, "1/3 hp", got.Machines[5].Motors[1].Plate.Output)
	assert.Equal(t, "1 1/2 hp", got.Machines[5].Motors[0].Plate.Output)

	after, err := json.Marshal(sh)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after), "the shop that it was read into is as it was")
}

func TestATableThatIsNone(t *testing.T) {
	file, _ := demoFile(t, "ferry-stairs.json")
	for _, c := range []struct{ text, says string }{
		{"", "line 1: there is no table"},
		{"colour,amps\n", "line 1: the first column is none of machine, circuit, load"},
		{"circuit,colour\n", `line 1: there is no column "colour"`},
		{"circuit,breaker_amps\nferry-shed,much\n", `line 2, breaker_amps: "much" is no number`},
		{"circuit,panel\n\nferry-shed,perhaps\n", `line 3, panel: "perhaps" is neither yes nor no`},
		{"circuit,name\nferry-shed,a,b\n", "line 2: has more cells than the head"},
		{"circuit,name\n\"ferry-shed,a\n", "table: cannot be read"},
		{"load,name\n" + strings.Repeat("x,y\n", 10002), "table: is longer than 10000 lines"},
	} {
		_, _, problems := file.Shops[0].ReadTable([]byte(c.text), ids())
		require.NotEmpty(t, problems, c.text)
		assert.True(t, strings.HasPrefix(problems[0].String(), c.says), problems[0].String())
	}
}

// No text of a table is a formula to a spreadsheet, and every one comes back as it was.
func TestCellsAreDisarmed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		name := strings.TrimSpace(rapid.StringMatching(`[=+@'-]{0,2}[A-Za-z0-9 =+,;"-]{1,20}`).Draw(t, "name"))
		sh := shop.Shop{Site: site.Site{Loads: []site.Load{{ID: "l", Name: name, Kind: "heater", Amps: 3}}}}
		text, err := sh.Table("load")
		require.NoError(t, err)
		rows, err := csv.NewReader(strings.NewReader(string(text))).ReadAll()
		require.NoError(t, err)
		if cell := rows[1][1]; cell != "" {
			assert.NotContains(t, "=+-@", cell[:1])
		}
		again, _, problems := sh.ReadTable(text, ids())
		require.Empty(t, problems)
		assert.Equal(t, name, again.Site.Loads[0].Name)
	})
}

// A copied shop hangs as the first does, by its own ids.
func TestACopyHangsAsTheFirst(t *testing.T) {
	file, _ := demoFile(t, "tarn-hollow.json")
	sh := file.Shops[0]
	copied := sh.Copy(ids())
	assert.Len(t, copied.Site.Hung, len(sh.Site.Hung))
	for _, h := range copied.Site.Hung {
		assert.True(t, copied.Has(h.ID), h.ID)
	}
	assert.True(t, copied.Has(copied.Site.Converters[0].Idler))
	known := map[string]string{}
	assert.Empty(t, copied.Site.Check(sh.Supply, known))
	for _, id := range copied.State.On {
		assert.NotContains(t, sh.State.On, id)
	}
}
