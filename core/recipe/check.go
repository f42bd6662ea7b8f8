package recipe

import (
	"regexp"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What is read is read a second time, by its figures and verbs alone, and held against the steps that were made of it:
// a time or a doing that is in none of them is told, however sure the first reading was.

// A saying is a verb that begins a clause, in one of several words.
type saying struct {
	words []string
	said  *regexp.Regexp
}

// begun is said of words that begin a clause, with what may stand behind them.
func begun(words, behind string) saying {
	list := strings.Fields(words)
	return saying{list, regexp.MustCompile("(?:^|[,;.] |and |then )(?:" + strings.Join(list, "|") + ")" + behind)}
}

// in reports whether a text says so. To look for the words first is much quicker than to match.
func (s *saying) in(text string) bool {
	return slices.ContainsFunc(s.words, func(word string) bool { return strings.Contains(text, word) }) && s.said.MatchString(text)
}

// doneBy are verbs that leave no doubt what a sentence does, with the steps that do it.
var doneBy = []struct {
	said  saying
	verbs []plan.Verb
	word  string
	some  bool // asked only of a sentence that has steps
}{
	{saying{[]string{"fry", "saut"}, regexp.MustCompile(`(?:^|[,;.] |and |then |to )(?:fry|sauté|saute)\b`)},
		[]plan.Verb{plan.Fry, plan.Heat, plan.Roast}, "fry", false},
	{begun("simmer", `(?: [^t]| th[^e]|[,;]|$)`), []plan.Verb{plan.Heat, plan.Pressure, plan.Bake, plan.Melt},
		"simmer", false},
	{begun("bake", `\b`), []plan.Verb{plan.Bake}, "bake", false},
	{begun("chill refrigerate", `\b`), []plan.Verb{plan.Chill, plan.Cool}, "chill", false},
	{begun("strain sieve", `\b`), []plan.Verb{plan.Drain, plan.Melt, plan.Press, plan.Mash}, "strain", false},
	{begun("grind blitz blend", `\b`), []plan.Verb{plan.Grind, plan.Mash, plan.Press, plan.Squeeze, plan.Mix}, "grind", true},
	{begun("soak", `\b`), []plan.Verb{plan.Soak, plan.Rest}, "soak", true},
	{begun("roast toast", `\b`), []plan.Verb{plan.Roast, plan.Fry, plan.Heat, plan.Bake}, "roast", true},
	{begun("mash crush", `\b`), []plan.Verb{plan.Mash, plan.Grind, plan.Prep}, "mash", true},
	{begun("squeeze press", `(?: [^cf]| c[^l]| f[^i]|$)`), []plan.Verb{plan.Press, plan.Squeeze, plan.Drain, plan.Mash}, "press", true},
	{begun("steam", `\b`), []plan.Verb{plan.Steam, plan.Heat}, "steam", true},
	{begun("boil bring", `\b`), []plan.Verb{plan.Heat, plan.Pressure, plan.Melt, plan.Caramel, plan.Soak}, "boil", true},
	{begun("chop slice dice peel", `(?: [^io]| i[^n]| o[^u]|$)`),
		[]plan.Verb{plan.Prep, plan.Press, plan.Grind, plan.Mash, plan.Steam}, "get it ready", true},
}

// saidTimes are the spans of time in a sentence, but for how often it is stirred.
func saidTimes(text string) (list []measure.Range) {
	if !unitOfTime.MatchString(text) {
		return nil
	}
	var plain []string
	for _, w := range methodWords(text) {
		plain = append(plain, w.text)
	}
	text = inMinutes.Replace(stirredAt.ReplaceAllString(everyTime.ReplaceAllString(strings.Join(plain, " "), ""), ""))
	for _, found := range toAnHour.FindAllStringSubmatch(text, -1) {
		list = append(list, measure.Range{Value: mixedNumber(found[1]), Low: mixedNumber(found[1]), High: 90})
	}
	text = toAnHour.ReplaceAllString(text, "")
	for _, found := range hoursAnd.FindAllStringSubmatch(text, -1) {
		minutes := 60*mixedNumber(timeWords(found[1]+" hours")) + mixedNumber(found[2])
		list = append(list, measure.Range{Value: minutes, Low: minutes, High: minutes})
	}
	text = timeWords(hoursAnd.ReplaceAllString(orElse.ReplaceAllString(text, ""), ""))
	for _, found := range minutesSaid.FindAllStringSubmatch(text, -1) {
		low := mixedNumber(found[1])
		high := low
		for _, second := range found[2:4] {
			if second != "" {
				high = mixedNumber(second)
			}
		}
		if unit := found[len(found)-1]; strings.HasPrefix(unit, "h") {
			low, high = 60*low, 60*high
		}
		list = append(list, measure.Range{Value: (low + high) / 2, Low: low, High: high})
	}
	return list
}

var unitOfTime = regexp.MustCompile(`(?i)min|hour|hr|\d ?h\b`)

// inMinutes writes out what is said in parts of hours, and drops hours that are no span of time.
var inMinutes = strings.NewReplacer("an hour and a half", "90 minutes", "another hour and a half", "90 minutes",
	"one hour and a half", "90 minutes", "an hour and a quarter", "75 minutes", "another hour and a quarter", "75 minutes",
	"an hour and three quarters", "105 minutes", "three quarters of an hour", "45 minutes", "a quarter of an hour", "15 minutes",
	"quarter of an hour", "15 minutes", "half an hour", "30 minutes", "half hour", "", "once an hour", "")

// recheck adds to a sentence what its steps do not hold of it. before are the steps of the sentence before: a time may
// be of those.
func (s *Sentence) recheck(p *plan.Plan, before []int) {
	if !s.Understood() || s.Kept || s.As != "" {
		return
	}
	steps := append(slices.Clone(before), s.Steps...)
	const about = 1
	times := saidTimes(s.plain)
	for _, said := range times {
		kept := slices.ContainsFunc(steps, func(i int) bool {
			m, ok := lasting(&p.Steps[i])
			if k := i + 2; ok && k < len(p.Steps) && p.Steps[i].Do == p.Steps[k].Do && float64(m) < said.Low-about {
				rest, _ := lasting(&p.Steps[k]) // what goes in "for the last two minutes" parts the time
				m += rest
			}
			if (p.Steps[i].Do == plan.Soak || p.Steps[i].Do == plan.Chill) && float64(m) > said.High {
				return true // "overnight, or for at least 6 hours"
			}
			return ok && float64(m) >= said.Low-about && float64(m) <= said.High+about || strings.Contains(p.Steps[i].Note, "The recipe says")
		})
		if !kept && !releaseSaid.MatchString(s.plain) && !serveOr.MatchString(s.plain) {
			s.Doubts = append(s.Doubts, Doubt{Of: TimeLost, Minutes: measure.Minute(said.Value)})
		}
	}
	for k, said := range times { // "for 10 minutes, cover for 10 minutes more"
		again := slices.Contains(times[:k], said)
		last := 0
		for _, i := range s.Steps {
			if m, ok := lasting(&p.Steps[i]); ok && float64(m) >= said.Low-about && float64(m) <= said.High+about {
				last++
			}
		}
		if again && last == 1 {
			s.Doubts = append(s.Doubts, Doubt{Of: TimeLost, Minutes: measure.Minute(said.Value)})
		}
	}
	text := strings.ToLower(s.plain)
	for k := range doneBy {
		one := &doneBy[k]
		if one.word == "grind" && blendsWith.MatchString(text) {
			continue
		}
		pours := one.word == "strain" && pouredInto.MatchString(text) &&
			slices.ContainsFunc(s.Steps, func(i int) bool { return p.Steps[i].Do == plan.Add })
		if one.word == "chill" && keepsFor.MatchString(text) {
			continue
		}
		juice := func(i int) bool {
			return slices.ContainsFunc(p.Steps[i].Items, func(item plan.Item) bool { return strings.HasSuffix(item.Material, "-juice") })
		}
		if one.word == "press" && slices.ContainsFunc(s.Steps, juice) {
			continue
		}
		if one.word == "simmer" && simmersFirst.MatchString(text) || one.word == "strain" && s.soaks(p) ||
			one.word == "mash" && crushesLump.MatchString(text) {
			continue // what was soaked is strained; jaggery is crushed in a moment
		}
		if pours || one.word == "press" && (filmSaid.MatchString(text) || strings.Contains(text, "juice") || s.soaks(p)) {
			continue
		}
		does := func(i int) bool { return slices.Contains(one.verbs, p.Steps[i].Do) || stated(&p.Steps[i], one.verbs) }
		if one.said.in(text) && !(one.some && len(s.Steps) == 0) && !slices.ContainsFunc(s.Steps, does) {
			s.Doubts = append(s.Doubts, Doubt{Of: NotDone, Words: one.word})
		}
	}
}

// releaseSaid is said of a cooker that opens by itself: it takes as long as it does.
var releaseSaid = regexp.MustCompile(`(?i)^(?:then |and )?(?:let|allow|wait|leave|release)\b[^.;]*\bpressure\b`)

// orElse is another time for another heat: "on low for 5 hours or on high for 2".
var orElse = regexp.MustCompile(`\bor (?:on )?(?:high|low)(?: for)? ` + number + ` (?:hours?|minutes?)`)

// keepsFor is how long it keeps in the cold.
var keepsFor = regexp.MustCompile(`\b(?:refrigerate|chill|keep)\b[^.;]*\b(?:days?|weeks?)\b`)

// soaks reports whether a sentence is one that soaks: what is squeezed in it is its water.
func (s *Sentence) soaks(p *plan.Plan) bool {
	return slices.ContainsFunc(s.Steps, func(i int) bool { return p.Steps[i].Do == plan.Soak })
}

// blendsWith is said of what only mixes.
var blendsWith = regexp.MustCompile(`\bblend (?:[a-z]+ )?with\b|\bblend in\b`)

// pouredInto is said of what is strained into something.
var pouredInto = regexp.MustCompile(`\b(?:onto|into|over)\b`)

// crushesLump is said of what is only broken up.
var crushesLump = regexp.MustCompile(`\bcrush (?:the )?(?:[a-z]+ )?(?:jaggery|sugar|cardamoms?|pods?|seeds?|saffron|spices|ginger|candy)\b`)

// filmSaid is what is pressed onto a pudding so that it grows no skin.
var filmSaid = regexp.MustCompile(`\b(?:film|wrap|paper|parchment)\b`)

// stated reports whether what is done is said of an item of a step: ground, grated, chopped.
func stated(s *plan.Step, verbs []plan.Verb) bool {
	return (slices.Contains(verbs, plan.Grind) || slices.Contains(verbs, plan.Prep)) &&
		slices.ContainsFunc(s.Items, func(item plan.Item) bool { return item.State != "" && item.State != pantry.Raw })
}

// lasting is how long a step is said to last.
func lasting(s *plan.Step) (measure.Minute, bool) {
	switch {
	case s.Until != nil && s.Until.Minutes != nil:
		return *s.Until.Minutes, true
	case s.Minutes != nil:
		return *s.Minutes, true
	case s.Hours != nil:
		return measure.Minute(60 * *s.Hours), true
	}
	for _, item := range s.Items {
		if item.Minutes != nil {
			return *item.Minutes, true
		}
	}
	return 0, false
}
