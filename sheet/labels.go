package sheet

import (
	"time"

	"github.com/go-pdf/fpdf"
	"rsc.io/qr"

	"brackmoor/core/install"
)

// labelled is a sheet of labels: how many across and down, and their size in mm.
var labelled = map[string]struct{ across, down int }{"A4": {3, 8}, "Letter": {3, 9}}

// signs are the colours of labels by their kind: ground and letters (ANSI Z535.1, ISO 3864-1).
var signs = map[string][2]string{
	"danger": {"#C8102E", "#FFFFFF"}, "caution": {"#FFD100", "#1D2522"}, "notice": {"#005EB8", "#FFFFFF"},
	"part": {"#E4E1D8", "#1D2522"},
}

// Card is where a phone finds a machine: what it is called, and the address of its card.
type Card struct{ Title, Address string }

// LabelsPDF writes the labels of a circuit to be cut out and stuck on, one with a code that opens the machine's card
// where it has an address, and its wire numbers, each twice.
func LabelsPDF(w Wired, card *Card, paper string, at time.Time) ([]byte, error) {
	paper = paperOf(paper)
	p := &page{Fpdf: fpdf.New("P", "mm", paper, ""), paper: paper}
	fonts(p)
	p.SetTitle("Labels: "+w.Circuit.Title, true)
	p.SetCreationDate(at)
	p.SetModificationDate(at)
	p.SetMargins(0, 0, 0)
	p.SetAutoPageBreak(false, 0)
	p.labels(w.Work.Labels, card)
	p.markers(w.Work.Wires)
	return p.bytes()
}

// labels are laid out in a grid, page after page, the card last.
func (p *page) labels(list []install.Label, card *Card) {
	grid := labelled[p.paper]
	const edge = 8.0
	pw, ph := p.GetPageSizeStr(p.paper).Wd, p.GetPageSizeStr(p.paper).Ht
	wide, high := (pw-2*edge)/float64(grid.across), (ph-2*edge)/float64(grid.down)
	put := func(i int) (x, y float64) {
		place := i % (grid.across * grid.down)
		if place == 0 {
			p.AddPage()
		}
		return edge + wide*float64(place%grid.across), edge + high*float64(place/grid.across)
	}
	for i, l := range list {
		x, y := put(i)
		p.sticker(l, x, y, wide, high)
	}
	if card != nil {
		x, y := put(len(list))
		p.coded(card, x, y, wide, high)
	}
}

// coded is a label with a code, black on white with its quiet zone (ISO/IEC 18004), and what it opens.
func (p *page) coded(card *Card, x, y, wide, high float64) {
	const inset, quiet, beside = 1.5, 4, 1.0
	code, err := qr.Encode(card.Address, qr.M)
	if err != nil {
		p.SetError(err)
		return
	}
	p.SetDrawColor(rgb("#8A8677"))
	p.SetLineWidth(0.2)
	p.Rect(x+inset, y+inset, wide-2*inset, high-2*inset, "D")
	side := high - 2*inset
	module := side / float64(code.Size+2*quiet)
	p.SetFillColor(0, 0, 0)
	for row := range code.Size {
		for from := 0; from < code.Size; from++ { // what is black in a row is one bar, so that no gap shows
			to := from
			for code.Black(to, row) {
				to++
			}
			if to > from {
				p.Rect(x+inset+module*float64(from+quiet), y+inset+module*float64(row+quiet), module*float64(to-from),
					module, "F")
				from = to
			}
		}
	}
	left, room := x+inset+side+beside, wide-2*inset-side-2*beside
	p.colour("#1D2522")
	p.font("B", 12)
	p.SetXY(left, y+inset+3)
	p.MultiCell(room, 5, card.Title, "", "L", false)
	p.font("", 8)
	p.SetX(left)
	p.MultiCell(room, 3.6, "Its card: plate, wiring, first run, readings.", "", "L", false)
}

// sticker is one: its signal word on its ground, and below what it says.
func (p *page) sticker(l install.Label, x, y, wide, high float64) {
	const inset, head = 1.5, 8.0
	ground := signs[l.Kind]
	p.SetDrawColor(rgb("#8A8677"))
	p.SetLineWidth(0.2)
	p.Rect(x+inset, y+inset, wide-2*inset, high-2*inset, "D")
	p.SetFillColor(rgb(ground[0]))
	p.Rect(x+inset, y+inset, wide-2*inset, head, "F")
	p.colour(ground[1])
	p.font("B", 13)
	p.SetXY(x+inset, y+inset)
	p.CellFormat(wide-2*inset, head, l.Title, "", 0, "C", false, 0, "")
	p.colour("#1D2522")
	size := 10.0
	for ; size > 6; size -= 0.5 {
		p.font("", size)
		if float64(p.lines(l.Text, wide-2*inset-4))*size*0.42 < high-head-2*inset-6 {
			break
		}
	}
	p.SetXY(x+inset+2, y+inset+head+1.5)
	p.MultiCell(wide-2*inset-4, size*0.42, l.Text, "", "C", false)
	p.font("", 6)
	p.SetXY(x+inset, y+high-inset-4)
	p.CellFormat(wide-2*inset, 3.5, l.Where, "", 0, "C", false, 0, "")
}

// markers are wire numbers to be wrapped round both ends.
func (p *page) markers(list []install.Landing) {
	const edge, wide, high = 10.0, 19.0, 7.0
	size := p.GetPageSizeStr(p.paper)
	across, down := int((size.Wd-2*edge)/wide), int((size.Ht-2*edge)/high)
	for i := range 2 * len(list) {
		place := i % (across * down)
		if place == 0 {
			p.AddPage()
		}
		x, y := edge+wide*float64(place%across), edge+high*float64(place/across)
		p.SetDrawColor(rgb("#8A8677"))
		p.Rect(x, y, wide, high, "D")
		p.font("B", 9)
		p.SetXY(x, y)
		p.CellFormat(wide, high, list[i/2].Number, "", 0, "C", false, 0, "")
	}
}
