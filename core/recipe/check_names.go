package recipe

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// The second reading goes by names, too: what a sentence names, found by the names of the list alone, and its figures
// are held against what its steps put in and work on.

// A handful is what a step has to do with, by slug.
type handful struct {
	put     map[string]bool // goes into a pot by it, as it is
	touched map[string]bool // goes in, or is in what goes in, or in the pot that it is about
}

// whereabouts returns what each step has to do with.
func whereabouts(p *plan.Plan) []handful {
	parts, pots := map[string]map[string]bool{}, map[string]map[string]bool{}
	all := make([]handful, len(p.Steps))
	for i := range p.Steps {
		s := &p.Steps[i]
		h := handful{map[string]bool{}, map[string]bool{}}
		items := slices.Clone(s.Items)
		for _, one := range []*plan.Item{s.In, s.Fat} {
			if one != nil {
				items = append(items, *one)
			}
		}
		for _, item := range append(items, plan.Item{Part: s.Of}) {
			if item.Material != "" {
				h.put[item.Material], h.touched[item.Material] = true, true
			}
			union(h.touched, parts[strings.TrimSuffix(item.Part, ".fat")])
			union(h.touched, pots[item.Pot])
		}
		if s.Do.IsPreparation() {
			if s.Name != "" {
				parts[s.Name] = h.touched
			}
		} else {
			pot := s.PotName()
			if pots[pot] == nil {
				pots[pot] = map[string]bool{}
			}
			union(pots[pot], h.touched)
			union(h.touched, pots[pot])
		}
		all[i] = h
	}
	return all
}

func union(into, from map[string]bool) {
	for name := range from {
		into[name] = true
	}
}

// namedIn returns what of the list a text names, by the longest names first: of each name all that are called so.
func (c *cookery) namedIn(text string) (named [][]int) {
	words := plainWords(text)
	for k := 0; k < len(words); {
		length := 0
		var found []int
		for i, phrases := range c.names {
			for _, phrase := range phrases {
				n := len(strings.Fields(phrase))
				if n < length || k+n > len(words) || strings.Join(words[k:k+n], " ") != phrase {
					continue
				}
				if n > length {
					length, found = n, nil
				}
				if !slices.Contains(found, i) {
					found = append(found, i)
				}
			}
		}
		if found != nil {
			named = append(named, found)
		}
		k += max(1, length)
	}
	return named
}

// first returns what of the list the first three words of a text name.
func (c *cookery) first(text string) (i int, ok bool) {
	words := strings.Fields(text)
	groups := c.namedIn(strings.Join(words[:min(3, len(words))], " "))
	if len(groups) == 0 {
		return 0, false
	}
	return groups[0][0], true
}

// What sentences say, beside names.
var (
	// Words for several things at once, which need not be named.
	collective = regexp.MustCompile(`(?i)\b(everything|all|rest|remaining|remainder|ingredients?|mixture|both|them|these|those|` +
		`others?|spices?|` +
		`nuts|fruit|dry|wet|topping|flavourings?|sweeteners?|sweeten|season|syrup|batter|paste|slurry|grains?|liquids?|pulses?|left)\b`)
	restOf  = regexp.MustCompile(`(?i)\b(?:rest of|remainder of|remaining) (?:the )?([a-z]+ ?[a-z]*)`)
	pronoun = regexp.MustCompile(`(?i)\b(?:add|put|drain|wash|rinse|cook|boil|simmer|tip|stir|mix|pour|place|steam|heat|fry|roast|bring) ` +
		`(?:it|this)\b`)
	// Words after which something goes in, what says that it goes back to the flame, and where its name ends.
	puts = regexp.MustCompile(`(?i)\b(add|stir in|mix in|fold in|whisk in|pour in|pour on|tip in|put in|drop in|beat in|top with|pour over|` +
		`sprinkle|scatter|strew|drizzle|swirl|stir|mix|whisk|tip|pour|return)\b`)
	goesBack  = regexp.MustCompile(`(?i)^[^,.;]{0,30} (?:to the (?:heat|boil|flame|stove|simmer|fire)|off)\b`)
	thingEnds = regexp.MustCompile(`(?i)[,.;]|\b(?:over|into|onto|to|with|on top|in the|until|for|while|from|except|but)\b`)

	degreesSaid = regexp.MustCompile(`(?i)(\d{2,3}) ?(?:(?:°|degrees?|deg\b) ?([CF])?|([CF])\b)`)
	partSaid    = regexp.MustCompile(`(?i)\b(?:half|a third|one third|two thirds|a quarter|three quarters|most) (?:of )?(?:the )?([a-z -]+)`)
	friedIn     = regexp.MustCompile(`(?i)\b(?:(?:fried|browned|toasted|roasted|sizzled)|(?:toast|roast|brown|` +
		`fry) [a-z ]{2,40}?) in ([^,.;]*)`)
	cooledSaid = regexp.MustCompile(`(?i)\b(?:wait|let|leave|allow|until)\b[^,.;]*\b(?:cool|cools|cooled|lukewarm|warm|tepid|cold)\b`)
	takenOut   = regexp.MustCompile(`(?i)\b(?:lift|scoop|take|spoon) (?:it|them|the [a-z]+)? ?out\b`)
	washed     = regexp.MustCompile(`(?i)\b(?:wash|rinse|pick over|clean)\b`)
	pouredOff  = regexp.MustCompile(`(?i)\b(?:pour|drain|tip|ladle) (?:off|away)\b`)
	mashedSaid = regexp.MustCompile(`(?i)\b(?:mash|crush|purée|puree|blend|grind|grate) (?:the |half (?:of )?the |` +
		`some (?:of )?the )?([a-z ]+)`)
)

