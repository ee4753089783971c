package browser

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// readOff is one field as the reading of a photo shows it.
type readOff struct {
	Field string `json:"field"`
	Text  string `json:"text"`
	Doubt string `json:"doubt"`
}

// photographed puts a photo on the plate step of a machine, and has the plate read from it.
func (p *page) photographed(machine string, photo platePhoto) (list []readOff) {
	p.Helper()
	file := filepath.Join(p.TempDir(), "plate.jpg")
	require.NoError(p, os.WriteFile(file, photo.jpeg, 0o600))
	p.visit("/machines/" + machine + "/plate")
	p.until("document.querySelector('#photo-file')")
	p.do(chromedp.SetUploadFiles(chromedp.CSS("#photo-file"), []string{file}))
	p.press("Read the plate from it")
	p.until("document.querySelector('.reading-photo .corner')")
	p.press("Read it")
	p.within(2*time.Minute, "document.querySelector('.reading-fields li, .reading-fields > p b')")
	return eval[[]readOff](p, `[...document.querySelectorAll('.reading-fields li')].map(li => ({
		field: li.querySelector('input').id.replace('seen-', ''),
		text: li.querySelector('input').value,
		doubt: li.querySelector('b')?.innerText ?? '',
	}))`)
}

// newMachine adds a machine to the shop that is shown.
func (p *page) newMachine(name string) string {
	p.Helper()
	p.visit("/machines")
	p.until("document.querySelector('#machine-name')")
	p.over("#machine-name", name)
	p.press("Add machine")
	p.until("location.pathname.startsWith('/machines/')")
	return eval[string](p, "location.pathname.split('/')[2]")
}

// pngOf is a grey picture.
func pngOf(t *testing.T, wide, high int) []byte {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, wide, high))))
	return out.Bytes()
}

// A plate is photographed, read on the device, looked over and answered from; nothing goes on it by itself.
func TestAPlateFromItsPhoto(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	machine := p.newMachine("Bench grinder")
	photo := drawPlate(rand.New(rand.NewPCG(rand.Uint64(), 1)), "printed", "clean")
	list := p.photographed(machine, photo)
	require.NotEmpty(t, list)
	typed := func(field string) string {
		return eval[string](p, "document.querySelector('.plate input[name="+field+"]').value")
	}
	assert.Empty(t, typed("volts"), "before it is confirmed")
	assert.True(t, eval[bool](p, "document.querySelector('.piece').width > 20"))
	put := 0
	for _, f := range list {
		want, stands := photo.says[f.Field]
		switch {
		case !stands:
			continue // a speck that was taken for a figure: nobody says that it is right
		case f.Text != want:
			p.over("#seen-"+f.Field, want)
		default:
			right := fmt.Sprintf(
				"document.querySelector('.reading-fields li:has(#seen-%s) button[aria-pressed]')",
				f.Field,
			)
			eval[bool](p, "("+right+".click(), true)")
		}
		put++
	}
	p.press(fmt.Sprintf("Put %d on the plate", put))
	p.until("!document.querySelector('.reading')")
	for field, want := range photo.says {
		if slices.ContainsFunc(list, func(f readOff) bool { return f.Field == field }) {
			assert.Equal(t, want, typed(field), field)
		} else {
			p.field(field, want) // typed beside its photo
		}
	}
	p.saved()
	p.shows(".facts", "Joined for")
	p.visit("/machines/" + machine + "/size?route=rotary")
	p.shows(".band", "Idler")
}

// A plate that is drawn is one that a motor could have, whatever was rolled: one without an answer proves nothing.
func TestDrawnPlatesAreOfMotors(t *testing.T) {
	for range 300 {
		says, _ := plateWords(rand.New(rand.NewPCG(rand.Uint64(), 1)))
		of := study.Of(supply.Supply{Volts: 240, Hertz: 60}, shop.Motor{Plate: plate.Typed{
			Output: says["output"], Volts: says["volts"], Amps: says["amps"], Hertz: says["hertz"], RPM: says["rpm"],
			PowerFactor: says["power_factor"], ServiceFactor: says["service_factor"], Code: says["code"],
		}}, motor.FitCircuit)
		require.True(t, of.Reading.Sound, "%v: %v %v", says, of.Reading.Problems, of.Reading.Verdicts)
	}
}

// Measures how plates are read, over kinds and wear; as many as are asked for. Wrong figures that nothing marks are
// what burns motors: at most one field in a hundred may be one.
func TestPlatesFromPhotos(t *testing.T) {
	many, err := strconv.Atoi(os.Getenv("BRACKMOOR_PHOTOS"))
	if err != nil {
		t.Skip("BRACKMOOR_PHOTOS says how many; make photos")
	}
	seed := rand.Uint64()
	r := rand.New(rand.NewPCG(seed, 1))
	type tally struct{ all, right, doubted, wrong, unmarked, out int }
	count := map[string]*tally{}
	begun := time.Now()
	var p *page
	for i := range many {
		if i%15 == 0 {
			p = open(t, "tarn-hollow.json")
		}
		photo := drawPlate(r, plateKinds[i%len(plateKinds)], plateWorn[i/len(plateKinds)%len(plateWorn)])
		list := p.photographed(p.newMachine(fmt.Sprint("Machine ", i)), photo)
		for _, of := range []string{photo.kind, photo.worn, "all"} {
			if count[of] == nil {
				count[of] = &tally{}
			}
			c := count[of]
			for field, want := range photo.says {
				c.all++
				at := slices.IndexFunc(list, func(f readOff) bool { return f.Field == field })
				switch {
				case at < 0:
					c.out++
				case list[at].Text == want && list[at].Doubt == "":
					c.right++
				case list[at].Text == want:
					c.right++
					c.doubted++
				default:
					c.wrong++
					if list[at].Doubt == "" {
						c.unmarked++
					}
					if of == "all" {
						t.Log(photo.kind, photo.worn, field, "is", want, "read as", list[at].Text, list[at].Doubt)
					}
				}
			}
		}
	}
	each := time.Since(begun).Seconds() / float64(many)
	fmt.Printf("%d plates, seed %d, %.1f s each with its machine made\n", many, seed, each)
	fmt.Println("| plates | fields | right | of these marked | left out | wrong | wrong, unmarked |")
	fmt.Println("| --- | ---: | ---: | ---: | ---: | ---: | ---: |")
	for _, of := range slices.Concat(plateKinds, plateWorn, []string{"all"}) {
		if c := count[of]; c != nil {
			fmt.Printf("| %s | %d |", of, c.all)
			for _, n := range []int{c.right, c.doubted, c.out, c.wrong, c.unmarked} {
				fmt.Printf(" %.1f %% |", 100*float64(n)/float64(c.all))
			}
			fmt.Println()
		}
	}
	all := count["all"]
	assert.LessOrEqual(t, float64(all.unmarked), 0.01*float64(all.all))
}
