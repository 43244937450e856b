package registry

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"
)

// What one package may unpack to.
const (
	maxUnpacked = 512 << 20
	maxFiles    = 60_000
)

// unpack writes the plain files of a package's archive beneath a folder, without the one folder
// that they all lie in. Links and the like are left out; a path that leads out is refused.
func unpack(body []byte, root *os.Root) (bytesOut int64, err error) {
	zipped, err := gzip.NewReader(bytes.NewReader(body))
	if err != nil {
		return 0, fmt.Errorf("its archive cannot be read: %w", err)
	}
	defer zipped.Close()
	in := tar.NewReader(zipped)
	made := map[string]bool{}
	for files := 0; ; {
		h, err := in.Next()
		if errors.Is(err, io.EOF) {
			if files == 0 {
				return bytesOut, errors.New("its archive holds no file")
			}
			return bytesOut, nil
		}
		if err != nil {
			return bytesOut, fmt.Errorf("its archive cannot be read: %w", err)
		}
		if h.Typeflag != tar.TypeReg {
			continue
		}
		if files++; files > maxFiles {
			return bytesOut, fmt.Errorf("its archive holds more than %d files", maxFiles)
		}
		_, name, inside := strings.Cut(strings.ReplaceAll(h.Name, `\`, "/"), "/")
		if name = path.Clean(name); !inside || !filepath.IsLocal(name) || name == "." {
			return bytesOut, fmt.Errorf("its archive holds %q, which leads out of it", h.Name)
		}
		if dir := path.Dir(name); dir != "." && !made[dir] {
			if err := root.MkdirAll(dir, 0o755); err != nil {
				return bytesOut, err
			}
			made[dir] = true
		}
		n, err := write(root, name, in, maxUnpacked-bytesOut)
		if bytesOut += n; err != nil {
			return bytesOut, err
		}
	}
}

func write(root *os.Root, name string, in io.Reader, left int64) (int64, error) {
	f, err := root.OpenFile(name, os.O_CREATE|os.O_WRONLY|os.O_TRUNC, fs.FileMode(0o644))
	if err != nil {
		return 0, err
	}
	n, err := io.Copy(f, io.LimitReader(in, left+1))
	if err = errors.Join(err, f.Close()); err == nil && n > left {
		err = fmt.Errorf("its archive unpacks to more than %d MiB", maxUnpacked>>20)
	}
	return n, err
}
