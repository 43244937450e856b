package api

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"unicode/utf8"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/live"
	"ubiquant/core/wsfile"
)

// TargetView is a delivery target.
type TargetView struct {
	ID      string `json:"id"`
	Title   string `json:"title"`
	Purpose string `json:"purpose"`
	Refuses string `json:"refuses"` // why it cannot use the kit; empty where it can
}

type targetsOut struct {
	Targets []TargetView `json:"targets"`
}

func (s *Server) targets(c *Call, _ *none) (*targetsOut, error) {
	out := &targetsOut{}
	return out, s.onScene(c.Context(), func(l *live.Scene) error {
		for _, t := range targets.All() {
			out.Targets = append(out.Targets, TargetView{t.ID, t.Title, t.Purpose, t.Refuses(l.Kit)})
		}
		return nil
	})
}

type deliverIn struct {
	Target  string   `json:"target"`
	App     string   `json:"app,omitempty"`
	Screens []string `json:"screens,omitempty"`
	// Texts stand in files of their own; so they do where the workspace is translated.
	Texts bool `json:"texts,omitempty"`
}

// FileView is a delivered file; Text is empty for binary ones.
type FileView struct {
	Path string `json:"path"`
	Size int    `json:"size"`
	Text string `json:"text,omitempty"`
	Own  bool   `json:"own,omitempty"` // the team's: written once
	Doc  string `json:"doc,omitempty"`
	// Lines are those on which elements of the document begin, from 1, by their ids.
	Lines map[string]int `json:"lines,omitempty"`
}

type deliverOut struct {
	Files []FileView     `json:"files"`
	Notes []deliver.Note `json:"notes"` // what is left out, and where
}

func (s *Server) files(c fiber.Ctx, in *deliverIn) (files []deliver.File, notes []deliver.Note, err error) {
	t, ok := targets.Find(in.Target)
	if !ok {
		return nil, nil, missing("target " + in.Target)
	}
	err = s.onScene(c.Context(), func(l *live.Scene) error {
		if why := t.Refuses(l.Kit); why != "" {
			return bad("%s", why)
		}
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		input, err := l.DeliverInput(in.App, in.Screens, b.DeliverFiles())
		if err != nil {
			return bad("%s", err)
		}
		input.Take(b)
		if in.Texts || len(l.W.Translated()) > 0 {
			l.WithTexts(&input)
		}
		files, notes, err = t.Deliver(input)
		return err
	})
	return files, notes, err
}

func (s *Server) deliver(c *Call, in *deliverIn) (*deliverOut, error) {
	files, notes, err := s.files(c.Ctx, in)
	if err != nil {
		return nil, err
	}
	out := &deliverOut{Files: []FileView{}, Notes: append([]deliver.Note{}, notes...)}
	for _, f := range files {
		v := FileView{Path: f.Path, Size: len(f.Data), Own: f.Own, Doc: f.Doc}
		for id, p := range f.Places {
			if v.Lines == nil {
				v.Lines = map[string]int{}
			}
			v.Lines[id] = p.Line
		}
		if utf8.Valid(f.Data) && len(f.Data) < 256<<10 {
			v.Text = string(f.Data)
		}
		out.Files = append(out.Files, v)
	}
	return out, nil
}

// archive sends the delivery as a zip file.
func (s *Server) archive(c fiber.Ctx) error {
	var in deliverIn
	if err := json.Unmarshal(c.Body(), &in); err != nil {
		return problem(422, "This cannot be read", err.Error())
	}
	files, _, err := s.files(c, &in)
	if err != nil {
		return err
	}
	return sendZip(c, in.Target, files)
}

func sendZip(c fiber.Ctx, name string, files []deliver.File) error {
	var buf bytes.Buffer
	z := zip.NewWriter(&buf)
	for _, f := range files {
		w, err := z.Create(f.Path)
		if err != nil {
			return err
		}
		if _, err := w.Write(f.Data); err != nil {
			return err
		}
	}
	if err := z.Close(); err != nil {
		return err
	}
	c.Set("Content-Type", "application/zip")
	c.Set("Content-Disposition", `attachment; filename="`+name+`.zip"`)
	return c.Send(buf.Bytes())
}

// export sends the workspace as one file.
func (s *Server) export(c fiber.Ctx) error {
	var out []byte
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		out = wsfile.Write(l.W)
		return nil
	})
	if err != nil {
		return err
	}
	c.Set("Content-Type", "application/json")
	c.Set("Content-Disposition", `attachment; filename="workspace.json"`)
	return c.Send(out)
}