// A second is the second reading of a sentence.
type second struct {
	*cookery
	*Sentence
	plan   *plan.Plan
	put    []handful
	wholly map[string]string // what a part is, by name, where it is of one thing
}

// reread adds to a sentence what its names and figures say otherwise than its steps. waiting is the sentence before, if
// nothing went in by it: what it names may go in with this one.
func (s *Sentence) reread(c *cookery, p *plan.Plan, put []handful, waiting string, unplaced []int) {
	if !s.Understood() || s.Kept || s.As != "" {
		return
	}
	r := second{c, s, p, put, map[string]string{}}
	for i := range p.Steps {
		one := &p.Steps[i]
		if slug := one.Name; one.Do.IsPreparation() && len(one.Items) == 1 && one.Items[0].Material == slug {
			r.wholly[slug] = slug // it has the name of what it is made of: nothing but "them" and "it" names it otherwise
		}
	}
	r.unplaced(unplaced)
	r.unnamed(waiting, unplaced)
	r.promised()
	r.figures()
	r.doings()
	r.shares()
}

func (r second) note(of DoubtOf, words string) {
	if d := (Doubt{Of: of, Words: words}); !slices.Contains(r.Doubts, d) {
		r.Doubts = append(r.Doubts, d)
	}
}

func (r second) slug(i int) string { return r.given[i].Item.Material }

func (r second) called(slug string) string {
	if m, ok := r.reader.pantry.Material(slug); ok {
		return NameOf(m)
	}
	return slug
}

// has reports whether a step of the sentence does one of these.
func (r second) has(verbs ...plan.Verb) bool {
	return slices.ContainsFunc(r.Steps, func(k int) bool { return slices.Contains(verbs, r.plan.Steps[k].Do) })
}

// unplaced finds what it names, and no sentence put anywhere.
func (r second) unplaced(unplaced []int) {
	if washed.MatchString(r.Text) {
		return
	}
	for _, group := range r.namedIn(r.Text) {
		touched := slices.ContainsFunc(r.Steps, func(k int) bool { return r.put[k].touched[r.slug(group[0])] })
		if len(group) == 1 && slices.Contains(unplaced, group[0]) && !touched && r.slug(group[0]) != "water" {
			r.note(NotPut, r.given[group[0]].Text)
		}
	}
}

// unnamed finds what its steps put in, and it does not name.
func (r second) unnamed(waiting string, unplaced []int) {
	together := restOf.ReplaceAllStringFunc(r.Text, func(said string) string {
		if _, one := r.first(restOf.FindStringSubmatch(said)[1]); one {
			return "" // "the rest of the milk" is milk
		}
		return said
	})
	several, one := collective.MatchString(together), pronoun.MatchString(r.Text)
	nowhere := map[string]bool{} // what no sentence put anywhere is meant by none of these words
	for _, i := range unplaced {
		nowhere[r.slug(i)] = true
	}
	named := map[string]bool{"water": true}
	for _, group := range r.namedIn(r.Text + " . " + waiting) {
		for _, i := range group {
			named[r.slug(i)] = true
		}
	}
	for _, k := range r.Steps {
		for _, item := range r.plan.Steps[k].Items {
			slug, whole := r.wholly[item.Part]
			if item.Material != "" {
				slug = item.Material
			}
			if slug != "" && !named[slug] && (nowhere[slug] || !several && !(whole && one)) {
				r.note(Unnamed, r.called(slug))
			}
		}
	}
}

