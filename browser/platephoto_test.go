package browser

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math"
	"math/rand/v2"
	"strings"

	"golang.org/x/image/draw"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/gomedium"
	"golang.org/x/image/font/gofont/gomono"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/f64"
	"golang.org/x/image/math/fixed"

	"brackmoor/core/plate"
	"brackmoor/core/quantity"
)

// platePhoto is a photo of a plate that nobody made: how it is made and worn, and what it truly says.
type platePhoto struct {
	kind, worn string
	jpeg       []byte
	says       map[string]string // field of the plate, as it would be typed
}

// What plates are made of, from the ground to the ink, and what a photo of one suffers.
var (
	plateKinds = []string{"printed", "engraved", "enamel"}
	plateWorn  = []string{"clean", "tilt", "glare", "blur", "stains"}
)

// plateWords draws what a plate says: the fields as they would be typed, and the lines that it has them in, cell by
// cell. Cells with a head above them are one line of heads and one of figures.
func plateWords(r *rand.Rand) (says map[string]string, lines [][]string) {
	pick := func(list ...string) string { return list[r.IntN(len(list))] }
	poles := 2 * (1 + r.IntN(3))
	says = map[string]string{}
	hp := r.IntN(2) == 0
	if hp {
		says["output"] = pick("1", "1.5", "2", "3", "5", "7.5", "10") + " hp"
		says["volts"], says["hertz"] = "230/460", "60"
		rpm, amps, _ := motorFigures(r, says["output"], 460, 60, poles)
		says["rpm"], says["amps"] = rpm, asTyped(2*amps)+"/"+asTyped(amps)
		says["service_factor"] = pick("1", "1.15", "1.25")
		says["code"] = pick("H", "J", "K", "L")
	} else {
		says["output"] = pick("0.55", "0.75", "1.1", "1.5", "2.2", "3", "4", "5.5") + " kW"
		says["volts"], says["hertz"] = "230/400", "50"
		rpm, amps, powerFactor := motorFigures(r, says["output"], 400, 50, poles)
		says["rpm"], says["amps"] = rpm, asTyped(math.Sqrt(3)*amps)+"/"+asTyped(amps)
		says["power_factor"] = powerFactor
	}
	figure, unit, _ := strings.Cut(says["output"], " ")
	serial := fmt.Sprintf("%s %05d", pick("NO.", "SERIAL", "Nr."), r.IntN(100000))
	type cell struct{ head, value, joined string }
	cells := []cell{
		{map[string]string{"hp": "HP", "kW": "kW"}[unit], figure, ""},
		{pick("VOLTS", "V"), says["volts"], says["volts"] + " V"},
		{pick("AMPS", "A"), says["amps"], says["amps"] + " A"},
		{map[bool]string{true: "RPM", false: pick("RPM", "1/min")}[hp], says["rpm"], ""},
		{pick("HZ", "Hz"), says["hertz"], says["hertz"] + " Hz"},
	}
	if hp {
		cells = append(cells, cell{"S.F.", says["service_factor"], ""}, cell{"CODE", says["code"], ""})
	} else {
		cells = append(cells, cell{pick("COS", "P.F."), says["power_factor"], ""})
	}
	lines = append(lines, []string{pick("INDUCTION MOTOR", "3 PHASE MOTOR", "THREE PHASE INDUCTION MOTOR")})
	switch r.IntN(3) {
	case 0: // heads above their figures
		for i := 0; i < len(cells); i += 4 {
			var heads, values []string
			for _, c := range cells[i:min(i+4, len(cells))] {
				heads, values = append(heads, c.head), append(values, c.value)
			}
			lines = append(lines, heads, values)
		}
	case 1: // each behind its word
		for i := 0; i < len(cells); i += 2 {
			var line []string
			for _, c := range cells[i:min(i+2, len(cells))] {
				line = append(line, c.head+" "+c.value)
			}
			lines = append(lines, line)
		}
	default: // each before its unit, where it has one
		for i := 0; i < len(cells); i += 3 {
			var line []string
			for _, c := range cells[i:min(i+3, len(cells))] {
				if c.joined == "" {
					c.joined = c.head + " " + c.value
				}
				line = append(line, c.joined)
			}
			lines = append(lines, line)
		}
	}
	return says, append(lines, []string{serial})
}

