// Package exchange reads and writes open formats: what other programs and
// people give us, and what they can take away.
package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"kirdu/core/measure"
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// A Recipe is what is taken over from a recipe in JSON-LD.
type Recipe struct {
	Name        string
	Bowls       int      // 0: not said
	Ingredients []string // one line each
	Notes       string   // the method, to be read beside the plan
	Steps       []string // of the method, for a recipe that is written
	Minutes     float64  // in all, for a recipe that is written; 0: not said
	Page        string   // what a page shows that carries no recipe to be read by programs
}

// WriteRecipe writes a recipe as JSON-LD in the schema.org vocabulary, which
// ReadRecipe reads again.
func WriteRecipe(r Recipe) ([]byte, error) {
	type step struct {
		Type string `json:"@type"`
		Text string `json:"text"`
	}
	out := struct {
		Context      string   `json:"@context"`
		Type         string   `json:"@type"`
		Name         string   `json:"name"`
		Description  string   `json:"description,omitempty"`
		Yield        string   `json:"recipeYield,omitempty"`
		TotalTime    string   `json:"totalTime,omitempty"` // ISO 8601
		Ingredients  []string `json:"recipeIngredient"`
		Instructions []step   `json:"recipeInstructions"`
	}{Context: "https://schema.org", Type: "Recipe", Name: r.Name, Description: r.Notes, Ingredients: r.Ingredients, Instructions: []step{}}
	if r.Bowls > 0 {
		out.Yield = fmt.Sprintf("%d bowls", r.Bowls)
	}
	if r.Minutes > 0 {
		out.TotalTime = fmt.Sprintf("PT%.0fM", math.Ceil(r.Minutes))
	}
	for _, text := range r.Steps {
		out.Instructions = append(out.Instructions, step{"HowToStep", text})
	}
	data, err := json.MarshalIndent(out, "", "  ")
	return append(data, '\n'), err
}

// Faults of a recipe file.
var (
	ErrNotJSON  = measure.Code("exchange.recipe-json")
	ErrNoRecipe = measure.Code("exchange.no-recipe")
	ErrTooLarge = measure.Code("exchange.too-large").With(MaxRecipeBytes >> 10)
)

// Bounds of a recipe file.
const (
	MaxRecipeBytes = 2 << 20 // a saved page carries much beside its recipe
	mostDepth      = 40
	mostEntries    = 400
)

// scriptOpen finds the JSON-LD of a saved web page.
var scriptOpen = regexp.MustCompile(`(?is)<script[^>]*application/ld\+json[^>]*>(.*?)</script>`)

// ReadRecipe reads the first recipe of a JSON-LD document, or of a web page
// that carries one; of a page that carries none it returns what there is to read. Errors: ErrNotJSON, ErrNoRecipe,
// ErrTooLarge.
func ReadRecipe(data []byte) (Recipe, error) {
	if len(data) > MaxRecipeBytes {
		return Recipe{}, ErrTooLarge
	}
	data = bytes.TrimPrefix(bytes.TrimSpace(data), []byte("\xef\xbb\xbf"))
	documents := [][]byte{data}
	if len(data) > 0 && data[0] == '<' {
		documents = nil
		for _, found := range scriptOpen.FindAllSubmatch(data, -1) {
			documents = append(documents, found[1])
		}
	}
	readable := false
	for _, document := range documents {
		var tree any
		decoder := json.NewDecoder(bytes.NewReader(document))
		if decoder.Decode(&tree) != nil {
			continue
		}
		if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
			continue
		}
		readable = true
		if o := findRecipe(tree, 0); o != nil {
			return recipeOf(o), nil
		}
	}
	if len(data) > 0 && data[0] == '<' {
		if text := pageText(data); strings.ContainsFunc(text, unicode.IsDigit) {
			return Recipe{Page: text}, nil
		}
		return Recipe{}, ErrNoRecipe
	}
	if !readable {
		return Recipe{}, ErrNotJSON
	}
	return Recipe{}, ErrNoRecipe
}

// pageText is what a saved web page shows, a line for each block.
func pageText(data []byte) string {
	root, err := html.Parse(bytes.NewReader(data))
	if err != nil {
		return ""
	}
	var b strings.Builder
	var walk func(n *html.Node, depth int)
	walk = func(n *html.Node, depth int) {
		const deepest = 400
		if depth > deepest || n.Type == html.ElementNode && unseen[n.DataAtom] {
			return
		}
		if n.Type == html.TextNode {
			b.WriteString(strings.NewReplacer("\n", " ", "\r", " ").Replace(n.Data))
		}
		block := n.Type == html.ElementNode && blocks[n.DataAtom]
		if block {
			b.WriteByte('\n')
		}
		for child := n.FirstChild; child != nil; child = child.NextSibling {
			walk(child, depth+1)
		}
		if block {
			b.WriteByte('\n')
		}
	}
	walk(root, 0)
	var lines []string
	for line := range strings.Lines(strings.ToValidUTF8(b.String(), "")) {
		if line = strings.Join(strings.Fields(line), " "); line != "" {
			lines = append(lines, line)
		}
	}
	return strings.Join(lines, "\n")
}

