package quantity_test

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/quantity"
)

var us, si = quantity.Reader{Beside: quantity.BesideUS}, quantity.Reader{Beside: quantity.BesideSI}

func TestUnitsBesideTheShops(t *testing.T) {
	for _, c := range []struct {
		reader   quantity.Reader
		as, read string
	}{
		{us, "The hottest winding comes to 128 °C; class B bears 120.",
			"The hottest winding comes to 128 °C (262 °F); class B bears 120."},
		{us, "21.5 °C", "21.5 °C (70.7 °F)"},
		{us, "± 5 °C; ±2 mm; frame 12 °C over what was foretold",
			"± 5 °C; ±2 mm; frame 12 °C over what was foretold"},
		{us, "−40 °C", "−40 °C (-40 °F)"},
		{us, "Keep the load within 1–2.63 kW.", "Keep the load within 1–2.63 kW (1.34–3.53 hp)."},
		{us, "400 × 500 × 200 mm, IP54", "400 × 500 × 200 mm (15.7 × 19.7 × 7.87 in), IP54"},
		{us, "4 mm² copper, 30\u00a0m", "4 mm² (at least 10 AWG) copper, 30\u00a0m (98.4\u00a0ft)"},
		{us, "16 mm²; 25 mm²; 70 mm²; 95 mm²; 120 mm²",
			"16 mm² (at least 4 AWG); 25 mm² (at least 3 AWG); 70 mm² (at least 3/0 AWG); 95 mm² (at least 4/0 AWG); " +
				"120 mm²"},
		{us, "0.14 kg·m², 3 kW·h, 20 mA, 2 m/s, IP54 m, K2 m", "0.14 kg·m², 3 kW·h, 20 mA, 2 m/s, IP54 m, K2 m"},
		{us, "3 hp", "3 hp"},
		{si, "½ hp, 7½ hp or 10 hp", "½ hp (0.373 kW), 7½ hp (5.59 kW) or 10 hp (7.46 kW)"},
		{si, "1/0 AWG and 14 AWG, 20 lb·in", "1/0 AWG (53.5 mm²) and 14 AWG (2.08 mm²), 20 lb·in (2.26 N·m)"},
		{si, "2 in the box, 16 × 20 × 8 in, type 12", "2 in the box, 16 × 20 × 8 in (406 × 508 × 203 mm), type 12"},
		{si, "3 hp (2.24 kW) lathe", "3 hp (2.24 kW) lathe"},
		{si, "30 °C", "30 °C"},
		{quantity.Reader{}, "1.5 kW at 40 °C", "1.5 kW at 40 °C"},
	} {
		assert.Equal(t, c.read, c.reader.Say(c.as))
	}
}

// The areas of ASTM B258, table 1, in mm².
func TestGauges(t *testing.T) {
	for gauge, area := range map[string]float64{
		"18": 0.823, "14": 2.08, "12": 3.31, "10": 5.26, "8": 8.37, "6": 13.3, "4": 21.2, "2": 33.6, "1": 42.4,
		"1/0": 53.5, "2/0": 67.4, "3/0": 85.0, "4/0": 107,
	} {
		text := strconv.FormatFloat(area, 'g', -1, 64)
		assert.Equal(t, gauge+" AWG ("+text+" mm²)", si.Say(gauge+" AWG"))
		assert.Equal(t, text+" mm² ("+gauge+" AWG)", us.Say(text+" mm²"), "the same back")
	}
}

func TestDecimalCommas(t *testing.T) {
	comma := quantity.Reader{Mark: quantity.MarkComma}
	for as, read := range map[string]string{
		"9.6 A, 0.5 s":                        "9,6 A, 0,5 s",
		"is 1.5.":                             "is 1,5.",
		"2.5 mm², method B1: IEC 60364-5-52.": "2,5 mm², method B1: IEC 60364-5-52.",
		"by 1.25: NEC 430.22, 310.15, 110.14(C) and 0.4 s": "by 1,25: NEC 430.22, 310.15, 110.14(C) and 0,4 s",
		"IEC 60364-5-52, tables B.52.2, B.52.14":           "IEC 60364-5-52, tables B.52.2, B.52.14",
		"IEC 60034-1, 8.6.2":                               "IEC 60034-1, 8.6.2",
		"floor.main and v1.2":                              "floor.main and v1.2",
	} {
		assert.Equal(t, read, comma.Say(as))
	}
}

