package core_test

import (
	"encoding/json"
	"os/exec"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// inside is the order of the core: a package may import those before it.
var inside = []string{"measure", "pantry", "vessel", "bench", "plan", "pot", "forecast", "balance", "advice", "timetable", "cook", "learn"}

// outside says which parts of the house a part may know.
var outside = map[string][]string{
	"core":     {"core"},
	"store":    {"store", "core"},
	"exchange": {"exchange", "core"},
	"device":   {"device", "core"},
	"web":      {"web", "store", "exchange", "device", "core"},
	"demo":     {"demo", "store", "core"},
	"cmd":      {"cmd", "web", "demo", "store", "exchange", "device", "core"},
	"e2e":      {"e2e", "web", "demo", "store", "core"},
	"docs":     {},
}

// forbidden is what the core does not touch: the world outside the computation.
var forbidden = []string{"net/http", "database/sql", "html", "html/template", "os", "io/ioutil", "log", "log/slog", "math/rand", "math/rand/v2", "net"}

// clockUsers may import time, for moments that are given to them.
var clockUsers = []string{"cook", "learn"}

type goPackage struct {
	ImportPath string
	Imports    []string
	Standard   bool
}

// TestArrowsPointOneWay fails when a package imports one that it must not know.
func TestArrowsPointOneWay(t *testing.T) {
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports,Standard", "kirdu/...").Output()
	require.NoError(t, err)
	decoder := json.NewDecoder(strings.NewReader(string(out)))
	seen := 0
	for decoder.More() {
		var p goPackage
		require.NoError(t, decoder.Decode(&p))
		parts := strings.Split(strings.TrimPrefix(p.ImportPath, "kirdu/"), "/")
		allowed, known := outside[parts[0]]
		require.True(t, known, "%s is not in the architecture", p.ImportPath)
		seen++
		for _, imported := range p.Imports {
			rest, own := strings.CutPrefix(imported, "kirdu/")
			if !own {
				if parts[0] == "core" {
					checkCoreImport(t, p.ImportPath, parts[len(parts)-1], imported)
				}
				continue
			}
			target := strings.Split(rest, "/")
			require.Contains(t, allowed, target[0], "%s must not import %s", p.ImportPath, imported)
			if parts[0] == "core" {
				from, to := slices.Index(inside, parts[1]), slices.Index(inside, target[1])
				require.True(t, from >= 0 && to >= 0 && to < from, "inside the core %s stands before %s", p.ImportPath, imported)
			}
		}
	}
	require.Greater(t, seen, 15, "go list has found the house")
}

func checkCoreImport(t *testing.T, path, name, imported string) {
	t.Helper()
	require.NotContains(t, forbidden, imported, "%s must not import %s", path, imported)
	if imported == "time" {
		require.Contains(t, clockUsers, name, "%s must not import time", path)
	}
	first, _, _ := strings.Cut(imported, "/")
	if strings.Contains(first, ".") {
		require.True(t, strings.HasPrefix(imported, "gonum.org/v1/gonum"), "%s must not import %s", path, imported)
	}
}

// TestCoreReadsNoClock looks for what imports alone do not show.
func TestCoreReadsNoClock(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", "{{$d := .Dir}}{{range .GoFiles}}{{$d}}/{{.}}\n{{end}}", "kirdu/core/...").Output()
	require.NoError(t, err)
	files := strings.Fields(string(out))
	require.Greater(t, len(files), 20)
	found, _ := exec.Command("grep", append([]string{"-nE", `time\.(Now|Since|Until|Sleep|After|Tick)\(`}, files...)...).Output()
	require.Empty(t, string(found))
}
