package plan

import (
	"encoding/json"
	"fmt"
	"math"
	"regexp"
	"slices"
	"sort"
	"strings"
	"unicode/utf8"

	"kirdu/core/measure"
)

// Faults of documents, wrapped in measure.FieldError.
var (
	ErrUnknownKey      = measure.Code("plan.unknown-key")
	ErrMissing         = measure.Code("plan.missing")
	ErrUnknownMaterial = measure.Code("plan.unknown-material")
)

// A rule checks one value of a document at a path. It returns false when the
// value cannot be used; the caller then leaves it out, so that the rest of the
// document can still be checked for meaning.
type rule func(c *checker, path string, value any) bool

// A checker collects the faults of a document.
type checker struct{ faults measure.Faults }

// shownValueRunes is how much of a faulty value an error repeats.
const shownValueRunes = 60

// shown writes a value as JSON would, cut to a readable length.
func shown(value any) string {
	data, err := json.Marshal(value)
	if err != nil {
		return ""
	}
	runes := []rune(string(data))
	if len(runes) > shownValueRunes {
		return string(runes[:shownValueRunes]) + "…"
	}
	return string(runes)
}

func (c *checker) fault(path string, value any, err error) bool {
	text := ""
	if value != nil {
		text = shown(value)
	}
	c.faults = append(c.faults, &measure.FieldError{Field: path, Value: text, Err: err})
	return false
}

// wrong notes a kind of fault with what its sentence names.
func (c *checker) wrong(path string, value any, code measure.Code, things ...any) bool {
	if len(things) == 0 {
		return c.fault(path, value, code)
	}
	return c.fault(path, value, code.With(things...))
}

// number accepts low to high, both included.
func number(low, high float64) rule {
	return func(c *checker, path string, value any) bool {
		n, ok := value.(float64)
		if !ok || !(n >= low && n <= high) {
			return c.fault(path, value, measure.Bound{Low: low, High: high}.Error())
		}
		return true
	}
}

// within accepts what a bound of another package holds.
func within(b measure.Bound) rule {
	if b.Above {
		return above(b.Low, b.High)
	}
	return number(b.Low, b.High)
}

// above accepts more than low, up to high.
func above(low, high float64) rule {
	return func(c *checker, path string, value any) bool {
		n, ok := value.(float64)
		if !ok || !(n > low && n <= high) {
			return c.fault(path, value, measure.Bound{Low: low, High: high, Above: true}.Error())
		}
		return true
	}
}

// between accepts numbers strictly between the bounds.
func between(low, high float64) rule {
	return func(c *checker, path string, value any) bool {
		n, ok := value.(float64)
		if !ok || !(n > low && n < high) {
			return c.wrong(path, value, "plan.between", low, high)
		}
		return true
	}
}

func whole(low, high float64) rule {
	return func(c *checker, path string, value any) bool {
		n, ok := value.(float64)
		if !ok || n != math.Trunc(n) || !(n >= low && n <= high) {
			return c.wrong(path, value, "plan.whole", low, high)
		}
		return true
	}
}

// text accepts strings of so many characters.
func text(least, most int) rule {
	return func(c *checker, path string, value any) bool {
		s, ok := value.(string)
		if n := utf8.RuneCountInString(s); !ok || n < least || n > most {
			return c.wrong(path, value, "plan.text", least, most)
		}
		return true
	}
}

func pattern(expression string, remedy measure.Code) rule {
	compiled := regexp.MustCompile(expression)
	return func(c *checker, path string, value any) bool {
		s, ok := value.(string)
		if !ok || !compiled.MatchString(s) {
			return c.wrong(path, value, remedy)
		}
		return true
	}
}

func word[T ~string](words ...T) rule {
	return func(c *checker, path string, value any) bool {
		s, ok := value.(string)
		if !ok || !slices.Contains(words, T(s)) {
			names := make([]string, len(words))
			for i, w := range words {
				names[i] = string(w)
			}
			return c.wrong(path, value, "plan.one-of", names)
		}
		return true
	}
}

func flag() rule {
	return func(c *checker, path string, value any) bool {
		if _, ok := value.(bool); !ok {
			return c.wrong(path, value, "plan.flag")
		}
		return true
	}
}

