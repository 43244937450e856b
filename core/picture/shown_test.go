package picture_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/picture"
)

func pngOf(t *testing.T, img image.Image) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, img))
	return out.Bytes()
}

func TestAPictureForAScreenStaysWhatItIs(t *testing.T) {
	img := image.NewNRGBA(image.Rect(0, 0, 8, 6))
	img.SetNRGBA(2, 2, color.NRGBA{200, 10, 10, 255}) // the rest is see-through
	kept, err := picture.ForScreen(pngOf(t, img), "Red dot.PNG")
	require.NoError(t, err)
	require.NoError(t, kept.Check())
	assert.Equal(t, "red-dot-"+kept.ID+".png", kept.Name())
	data, kind, err := kept.File()
	require.NoError(t, err)
	assert.Equal(t, "image/png", kind)
	assert.Equal(t, len(data), kept.Bytes())
	back, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	_, _, _, a := back.At(0, 0).RGBA()
	assert.Zero(t, a, "what is see-through stays so")

	var photo bytes.Buffer
	require.NoError(t, jpeg.Encode(&photo, img, nil))
	kept, err = picture.ForScreen(photo.Bytes(), "")
	require.NoError(t, err)
	require.NoError(t, kept.Check())
	assert.True(t, strings.HasPrefix(kept.Name(), "picture-") && strings.HasSuffix(kept.Name(), ".jpg"), kept.Name())
}

func TestWhatIsNoPictureForAScreenSaysWhy(t *testing.T) {
	wide := pngOf(t, image.NewGray(image.Rect(0, 0, picture.MaxSide+1, 1)))
	whole := pngOf(t, image.NewGray(image.Rect(0, 0, 60, 60)))
	for why, file := range map[string][]byte{
		"no picture that can be read": []byte("<svg/>"),
		"up to 12000 a side":          wide,
		"breaks off or is damaged":    whole[:len(whole)-20],
		"accepted: up to 8 MB":        make([]byte, picture.MaxBytes+1),
	} {
		_, err := picture.ForScreen(file, "x")
		assert.ErrorContains(t, err, why)
	}
}

// Whatever a picture is called, its address names it, and is a plain path.
func TestAnAddressNamesItsPicture(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		k := picture.Kept{ID: rapid.StringMatching(`[0-9a-f]{16}`).Draw(t, "id"), Title: rapid.String().Draw(t, "title"), Data: "data:image/png;base64,"}
		assert.Regexp(t, `^/pictures/[a-z0-9][a-z0-9-]*\.png$`, k.Address())
		assert.Equal(t, []string{k.ID}, picture.Named("'"+k.Address()+"'"))
		assert.Equal(t, "/"+picture.From(k.Address()), k.Address())
	})
}
