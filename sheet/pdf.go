package sheet

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"brackmoor/core/rule"
	"brackmoor/core/wiring"
)

const (
	margin  = 14.0
	body    = 9.0
	leading = 4.3

	footerSize    = 7.5
	footerLeading = 3.4
)

// paperOf is the paper of a name, A4 where it is none.
func paperOf(name string) string {
	if name != "Letter" {
		return "A4"
	}
	return name
}

// fonts gives a file the letters that carry µ and Ω.
func fonts(p *page) {
	p.AddUTF8FontFromBytes("go", "", goregular.TTF)
	p.AddUTF8FontFromBytes("go", "B", gobold.TTF)
}

// newPage begins a file on a paper, with a title and what stands at the foot of every page.
func newPage(paper, title, says string, at time.Time) *page {
	p := &page{Fpdf: fpdf.New("P", "mm", paper, ""), paper: paper}
	fonts(p)
	p.SetMargins(margin, margin, margin)
	p.font("", footerSize)
	footer := fmt.Sprintf("%s   Page 00. Printed %s.", says, at.Format("2006-01-02 15:04"))
	p.foot = float64(p.lines(footer, p.width()))*footerLeading + 8
	p.SetAutoPageBreak(true, p.foot+1)
	p.SetTitle(title, true)
	p.SetCreationDate(at)
	p.SetModificationDate(at)
	p.SetFooterFunc(func() {
		p.SetY(1.5 - p.foot)
		p.font("", footerSize)
		footer := fmt.Sprintf("%s   Page %d. Printed %s.", says, p.PageNo(), at.Format("2006-01-02 15:04"))
		p.MultiCell(0, footerLeading, footer, "", "L", false)
	})
	return p
}

// PDF writes the job sheet. paper is "A4" or "Letter"; at is printed on it.
func PDF(s Sheet, paper string, at time.Time) ([]byte, error) {
	p := newPage(paperOf(paper), "Job sheet: "+s.Machine, s.Footer, at)
	p.AddPage()
	p.sheet(s)
	return p.bytes()
}

func (p *page) bytes() ([]byte, error) {
	var out bytes.Buffer
	err := p.Output(&out)
	return out.Bytes(), err
}

// page adds the few ways in which the sheet writes to a page. Foot is what its footer takes, in
// mm from the lower edge.
type page struct {
	*fpdf.Fpdf
	paper string
	foot  float64
}

func (p *page) font(style string, size float64) { p.SetFont("go", style, size) }

func (p *page) width() float64 {
	w, _ := p.GetPageSize()
	return w - 2*margin
}

func (p *page) colour(hex string) {
	p.SetTextColor(rgb(hex))
}

func rgb(hex string) (r, g, b int) {
	value, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 32)
	if err != nil {
		return 0, 0, 0
	}
	return int(value >> 16), int(value >> 8 & 255), int(value & 255)
}

func (p *page) sheet(s Sheet) {
	title := s.Machine
	if s.Motor != "" {
		title += " · " + s.Motor
	}
	p.font("B", 16)
	p.MultiCell(0, 7, title, "", "L", false)
	p.font("", body)
	p.MultiCell(0, leading, "Job sheet: "+s.Route+s.behind()+". "+s.Shop+", "+s.Supply, "", "L", false)
	p.Ln(2)
	p.headline(s.Headline)
	// What is needed at the machine comes first, workings and comparisons after.
	first := min(atMachine, len(s.Sections))
	for _, section := range s.Sections[:first] {
		p.section(section)
	}
	if s.Box != nil {
		p.drawing(*s.Box)
	}
	p.ticks("Is this mine to do?", s.Mine)
	p.verdicts("Verdicts", s.Verdicts)
	p.verdicts("Cautions", s.Cautions)
	for _, section := range s.Sections[first:] {
		p.section(section)
	}
	for _, t := range s.Tables {
		p.table(t)
	}
	for _, d := range s.Drawings {
		p.across(d)
	}
}

// atMachine is how many sections are needed at the machine: the parts.
const atMachine = 1

// ticks are the lines of a checklist, each with its box, on one page.
func (p *page) ticks(title string, list []Tick) {
	p.font("", body)
	lines := 0
	for _, t := range list {
		lines += p.lines(t.Says, p.width()-6)
	}
	p.heading(title, float64(lines)*leading)
	p.font("", body)
	for _, t := range list {
		x, y := p.GetXY()
		p.SetDrawColor(rgb("#1D2522"))
		p.Rect(x+0.5, y+0.6, 3, 3, "D")
		if t.Ticked {
			p.Line(x+0.5, y+0.6, x+3.5, y+3.6)
			p.Line(x+3.5, y+0.6, x+0.5, y+3.6)
		}
		p.SetX(x + 6)
		p.MultiCell(0, leading, t.Says, "", "L", false)
	}
}

