package photo_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/server/photo"
)

// quartered is a picture whose four quarters are told apart: red, green, blue and
// white, from the upper left by rows.
func quartered(w, h int) *image.RGBA {
	m := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{255, 255, 255, 255}
			switch {
			case x < w/2 && y < h/2:
				c = color.RGBA{255, 0, 0, 255}
			case y < h/2:
				c = color.RGBA{0, 255, 0, 255}
			case x < w/2:
				c = color.RGBA{0, 0, 255, 255}
			}
			m.SetRGBA(x, y, c)
		}
	}
	return m
}

// withExif puts an Exif segment with an orientation and a place into a JPEG.
func withExif(t *testing.T, file []byte, orientation uint16, order binary.ByteOrder) []byte {
	t.Helper()
	var tiff bytes.Buffer
	tiff.WriteString(map[bool]string{true: "II", false: "MM"}[order == binary.LittleEndian])
	for _, v := range []any{uint16(42), uint32(8), uint16(2), uint16(0x010F), uint16(2), uint32(4), []byte("GPS\x00"),
		uint16(0x0112), uint16(3), uint32(1), orientation, uint16(0), uint32(0)} {
		require.NoError(t, binary.Write(&tiff, order, v))
	}
	tiff.WriteString("latitude 51.4778")
	segment := append([]byte("Exif\x00\x00"), tiff.Bytes()...)
	head := []byte{0xFF, 0xD8, 0xFF, 0xE1, byte((len(segment) + 2) >> 8), byte(len(segment) + 2)}
	return append(append(head, segment...), file[2:]...)
}

func encoded(t *testing.T, m image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, m, &jpeg.Options{Quality: 95}))
	return b.Bytes()
}

// corners are the colours in the four quarters, as letters.
func corners(t *testing.T, p photo.Picture) string {
	t.Helper()
	m, err := jpeg.Decode(bytes.NewReader(p.JPEG))
	require.NoError(t, err)
	assert.Equal(t, image.Pt(p.Width, p.Height), m.Bounds().Size())
	name := func(x, y int) string {
		r, g, b, _ := m.At(x, y).RGBA()
		switch {
		case r > 0xC000 && g > 0xC000 && b > 0xC000:
			return "w"
		case r > 0xC000:
			return "r"
		case g > 0xA000:
			return "g"
		}
		return "b"
	}
	w, h := p.Width, p.Height
	return name(w/4, h/4) + name(3*w/4, h/4) + name(w/4, 3*h/4) + name(3*w/4, 3*h/4)
}

// Each orientation of Exif is brought upright, and nothing of the segment is left.
func TestPicturesComeUprightAndBare(t *testing.T) {
	plain := encoded(t, quartered(64, 48))
	for orientation, want := range map[uint16]string{1: "rgbw", 2: "grwb", 3: "wbgr", 4: "bwrg", 5: "rbgw", 6: "brwg",
		7: "wgbr", 8: "gwrb"} {
		for _, order := range []binary.ByteOrder{binary.BigEndian, binary.LittleEndian} {
			p, err := photo.Clean(context.Background(), withExif(t, plain, orientation, order))
			require.NoError(t, err)
			assert.Equal(t, want, corners(t, p), "orientation %d", orientation)
			assert.Equal(t, orientation >= 5, p.Height > p.Width)
			assert.NotContains(t, string(p.JPEG), "latitude")
			assert.NotContains(t, string(p.JPEG), "Exif")
			assert.NotContains(t, string(p.JPEG), "GPS")
		}
	}
}

func TestLargePicturesAreMadeSmaller(t *testing.T) {
	p, err := photo.Clean(context.Background(), encoded(t, quartered(3000, 1500)))
	require.NoError(t, err)
	assert.Equal(t, 2200, p.Width)
	assert.Equal(t, 1100, p.Height)
	assert.Equal(t, "rgbw", corners(t, p))
}

func TestPNGIsTaken(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, quartered(40, 40)))
	p, err := photo.Clean(context.Background(), b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, "rgbw", corners(t, p))
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	whole := encoded(t, quartered(640, 480))
	for name, c := range map[string]struct {
		file []byte
		want error
	}{
		"nothing": {nil, photo.ErrKind},
		"text":    {[]byte("<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"), photo.ErrKind},
		"gif":     {[]byte("GIF89a\x01\x00\x01\x00\x80\x00\x00"), photo.ErrKind},
		"torn":    {whole[:len(whole)*2/3], photo.ErrTorn},
		"a PNG that claims to be " +
			"vast": {append([]byte("\x89PNG\r\n\x1a\n"+
			"\x00\x00\x00\rIHDR\x00\x01\x00\x00\x00\x01\x00\x00\x08\x02\x00\x00\x00"),
			0xEC, 0xD5, 0x0A, 0x29), nil},
		// 20,001 × 1,000 points in a file that is small: refused by its head alone.
		"too many points": {
			encodedPNG(t, image.NewPaletted(image.Rect(0, 0, 20_001, 1000), color.Palette{color.White})),
			photo.ErrSize,
		},
	} {
		_, err := photo.Clean(context.Background(), c.file)
		require.Error(t, err, name)
		if c.want != nil {
			assert.ErrorIs(t, err, c.want, name)
		}
	}
}

// Whoever no longer waits leaves the queue.
func TestTheQueueIsLeft(t *testing.T) {
	ctx, leave := context.WithCancel(t.Context())
	leave()
	for range 50 {
		if _, err := photo.Clean(ctx, encoded(t, quartered(1600, 1200))); err != nil {
			require.ErrorIs(t, err, context.Canceled)
			return
		}
	}
	t.Fatal("nobody left")
}

func encodedPNG(t *testing.T, m image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, m))
	return b.Bytes()
}

func FuzzClean(f *testing.F) {
	var b bytes.Buffer
	if err := jpeg.Encode(&b, quartered(16, 8), nil); err != nil {
		f.Fatal(err)
	}
	f.Add(b.Bytes())
	f.Add([]byte("\xff\xd8\xff\xe1\x00\x08Exif\x00\x00"))
	f.Fuzz(func(t *testing.T, file []byte) {
		if p, err := photo.Clean(context.Background(), file); err == nil && len(p.JPEG) == 0 {
			t.Fatal("a picture of nothing")
		}
	})
}
