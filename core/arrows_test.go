package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"maps"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// policy is the picture of who may know whom: a room may import those to the left
// of it, on its own line and, through what stands in brackets, of others. A room is
// a folder; what lies below it belongs to it.
const policy = `
core:     measure < numeric < pantry < vessel < convert < plan < recipe < pot < forecast < serving
          < watch < design < mend < stock < rescue < cook < timetable < learn < lead < rehearse
web:      picture < frame < guard < today, pudding, stove, table, house, book, benches, about
house:    docs < (core) < plantest < words, store, exchange, device, certs < app < web, demo < cmd, e2e
`

// besides are arrows that the picture leaves out.
var besides = map[string][]string{
	"demo": {"app", "store", "words", "core"},
	"cmd":  {"app", "web", "demo", "store", "docs", "certs", "words", "core"},
	"e2e":  {"app", "web", "demo", "store", "core"},
}

// ranks reads a line of the policy: each room with how far right it stands.
func ranks(t *testing.T, line string) map[string]int {
	t.Helper()
	for text := range strings.Lines(strings.ReplaceAll(policy, "\n          <", " <")) {
		if rest, found := strings.CutPrefix(text, line+":"); found {
			rank := map[string]int{}
			for k, group := range strings.Split(rest, "<") {
				for _, room := range strings.FieldsFunc(group, func(r rune) bool { return strings.ContainsRune(", ()\n\t", r) }) {
					rank[room] = k
				}
			}
			return rank
		}
	}
	t.Fatalf("the policy has no line %q", line)
	return nil
}

// forbidden is what the core does not touch: the world outside the computation.
var forbidden = []string{"net/http", "database/sql", "html", "html/template", "os", "io/ioutil", "log", "log/slog", "math/rand",
	"math/rand/v2", "net"}

// clockUsers may import time, for moments that are given to them.
var clockUsers = []string{"cook", "lead", "learn", "rehearse"}

// readsClock are the functions of time that a pure core does not call.
var readsClock = []string{"Now", "Since", "Until", "Sleep", "After", "Tick", "NewTimer", "NewTicker", "AfterFunc"}

// TestArrowsPointOneWay reads the imports of every file that is no test and holds
// them against the policy.
func TestArrowsPointOneWay(t *testing.T) {
	house, core := ranks(t, "house"), ranks(t, "core")
	rooms := map[string]bool{}
	everyFile(t, func(path string, file *ast.File) {
		dir := filepath.ToSlash(filepath.Dir(path))
		storey, below, _ := strings.Cut(dir, "/")
		rank, known := house[storey]
		require.True(t, known, "%s is not in the architecture", dir)
		rooms[dir] = true
		room, _, _ := strings.Cut(below, "/")
		for _, spec := range file.Imports {
			imported := strings.Trim(spec.Path.Value, `"`)
			rest, own := strings.CutPrefix(imported, "kirdu/")
			if !own {
				if storey == "core" {
					checkCoreImport(t, path, room, imported)
				}
				continue
			}
			target, targetBelow, _ := strings.Cut(rest, "/")
			require.NotEqual(t, "plantest", target, "%s is no test", path)
			require.NotEqual(t, frametest, imported, "%s is no test", path)
			if storey == "core" {
				require.Equal(t, "core", target, "%s must not import %s", path, imported)
				targetRoom, _, _ := strings.Cut(targetBelow, "/")
				from, here := core[room]
				to, there := core[targetRoom]
				require.True(t, here && there && to < from, "inside the core %s stands before %s", path, imported)
				continue
			}
			if storey == "web" && target == "web" && !strings.HasPrefix("kirdu/"+path, frametest) {
				checkWebImport(t, path, below, targetBelow)
				continue
			}
			if allowed, special := besides[storey]; special {
				require.True(t, target == storey || slices.Contains(allowed, target), "%s must not import %s", path, imported)
				continue
			}
			require.True(t, target == storey || house[target] < rank, "%s must not import %s", path, imported)
		}
	})
	require.Greater(t, len(rooms), 15, "the house was found")
	for room := range core {
		require.True(t, rooms["core/"+room], "the policy names core/%s, which is not there", room)
	}
	require.Subset(t, slices.Collect(maps.Keys(rooms)), []string{"app", "store", "exchange", "device"})
}