// motorFigures are the speed, the amps at its upper volts and the power factor that a motor of an output may well have:
// of usual slip and efficiency, give or take a little. Figures thrown together come to motors of more than their input.
func motorFigures(
	r *rand.Rand,
	output string,
	volts, hertz float64,
	poles int,
) (rpm string, amps float64, powerFactor string) {
	watts, err := quantity.ParsePower(output)
	if err != nil {
		panic(err)
	}
	about := func(value float64) float64 { return value * (0.97 + 0.06*r.Float64()) }
	share := float64(71+r.IntN(9)) / 100
	_, efficiency := plate.Usual(watts, poles)
	amps = watts / (math.Sqrt(3) * volts * share * about(efficiency))
	speed := 120 * hertz / float64(poles) * (1 - about(plate.UsualSlip(watts, hertz, poles)))
	return fmt.Sprintf("%.0f", speed), math.Round(10*amps) / 10, fmt.Sprintf("%.2f", share)
}

// asTyped is a figure with one place behind its point, none where that is nought.
func asTyped(value float64) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", value), ".0") }

const plateWide, plateHigh = 1200, 760

// drawPlate draws a photo of a plate of a kind, worn in a way.
func drawPlate(r *rand.Rand, kind, worn string) platePhoto {
	says, lines := plateWords(r)
	ground, ink := plateColours(r, kind)
	plate := image.NewRGBA(image.Rect(0, 0, plateWide, plateHigh))
	draw.Draw(plate, plate.Bounds(), image.NewUniform(ground), image.Point{}, draw.Src)
	if kind == "engraved" {
		for y := range plateHigh { // brushed: every line of it shines otherwise
			shade := uint8(r.IntN(26))
			draw.Draw(
				plate,
				image.Rect(0, y, plateWide, y+1),
				image.NewUniform(color.RGBA{A: shade}),
				image.Point{},
				draw.Over,
			)
		}
	}
	faces := [][]byte{goregular.TTF, gobold.TTF, gomedium.TTF, gomono.TTF}
	face := faces[r.IntN(len(faces))]
	step := (plateHigh - 110) / len(lines)
	for i, line := range lines {
		size := min(float64(step)*0.62, 62)
		if i == 0 || i == len(lines)-1 {
			size *= 0.7
		}
		wide := (plateWide - 120) / len(line)
		for c, text := range line {
			at := image.Pt(70+c*wide, 70+i*step+step/2)
			if kind == "engraved" { // the far edge of the cut catches the light
				letters(plate, face, size, at.Add(image.Pt(2, 2)), color.RGBA{250, 250, 245, 255}, wide-20, text)
			}
			letters(plate, face, size, at, ink, wide-20, text)
		}
		if i > 0 && r.IntN(2) == 0 {
			y := 70 + i*step
			draw.Draw(plate, image.Rect(50, y, plateWide-50, y+3), image.NewUniform(ink), image.Point{}, draw.Src)
		}
	}
	for _, x := range []int{28, plateWide - 28} {
		for _, y := range []int{28, plateHigh - 28} {
			disc(plate, image.Pt(x, y), 14, color.RGBA{90, 88, 84, 255})
		}
	}
	photo := setUp(r, plate, worn)
	var out bytes.Buffer
	if err := jpeg.Encode(&out, photo, &jpeg.Options{Quality: 70 + r.IntN(25)}); err != nil {
		panic(err)
	}
	return platePhoto{kind, worn, out.Bytes(), says}
}

func plateColours(r *rand.Rand, kind string) (ground, ink color.RGBA) {
	switch kind {
	case "printed":
		g := uint8(200 + r.IntN(50))
		return color.RGBA{g, g, g - 6, 255}, color.RGBA{25, 25, 30, 255}
	case "engraved":
		return color.RGBA{188, 186, 180, 255}, color.RGBA{88, 84, 80, 255}
	}
	grounds := []color.RGBA{{26, 44, 92, 255}, {24, 24, 26, 255}, {20, 70, 48, 255}, {120, 26, 24, 255}}
	return grounds[r.IntN(len(grounds))], color.RGBA{232, 228, 214, 255}
}

