package words

import (
	"errors"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
)

// faultCodes are the codes of faults in a source file, with the number of things that are put into each: -1 where
// it is not written there.
func faultCodes(file *ast.File, inMeasure bool, named map[string]string) map[string]int {
	found := map[string]int{}
	codeOf := func(e ast.Expr) string {
		switch x := e.(type) {
		case *ast.CallExpr:
			if name := called(x.Fun); (name == "measure.Code" || inMeasure && name == "Code") && len(x.Args) == 1 {
				if text, ok := x.Args[0].(*ast.BasicLit); ok {
					code, _ := strconv.Unquote(text.Value)
					return code
				}
			}
		case *ast.Ident, *ast.SelectorExpr:
			name := called(x)
			if !strings.Contains(name, ".") {
				name = file.Name.Name + "." + name
			}
			return named[name]
		}
		return ""
	}
	ast.Inspect(file, func(n ast.Node) bool {
		call, ok := n.(*ast.CallExpr)
		if !ok {
			return true
		}
		if with, ok := call.Fun.(*ast.SelectorExpr); ok && with.Sel.Name == "With" {
			if code := codeOf(with.X); code != "" {
				found[code] = len(call.Args)
			}
		} else if code := codeOf(call); code != "" {
			if _, known := found[code]; !known {
				found[code] = -1
			}
		} else if ok && (with.Sel.Name == "wrong" || with.Sel.Name == "ask") && len(call.Args) >= 2 {
			at := map[string]int{"wrong": 2, "ask": 1}[with.Sel.Name] // behind the place, and the value
			if text, ok := call.Args[at].(*ast.BasicLit); ok {
				code, _ := strconv.Unquote(text.Value)
				found[code] = len(call.Args) - at - 1
			}
		}
		return true
	})
	return found
}

// called writes an identifier, or one of a package, as it stands.
func called(e ast.Expr) string {
	switch x := e.(type) {
	case *ast.Ident:
		return x.Name
	case *ast.SelectorExpr:
		return called(x.X) + "." + x.Sel.Name
	}
	return ""
}

// sources reads the program's files, tests apart.
func sources(t *testing.T) map[string]*ast.File {
	files := map[string]*ast.File{}
	require.NoError(t, filepath.WalkDir("..", func(path string, entry fs.DirEntry, err error) error {
		if err == nil && strings.HasSuffix(path, ".go") && !strings.HasSuffix(path, "_test.go") {
			files[path], err = parser.ParseFile(token.NewFileSet(), path, nil, 0)
		}
		return err
	}))
	return files
}

// Every kind of fault that is in the program has its sentence, which has a place for each thing that is put in; no
// sentence is without its fault.
func TestEveryFaultHasItsSentence(t *testing.T) {
	files := sources(t)
	named := map[string]string{} // code by the name of its variable, behind that of its package
	for path, file := range files {
		ast.Inspect(file, func(n ast.Node) bool {
			spec, ok := n.(*ast.ValueSpec)
			if !ok || len(spec.Values) != 1 {
				return true
			}
			for code := range faultCodes(&ast.File{Name: file.Name, Decls: []ast.Decl{
				&ast.GenDecl{Tok: token.VAR, Specs: []ast.Spec{spec}}}}, strings.Contains(path, "core/measure"), nil) {
				named[file.Name.Name+"."+spec.Names[0].Name] = code
			}
			return true
		})
	}
	things := map[string]int{}
	for path, file := range files {
		for code, n := range faultCodes(file, strings.Contains(path, "core/measure"), named) {
			before, known := things[code]
			require.False(t, known && before >= 0 && n >= 0 && before != n, "%s: %d and %d things are put into %q", path, before, n, code)
			things[code] = max(before, n)
			if !known {
				things[code] = n
			}
		}
		ast.Inspect(file, func(n ast.Node) bool { // remedies that are handed on as their code alone
			if text, ok := n.(*ast.BasicLit); ok && text.Kind == token.STRING {
				code, _ := strconv.Unquote(text.Value)
				if _, there := english["fault."+code]; there && (strings.Contains(path, "core/plan") || strings.Contains(path, "core/recipe")) {
					things[code] = max(things[code], 0)
				}
			}
			return true
		})
	}
	require.Greater(t, len(things), 250)
	place := regexp.MustCompile(`%\[(\d)\]s`)
	for code, n := range things {
		text, there := english["fault."+code]
		require.True(t, there, "the fault %q has no sentence", code)
		places := map[string]bool{}
		for _, m := range place.FindAllStringSubmatch(text, -1) {
			places[m[1]] = true
		}
		require.Len(t, places, max(0, n), "places of %q: %s", code, text)
	}
	for key := range english {
		if code, isFault := strings.CutPrefix(key, "fault."); isFault {
			require.Contains(t, things, code, "no fault is of this kind")
		}
	}
}

func TestAFaultIsSaid(t *testing.T) {
	plain, ours := Printer{}, Printer{Style{Comma: true}}
	within := measure.Bound{Low: 0.5, High: 20}.Error()
	require.Equal(t, "give a number from 0.5 to 20", plain.Fault(within))
	require.Equal(t, "give a number from 0,5 to 20", ours.Fault(within))
	require.Equal(t, "give a number above 0", plain.Fault(measure.ErrNotPositive))
	one := &measure.FieldError{Field: "steps[2].amount", Value: `"3 cupz"`, Err: measure.ErrUnknownUnit.With("cupz")}
	require.Equal(t, `steps[2].amount: "3 cupz": unknown unit "cupz"`, plain.Fault(one))
	require.Equal(t, "a.csv, row 2: give a number from 0.5 to 20", plain.Fault(fmt.Errorf("a.csv, row %d: %w", 2, within)),
		"what wraps a fact keeps its words")
	two := measure.Faults{one, {Field: "name", Err: measure.ErrNoNumber}}
	require.Len(t, strings.Split(plain.Fault(two), "\n"), 2)
	require.Equal(t, "“p.json” has 2 faults: "+strings.ReplaceAll(plain.Fault(two), "\n", "; "),
		plain.Fault(measure.Code("recipe.plan-faults").With("p.json", 2, two)))
	require.Equal(t, "give one of: gas or wood", plain.Fault(measure.Code("plan.one-of").With([]string{"gas", "wood"})))
	require.Equal(t, "give one of: gas, wood, peat", plain.Fault(measure.Code("plan.one-of").With([]string{"gas", "wood", "peat"})))
	require.Equal(t, "disk on fire", plain.Fault(errors.New("disk on fire")))
	require.Empty(t, plain.Fault(nil))
}
