package recipe

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
)

// Sentences parts a method: at the ends of its lines, and at full stops that end no number.
func Sentences(text string) (list []string) {
	for line := range strings.Lines(text) {
		line = shortened.ReplaceAllStringFunc(leadingNumber.ReplaceAllString(clean(line), ""), func(found string) string {
			unit, next, _ := strings.Cut(found, ".")
			word := strings.TrimSpace(next)
			if plain := strings.ToLower(word); unicode.IsUpper(firstRune(word)) && (doing[plain] != "" && !greasing[plain] ||
				beginsPhrase[plain]) {
				return found // "leaving 2 tbsp. Add the milk"
			}
			return unit + next
		})
		line = capitalHead.ReplaceAllString(line, "$1:. $2")
		line = afterSoLong.ReplaceAllString(goesOnAfter.ReplaceAllString(line, "$1 $2"), "$1, ")
		line = dashBegins.ReplaceAllStringFunc(line, func(found string) string {
			word := strings.ToLower(strings.TrimLeft(found, "- "))
			if doing[word] != "" && !nounish[word] || conditions[word] && word != "or" && word != "that" || afterDash[word] {
				return ". " + strings.TrimLeft(found, "- ")
			}
			return found
		})
		for _, part := range sentenceEnd.Split(line, -1) {
			part = stepNumber.ReplaceAllString(strings.Trim(part, " .;!"), "$1")
			if part != "" && !onlyStep.MatchString(part) && !onlyNumber.MatchString(part) {
				list = append(list, part)
			}
		}
	}
	return list
}

// afterDash are words that something new begins with behind a dash.
var afterDash = wordSet("in then now next meanwhile finally lastly for at first also off")

var (
	sentenceEnd = regexp.MustCompile(`[.;!]\s+|[.;!]$`)
	shortened   = regexp.MustCompile(`(?i)\b(?:approx|ca|abt|esp|incl|tbsp|tsp|tbs|deg|med|qt|pt|oz|lb)\.\s+(?:[a-z]+|[\d(½¼¾])`)
	afterSoLong = regexp.MustCompile(`(?i)(\bafter (?:about |another )?[\d-]+ (?:mins?|hrs?))\.\s+`) // "after 5 min. stir in the sugar"
	// "COMPOTE Simmer the berries": the name of a part before its first sentence
	capitalHead = regexp.MustCompile(`^(\p{Lu}{2,}(?: \p{Lu}{2,}){0,3}):? (\p{Lu}\p{Ll})`)
	// "45 min. or until set"
	goesOnAfter   = regexp.MustCompile(`\b((?i:mins?|hrs?))\.\s+((?:or|until|till|and|more|on|over|then|with|stirring|at \d+)\b)`)
	dashBegins    = regexp.MustCompile(` --? [A-Za-z]+\b`) // "milk to the boil - add the rice - simmer"
	onlyNumber    = regexp.MustCompile(`^\(?\d+\)?$`)      // of a step, in the middle of a line
	onlyStep      = regexp.MustCompile(`(?i)^step (?:\d+|one|two|three|four|five|six|seven|eight|nine|ten):?$`)
	stepNumber    = regexp.MustCompile(`^\d{1,2} (\p{Lu}\p{Ll})`)
	leadingNumber = regexp.MustCompile(`(?i)^(?:step \d+ ?[-.):]+|\d+ ?[.):]+) *`)
)

// heading takes a line that only names the part of the recipe that follows.
func (c *cookery) heading(text string) bool {
	words := plainWords(text)
	const most = 6
	named, colon := strings.CutSuffix(strings.TrimSpace(text), ":")
	if len(words) == 0 || len(words) > most {
		return false
	}
	known := slices.ContainsFunc(c.given, func(g Given) bool { return g.Section != "" && sameSection(g.Section, named) })
	if !known && !colon && !(words[0] == "for" && len(words) > 1 && words[1] == "the") {
		return false
	}
	if !known && slices.ContainsFunc(words, func(w string) bool { return doing[w] != "" && doing[w] != doTop && doing[w] != doPass }) {
		return false
	}
	c.enter(named)
	return true
}

func sameSection(a, b string) bool { return slices.Equal(sectionWords(a), sectionWords(b)) }

// sectionWords are the words of a heading that name something.
func sectionWords(heading string) (list []string) {
	for _, w := range plainWords(heading) {
		if w != "for" && w != "the" && w != "to" && w != "make" && w != "of" && w != "method" && w != "step" && w != "ingredient" && w != "a" {
			list = append(list, w)
		}
	}
	return list
}

// cooksForTop reports whether what a part of the list has for the top is cooked: there is liquid in it, and it is warmed.
func (c *cookery) cooksForTop() bool {
	const ahead = 3 // sentences
	text := strings.Join(c.text[c.now:min(c.now+ahead, len(c.text))], " . ")
	if !c.cooked() || !warmsIt.MatchString(text) {
		return false
	}
	parted := slices.ContainsFunc(c.given, func(g Given) bool { return g.Section == c.section })
	named := c.namedIn(c.text[c.now])
	for i := range c.given { // what this part of the list has, or what the sentence names
		m := c.material(i)
		own := parted && c.given[i].Section == c.section || !parted && c.used[i] < fullyUsed &&
			slices.ContainsFunc(named, func(group []int) bool { return slices.Contains(group, i) })
		if own && m != nil && pours(m) && m.Slug != "water" {
			return true
		}
	}
	return false
}

// enter begins a part of the recipe: one that is new is cooked in a pot of its own.
func (c *cookery) enter(heading string) {
	c.section = heading
	for i := range c.given {
		if sameSection(c.given[i].Section, heading) {
			c.section = c.given[i].Section
		}
	}
	c.next = nil
	named := sectionWords(heading)
	if finishing(heading) && !c.cooksForTop() {
		c.at = c.mainPot()
		return
	}
	for h := range c.holders {
		if c.holders[h].pot && slices.ContainsFunc(named, func(w string) bool { return slices.Contains(c.holders[h].words, w) }) {
			c.at = h
			return
		}
	}
	c.next = named
}
