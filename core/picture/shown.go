package picture

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"path"
	"regexp"
	"strings"
)

// Folder is where the pictures that screens show stand, as an address.
const Folder = "/pictures/"

var named = regexp.MustCompile(Folder + `[a-z0-9-]*-([0-9a-f]{16})\.(?:png|jpg)`)

// Name is the file that the picture goes by: what it is called, and its id.
func (k *Kept) Name() string {
	var b strings.Builder
	for _, r := range strings.ToLower(strings.TrimSuffix(k.Title, path.Ext(k.Title))) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
		if b.Len() == 40 {
			break
		}
	}
	name := strings.Trim(b.String(), "-")
	if name == "" {
		name = "picture"
	}
	end := ".png"
	if strings.HasPrefix(k.Data, "data:image/jpeg") {
		end = ".jpg"
	}
	return name + "-" + k.ID + end
}

// Address is where an element finds the picture.
func (k *Kept) Address() string { return Folder + k.Name() }

// Named are the ids of the workspace's pictures whose addresses stand in a text: a literal or
// an expression.
func Named(text string) (ids []string) {
	if !strings.Contains(text, Folder) {
		return nil
	}
	for _, m := range named.FindAllStringSubmatch(text, -1) {
		ids = append(ids, m[1])
	}
	return ids
}

// From is an address as a page takes it that stands beside the pictures: a delivered page, and
// the one that the Proof draws in.
func From(address string) string {
	if strings.HasPrefix(address, Folder) {
		return address[1:]
	}
	return address
}

// File is the picture's file and its content type.
func (k *Kept) File() (data []byte, kind string, err error) {
	head, text, _ := strings.Cut(k.Data, ";base64,")
	data, err = base64.StdEncoding.DecodeString(text)
	return data, strings.TrimPrefix(head, "data:"), err
}

// Bytes is how much the picture's file takes.
func (k *Kept) Bytes() int {
	_, text, _ := strings.Cut(k.Data, ";base64,")
	return base64.RawStdEncoding.DecodedLen(len(strings.TrimRight(text, "=")))
}

// quality is that of a photograph: what is lost is not seen.
const quality = 85

// ForScreen reads a PNG, JPEG, WebP or GIF file as a picture that a screen shows: its pixels
// and nothing else, neither place nor camera nor name. What is see-through stays so; of a
// moving one the first picture is taken. Errors say what is wrong and what would be accepted.
func ForScreen(file []byte, title string) (Kept, error) {
	if len(file) > MaxBytes {
		return Kept{}, fmt.Errorf("the picture is a file of %.1f MB; accepted: up to %d MB", float64(len(file))/(1<<20), MaxBytes>>20)
	}
	head, format, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil {
		return Kept{}, fmt.Errorf("the file is no picture that can be read; accepted: PNG, JPEG, WebP, GIF")
	}
	if w, h := head.Width, head.Height; w < 1 || h < 1 || w > MaxSide || h > MaxSide || w*h > MaxPixels {
		return Kept{}, fmt.Errorf("the picture is %d × %d; accepted: up to %d a side and %d million pixels", w, h, MaxSide, MaxPixels/1_000_000)
	}
	img, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		return Kept{}, fmt.Errorf("the picture breaks off or is damaged: %w", err)
	}
	kind := "png"
	var out bytes.Buffer
	if format == "jpeg" || format == "webp" && solid(img) {
		kind = "jpeg"
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: quality})
	} else {
		err = png.Encode(&out, img)
	}
	if err != nil {
		return Kept{}, err
	}
	if out.Len() > MaxKept {
		return Kept{}, fmt.Errorf(
			"the picture takes %.1f MB as a screen would load it; accepted: up to %d MB. Make it smaller, or give a photograph as JPEG",
			float64(out.Len())/(1<<20), MaxKept>>20)
	}
	return Kept{
		ID: idOf(out.Bytes()), Title: title, Width: head.Width, Height: head.Height,
		Data: "data:image/" + kind + ";base64," + base64.StdEncoding.EncodeToString(out.Bytes()),
	}, nil
}

// solid tells whether nothing of a picture can be seen through.
func solid(img image.Image) bool {
	if o, ok := img.(interface{ Opaque() bool }); ok {
		return o.Opaque()
	}
	b := img.Bounds()
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			if color.NRGBAModel.Convert(img.At(x, y)).(color.NRGBA).A != 0xff {
				return false
			}
		}
	}
	return true
}