func onlyTrue() rule {
	return func(c *checker, path string, value any) bool {
		if value != true {
			return c.wrong(path, value, "plan.only-true")
		}
		return true
	}
}

// fields are the keys of an object with their rules; a name ending in "!" is
// required.
type fields map[string]rule

// object checks each key, refuses unknown ones, drops what cannot be used and
// then asks the conditions.
func object(keys fields, conditions ...rule) rule {
	known := map[string]rule{}
	var required []string
	for name, check := range keys {
		bare, needed := strings.CutSuffix(name, "!")
		known[bare] = check
		if needed {
			required = append(required, bare)
		}
	}
	sort.Strings(required)
	return func(c *checker, path string, value any) bool {
		o, ok := value.(map[string]any)
		if !ok {
			return c.wrong(path, value, "plan.object")
		}
		for _, name := range required {
			if _, there := o[name]; !there {
				c.fault(join(path, name), nil, ErrMissing)
			}
		}
		for _, condition := range conditions {
			condition(c, path, value)
		}
		for _, name := range sortedKeys(o) {
			check, there := known[name]
			if !there {
				c.fault(join(path, name), nil, ErrUnknownKey)
				delete(o, name)
			} else if !check(c, join(path, name), o[name]) {
				delete(o, name)
			}
		}
		return true
	}
}

// mapping checks an object with open keys.
func mapping(key *regexp.Regexp, keyRemedy measure.Code, most int, each rule) rule {
	return func(c *checker, path string, value any) bool {
		o, ok := value.(map[string]any)
		if !ok {
			return c.wrong(path, value, "plan.object")
		}
		if len(o) > most {
			c.wrong(path, nil, "plan.most", len(o), most)
		}
		for _, name := range sortedKeys(o) {
			if key != nil && !key.MatchString(name) {
				c.wrong(join(path, name), nil, keyRemedy)
				delete(o, name)
			} else if !each(c, join(path, name), o[name]) {
				delete(o, name)
			}
		}
		return true
	}
}

// list checks each entry. A faulty one stays as an empty object or is dropped
// by kind, so that the places of the others do not move.
func list(least, most int, each rule) rule {
	return func(c *checker, path string, value any) bool {
		entries, ok := value.([]any)
		if !ok {
			return c.wrong(path, value, "plan.list")
		}
		if len(entries) < least || len(entries) > most {
			return c.wrong(path, nil, "plan.entries", len(entries), least, most)
		}
		for i := range entries {
			if !each(c, fmt.Sprintf("%s[%d]", path, i), entries[i]) {
				if _, isText := entries[i].(string); isText {
					entries[i] = ""
				} else {
					entries[i] = map[string]any{}
				}
			}
		}
		return true
	}
}

// either tries the rules in turn by the kind of value.
func either(isFirst func(any) bool, first, second rule) rule {
	return func(c *checker, path string, value any) bool {
		if isFirst(value) {
			return first(c, path, value)
		}
		return second(c, path, value)
	}
}

// exactlyOne is a condition: just one of the keys must be there.
func exactlyOne(names ...string) rule {
	return func(c *checker, path string, value any) bool {
		var found []string
		for _, name := range names {
			if _, there := value.(map[string]any)[name]; there {
				found = append(found, name)
			}
		}
		if len(found) != 1 {
			return c.wrong(path, nil, "plan.exactly-one", names)
		}
		return true
	}
}

// atLeastOne is a condition: one of the keys is there, or more.
func atLeastOne(names ...string) rule {
	return func(c *checker, path string, value any) bool {
		for _, name := range names {
			if _, there := value.(map[string]any)[name]; there {
				return true
			}
		}
		return c.wrong(path, nil, "plan.at-least-one", names)
	}
}

func sortedKeys(o map[string]any) []string {
	keys := make([]string, 0, len(o))
	for key := range o {
		keys = append(keys, key)
	}
	sort.Strings(keys)
	return keys
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

func isText(value any) bool   { _, ok := value.(string); return ok }
func isNumber(value any) bool { _, ok := value.(float64); return ok }
