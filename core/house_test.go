package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// order is the one way imports point inside the core: later ones on earlier ones.
var order = []string{
	"jsonread",
	"kit",
	"screen",
	"code",
	"sample",
	"picture",
	"expr",
	"resolve",
	"render",
	"find",
	"bringin",
	"usage",
	"cases",
	"norm",
	"audit",
	"geometry",
	"texts",
	"deliver",
	"model",
	"carry",
	"data",
	"source",
	"byhand",
	"change",
	"wsfile",
	"merge",
	"live",
	"piece",
	"snippet",
	"plan",
	"assemble",
}

var inputOutput = []string{
	"net",
	"net/http",
	"os",
	"os/exec",
	"io/fs",
	"database/sql",
	"syscall",
	"math/rand",
	"crypto/rand",
}

func TestTheCoreIsPureAndImportsPointOneWay(t *testing.T) {
	seen := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		seen++
		own := strings.Split(filepath.ToSlash(path), "/")[0]
		rank := slices.Index(order, own)
		require.GreaterOrEqual(t, rank, 0, "%s is not in the order of the core", own)
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		for _, imp := range f.Imports {
			name := strings.Trim(imp.Path.Value, `"`)
			assert.NotContains(t, inputOutput, name, "%s does input or output", path)
			if name == "math/rand/v2" { // from a seed that is given, never by itself
				ast.Inspect(f, func(n ast.Node) bool {
					if s, ok := n.(*ast.SelectorExpr); ok {
						if of, ok := s.X.(*ast.Ident); ok && of.Name == "rand" {
							assert.Contains(
								t,
								[]string{"New", "NewPCG", "Rand"},
								s.Sel.Name,
								"%s draws without a seed",
								path,
							)
						}
					}
					return true
				})
			}
			rest, ours := strings.CutPrefix(name, "ubiquant/")
			if !ours {
				continue
			}
			inner, isCore := strings.CutPrefix(rest, "core/")
			assert.True(t, isCore, "%s imports %s", path, name)
			assert.LessOrEqual(
				t,
				slices.Index(order, strings.Split(inner, "/")[0]),
				rank,
				"%s imports %s, which comes later",
				path,
				name,
			)
		}
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, seen, 30)
}
