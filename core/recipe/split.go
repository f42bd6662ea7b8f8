package recipe

import (
	"kirdu/core/measure"
	"regexp"
	"strings"
)

// ErrTwoRecipes is the fault of a text with more than one recipe in it.
var ErrTwoRecipes = measure.Code("recipe.two-recipes")

var (
	listHead = regexp.MustCompile(`(?i)^(?:the )?` +
		`(?:ingredients?|you(?:'ll| will)? need|what you need|things needed)(?: list)?(?: \(.*\))?\s*:?$`)
	methodHead = regexp.MustCompile(`(?i)^(?:the )?(?:method|instructions?|directions?|preparation|procedure|steps|` +
		`how to (?:make|cook|prepare)(?: it)?|what to do|making it)\s*:?$`)
	servesHead = regexp.MustCompile(`(?i)^(?:serves|makes|for|yield|prep(?:aration)? time|cook(?:ing)? time|total time|difficulty)\b.{0,40}$`)
	numbered   = regexp.MustCompile(`^(?:step )?\d+\s*[.):]\s+\pL`)
	withAmount = regexp.MustCompile(`^[-*•·▢\s]*(?:\d|[¼½¾⅓⅔⅛]|an? )`)
)

// A Text is a pasted recipe, taken apart.
type Text struct {
	Name, List, Method string
}

// Split takes a pasted recipe apart: what stands under "Ingredients" and "Method", or, without such headings,
// the lines with an amount and the sentences. A text that is only a list comes back as its list. Errors:
// ErrTwoRecipes.
func Split(text string) (Text, error) {
	var list, method []string
	var name string
	lists, methods := 0, 0
	in := ""
	for raw := range strings.Lines(text) {
		line := strings.TrimSpace(raw)
		plain := clean(line)
		switch {
		case plain == "":
			continue
		case listHead.MatchString(plain):
			if lists++; methods > 0 || lists > 1 && len(list) > 0 && in == "method" {
				return Text{}, ErrTwoRecipes
			}
			in = "list"
			continue
		case methodHead.MatchString(plain):
			if methods++; methods > 1 {
				return Text{}, ErrTwoRecipes
			}
			in = "method"
			continue
		}
		switch {
		case in == "method":
			method = append(method, line)
		case in == "" && len(list) == 0 && name == "" && isTitle(plain):
			name = plain
		case in == "" && len(list) == 0 && servesHead.MatchString(plain) && !strings.HasPrefix(strings.ToLower(plain), "for the"):
			continue
		case in == "" && isSentence(plain), in == "list" && methods == 0 && isSentence(plain):
			method = append(method, line)
		default:
			list = append(list, line)
		}
	}
	if len(list) == 0 && name != "" {
		list, name = []string{name}, ""
	}
	if lists == 0 && methods == 0 && len(method) == 0 && name != "" { // a list and nothing else: its first line may be one of it
		list, name = append([]string{name}, list...), ""
	}
	return Text{name, strings.Join(list, "\n"), strings.Join(method, "\n")}, nil
}

// isTitle reports whether a first line is what the recipe is called.
func isTitle(line string) bool {
	const most = 60
	return len(line) <= most && !withAmount.MatchString(line) && !strings.HasSuffix(line, ":") && !strings.ContainsAny(line, ".,;") &&
		len(strings.Fields(line)) >= 2
}

// isSentence reports whether a line tells what to do.
func isSentence(line string) bool {
	const fewest = 5
	words := plainWords(line)
	if withAmount.MatchString(line) && !numbered.MatchString(line) || len(words) < fewest {
		return false
	}
	for k, w := range methodWords(line) {
		if do := doing[w.text]; do != "" && do != doPass && k < 8 {
			return numbered.MatchString(line) || strings.ContainsAny(line, ".") || k < 2
		}
	}
	return false
}
