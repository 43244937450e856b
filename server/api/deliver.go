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
}

type targetsOut struct {
	Targets []TargetView `json:"targets"`
}

func (s *Server) targets(*Call, *none) (*targetsOut, error) {
	out := &targetsOut{}
	for _, t := range targets.All() {
		out.Targets = append(out.Targets, TargetView{t.ID, t.Title, t.Purpose})
	}
	return out, nil
}

type deliverIn struct {
	Target  string   `json:"target"`
	App     string   `json:"app,omitempty"`
	Screens []string `json:"screens,omitempty"`
}

// FileView is a delivered file; Text is empty for binary ones.
type FileView struct {
	Path string `json:"path"`
	Size int    `json:"size"`
	Text string `json:"text,omitempty"`
}

type deliverOut struct {
	Files []FileView `json:"files"`
}

func (s *Server) files(c fiber.Ctx, in *deliverIn) ([]deliver.File, error) {
	t, ok := targets.Find(in.Target)
	if !ok {
		return nil, missing("target " + in.Target)
	}
	var files []deliver.File
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		input, err := l.DeliverInput(in.App, in.Screens, s.Bundle.Files)
		if err != nil {
			return bad("%s", err)
		}
		files, err = t.Deliver(input)
		return err
	})
	return files, err
}

func (s *Server) deliver(c *Call, in *deliverIn) (*deliverOut, error) {
	files, err := s.files(c.Ctx, in)
	if err != nil {
		return nil, err
	}
	out := &deliverOut{Files: []FileView{}}
	for _, f := range files {
		v := FileView{Path: f.Path, Size: len(f.Data)}
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
	files, err := s.files(c, &in)
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
