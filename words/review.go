package words

import (
	"maps"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"kirdu/core/forecast"
	"kirdu/core/plan"
)

// A Text is one that somebody may read, for a reviewer.
type Text struct {
	Key    string // of the catalogue, or the way and the number of a step
	Text   string
	Doubts []string // what a reviewer should look at
}

// What a text may be: a sentence that is read at a glance.
const (
	longestText   = 160 // letters
	longestFigure = 4   // digits
)

var (
	figure = regexp.MustCompile(`\d[\d  .,]*\d|\d`)
	place  = regexp.MustCompile(`%\[\d\]s`)
)

// Catalogue lists every text of the catalogue.
func Catalogue() (list []Text) {
	for _, key := range slices.Sorted(maps.Keys(english)) {
		list = append(list, Text{key, english[key], doubtsAbout(english[key])})
	}
	return list
}

// StepTexts lists what the steps of a plan are called.
func (w Printer) StepTexts(p *plan.Plan) (list []Text) {
	f := forecast.Run(p, forecast.Options{CourseOnly: true})
	for i := range p.Steps {
		title := w.Step(p, f, i).Title
		one := Text{p.Name + " " + w.Number(float64(i+1), 0), title, doubtsAbout(title)}
		if verb, _, _ := strings.Cut(title, " "); !slices.Contains(stepVerbs, verb) {
			one.Doubts = append(one.Doubts, "does not begin with what is to be done")
		}
		list = append(list, one)
	}
	return list
}

// stepVerbs are what a step may begin with.
var stepVerbs = strings.Fields(`Add Bake Boil Bring Brown Chill Cook Cool Crumble Cut Drain Fold Fry Grate Grind Keep Lay Leave Let
	Mash Melt Mix Peel Pour Prepare Press Put Rest Roast Share Simmer Soak Squeeze Steam Stir Strain Take Toast Warm Wash Whip Whisk`)

func doubtsAbout(text string) (doubts []string) {
	if utf8.RuneCountInString(text) > longestText {
		doubts = append(doubts, "longer than a glance")
	}
	for _, one := range figure.FindAllString(place.ReplaceAllString(text, ""), -1) {
		digits := 0
		for _, c := range strings.SplitN(one, ".", 2)[0] {
			if c >= '0' && c <= '9' {
				digits++
			}
		}
		if digits > longestFigure {
			doubts = append(doubts, "a figure of more than four digits: "+one)
		}
	}
	return doubts
}