// frametest is what tests of screens are made with.
const frametest = "kirdu/web/frame/frametest"

// A screen asks of the application what its own interfaces name, and no more, and has a test in its folder.
func TestEachScreenStandsByItself(t *testing.T) {
	screens := map[string]bool{}
	everyFile(t, func(path string, file *ast.File) {
		if below, inWeb := strings.CutPrefix(path, "web/"); !inWeb || !strings.Contains(below, "/") {
			return
		}
		ast.Inspect(file, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.TypeSpec:
				if _, isStruct := n.Type.(*ast.StructType); isStruct && n.Name.Name == "Screen" {
					screens[filepath.Dir(path)] = true
				}
			case *ast.SelectorExpr:
				if x, ok := n.X.(*ast.Ident); ok {
					whole := x.Name == "app" && n.Sel.Name == "Kitchen" || x.Name == "store" && n.Sel.Name == "Store"
					require.False(t, whole, "%s names %s.%s: let it declare what it asks for", path, x.Name, n.Sel.Name)
				}
			}
			return true
		})
	})
	require.Greater(t, len(screens), 25)
	for folder := range screens {
		tests, err := filepath.Glob("../" + folder + "/*_test.go")
		require.NoError(t, err)
		require.NotEmpty(t, tests, "%s has no test of its own", folder)
	}
}

// everyFile parses each Go file of the house that is no test.
func everyFile(t *testing.T, look func(path string, file *ast.File)) {
	t.Helper()
	set := token.NewFileSet()
	require.NoError(t, filepath.WalkDir("..", func(path string, entry fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if entry.IsDir() {
			if name := entry.Name(); name == "testdata" || name == "node_modules" || name != ".." && strings.HasPrefix(name, ".") {
				return fs.SkipDir
			}
			return nil
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		file, err := parser.ParseFile(set, path, nil, parser.SkipObjectResolution)
		if err != nil {
			return err
		}
		look(strings.TrimPrefix(filepath.ToSlash(path), "../"), file)
		return nil
	}))
}

// checkWebImport holds the inside of web: the routes know all, a screen knows what is
// left of the areas, and no other screen.
func checkWebImport(t *testing.T, path, below, targetBelow string) {
	t.Helper()
	if below == "" {
		return
	}
	web := ranks(t, "web")
	area, _, _ := strings.Cut(below, "/")
	targetArea, _, _ := strings.Cut(targetBelow, "/")
	from, here := web[area]
	to, there := web[targetArea]
	require.True(t, here && there, "web/%s or web/%s is not in the architecture", area, targetArea)
	require.Less(t, to, from, "inside web %s stands before web/%s", path, targetBelow)
}

func checkCoreImport(t *testing.T, path, room, imported string) {
	t.Helper()
	require.NotContains(t, forbidden, imported, "%s must not import %s", path, imported)
	if imported == "time" {
		require.Contains(t, clockUsers, room, "%s must not import time", path)
	}
	first, _, _ := strings.Cut(imported, "/")
	if strings.Contains(first, ".") {
		require.True(t, strings.HasPrefix(imported, "gonum.org/v1/gonum"), "%s must not import %s", path, imported)
	}
}

// TestCoreReadsNoClock looks for what imports alone do not show.
func TestCoreReadsNoClock(t *testing.T) {
	seen := 0
	everyFile(t, func(path string, file *ast.File) {
		if !strings.HasPrefix(path, "core/") {
			return
		}
		seen++
		ast.Inspect(file, func(n ast.Node) bool {
			if s, ok := n.(*ast.SelectorExpr); ok {
				if x, isName := s.X.(*ast.Ident); isName && x.Name == "time" {
					require.NotContains(t, readsClock, s.Sel.Name, path)
				}
			}
			return true
		})
	})
	require.Greater(t, seen, 20)
}
