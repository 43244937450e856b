package api

import (
	"strings"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/picture"
)

// pictureView is a picture that the workspace keeps, without its pixels.
type pictureView struct {
	ID      string   `json:"id"`
	Title   string   `json:"title"`
	Width   int      `json:"width"`  // pixels
	Height  int      `json:"height"` // pixels
	Bytes   int      `json:"bytes"`  // of its file
	Address string   `json:"address"`
	Shown   []string `json:"shown"`   // where, in words
	Planned []string `json:"planned"` // the screens that are planned from it
	By      string   `json:"by,omitempty"`
	When    string   `json:"when,omitempty"`
}

type picturesOut struct {
	Pictures []pictureView `json:"pictures"`
}

func viewOf(k *picture.Kept) pictureView {
	return pictureView{
		ID: k.ID, Title: k.Title, Width: k.Width, Height: k.Height, Bytes: k.Bytes(),
		Address: k.Address(), Shown: []string{}, Planned: []string{}, By: k.By, When: k.When,
	}
}

// pictures lists what screens may show, the newest first.
func (s *Server) pictures(c *Call, _ *none) (*picturesOut, error) {
	out := &picturesOut{Pictures: []pictureView{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		shown := l.W.Shown()
		for i := len(l.W.Pictures) - 1; i >= 0; i-- {
			k := &l.W.Pictures[i]
			v := viewOf(k)
			v.Shown = append(v.Shown, shown[k.ID]...)
			for _, p := range l.W.Plans {
				if p.Picture == k.ID {
					v.Planned = append(v.Planned, p.Screen)
				}
			}
			out.Pictures = append(out.Pictures, v)
		}
		return nil
	})
	return out, err
}

type addPictureIn struct {
	Title  string `json:"title,omitempty"`
	Data   string `json:"data"` // the file, in base64
	Client string `json:"client,omitempty"`
}

type addPictureOut struct {
	Picture pictureView `json:"picture"`
	Change  *changeOut  `json:"change"` // none where it was kept already
}

func (s *Server) addPicture(c *Call, in *addPictureIn) (*addPictureOut, error) {
	file, done, err := pictureSent(c, in.Data)
	if err != nil {
		return nil, err
	}
	defer done()
	kept, err := picture.ForScreen(file, in.Title)
	if err != nil {
		return nil, bad("%s", err)
	}
	known := false
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		k, ok := l.W.Picture(kept.ID)
		if known = ok; ok {
			kept = *k
		}
		return nil
	})
	out := &addPictureOut{Picture: viewOf(&kept)}
	if err != nil || known {
		return out, err
	}
	out.Change, err = s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		return change.Change{Title: "Keep the picture " + kept.Name(), Steps: []change.Step{&change.PutPicture{Picture: kept}}}, nil
	})
	return out, err
}

type removePictureIn struct {
	ID     string `json:"id"`
	Client string `json:"client,omitempty"`
}

func (s *Server) removePicture(c *Call, in *removePictureIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		k, ok := l.W.Picture(in.ID)
		if !ok {
			return change.Change{}, missing("picture " + in.ID)
		}
		return change.Change{Title: "Take away the picture " + k.Name(), Steps: []change.Step{&change.DropPicture{Picture: *k}}}, nil
	})
}

// pictureFile is a picture's file, for the pages of Ubiquant itself.
func (s *Server) pictureFile(c fiber.Ctx) error {
	return s.sendPicture(c, strings.Clone(c.Params("id")), "")
}

// framePicture is a picture for the page that a kit's code runs in, which has no session: who
// draws there holds a ticket.
func (s *Server) framePicture(c fiber.Ctx, address string) error {
	ids := picture.Named(address)
	if len(ids) != 1 {
		return problem(404, "Not found", "there is no such picture")
	}
	return s.sendPicture(c, ids[0], address)
}

// sendPicture sends a picture's file; an address that is given is to be its own.
func (s *Server) sendPicture(c fiber.Ctx, id, address string) error {
	var data []byte
	var kind string
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) (err error) {
		k, ok := l.W.Picture(id)
		if !ok || address != "" && k.Address() != address {
			return missing("picture " + id)
		}
		data, kind, err = k.File()
		return err
	})
	if err != nil {
		return err
	}
	c.Set("Content-Type", kind)
	c.Set("Cache-Control", "private, max-age=86400, immutable") // its address holds what is in it
	return c.Send(data)
}
