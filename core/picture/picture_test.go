package picture_test

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/picture"
	"ubiquant/internal/testkit/drawn"
)

// found is how many of the parts that were drawn are there as boxes of their look, and which
// are not.
func found(s *drawn.Sheet, root *picture.Box) (n int, lost []string) {
	for _, want := range s.Made {
		var best *picture.Box
		share := 0.0
		root.Walk(func(b *picture.Box) {
			if v := b.Rect.Share(want.Rect); v > share || v == share && best != nil && best.Look != want.Look {
				best, share = b, v
			}
		})
		if best != nil && share >= 0.75 && (best.Look == want.Look) {
			n++
			continue
		}
		was := "nothing"
		if best != nil {
			was = fmt.Sprintf("%s at %v, %.2f", best.Look, best.Rect, share)
		}
		lost = append(lost, fmt.Sprintf("%s at %v: %s", want.Look, want.Rect, was))
	}
	return n, lost
}

func outline(b *picture.Box, depth int) string {
	way := "down"
	if b.Across {
		way = "across"
	}
	out := fmt.Sprintf("%s%s %v %s gap %d lines %d\n", strings.Repeat("  ", depth), b.Look, b.Rect, way, b.Gap, b.Lines)
	for _, p := range b.Parts {
		out += outline(p, depth+1)
	}
	return out
}

func TestDrawnPagesAreReadAsWhatWasDrawn(t *testing.T) {
	all, right := 0, 0
	for _, page := range drawn.Pages {
		s := page.Draw(t)
		root := picture.Read(s.Img)
		n, lost := found(s, root)
		all, right = all+len(s.Made), right+n
		t.Logf("%s: %d of %d", page.Name, n, len(s.Made))
		if !assert.GreaterOrEqual(t, n*10, len(s.Made)*8, "%s: %s", page.Name, strings.Join(lost, "\n")) || len(lost) > 0 {
			t.Log(strings.Join(lost, "\n"))
		}
	}
	t.Logf("%d of %d", right, all)
	assert.GreaterOrEqual(t, right*100, all*92, "of all parts that were drawn")
}

// What a picture is packed with changes little of what is read in it.
func TestAPictureThatLostSomethingReadsMuchTheSame(t *testing.T) {
	all, right := 0, 0
	for _, page := range drawn.Pages {
		s := page.Draw(t)
		var file bytes.Buffer
		require.NoError(t, jpeg.Encode(&file, s.Img, &jpeg.Options{Quality: 82}))
		img, format, err := picture.Decode(file.Bytes())
		require.NoError(t, err)
		assert.Equal(t, "jpeg", format)
		n, _ := found(s, picture.Read(img))
		t.Logf("%s: %d of %d", page.Name, n, len(s.Made))
		all, right = all+len(s.Made), right+n
	}
	t.Logf("%d of %d", right, all)
	assert.GreaterOrEqual(t, right*100, all*75)
}

// Whatever a picture shows: parts lie in what holds them, in their order, and reading twice
// reads the same.
func TestBoxesLieInWhatHoldsThem(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		s := drawn.New(t, rapid.IntRange(60, 500).Draw(rt, "w"), rapid.IntRange(60, 500).Draw(rt, "h"), 1, "#ffffff", "#222222")
		for range rapid.IntRange(0, 12).Draw(rt, "parts") {
			x, y := rapid.IntRange(0, s.Img.Rect.Dx()-2).Draw(rt, "x"), rapid.IntRange(0, s.Img.Rect.Dy()-2).Draw(rt, "y")
			w, h := rapid.IntRange(1, s.Img.Rect.Dx()-x).Draw(rt, "width"), rapid.IntRange(1, s.Img.Rect.Dy()-y).Draw(rt, "height")
			radius := rapid.IntRange(0, min(w, h)/2).Draw(rt, "radius")
			s.Fills(x, y, w, h, radius, drawn.RGB(rapid.SampledFrom([]string{"#eeeeee", "#335577", "#ffffff", "#c04020"}).Draw(rt, "colour")))
		}
		root := picture.Read(s.Img)
		root.Walk(func(b *picture.Box) {
			for i, p := range b.Parts {
				assert.True(rt, b.Rect.Holds(p.Rect), "%s at %v in %s at %v", p.Look, p.Rect, b.Look, b.Rect)
				if i == 0 {
					continue
				}
				last := b.Parts[i-1].Rect
				if b.Across {
					assert.LessOrEqual(rt, last.Right(), p.Rect.X)
				} else {
					assert.LessOrEqual(rt, last.Bottom(), p.Rect.Y)
				}
			}
		})
		assert.Equal(rt, outline(root, 0), outline(picture.Read(s.Img), 0))
	})
}

func TestFilesThatAreNoPictureAreRefusedWithTheReason(t *testing.T) {
	small := image.NewNRGBA(image.Rect(0, 0, 20, 20))
	tiny, err := picture.Clean(small)
	require.NoError(t, err)
	whole, err := picture.Clean(image.NewNRGBA(image.Rect(0, 0, 200, 200)))
	require.NoError(t, err)
	for _, c := range []struct {
		file []byte
		says string
	}{
		{nil, "the file is empty"},
		{[]byte("<svg xmlns='http://www.w3.org/2000/svg'/>"), "accepted: PNG, JPEG, WebP"},
		{tiny, "20 × 20"},
		{whole[:len(whole)/2], "breaks off"},
		{make([]byte, picture.MaxBytes+1), "up to 8 MB"},
	} {
		_, _, err := picture.Decode(c.file)
		require.Error(t, err)
		assert.Contains(t, err.Error(), c.says)
	}
}

func FuzzDecode(f *testing.F) {
	whole, _ := picture.Clean(image.NewNRGBA(image.Rect(0, 0, 64, 64)))
	f.Add(whole)
	f.Fuzz(func(t *testing.T, file []byte) {
		img, _, err := picture.Decode(file)
		if err == nil && img.Rect.Dx()*img.Rect.Dy() < 300_000 {
			picture.Read(img)
		}
	})
}
