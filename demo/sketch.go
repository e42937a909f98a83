package demo

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"math"
)

// SketchName is the file name of Sketch.
const SketchName = "saltern-14-january.png"

// Sketch is a picture that goes with a thread: a night's levels at one gauge,
// with the hours in which the sensor was silent hatched.
func Sketch() ([]byte, error) {
	const w, h, from, to = 720, 220, 410, 492
	ink, rule, curve := color.RGBA{0x22, 0x25, 0x2B, 255}, color.RGBA{0xDD, 0xD6, 0xC8, 255}, color.RGBA{0x0F, 0x6B, 0x66, 255}
	p := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(p, p.Bounds(), image.NewUniform(color.RGBA{0xFA, 0xF7, 0xF0, 255}), image.Point{}, draw.Src)
	for y := 30; y < h-20; y += 40 {
		for x := 30; x < w-10; x++ {
			p.Set(x, y, rule)
		}
	}
	for x := 30; x < w-10; x++ {
		p.Set(x, h-20, ink)
		if (x-30)%60 == 0 {
			for y := h - 20; y < h-14; y++ {
				p.Set(x, y, ink)
			}
		}
		if x >= from && x <= to {
			for y := 30; y < h-20; y++ {
				if (x+y)%9 == 0 {
					p.Set(x, y, ink)
				}
			}
			continue
		}
		level := h/2 - int(70*math.Sin(float64(x-60)/105)+9*math.Sin(float64(x)/23))
		for y := level - 1; y <= level+1; y++ {
			p.Set(x, y, curve)
		}
	}
	for y := 30; y < h-20; y++ {
		p.Set(30, y, ink)
	}
	var b bytes.Buffer
	err := png.Encode(&b, p)
	return b.Bytes(), err
}