// Nothing that the shop's own units say is lost or changed, whatever stands beside them; twice is once; and what
// stands there is the same quantity.
func TestWhatStandsBesideIsTheSame(t *testing.T) {
	factor := map[string]float64{
		"kW hp": 1000 / 745.699872,
		"mm in": 1 / 25.4,
		"m ft":  1 / 0.3048,
		"kg lb": 1 / 0.45359237,
	}
	rapid.Check(t, func(t *rapid.T) {
		words := rapid.SliceOfN(
			rapid.SampledFrom([]string{"the idler", "carries", "K2", "(made leg)", "at", "IP54", "½"}),
			0,
			4,
		)
		before, after := strings.Join(words.Draw(t, "before"), " "), strings.Join(words.Draw(t, "after"), " ")
		pair := rapid.SampledFrom([]string{"kW hp", "mm in", "m ft", "kg lb", "°C °F"}).Draw(t, "units")
		unit, other, _ := strings.Cut(pair, " ")
		decimals := rapid.IntRange(0, 2).Draw(t, "decimals")
		value := rapid.Float64Range(0.2, 900).Draw(t, "value")
		printed := strconv.FormatFloat(value, 'f', decimals, 64)
		value, _ = strconv.ParseFloat(printed, 64)
		text := strings.TrimSpace(before + ": " + printed + " " + unit + "; " + after)

		said := us.Say(text)
		require.Equal(t, said, us.Say(said), "twice")
		aside, _, ok := strings.Cut(said[strings.Index(said, " "+unit+" (")+len(unit)+3:], " "+other+")")
		require.True(t, ok, said)
		require.Equal(t, text, strings.Replace(said, " ("+aside+" "+other+")", "", 1))
		got, err := strconv.ParseFloat(aside, 64)
		require.NoError(t, err)
		want, within := value*factor[pair], 0.006*value*factor[pair]
		if unit == "°C" {
			want, within = value*9/5+32, 0.51
		}
		require.LessOrEqual(t, math.Abs(got-want), within, said)
		require.Equal(t, strings.ReplaceAll(said, ".", ","),
			strings.ReplaceAll(quantity.Reader{Beside: "us", Mark: "comma"}.Say(text), ".", ","), "marks alone change")
	})
}

func TestReaderOf(t *testing.T) {
	assert.Equal(t, quantity.Reader{Beside: "us", Mark: "comma", Paper: "A4"},
		quantity.ReaderOf("beside=us&mark=comma&paper=A4"))
	for _, text := range []string{"", "beside=<b>", "mark=;", "%zz", "paper=A0&beside=%00", strings.Repeat("&", 9000)} {
		assert.Equal(t, quantity.Reader{}, quantity.ReaderOf(text), text)
	}
	assert.Equal(t, "Letter", quantity.Reader{}.PaperAt(60))
	assert.Equal(t, "A4", quantity.Reader{}.PaperAt(50))
	assert.Equal(t, "A4", quantity.Reader{Paper: "A4"}.PaperAt(60))
}

type kept struct {
	Says string `told:"figures"`
	name string
}

type answer struct {
	Name   string
	Says   string     `told:"figures"`
	List   []string   `told:"figures"`
	Two    [2]string  `told:"figures"`
	Cells  [][]string `told:"figures"`
	Maybe  *string    `told:"figures"`
	Inside []kept
	By     map[string]*kept
	Any    any
	Self   *answer
	Plain  []float64
}

// What is marked is told anew, all else stays, and what it is made of is not touched.
func TestToldIsACopy(t *testing.T) {
	maybe := "3 kW"
	of := func() answer {
		return answer{
			Name: "2 kW lathe", Says: "40 °C", List: []string{"1 m"}, Two: [2]string{"1 mm", "none"},
			Cells: [][]string{{"1 kg"}, nil}, Maybe: &maybe, Inside: []kept{{"1 kW", "1 kW"}},
			By: map[string]*kept{"1 kW": {"20 °C", ""}, "none": nil}, Any: kept{"5 m", "5 m"},
			Self: &answer{Name: "1 kW", Says: "1 kW"}, Plain: []float64{1},
		}
	}
	made := of()
	told := us.Told(&made).(*answer)
	assert.Equal(t, of(), made, "the answer itself is as it was")
	assert.Equal(t, &answer{
		Name: "2 kW lathe", Says: "40 °C (104 °F)", List: []string{"1 m (3.28 ft)"},
		Two: [2]string{"1 mm (0.0394 in)", "none"}, Cells: [][]string{{"1 kg (2.2 lb)"}, nil},
		Maybe: new("3 kW (4.02 hp)"), Inside: []kept{{"1 kW (1.34 hp)", "1 kW"}},
		By:   map[string]*kept{"1 kW": {"20 °C (68 °F)", ""}, "none": nil},
		Any:  kept{"5 m (16.4 ft)", "5 m"},
		Self: &answer{Name: "1 kW", Says: "1 kW (1.34 hp)"}, Plain: []float64{1},
	}, told)
	assert.Same(t, &made, quantity.Reader{Paper: "A4"}.Told(&made), "nothing to tell, nothing copied")
	assert.Nil(t, us.Told(nil))
	assert.Equal(t, 4, us.Told(4))
}

func ExampleReader_Say() {
	r := quantity.Reader{Beside: quantity.BesideUS, Mark: quantity.MarkComma}
	fmt.Println(r.Say("2.2 kW, winding at 102 °C"))
	// Output: 2,2 kW (2,95 hp), winding at 102 °C (216 °F)
}