// lines is how many lines a text takes in a width in mm, in the font that is set.
func (p *page) lines(text string, width float64) int {
	return max(1, len(p.SplitText(text, width-2)))
}

// room begins a new page where there is none left for a height in mm.
func (p *page) room(height float64) {
	_, h := p.GetPageSize()
	if p.GetY()+height > h-p.foot-1 {
		p.AddPage()
	}
}

// heading writes a heading with room for what follows it, so that it is never parted from its
// first lines.
func (p *page) heading(text string, next float64) {
	p.font("B", 11)
	p.room(2 + float64(p.lines(text, p.width()))*5.5 + 0.8 + next)
	p.Ln(2)
	p.colour("#21413A")
	p.MultiCell(0, 5.5, text, "B", "L", false)
	p.colour("#1D2522")
	p.Ln(0.8)
}

func (p *page) headline(rows []rule.Row) {
	w := p.width() / float64(len(rows))
	x, y := p.GetXY()
	p.SetFillColor(rgb("#21413A"))
	p.Rect(x, y, p.width(), 21, "F")
	for i, row := range rows {
		p.SetXY(x+w*float64(i)+2, y+1.5)
		p.colour("#E9D3A6")
		p.font("", 7.5)
		p.CellFormat(w-3, 4, row.Label, "", 2, "L", false, 0, "")
		p.colour("#FFFFFF")
		size := 13.0
		p.font("B", size)
		for p.GetStringWidth(row.Value) > w-5 && size > 7 {
			size -= 0.5
			p.font("B", size)
		}
		p.CellFormat(w-3, 6, row.Value, "", 2, "L", false, 0, "")
		p.font("", 6.8)
		p.MultiCell(w-3, 2.9, row.Remark, "", "L", false)
	}
	p.colour("#1D2522")
	p.SetXY(x, y+24)
}

func (p *page) section(s rule.Section) {
	for i, row := range s.Rows {
		value := row.Value
		if row.Assumed {
			value += " *"
		}
		p.font("", body)
		tall := p.lines(row.Label, 40)
		p.font("B", body)
		tall = max(tall, p.lines(value, 52))
		p.font("", 8)
		tall = max(tall, p.lines(row.Remark, p.width()-95))
		height := float64(tall)*leading + 0.4
		if i == 0 {
			p.heading(s.Title, height)
		}
		p.room(height)
		x, y := p.GetXY()
		p.font("", body)
		p.MultiCell(40, leading, row.Label, "", "L", false)
		p.SetXY(x+41, y)
		p.font("B", body)
		p.MultiCell(52, leading, value, "", "L", false)
		p.SetXY(x+95, y)
		p.font("", 8)
		p.MultiCell(0, leading, row.Remark, "", "L", false)
		p.SetXY(x, y+height)
	}
	for _, row := range s.Rows {
		if row.Assumed {
			p.font("", 7.5)
			p.MultiCell(0, 3.6, "* assumed, or rests on assumed figures: replace by a reading.", "", "L", false)
			return
		}
	}
}

// table prints columns of equal width, the first and those of long texts wider; an empty
// cell is a box to write in.
func (p *page) table(t rule.Table) {
	title := t.Title
	if t.Source != "" {
		title += ": " + t.Source
	}
	share := make([]float64, len(t.Head))
	whole := 0.0
	for i, head := range t.Head {
		longest := 0
		for _, row := range t.Rows {
			longest = max(longest, min(len([]rune(row[i])), 40))
		}
		if longest == 0 {
			longest = 10 // a box to write in
		}
		share[i] = float64(max(longest, len([]rune(head)), 7))
		whole += share[i]
	}
	tall := func(row []string, style string) (height float64) {
		p.font(style, 8)
		for i, text := range row {
			height = max(height, float64(p.lines(text, p.width()*share[i]/whole))*3.7+1.4)
		}
		return height
	}
	first := tall(t.Head, "B")
	if len(t.Rows) > 0 {
		first += tall(t.Rows[0], "")
	}
	p.heading(title, first)
	line := func(row []string, style string) {
		height := tall(row, style)
		p.room(height)
		x, y := p.GetXY()
		p.SetDrawColor(rgb("#8A8677"))
		for i, text := range row {
			w := p.width() * share[i] / whole
			p.Rect(x, y, w, height, "D")
			p.SetXY(x, y+0.7)
			p.MultiCell(w, 3.7, text, "", "L", false)
			x += w
		}
		left, _, _, _ := p.GetMargins()
		p.SetXY(left, y+height)
	}
	line(t.Head, "B")
	for _, row := range t.Rows {
		line(row, "")
	}
	p.Ln(1)
}

