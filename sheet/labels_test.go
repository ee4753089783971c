package sheet_test

import (
	"bytes"
	"compress/zlib"
	"io"
	"math"
	"regexp"
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"rsc.io/qr"

	"brackmoor/core/install"
	"brackmoor/sheet"
)

var (
	streams = regexp.MustCompile(`(?s)stream\r?\n(.*?)\r?\nendstream`)
	bars    = regexp.MustCompile(`(?m)([\d.]+) ([\d.]+) ([\d.]+) (-?[\d.]+) re f`)
)

// drawn are the filled rectangles of a PDF: x, y, wide and high, in points from below.
func drawn(t *testing.T, pdf []byte) (list [][4]float64) {
	t.Helper()
	for _, s := range streams.FindAllSubmatch(pdf, -1) {
		z, err := zlib.NewReader(bytes.NewReader(s[1]))
		if err != nil {
			continue
		}
		text, err := io.ReadAll(z)
		if err != nil {
			continue // a font
		}
		for _, m := range bars.FindAllSubmatch(text, -1) {
			var r [4]float64
			for i := range r {
				r[i], err = strconv.ParseFloat(string(m[i+1]), 64)
				require.NoError(t, err)
			}
			r[3] = math.Abs(r[3])
			list = append(list, r)
		}
	}
	return list
}

// The last label of a machine that has an address is a code, module by module that of the address, on every paper; one
// without has none.
func TestALabelOpensTheCard(t *testing.T) {
	w := sheet.Wired{Work: install.Work{Labels: []install.Label{{Kind: "danger", Title: "DANGER", Text: "Live"}}}}
	for _, address := range []string{
		"https://192.168.1.20:8443/machines/tarn-shaper", "http://10.0.0.7/machines/m",
		"https://shop.local:8443/machines/x1",
	} {
		for _, paper := range []string{"A4", "Letter"} {
			plain, err := sheet.LabelsPDF(w, nil, paper, noon)
			require.NoError(t, err)
			coded, err := sheet.LabelsPDF(w, &sheet.Card{Title: "Metal shaper", Address: address}, paper, noon)
			require.NoError(t, err)
			list := drawn(t, coded)[len(drawn(t, plain)):]
			code, err := qr.Encode(address, qr.M)
			require.NoError(t, err)
			require.NotEmpty(t, list)
			high := list[0][3]
			left := slices.MinFunc(list, func(a, b [4]float64) int { return int(math.Round(100 * (a[0] - b[0]))) })[0]
			top := slices.MaxFunc(list, func(a, b [4]float64) int { return int(math.Round(100 * (a[1] - b[1]))) })[1]
			black := map[[2]int]bool{}
			for _, r := range list {
				from, row := int(math.Round((r[0]-left)/high)), int(math.Round((top-r[1])/high))
				for k := range int(math.Round(r[2] / high)) {
					black[[2]int{from + k, row}] = true
				}
			}
			for row := range code.Size {
				for column := range code.Size {
					require.Equal(
						t,
						code.Black(column, row),
						black[[2]int{column, row}],
						"%s %d %d",
						address,
						column,
						row,
					)
				}
			}
			assert.Greater(t, high*0.3528, 0.4, "a module is large enough for a phone, in mm")
		}
	}
	_, err := sheet.LabelsPDF(w, &sheet.Card{Address: string(bytes.Repeat([]byte("x"), 5000))}, "A4", noon)
	assert.Error(t, err)
}