// What a page does not show, and what begins a line of it.
var (
	unseen = atoms(atom.Script, atom.Style, atom.Head, atom.Noscript, atom.Template, atom.Svg, atom.Nav, atom.Footer, atom.Iframe, atom.Button,
		atom.Select, atom.Form)
	blocks = atoms(atom.P, atom.Div, atom.Li, atom.Ul, atom.Ol, atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6, atom.Br, atom.Tr,
		atom.Dt,
		atom.Dd, atom.Section, atom.Article, atom.Header, atom.Aside, atom.Main, atom.Blockquote, atom.Pre, atom.Label, atom.Figcaption,
		atom.Table)
)

func atoms(list ...atom.Atom) map[atom.Atom]bool {
	set := map[atom.Atom]bool{}
	for _, a := range list {
		set[a] = true
	}
	return set
}

// findRecipe looks for an object of type Recipe that lists ingredients.
func findRecipe(value any, depth int) map[string]any {
	if depth > mostDepth {
		return nil
	}
	switch v := value.(type) {
	case []any:
		for _, entry := range v {
			if o := findRecipe(entry, depth+1); o != nil {
				return o
			}
		}
	case map[string]any:
		if isRecipe(v["@type"]) && len(texts(v["recipeIngredient"])) > 0 {
			return v
		}
		for _, key := range []string{"@graph", "mainEntity", "itemListElement", "item"} {
			if o := findRecipe(v[key], depth+1); o != nil {
				return o
			}
		}
	}
	return nil
}

func isRecipe(kind any) bool {
	for _, name := range texts(kind) {
		name = strings.TrimPrefix(strings.TrimPrefix(name, "https://schema.org/"), "http://schema.org/")
		if name == "Recipe" {
			return true
		}
	}
	return false
}

func recipeOf(o map[string]any) Recipe {
	r := Recipe{Ingredients: texts(o["recipeIngredient"])}
	if names := texts(o["name"]); len(names) > 0 {
		r.Name = names[0]
	}
	for _, yield := range append(texts(o["recipeYield"]), texts(o["yield"])...) {
		if r.Bowls = firstNumber(yield); r.Bowls > 0 {
			break
		}
	}
	r.Notes = strings.Join(instructions(o["recipeInstructions"], 0), "\n")
	return r
}

// texts returns the texts of a value that may be one or a list, in plain
// characters and without mark-up.
func texts(value any) []string {
	switch v := value.(type) {
	case string:
		if text := plainText(v); text != "" {
			return []string{text}
		}
	case float64:
		if v == math.Trunc(v) && math.Abs(v) < 1e6 {
			return []string{strconv.FormatFloat(v, 'f', 0, 64)}
		}
	case []any:
		var all []string
		for _, entry := range v {
			if len(all) == mostEntries {
				break
			}
			all = append(all, texts(entry)...)
		}
		return all
	}
	return nil
}

var markup = regexp.MustCompile(`<[^<>]*>`)

func plainText(text string) string {
	text = html.UnescapeString(markup.ReplaceAllString(text, " "))
	return strings.Join(strings.Fields(strings.ToValidUTF8(text, "")), " ")
}

// instructions returns the steps of the method, whether they are texts, steps
// or sections of steps.
func instructions(value any, depth int) []string {
	if depth > mostDepth {
		return nil
	}
	switch v := value.(type) {
	case string:
		return texts(v)
	case []any:
		var all []string
		for _, entry := range v {
			if len(all) >= mostEntries {
				break
			}
			all = append(all, instructions(entry, depth+1)...)
		}
		return all
	case map[string]any:
		if steps := instructions(v["itemListElement"], depth+1); len(steps) > 0 {
			if name := texts(v["name"]); len(name) > 0 {
				steps = append([]string{strings.TrimSuffix(name[0], ":") + ":"}, steps...)
			}
			return steps
		}
		return texts(v["text"])
	}
	return nil
}

var digits = regexp.MustCompile(`\d{1,3}`)

// firstNumber returns the first number of a text such as "6 servings", 0 if
// there is none from 1 to 500.
func firstNumber(text string) int {
	n, err := strconv.Atoi(digits.FindString(text))
	if err != nil || n < 1 || n > 500 {
		return 0
	}
	return n
}
