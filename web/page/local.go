package page

import (
	"bytes"
	"context"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"golang.org/x/net/html"
)

// A Local is how numbers, dates and temperatures are written, and the colours of
// the screen. Its zero value is what the pages are written in.
type Local struct {
	Numbers string // point, comma
	Dates   string // words: 2 January 2006; month: January 2, 2006; iso: 2006-01-02
	Heat    string // c; cf: with °F beside
	Week    string // monday, sunday
	Theme   string // auto, light, dark
}

// The settings of a Local by their names in the store, each with its values; the
// first is taken where none was set.
var localSettings = []struct {
	name   string
	values []string
	of     func(*Local) *string
}{
	{"numbers", []string{"point", "comma"}, func(l *Local) *string { return &l.Numbers }},
	{"dates", []string{"words", "month", "iso"}, func(l *Local) *string { return &l.Dates }},
	{"heat", []string{"c", "cf"}, func(l *Local) *string { return &l.Heat }},
	{"week", []string{"monday", "sunday"}, func(l *Local) *string { return &l.Week }},
	{"theme", []string{"auto", "light", "dark"}, func(l *Local) *string { return &l.Theme }},
}

// Local returns how this kitchen writes.
func (a *App) Local(ctx context.Context) (Local, error) {
	var l Local
	set, err := a.Store.Settings(ctx)
	if err != nil {
		return l, err
	}
	for _, s := range localSettings {
		*s.of(&l) = s.values[0]
		for _, value := range s.values {
			if set[s.name] == value {
				*s.of(&l) = value
			}
		}
	}
	return l, nil
}

// Set returns a setting by its name.
func (l Local) Set(name string) string {
	for _, s := range localSettings {
		if s.name == name {
			return *s.of(&l)
		}
	}
	return ""
}

func (l Local) plain() bool {
	return l.Numbers != "comma" && l.Dates != "month" && l.Dates != "iso" && l.Heat != "cf"
}

// verbatim are the elements whose text is no prose.
var verbatim = map[string]bool{"script": true, "style": true, "textarea": true, "code": true, "pre": true, "kbd": true, "title": true}

// Page writes the texts of a page so; what is in tags, in code and in fields stays.
func (l Local) Page(page []byte) []byte {
	if l.plain() {
		return page
	}
	var out bytes.Buffer
	out.Grow(len(page) + len(page)/8)
	tokens := html.NewTokenizer(bytes.NewReader(page))
	depth, read := 0, 0
	for {
		kind := tokens.Next()
		if kind == html.ErrorToken {
			out.Write(page[read:]) // a tag that is cut off
			return out.Bytes()
		}
		raw := bytes.Clone(tokens.Raw())
		read += len(raw)
		switch kind {
		case html.StartTagToken, html.EndTagToken:
			name, _ := tokens.TagName()
			if verbatim[string(name)] {
				if kind == html.StartTagToken {
					depth++
				} else {
					depth = max(0, depth-1)
				}
			}
		case html.TextToken:
			if depth == 0 {
				raw = []byte(l.Text(string(raw)))
			}
		}
		out.Write(raw)
	}
}

const monthNames = `January|February|March|April|May|June|July|August|September|October|November|December|Jan|Feb|Mar|Apr|Jun|Jul|Aug|Sep|Oct|Nov|Dec`

var (
	dayFirst = regexp.MustCompile(`\b(\d{1,2}) (` + monthNames + `)( \d{4})?\b`)
	celsius  = regexp.MustCompile(`(-?\d+(?:\.\d+)?)(?: (to|and|or) (-?\d+(?:\.\d+)?))?([  ]°C)( \()?`)
	decimal  = regexp.MustCompile(`[\w.-]*\d\.\d[\w.-]*`)
	wholly   = regexp.MustCompile(`^-?\d+\.\d+\.?$`)
)

// Text writes one text so.
func (l Local) Text(text string) string {
	if l.Heat == "cf" && strings.Contains(text, "°C") {
		text = celsius.ReplaceAllStringFunc(text, func(found string) string {
			m := celsius.FindStringSubmatch(found)
			if m[5] != "" {
				return found // it stands beside already
			}
			both := fahrenheit(m[1])
			if m[2] != "" {
				both += " " + m[2] + " " + fahrenheit(m[3])
			}
			return found + " (" + both + " °F)"
		})
	}
	if l.Dates == "month" || l.Dates == "iso" {
		text = dayFirst.ReplaceAllStringFunc(text, func(found string) string {
			m := dayFirst.FindStringSubmatch(found)
			year := strings.TrimSpace(m[3])
			if l.Dates == "month" {
				if year != "" {
					return m[2] + " " + m[1] + ", " + year
				}
				return m[2] + " " + m[1]
			}
			if year == "" {
				return found // without its year ISO would be read wrongly
			}
			day, _ := strconv.Atoi(m[1])
			return fmt.Sprintf("%s-%02d-%02d", year, monthOf(m[2]), day)
		})
	}
	if l.Numbers == "comma" {
		text = decimal.ReplaceAllStringFunc(text, func(found string) string {
			// Versions and addresses have more than one point, or letters.
			if wholly.MatchString(found) {
				return strings.Replace(found, ".", ",", 1)
			}
			return found
		})
	}
	return text
}

func fahrenheit(celsius string) string {
	x, _ := strconv.ParseFloat(celsius, 64)
	const perKelvin, zero = 1.8, 32
	return strconv.FormatFloat(math.Round(x*perKelvin+zero), 'f', 0, 64)
}

func monthOf(name string) int {
	const three = 3
	return strings.Index("JanFebMarAprMayJunJulAugSepOctNovDec", name[:three])/three + 1
}