// promised finds what stands right behind a word for putting in, and does not go in by its steps.
func (r second) promised() {
	if len(r.Steps) > 0 && r.plan.Steps[r.Steps[0]].Do.IsPreparation() {
		return
	}
	arrives := func(i int) bool {
		return slices.ContainsFunc(r.Steps, func(k int) bool {
			made := slices.ContainsFunc(r.plan.Steps[k].Items, func(item plan.Item) bool { return item.Material == "" })
			return r.put[k].put[r.slug(i)] || made && r.put[k].touched[r.slug(i)]
		})
	}
	for _, at := range puts.FindAllStringIndex(r.Text, -1) {
		rest := r.Text[at[1]:]
		if goesBack.MatchString(rest) {
			continue
		}
		if end := thingEnds.FindStringIndex(rest); end != nil {
			rest = rest[:end[0]]
		}
		if groups := r.namedIn(rest); len(groups) > 0 && !slices.ContainsFunc(groups[0], arrives) {
			r.note(InAlready, r.called(r.slug(groups[0][0])))
		}
	}
}

// figures finds a temperature that no step has: of several, as of an oven with its fan and without, one is enough.
func (r second) figures() {
	lost := ""
	for _, found := range degreesSaid.FindAllStringSubmatch(r.Text, -1) {
		x, err := strconv.ParseFloat(found[1], 64)
		const hottest, about = 260, 3
		if unit := found[2] + found[3]; strings.EqualFold(unit, "f") || unit == "" && x > hottest {
			x = (x - 32) / 1.8
		}
		near := func(t *measure.Celsius) bool { return t != nil && float64(*t) > x-about && float64(*t) < x+about }
		if err != nil || slices.ContainsFunc(r.plan.Steps, func(s plan.Step) bool {
			return near(s.OvenC) || near(s.ToC) || s.Until != nil && near(s.Until.TempC)
		}) {
			return
		}
		lost = cmp.Or(lost, found[0])
	}
	if lost != "" {
		r.note(FigureLost, lost)
	}
}

// doings finds what is told of in other forms than its verbs, and no step does.
func (r second) doings() {
	for _, found := range friedIn.FindAllStringSubmatch(r.Text, -1) {
		i, ok := r.first(strings.TrimPrefix(found[1], "the "))
		m, known := r.reader.pantry.Material(r.slug(max(0, i)))
		if (!ok || known && m.Behaviour == pantry.Fat) && !r.has(plan.Fry, plan.Heat) && (ok || !r.has(plan.Roast)) {
			r.note(NotDone, "fry")
		}
	}
	if cooledSaid.MatchString(r.Text) && len(r.Steps) > 0 && !r.has(plan.Cool, plan.Chill, plan.Rest) {
		r.note(NotDone, "let it cool")
	}
	if pouredOff.MatchString(r.Text) && !r.has(plan.Drain, plan.Soak) {
		r.note(NotDone, "pour it off")
	}
	if takenOut.MatchString(r.Text) && r.has(plan.Add) && !r.has(plan.Fry) {
		r.note(NotDone, "take it out")
	}
	for _, found := range mashedSaid.FindAllStringSubmatch(r.Text, -1) {
		i, ok := r.first(found[1])
		for _, k := range r.Steps {
			s := &r.plan.Steps[k]
			const alone = 3 // with what it was cooked in
			if ok && s.Do == plan.Mash && s.Of == "" && s.Pct == nil && len(r.put[k].touched) > alone {
				r.note(WholePot, r.called(r.slug(i)))
			}
		}
	}
}

// shares finds what goes in whole where a part of it is said.
func (r second) shares() {
	told, _, _ := strings.Cut(r.Text, "until")
	for _, found := range partSaid.FindAllStringSubmatch(told, -1) {
		i, ok := r.first(found[1])
		for _, k := range r.Steps {
			for _, item := range r.plan.Steps[k].Items {
				if ok && item.Material == r.slug(i) && item.Amount == r.given[i].Item.Amount {
					r.note(AllOfIt, r.called(r.slug(i)))
				}
			}
		}
	}
}
