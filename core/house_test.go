// Package core_test looks at how the house is built: what its sources say of one another.
package core_test

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/rule"
)

// source is a file of Go that ships, by its place in the module.
type source struct {
	path string
	file *ast.File
}

// sources are those under some folders of the module.
func sources(t *testing.T, folders ...string) (list []source) {
	t.Helper()
	for _, folder := range folders {
		root := filepath.Join("..", folder)
		require.NoError(t, filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
			list = append(list, source{strings.TrimPrefix(filepath.ToSlash(path), "../"), file})
			return err
		}))
	}
	require.NotEmpty(t, list)
	return list
}

// literals are the strings of a file, but for those of its imports and tags.
func literals(f *ast.File) (list []string) {
	ast.Inspect(f, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.ImportSpec:
			return false
		case *ast.Field:
			n.Tag = nil
		case *ast.BasicLit:
			if text, err := strconv.Unquote(n.Value); err == nil && n.Kind == token.STRING {
				list = append(list, text)
			}
		}
		return true
	})
	return list
}

// No place but a way's own package knows which ways there are.
func TestNoWayIsNamedOutsideItsPackage(t *testing.T) {
	at := map[string][]string{}
	for _, s := range sources(t, "core", "server", "sheet", "store", "cmd") {
		for _, text := range literals(s.file) {
			at[text] = append(at[text], s.path)
		}
	}
	for _, w := range feed.All() {
		name := w.Info().Name
		require.NotEmpty(t, at[name])
		for _, path := range at[name] {
			if path == "core/circuit/kinds.go" {
				continue // a part of the open format goes by the word
			}
			assert.True(t, strings.HasPrefix(path, "core/feed/"), "%s is named in %s", name, path)
		}
	}
}

// Every rule is spoken or shown somewhere, and every limit of it is read, each by its name.
func TestTheCatalogueIsWhatTheCodeReads(t *testing.T) {
	said := map[string]bool{}
	read := map[string]bool{}
	for _, s := range sources(t, "core") {
		if s.path == "core/rule/catalogue.go" {
			continue
		}
		for _, text := range literals(s.file) {
			said[text] = true
		}
		ast.Inspect(s.file, func(n ast.Node) bool {
			call, ok := n.(*ast.CallExpr)
			if !ok || len(call.Args) < 2 {
				return true
			}
			id, name := literal(call.Args[0]), literal(call.Args[1])
			if id != "" && name != "" {
				read[id+" "+name] = true
			}
			return true
		})
	}
	for _, r := range rule.Catalogue {
		assert.True(t, said[r.ID], "%s is never spoken", r.ID)
		for name := range r.Limits {
			assert.True(t, read[r.ID+" "+name] || said[name], "%s: %s is never read", r.ID, name)
		}
	}
}

func literal(e ast.Expr) string {
	if lit, ok := e.(*ast.BasicLit); ok && lit.Kind == token.STRING {
		text, _ := strconv.Unquote(lit.Value)
		return text
	}
	return ""
}

// plain are the numbers that are no limits: nothing, one of something, all of it, and its
// half in a sign or a ratio.
var plain = []string{"0", "1", "2", "3", "100", "1e-9", "1e-12"}

// What a rule is spoken on is a limit of the catalogue, never a number beside it.
func TestNoRuleIsSpokenOnANumberOfItsOwn(t *testing.T) {
	for _, s := range sources(t, "core") {
		ast.Inspect(s.file, func(n ast.Node) bool {
			var conditions []ast.Expr
			var body []ast.Stmt
			switch n := n.(type) {
			case *ast.IfStmt:
				conditions, body = []ast.Expr{n.Cond}, n.Body.List
			case *ast.CaseClause:
				conditions, body = n.List, n.Body
			}
			if !speaks(body) {
				return true
			}
			for _, c := range conditions {
				ast.Inspect(c, func(n ast.Node) bool {
					if counted(n) {
						return false
					}
					if lit, ok := n.(*ast.BasicLit); ok && lit.Kind != token.STRING &&
						!slices.Contains(plain, lit.Value) {
						t.Errorf("%s speaks on %s", s.path, lit.Value)
					}
					return true
				})
			}
			return true
		})
	}
}

// counted says whether a node compares a count, such as that of the leads.
func counted(n ast.Node) bool {
	compared, ok := n.(*ast.BinaryExpr)
	if !ok {
		return false
	}
	call, ok := compared.X.(*ast.CallExpr)
	return ok && fmt.Sprint(call.Fun) == "len"
}

// speaks says whether statements speak a rule themselves, not in a branch of theirs.
func speaks(body []ast.Stmt) (found bool) {
	for _, statement := range body {
		ast.Inspect(statement, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.IfStmt, *ast.CaseClause:
				return false
			case *ast.CallExpr:
				name := fmt.Sprint(n.Fun)
				if s, ok := n.Fun.(*ast.SelectorExpr); ok {
					name = s.Sel.Name
				}
				spoken := slices.Contains([]string{"Speak", "say"}, name) && len(n.Args) > 0
				found = found || spoken && slices.ContainsFunc(rule.Catalogue, func(r rule.Rule) bool {
					return r.ID == literal(n.Args[0])
				})
			}
			return true
		})
	}
	return found
}

// The picture in docs/architecture.md is true: it has every package once, and each imports
// from lower floors alone.
func TestThePictureOfTheHouse(t *testing.T) {
	text, err := os.ReadFile("../docs/architecture.md")
	require.NoError(t, err)
	picture := strings.Split(string(text), "```")[1]
	floor := map[string]int{}
	at := 0
	for line := range strings.Lines(picture) {
		if strings.Contains(line, "▼") {
			at++
			continue
		}
		packages, _, ok := strings.Cut(line, "—")
		if !ok {
			continue
		}
		for _, name := range strings.Fields(packages) {
			_, twice := floor[name]
			assert.False(t, twice, "%s stands twice", name)
			floor[name] = at
		}
	}
	shipped := map[string]bool{}
	for _, s := range sources(t, "cmd", "core", "demo", "docs", "drivebus", "server", "sheet", "store") {
		name := path.Dir(s.path)
		shipped[name] = true
		above, ok := floor[name]
		require.True(t, ok, "%s is not in the picture", name)
		for _, i := range s.file.Imports {
			to, ours := strings.CutPrefix(strings.Trim(i.Path.Value, `"`), "brackmoor/")
			if !ours {
				continue
			}
			below, ok := floor[to]
			require.True(t, ok, "%s is not in the picture", to)
			assert.Greater(t, below, above, "%s imports %s", name, to)
		}
	}
	for name := range floor {
		assert.True(t, shipped[name] || name == "web", "%s is in the picture and nowhere else", name)
	}
}
