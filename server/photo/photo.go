// Package photo takes in pictures of nameplates. Every picture is decoded, turned
// upright, made no larger than a plate needs, and written anew, so that nothing of
// the file that came in is kept: no place, no serial number, no hidden payload.
package photo

import (
	"bytes"
	"context"
	"encoding/binary"
	"image"
	"image/jpeg"
	_ "image/png" // pictures from disk
	"slices"

	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp" // pictures from newer phones
)

// MostBytes bounds the file that is taken in.
const MostBytes = 12 << 20

const (
	mostPixels = 20e6 // of what comes in, before any of it is decoded
	mostSide   = 2200 // of what is kept
	quality    = 86
)

// Refusal is why a picture was not taken in, in words for whoever sent it.
type Refusal string

func (r Refusal) Error() string { return string(r) }

// What can be wrong with a picture.
const (
	ErrKind Refusal = "That is no JPEG, PNG or WebP picture. Other kinds can be saved as JPEG first."
	ErrSize Refusal = "The picture has too many points: at most 20 million; made smaller first, it is taken."
	ErrTorn Refusal = "The picture is damaged and cannot be read."
)

// Picture is a clean picture: JPEG bytes and their size in pixels.
type Picture struct {
	JPEG          []byte
	Width, Height int
}

// one is held while a picture is decoded: each takes its memory. Others queue.
var one = make(chan struct{}, 1)

// Clean takes in the bytes of a file, one at a time; who no longer waits for it leaves the queue.
func Clean(ctx context.Context, file []byte) (Picture, error) {
	config, kind, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil || !slices.Contains([]string{"jpeg", "png", "webp"}, kind) {
		return Picture{}, ErrKind
	}
	if config.Width <= 0 || config.Height <= 0 || float64(config.Width)*float64(config.Height) > mostPixels {
		return Picture{}, ErrSize
	}
	select {
	case one <- struct{}{}:
		defer func() { <-one }()
	case <-ctx.Done():
		return Picture{}, ctx.Err()
	}
	source, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		return Picture{}, ErrTorn
	}
	turned := 1
	if kind == "jpeg" {
		turned = orientation(file)
	}
	upright := turn(shrink(source), turned)
	var out bytes.Buffer
	if err := jpeg.Encode(&out, upright, &jpeg.Options{Quality: quality}); err != nil {
		return Picture{}, ErrTorn
	}
	size := upright.Bounds().Size()
	return Picture{out.Bytes(), size.X, size.Y}, nil
}

// shrink draws a picture on white, no side longer than is kept.
func shrink(source image.Image) *image.RGBA {
	size := source.Bounds().Size()
	if long := max(size.X, size.Y); long > mostSide {
		size = image.Pt(max(1, size.X*mostSide/long), max(1, size.Y*mostSide/long))
	}
	to := image.NewRGBA(image.Rect(0, 0, size.X, size.Y))
	draw.Draw(to, to.Bounds(), image.White, image.Point{}, draw.Src)
	draw.ApproxBiLinear.Scale(to, to.Bounds(), source, source.Bounds(), draw.Over, nil)
	return to
}

// turn brings a picture upright from one of the eight orientations of Exif 2.3,
// 4.6.4.
func turn(source *image.RGBA, orientation int) *image.RGBA {
	if orientation < 2 || orientation > 8 {
		return source
	}
	w, h := source.Bounds().Dx(), source.Bounds().Dy()
	width, height := w, h
	if orientation >= 5 {
		width, height = h, w
	}
	to := image.NewRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			var fx, fy int
			switch orientation {
			case 2:
				fx, fy = w-1-x, y
			case 3:
				fx, fy = w-1-x, h-1-y
			case 4:
				fx, fy = x, h-1-y
			case 5:
				fx, fy = y, x
			case 6:
				fx, fy = y, h-1-x
			case 7:
				fx, fy = w-1-y, h-1-x
			case 8:
				fx, fy = w-1-y, x
			}
			copy(to.Pix[to.PixOffset(x, y):][:4], source.Pix[source.PixOffset(fx, fy):][:4])
		}
	}
	return to
}

// orientation finds the orientation tag of a JPEG's Exif segment, 1 where there is
// none (Exif 2.3, 4.5 and 4.6; tag 0x0112).
func orientation(file []byte) int {
	for at := 2; at+4 <= len(file) && file[at] == 0xFF; {
		marker, size := file[at+1], int(binary.BigEndian.Uint16(file[at+2:]))
		if marker == 0xDA || size < 2 || at+2+size > len(file) {
			return 1
		}
		segment := file[at+4 : at+2+size]
		if marker == 0xE1 && bytes.HasPrefix(segment, []byte("Exif\x00\x00")) {
			return tag(segment[6:])
		}
		at += 2 + size
	}
	return 1
}

func tag(tiff []byte) int {
	if len(tiff) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.BigEndian
	if tiff[0] == 'I' {
		order = binary.LittleEndian
	}
	first := int(order.Uint32(tiff[4:]))
	if first < 8 || first+2 > len(tiff) {
		return 1
	}
	for i := range int(order.Uint16(tiff[first:])) {
		entry := first + 2 + 12*i
		if entry+12 > len(tiff) {
			return 1
		}
		if order.Uint16(tiff[entry:]) == 0x0112 {
			return int(order.Uint16(tiff[entry+8:]))
		}
	}
	return 1
}