// letters writes a text with its middle at a height, narrower where it has no room.
func letters(on *image.RGBA, ttf []byte, size float64, at image.Point, ink color.Color, room int, text string) {
	parsed, err := opentype.Parse(ttf)
	if err != nil {
		panic(err)
	}
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: size, DPI: 72})
	if err != nil {
		panic(err)
	}
	if wide := font.MeasureString(face, text).Ceil(); wide > room {
		letters(on, ttf, size*float64(room)/float64(wide+2), at, ink, room, text)
		return
	}
	pen := font.Drawer{Dst: on, Src: image.NewUniform(ink), Face: face}
	pen.Dot = fixed.P(at.X, at.Y+int(size*0.35))
	pen.DrawString(text)
}

func disc(on *image.RGBA, at image.Point, radius int, ink color.RGBA) {
	pen := image.NewUniform(ink)
	for y := -radius; y <= radius; y++ {
		for x := -radius; x <= radius; x++ {
			if x*x+y*y <= radius*radius {
				point := image.Rect(at.X+x, at.Y+y, at.X+x+1, at.Y+y+1)
				draw.Draw(on, point, pen, image.Point{}, draw.Over)
			}
		}
	}
}

// setUp sets a plate on the motor that it is riveted to, as a hand takes it with a phone.
func setUp(r *rand.Rand, plate *image.RGBA, worn string) image.Image {
	photo := image.NewRGBA(image.Rect(0, 0, 1600, 1200))
	paint := uint8(50 + r.IntN(80))
	draw.Draw(
		photo,
		photo.Bounds(),
		image.NewUniform(color.RGBA{paint, paint + 12, paint + 4, 255}),
		image.Point{},
		draw.Src,
	)
	angle := (r.Float64() - 0.5) * 0.03
	if worn == "tilt" {
		angle = (0.05 + 0.12*r.Float64()) * []float64{-1, 1}[r.IntN(2)]
	}
	lean := (r.Float64() - 0.5) * 0.06
	sin, cos := math.Sincos(angle)
	scale := 0.95 + 0.2*r.Float64()
	a, b, c, d := scale*cos, -scale*sin+lean, scale*sin, scale*cos
	x0 := 800 - a*plateWide/2 - b*plateHigh/2
	y0 := 600 - c*plateWide/2 - d*plateHigh/2
	draw.BiLinear.Transform(photo, f64.Aff3{a, b, x0, c, d, y0}, plate, plate.Bounds(), draw.Over, nil)
	if worn == "stains" {
		for range 12 {
			at := image.Pt(250+r.IntN(1100), 250+r.IntN(700))
			disc(photo, at, 10+r.IntN(50), color.RGBA{20, 16, 8, uint8(40 + r.IntN(70))})
		}
	}
	fade := 0.35 * r.Float64() // the light comes from one side
	var glares []image.Point
	if worn == "glare" {
		glares = []image.Point{{400 + r.IntN(800), 350 + r.IntN(500)}, {400 + r.IntN(800), 350 + r.IntN(500)}}
	}
	for y := range 1200 {
		for x := range 1600 {
			p := photo.PixOffset(x, y)
			light, shine := 1-fade*float64(x)/1600, 0.0
			for _, g := range glares {
				dx, dy := float64(x-g.X)/260, float64(y-g.Y)/120
				shine += 150 * math.Exp(-dx*dx-dy*dy)
			}
			grain := r.NormFloat64() * 5
			for i := range 3 {
				photo.Pix[p+i] = uint8(max(0, min(255, float64(photo.Pix[p+i])*light+shine+grain)))
			}
		}
	}
	if worn == "blur" {
		for range 1 + r.IntN(2) {
			photo = softened(photo)
		}
	}
	return photo
}

// softened is a picture out of focus: as if it had two fifths of its points each way.
func softened(from *image.RGBA) *image.RGBA {
	size := from.Bounds().Size()
	small := image.NewRGBA(image.Rect(0, 0, size.X*2/5, size.Y*2/5))
	draw.CatmullRom.Scale(small, small.Bounds(), from, from.Bounds(), draw.Src, nil)
	out := image.NewRGBA(from.Bounds())
	draw.BiLinear.Scale(out, out.Bounds(), small, small.Bounds(), draw.Src, nil)
	return out
}