var severityColour = map[rule.Severity]string{rule.Stop: "#B3261E", rule.Caution: "#855800", rule.Note: "#2F5D75"}

func (p *page) verdicts(title string, list []rule.Verdict) {
	if len(list) == 0 {
		return
	}
	for i, v := range list {
		text := v.Says
		if v.Do != "" {
			text += " " + v.Do
		}
		if v.Cleared != "" {
			text += " Cleared: " + v.Cleared + "."
		}
		p.font("B", body)
		height := float64(p.lines(v.Title, p.width()-17)) * leading
		p.font("", body)
		height += float64(p.lines(text, p.width()-17))*leading + 0.8
		if i == 0 {
			p.heading(title, height)
		}
		p.room(height)
		x := p.GetX()
		p.font("B", body)
		p.colour(severityColour[v.Severity])
		p.CellFormat(17, leading, strings.ToUpper(string(v.Severity)), "", 0, "L", false, 0, "")
		p.colour("#1D2522")
		p.MultiCell(0, leading, v.Title, "", "L", false)
		p.SetX(x + 17)
		p.font("", body)
		p.MultiCell(0, leading, text, "", "L", false)
		p.Ln(0.8)
	}
}

// fullWidth is the width of a drawing that takes the whole page; smaller ones keep
// the same size of lettering.
const fullWidth = 860

// across gives a drawing a page of its own, laid across.
func (p *page) across(d wiring.Drawing) {
	p.AddPageFormat("L", p.GetPageSizeStr(p.paper))
	p.font("B", body+1)
	p.MultiCell(0, leading, d.Title, "", "L", false)
	p.Ln(1)
	_, high := p.GetPageSize()
	p.scaled(d, min(p.width()/d.Width, (high-p.GetY()-p.foot-2)/d.Height, mostScale))
}

// mostScale is how large a drawing's unit is at most, in mm.
const mostScale = 0.3

// drawing renders a drawing in the run of a page.
func (p *page) drawing(d wiring.Drawing) {
	scale := p.width() / max(d.Width, fullWidth)
	p.room(d.Height * scale)
	p.scaled(d, scale)
}

func (p *page) scaled(d wiring.Drawing, scale float64) {
	x0, y0 := p.GetXY()
	at := func(q wiring.Point) (float64, float64) { return x0 + q.X*scale, y0 + q.Y*scale }
	for _, item := range d.Items {
		pen := pens[item.Class]
		p.SetLineWidth(max(pen.width, 1) * scale)
		p.SetDrawColor(rgb(pen.colour))
		var dash []float64
		for _, v := range pen.dashes {
			dash = append(dash, v*scale)
		}
		p.SetDashPattern(dash, 0)
		switch item.Kind {
		case "line":
			for i := 1; i < len(item.Points); i++ {
				x1, y1 := at(item.Points[i-1])
				x2, y2 := at(item.Points[i])
				p.Line(x1, y1, x2, y2)
			}
		case "rect":
			x, y := at(item.Points[0])
			x2, y2 := at(item.Points[1])
			p.SetFillColor(rgb(pen.inside()))
			p.Rect(x, y, x2-x, y2-y, "FD")
		case "circle":
			x, y := at(item.Points[0])
			p.SetFillColor(rgb(pen.inside()))
			p.Circle(x, y, item.Radius*scale, "FD")
		case "text":
			p.label(item, at, scale)
		}
	}
	p.SetDashPattern(nil, 0)
	p.SetLineWidth(0.2)
	p.colour("#1D2522")
	p.SetXY(x0, y0+d.Height*scale+1)
}

func (p *page) label(item wiring.Item, at func(wiring.Point) (float64, float64), scale float64) {
	size, style := 13.0, "B"
	p.colour("#1D2522")
	switch item.Class {
	case "small":
		size, style = 11.5, ""
	case "mark", "number":
		size, style = 9.5, ""
	case "caution", "stop":
		size = 11.5
		p.colour(severityColour[rule.Severity(item.Class)])
	}
	p.font(style, size*scale/0.3528)
	x, y := at(item.Points[0])
	switch width := p.GetStringWidth(item.Text); item.Anchor {
	case "middle":
		x -= width / 2
	case "end":
		x -= width
	}
	p.Text(x, y, item.Text)
}
