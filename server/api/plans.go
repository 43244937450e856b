package api

import (
	"encoding/base64"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/picture"
	"ubiquant/core/plan"
)

type planIn struct {
	Screen string `path:"screen"`
}

type planOut struct {
	Plan    *picture.Plan `json:"plan"` // none where the screen is planned from no picture
	Picture *picture.Kept `json:"picture"`
	Shown   *plan.Shown   `json:"shown"`
	Title   string        `json:"title"` // of the screen
	Pieces  []pieceNamed  `json:"pieces"`
}

type pieceNamed struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// plan is what a screen is planned from, and what becomes of it.
func (s *Server) plan(c *Call, in *planIn) (*planOut, error) {
	out := &planOut{Pieces: []pieceNamed{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc("screen:" + in.Screen)
		if !ok {
			return missing("screen " + in.Screen)
		}
		out.Title = d.Title
		for _, d := range l.W.Docs {
			if d.Kind == "piece" && !d.Removed {
				out.Pieces = append(out.Pieces, pieceNamed{d.ID, d.Title})
			}
		}
		p, ok := l.W.Plan(in.Screen)
		if !ok {
			return nil
		}
		out.Plan = p
		out.Picture, _ = l.W.Picture(p.Picture)
		var err error
		out.Shown, err = plan.Show(l, p)
		return err
	})
	return out, err
}

var reading = make(chan struct{}, 1)

// pictureSent is the file of a picture that somebody sends as base64. It waits until nobody else
// reads one, as that takes memory and time; done lets the next one in.
func pictureSent(c *Call, data string) (file []byte, done func(), err error) {
	if file, err = base64.StdEncoding.DecodeString(data); err != nil {
		return nil, nil, bad("the picture is not sent as base64")
	}
	select {
	case reading <- struct{}{}:
		return file, func() { <-reading }, nil
	case <-c.Context().Done():
		return nil, nil, c.Context().Err()
	}
}

type readPictureIn struct {
	Title string `json:"title,omitempty"`
	Data  string `json:"data"` // the file, in base64
}

type readPictureOut struct {
	Picture picture.Kept `json:"picture"` // as it would be kept
	Root    picture.Part `json:"root"`    // what is read in it
}

// readPicture reads a picture of a page; nothing is kept.
func (s *Server) readPicture(c *Call, in *readPictureIn) (*readPictureOut, error) {
	file, done, err := pictureSent(c, in.Data)
	if err != nil {
		return nil, err
	}
	defer done()
	img, _, err := picture.Decode(file)
	if err != nil {
		return nil, bad("%s", err)
	}
	kept, err := picture.Keep(img, in.Title)
	if err != nil {
		return nil, bad("%s", err)
	}
	return &readPictureOut{Picture: kept, Root: picture.Planned(picture.Read(img))}, nil
}

type standIn struct {
	Screen string `json:"screen"`
	Seen   seen   `json:"seen"`
}

type standOut struct {
	Change *changeOut `json:"change"`
	Left   []string   `json:"left"` // what could not be done, and why
}

// stand makes a screen of its plan.
func (s *Server) stand(c *Call, in *standIn) (*standOut, error) {
	out := &standOut{Left: []string{}}
	var err error
	out.Change, err = s.takePlan(c, in.Seen, func(l *live.Live) (change.Change, error) {
		made, left, err := plan.Stand(l, in.Screen)
		out.Left = append(out.Left[:0], left...)
		return made, err
	})
	return out, err
}

type pieceOfIn struct {
	Screen string `json:"screen"`
	Part   string `json:"part"`
	ID     string `json:"id"`
	Title  string `json:"title"`
	Seen   seen   `json:"seen"`
}

// pieceOf makes a piece of a box.
func (s *Server) pieceOf(c *Call, in *pieceOfIn) (*changeOut, error) {
	return s.takePlan(c, in.Seen, func(l *live.Live) (change.Change, error) {
		return plan.Piece(l, in.Screen, in.Part, in.ID, in.Title)
	})
}
