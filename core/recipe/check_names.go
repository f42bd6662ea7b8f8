package recipe

import (
	"cmp"
	"maps"
	"regexp"
	"slices"
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
	brought map[string]bool // goes in, or is in what goes in
	touched map[string]bool // that, or it is in the pot that the step is about
}

// A second is the second reading of a recipe.
type second struct {
	*cookery
	plan     *plan.Plan
	unplaced []int           // of the list: what no sentence put anywhere
	steps    []handful       // of the plan, by step
	single   map[string]bool // parts that have the name of the one thing they are of
}

func (c *cookery) second(p *plan.Plan, unplaced []int) *second {
	r := &second{c, p, unplaced, make([]handful, len(p.Steps)), map[string]bool{}}
	parts, pots := map[string]map[string]bool{}, map[string]map[string]bool{}
	for i := range p.Steps {
		s := &p.Steps[i]
		h := handful{map[string]bool{}, map[string]bool{}, map[string]bool{}}
		items := append(slices.Clone(s.Items), plan.Item{Part: s.Of})
		for _, one := range []*plan.Item{s.In, s.Fat} {
			if one != nil {
				items = append(items, *one)
			}
		}
		for _, item := range items {
			if item.Material != "" {
				h.put[item.Material], h.touched[item.Material] = true, true
			}
			maps.Copy(h.touched, parts[strings.TrimSuffix(item.Part, ".fat")])
			maps.Copy(h.touched, pots[item.Pot])
		}
		h.brought = maps.Clone(h.touched)
		switch pot := s.PotName(); {
		case !s.Do.IsPreparation():
			if pots[pot] == nil {
				pots[pot] = map[string]bool{}
			}
			maps.Copy(pots[pot], h.touched)
			maps.Copy(h.touched, pots[pot])
		case s.Name != "":
			parts[s.Name] = h.touched
			r.single[s.Name] = len(s.Items) == 1 && s.Items[0].Material == s.Name
		}
		r.steps[i] = h
	}
	return r
}

// namedIn returns what of the list a text names, by the longest names first: of each name all that are called so.
func (c *cookery) namedIn(text string) (named [][]int) {
	begins := func(text, phrase string) bool {
		return strings.HasPrefix(text, phrase) && (len(text) == len(phrase) || text[len(phrase)] == ' ')
	}
	for rest := strings.Join(plainWords(text), " "); rest != ""; {
		length := 0
		var found []int
		for i, phrases := range c.names {
			for _, phrase := range phrases {
				if len(phrase) < length || !begins(rest, phrase) {
					continue
				}
				if len(phrase) > length {
					length, found = len(phrase), nil
				}
				if !slices.Contains(found, i) {
					found = append(found, i)
				}
			}
		}
		if found != nil {
			named = append(named, found)
			rest = strings.TrimPrefix(rest[length:], " ")
			continue
		}
		_, rest, _ = strings.Cut(rest, " ")
	}
	return named
}

// namesHeld reports whether a text names something that is in the pot that is being cooked in.
func (c *cookery) namesHeld(text string) bool {
	held := c.held()
	return slices.ContainsFunc(c.namedIn(text), func(group []int) bool { return slices.Contains(held, group[0]) })
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
		`nuts|fruit|dry|wet|topping|flavourings?|sweeteners?|sweeten|season|syrup|powders|batter|paste|slurry|grains?|liquids?|pulses?|left)\b`)
	restOf = regexp.MustCompile(`(?i)\b(?:rest of|remainder of|remaining) (?:the )?(?:[\d/. ]+(?:ml|l|g|cups?|tbsp|tsp|` +
		`litres?) (?:of )?)?([a-z]+(?: [a-z]+){0,2})`)
	pronoun = regexp.MustCompile(`(?i)\b(?:add|put|drain|wash|rinse|cook|boil|simmer|tip|stir|mix|pour|place|steam|heat|fry|roast|bring) ` +
		`(?:it|this)\b|\b(?:add|transfer|put|tip|place|return) (?:back )?(?:in|into|to) `)
	// Words after which something goes in, what says that it goes back to the flame, and where its name ends.
	puts = regexp.MustCompile(`(?i)\b(add|put the|stir in|mix in|fold in|whisk in|pour in|pour on|tip in|put in|drop in|beat in|` +
		`top with|pour over|` +
		`sprinkle|scatter|strew|drizzle|swirl|stir|mix|whisk|tip|pour|return)\b`)
	putPassively = regexp.MustCompile(`(?i)((?:[^,.;]|, and )*?) (?:(?:is|are|was|were|being) (?:then |now |slowly |gradually )?` +
		`(?:added|poured|sprinkled|stirred|mixed|tipped|put|dropped|thrown|folded|scattered)|goes|go|went) (?:in|into|on|over)\b`)
	// What comes to the boil first, or is boiled in water, need not be what is named.
	waitsFirst  = regexp.MustCompile(`(?i)^(?:when|once|as soon as|after|just before|before)\b|\bwater\b`)
	steepedMilk = regexp.MustCompile(`(?i)\b(saffron|cardamom|vanilla)(?:[- ]infused)? milk\b`)
	// What was cooked or made of something may be in the pot that the rest goes into.
	madeOfIt = regexp.MustCompile(`(?i)\b(?:pur[eé]e|paste|pulp|mashed|cooked|boiled|drained|blended|pureed|puréed)\b`)
	commas   = regexp.MustCompile(`[,;:] | and then | then | - `)
	negated  = regexp.MustCompile(`(?i)^ ?(?:when|once|as soon as|after|until|till|while)\b|\b(?:not|never|without|don't|before|` +
		`avoid|if|unless|no longer|otherwise|or it)\b`)
	pressureSaid = regexp.MustCompile(`(?i)\b(?:pressure|whistles?)\b`)
	pressureGone = regexp.MustCompile(`(?i)\b(?:release[ds]?|go(?:es|ing)? down|drop(?:s|ped)?|gone|goes|subsides?|settles?|escapes?|` +
		`open(?:ed)?|falls?|` +
		`cools?|comes? down|` +
		`off|pressure cooker|by itself|counting|naturally|weight|pressure pan|dies|died|steam out)\b`)
	heatSaid = regexp.MustCompile(`(?i)\b(?:(?:bring|brought|let|allow|comes?|came|get)\b.*\b(?:to (?:a|the) (?:[a-z]+ )?(?:boil|` +
		`simmer)|boil|simmer|bubble)|` +
		`(?:simmer|poach|bubble|boil|cook) (?:it|them|this|gently|slowly|again|for|over|on low|on medium|until|till|\d))\b`)
	goesBack  = regexp.MustCompile(`(?i)^[^,.;]{0,30} (?:to the (?:heat|boil|flame|stove|simmer|fire)|off)\b`)
	ofAFruit  = regexp.MustCompile(`(?i)\b(zest|rind|peel|juice) of (?:the |an? |one |half an? )?(?:lemon|lime|orange)s?\b`)
	sieved    = regexp.MustCompile(`(?i)^[^,.;]{0,40} (?:in|into) an? (?:fine )?(?:sieve|colander|strainer)\b`) // it is washed
	thingEnds = regexp.MustCompile(`(?i)[,.;]|\b(?:over|into|onto|to|with|on top|in the|until|till|for|while|from|except|but|after|` +
		`when|once|as soon as|because|otherwise|or|so|and (?:simmer|cook|boil|stir|bring|let|mix|remove|discard|take|fish|lift|pick))\b`)

	degreesSaid = regexp.MustCompile(`(?i)(\d{2,3}) ?(?:(?:°|degrees?|deg\b) ?(?:([CF])\b)?|([CF])\b)`)
	partSaid    = regexp.MustCompile(`(?i)\b(?:half|a third|one third|two thirds|a quarter|three quarters|` +
		`most) (?:of )?(?:the )?([a-z -]+)`)
	friedIn = regexp.MustCompile(`(?i)\b(?:(?:fried|browned|toasted|roasted|sizzled)|(?:toast|roast|brown|` +
		`fry) [a-z ]{2,40}?) in ([^,.;]*)`)
	addsSaid = regexp.MustCompile(`(?i)(?:^|[,;.] |\band |\bthen |\bnow |\bfinally |\blastly )((?:add|(?:pour|stir|mix|fold|tip|drop|whisk|` +
		`beat) in) (?:the |some |all |half |your )?([a-z]+))`)
	cooledSaid = regexp.MustCompile(`(?i)\b(?:wait|let|leave|allow)\b[^,.;]*\b(?:cool|cools|cooled|lukewarm|warm|tepid|cold)\b|` +
		`\buntil (?:[a-z]+ ){0,4}(?:cool|cools|cooled|lukewarm|warm|tepid|cold)\b`)
	heatsSaid  = regexp.MustCompile(`(?i)\b(?:heat|warm) (?:it|the|them|up|gently|slowly|over|through|everything|again|until)\b`)
	soakedIn   = regexp.MustCompile(`(?i)\bin (?:[a-z]+ )?(?:cold|cool|lukewarm|warm|tepid) (?:water|milk)\b`)
	takenOut   = regexp.MustCompile(`(?i)\b(?:lift|scoop|take|spoon) (?:it|them|the [a-z]+)? ?out\b`)
	flavourOut = regexp.MustCompile(`(?i)\b(?:peel|zest|rind|pods?|beans?|vanilla|spices?|stalks?|sticks?|lea(?:f|ves)|cloves|bark|bag)\b`)
	forbids    = regexp.MustCompile(`(?i)^(?:do not|don't|never|avoid)\b`)
	washed     = regexp.MustCompile(`(?i)\b(?:wash|rinse|pick over|clean)\b`)
	pouredOff  = regexp.MustCompile(`(?i)\b(?:pour|drain|tip|ladle) (?:off|away)\b`)
	mashedSaid = regexp.MustCompile(`(?i)\b(?:mash|crush|purée|puree|blend|grind|grate) (?:the |half (?:of )?the |` +
		`some (?:of )?the )?([a-z ]+)`)
)

// read adds to a sentence what its names and figures say otherwise than its steps. waiting is the sentence before, if
// nothing went in by it: what it names may go in with this one.
func (r *second) read(s *Sentence, waiting string) {
	if !s.Understood() || s.Kept || s.As != "" {
		return
	}
	r.nowhere(s)
	r.unnamed(s, waiting)
	r.promised(s)
	r.figures(s)
	r.doings(s)
	r.heating(s)
	r.mashing(s)
	r.shares(s)
	r.elsewhere(s)
	r.kitchen(s)
	r.needless(s)
}

// needless takes back that something is to be cut: fruit and nuts that go in are in pieces then, and nobody waits for that.
func (r *second) needless(s *Sentence) {
	cut := Doubt{Of: NotDone, Words: "get it ready"}
	if !slices.Contains(s.Doubts, cut) {
		return
	}
	named := r.namedIn(s.plain)
	if len(named) > 0 && !slices.ContainsFunc(named, func(group []int) bool {
		m, ok := r.reader.pantry.Material(r.slug(group[0]))
		return !ok || m.Behaviour == pantry.Tissue || m.Behaviour == pantry.Grain ||
			!slices.ContainsFunc(r.steps, func(h handful) bool { return h.put[m.Slug] })
	}) {
		s.Doubts = slices.DeleteFunc(s.Doubts, func(d Doubt) bool { return d == cut })
	}
}

func (s *Sentence) note(of DoubtOf, words string) {
	if d := (Doubt{Of: of, Words: words}); !slices.Contains(s.Doubts, d) {
		s.Doubts = append(s.Doubts, d)
	}
}

func (r *second) slug(i int) string { return r.given[i].Item.Material }

func (r *second) called(slug string) string {
	if m, ok := r.reader.pantry.Material(slug); ok {
		return NameOf(m)
	}
	return slug
}

// does reports whether a step of a sentence does one of these.
func (r *second) does(s *Sentence, verbs ...plan.Verb) bool {
	return slices.ContainsFunc(s.Steps, func(k int) bool { return slices.Contains(verbs, r.plan.Steps[k].Do) })
}

// nowhere finds what it names, and no sentence put anywhere.
func (r *second) nowhere(s *Sentence) {
	if washed.MatchString(s.plain) || forbids.MatchString(s.plain) {
		return
	}
	for _, group := range r.namedIn(s.plain) {
		touched := slices.ContainsFunc(s.Steps, func(k int) bool { return r.steps[k].touched[r.slug(group[0])] })
		if len(group) == 1 && slices.Contains(r.unplaced, group[0]) && !touched && r.slug(group[0]) != "water" {
			s.note(NotPut, r.given[group[0]].Text)
		}
	}
}

// unnamed finds what its steps put in, and it does not name.
func (r *second) unnamed(s *Sentence, waiting string) {
	together := restOf.ReplaceAllStringFunc(s.plain, func(said string) string {
		if _, one := r.first(restOf.FindStringSubmatch(said)[1]); one {
			return "" // "the rest of the milk" is milk
		}
		return said
	})
	several, one := collective.MatchString(together), pronoun.MatchString(s.plain)
	nowhere := map[string]bool{} // what no sentence put anywhere is meant by none of these words
	for _, i := range r.unplaced {
		nowhere[r.slug(i)] = true
	}
	named := map[string]bool{"water": wetSaid.MatchString(s.plain)}
	text := s.plain + " . " + waiting
	for grain, dressings := range r.dressed { // "rub the rice with the ghee": that goes in with it
		for _, one := range dressings {
			if one.item >= 0 && slices.ContainsFunc(s.Steps, func(k int) bool { return r.steps[k].brought[r.slug(grain)] }) {
				named[r.slug(one.item)] = true
			}
		}
	}
	if garnishOnly.MatchString(s.plain) {
		for i := range r.given {
			named[r.slug(i)] = named[r.slug(i)] || r.isTopping(i)
		}
	}
	for i := range r.comesWith {
		named[r.slug(i)] = true // with the dish, or with the paste
	}
	for with := range r.powdered { // ground with what is named
		named[r.slug(with)] = true
	}
	for _, k := range s.Steps {
		for _, also := range r.shared[r.plan.Steps[k].Name] {
			text += " . " + r.text[also]
		}
	}
	for _, group := range r.namedIn(text) {
		for _, i := range group {
			named[r.slug(i)] = true
		}
	}
	for _, i := range r.unplaced { // "soak the sago. Warm the milk ... drain the sago and add": that it waited does not put it in
		if r.timesNamed(s.plain, i) == 0 && r.timesNamed(waiting, i) > 0 && r.timesNamed(r.behind(s), i) > 0 {
			named[r.slug(i)] = false
		}
	}
	for _, k := range s.Steps {
		for _, item := range r.plan.Steps[k].Items {
			slug, whole := item.Material, r.single[item.Part]
			if whole {
				slug = item.Part
			}
			if slug != "" && !named[slug] && (nowhere[slug] || !several && !(whole && one)) {
				s.note(Unnamed, r.called(slug))
			}
		}
	}
}

// behind is what the sentences behind one say.
func (r *second) behind(s *Sentence) string {
	return strings.Join(r.text[s.number+1:], " . ")
}

// garnishOnly is said where the list has what goes on top: "garnish and serve".
var garnishOnly = regexp.MustCompile(`(?i)\b(?:garnish|decorate)(?:$|[,.;&]| (?:and|&|it|before))`)

// wetSaid is said where water may go in that is not named.
var wetSaid = regexp.MustCompile(`(?i)\b(?:water|everything|all|ingredients|pressure|cooker|whistles?|soak(?:ed|ing)?|liquid|` +
	`boil(?:ed)?|cook(?:ed)?|melt|dissolve|syrup|jaggery)\b`)

// promised finds what stands right behind a word for putting in, and does not go in by its steps.
func (r *second) promised(s *Sentence) {
	if len(s.Steps) > 0 && r.plan.Steps[s.Steps[0]].Do.IsPreparation() ||
		len(s.Steps) == 0 && r.passed[s.number] {
		return
	}
	arrives := func(i int) bool {
		return slices.ContainsFunc(s.Steps, func(k int) bool {
			made := slices.ContainsFunc(r.plan.Steps[k].Items, r.isStirred) // into the bowl, or that into the pot: the same
			return r.steps[k].brought[r.slug(i)] || made && r.steps[k].touched[r.slug(i)]
		})
	}
	r.passively(s, arrives)
	for _, found := range restOf.FindAllStringSubmatch(s.plain, -1) {
		if i, one := r.first(found[1]); one && (len(s.Steps) > 0 || toppedSaid.MatchString(s.plain)) && !arrives(i) {
			s.note(InAlready, r.called(r.slug(i)))
		}
	}
	for _, at := range puts.FindAllStringIndex(s.plain, -1) {
		rest := s.plain[at[1]:]
		if goesBack.MatchString(rest) || sieved.MatchString(rest) {
			continue
		}
		if end := thingEnds.FindStringIndex(rest); end != nil {
			rest = rest[:end[0]]
		}
		said := strings.ToLower(s.plain[at[0]:at[1]])
		if end := thingEnds.FindStringIndex(rest); end != nil {
			rest = rest[:end[0]]
		}
		back := said == "return" || said == "pour over" || said == "pour on" || madeOfIt.MatchString(rest)
		for _, group := range r.namedIn(ofAFruit.ReplaceAllString(steepedMilk.ReplaceAllString(rest, "$1"), "$1")) {
			if !slices.ContainsFunc(group, arrives) && !(back && r.touched(s, group)) {
				s.note(InAlready, r.called(r.slug(group[0])))
			}
		}
	}
}

// rinsed is said of what cools under the tap.
var rinsed = regexp.MustCompile(`(?i)\b(?:rinse|running water|cold water)\b`)

// toppedSaid is said of what lies on top.
var toppedSaid = regexp.MustCompile(`(?i)\b(?:topped|sprinkled|scattered|strewn|garnished|decorated)\b`)

// isStirred reports whether an item was made of several things: a pot, what was stirred together, a syrup, what was fried.
func (r *second) isStirred(item plan.Item) bool {
	maker := r.plan.Maker(item.Part)
	if item.Part == "" || maker < 0 {
		return item.Material == ""
	}
	switch r.plan.Steps[maker].Do {
	case plan.Soak, plan.Roast, plan.Grind, plan.Prep, plan.Squeeze:
		return false
	}
	return true
}

// passively finds what is told to go in, and does not: "the rice is sprinkled in", "in goes the sugar".
func (r *second) passively(s *Sentence, arrives func(int) bool) {
	for _, found := range putPassively.FindAllStringSubmatch(s.plain, -1) {
		said := found[1]
		if at := strings.LastIndexAny(said, ",;"); at >= 0 {
			said = said[at:]
		}
		if groups := r.namedIn(said); len(groups) > 0 && !slices.ContainsFunc(groups[len(groups)-1], arrives) {
			s.note(InAlready, r.called(r.slug(groups[len(groups)-1][0])))
		}
	}
}

// touched reports whether the steps of a sentence have to do with one of these things.
func (r *second) touched(s *Sentence, list []int) bool {
	return slices.ContainsFunc(s.Steps, func(k int) bool {
		return slices.ContainsFunc(list, func(i int) bool { return r.steps[k].touched[r.slug(i)] })
	})
}

// elsewhere finds a step over a flame that has to do with nothing that its sentence names.
func (r *second) elsewhere(s *Sentence) {
	groups := r.namedIn(s.plain)
	if len(groups) == 0 || waitsFirst.MatchString(s.plain) {
		return
	}
	for _, k := range s.Steps {
		switch r.plan.Steps[k].Do {
		case plan.Heat, plan.Pressure, plan.Bake:
		default:
			continue
		}
		if slices.ContainsFunc(s.Steps, func(later int) bool { return later > k && r.steps[later].put[r.slug(groups[0][0])] }) {
			continue // "let it bubble for five minutes, then add the milk"
		}
		if !slices.ContainsFunc(groups, func(group []int) bool {
			return slices.ContainsFunc(group, func(i int) bool { return r.steps[k].touched[r.slug(i)] })
		}) {
			s.note(Elsewhere, r.called(r.slug(groups[0][0])))
		}
	}
}

// figures finds a temperature that no step has: of several, as of an oven with its fan and without, one is enough.
func (r *second) figures(s *Sentence) {
	lost := ""
	for _, found := range degreesSaid.FindAllStringSubmatch(s.plain, -1) {
		x, about := ovenCelsius(found[1], found[2]+found[3]), measure.Celsius(3)
		near := func(t *measure.Celsius) bool { return t != nil && *t > x-about && *t < x+about }
		if slices.ContainsFunc(r.plan.Steps, func(one plan.Step) bool {
			return near(one.OvenC) || near(one.ToC) || one.Until != nil && near(one.Until.TempC)
		}) {
			return
		}
		lost = cmp.Or(lost, found[0])
	}
	if lost != "" {
		s.note(FigureLost, lost)
	}
}

// doings finds what is told of in other forms than its verbs, and no step does.
func (r *second) doings(s *Sentence) {
	for _, found := range friedIn.FindAllStringSubmatch(s.plain, -1) {
		i, ok := r.first(strings.TrimPrefix(found[1], "the "))
		m, known := r.reader.pantry.Material(r.slug(max(0, i)))
		if (!ok || known && m.Behaviour == pantry.Fat) && !r.does(s, plan.Fry, plan.Heat) && (ok || !r.does(s, plan.Roast)) {
			s.note(NotDone, "fry")
		}
	}
	cools := cooledSaid.MatchString(soakedIn.ReplaceAllString(s.plain, "")) && !heatsSaid.MatchString(s.plain)
	if cools && !rinsed.MatchString(s.plain) && !heldUnder.MatchString(s.plain) && len(s.Steps) > 0 &&
		!r.does(s, plan.Cool, plan.Chill, plan.Rest) {
		s.note(NotDone, "let it cool")
	}
	told := slices.ContainsFunc(s.Doubts, func(d Doubt) bool { return d.Of == InAlready || d.Of == NotDone || d.Of == Unread })
	found := addsSaid.FindStringSubmatch(s.plain)
	if found != nil && !told && len(s.Steps) > 0 && !wholeOfIt[found[2]] && !negated.MatchString(s.plain[:strings.Index(s.plain, found[1])]) &&
		!r.does(s, plan.Add, plan.Mix, plan.Fry, plan.Melt, plan.Press, plan.Caramel, plan.Roast) {
		s.note(NotDone, found[1])
	}
	if pouredOff.MatchString(s.plain) && !r.does(s, plan.Drain, plan.Soak) {
		s.note(NotDone, "pour it off")
	}
	if takenOut.MatchString(s.plain) && !flavourOut.MatchString(s.plain) && r.does(s, plan.Add) && !r.does(s, plan.Fry) {
		s.note(NotDone, "take it out")
	}
}

// heldUnder is said of what is cooled by the water that rinses it.
var heldUnder = regexp.MustCompile(`(?i)\b(?:rinse|hold|run|refresh|leave|put)\b[^.;]*\b(?:under|in|with|of) (?:the |running )*` +
	`cold (?:running )?(?:water|tap)\b`)

// wholeOfIt is what is in the pot.
var wholeOfIt = wordSet("mixture it pudding custard batter everything individual small serving bowls glasses cups moulds ramekins")

// heating finds what is told to be heated, or put under pressure, where no step does it.
func (r *second) heating(s *Sentence) {
	if len(s.Steps) == 0 {
		return
	}
	for _, part := range commas.Split(s.plain, -1) {
		if negated.MatchString(part) {
			continue
		}
		if pressureSaid.MatchString(part) && !pressureGone.MatchString(part) && !r.does(s, plan.Pressure) {
			s.note(NotDone, "cook it under pressure")
		}
		if heatSaid.MatchString(part) && !r.does(s, plan.Heat, plan.Pressure, plan.Bake, plan.Steam, plan.Melt, plan.Caramel, plan.Soak) {
			s.note(NotDone, "cook it")
		}
	}
}

// mashing finds one thing that is to be mashed where all that is in the pot would be.
func (r *second) mashing(s *Sentence) {
	for _, found := range mashedSaid.FindAllStringSubmatch(s.plain, -1) {
		i, ok := r.first(found[1])
		for _, k := range s.Steps {
			const alone = 3 // with what it was cooked in
			m, _ := r.reader.pantry.Material(r.slug(i))
			if one := &r.plan.Steps[k]; ok && m != nil && m.Behaviour != pantry.Grain && one.Do == plan.Mash && one.Of == "" &&
				len(r.steps[k].touched) > alone {
				s.note(WholePot, r.called(r.slug(i)))
			}
		}
	}
}

// workedOn is what the first preparation of a sentence is done with.
func (r *second) workedOn(s *Sentence) string {
	for _, k := range s.Steps {
		slugs := slices.Sorted(maps.Keys(r.steps[k].touched))
		if at := slices.IndexFunc(slugs, func(slug string) bool {
			m, ok := r.reader.pantry.Material(slug)
			return ok && (m.Behaviour == pantry.Grain || m.Behaviour == pantry.Tissue)
		}); at >= 0 {
			return slugs[at]
		}
	}
	return ""
}

// beginsDoing reports whether words go on with what is done: "down by a third add the sugar".
func beginsDoing(text string) bool {
	word, _, _ := strings.Cut(text, " ")
	return doing[word] != "" && !nounish[word] && !greasing[word]
}

// shares finds what goes in whole where a part of it is said.
func (r *second) shares(s *Sentence) {
	told, _, _ := strings.Cut(s.plain, "until")
	for _, found := range partSaid.FindAllStringSubmatch(told, -1) {
		if begin, _, _ := strings.Cut(found[1], " "); (begin == "it" || begin == "them") && r.does(s, plan.Grind, plan.Mash) {
			s.note(AllOfIt, r.called(r.workedOn(s)))
			continue // "blend two thirds of it"
		}
		if i, ok := r.first(found[1]); ok && !beginsDoing(found[1]) {
			r.notAllOf(s, i)
		}
	}
	if !r.does(s, plan.Grind) {
		return
	}
	for _, found := range amountOf.FindAllStringSubmatch(told, -1) { // "grind 1 cup of the corn"
		if i, ok := r.first(found[2]); ok {
			if share, known := r.shareOf(found[1], i); known && share < 1-sameAmount {
				r.notAllOf(s, i)
			}
		}
	}
}

// notAllOf notes it where all of something goes in.
func (r *second) notAllOf(s *Sentence, i int) {
	for _, k := range s.Steps {
		if slices.ContainsFunc(r.plan.Steps[k].Items, func(item plan.Item) bool {
			return item.Material == r.slug(i) && item.Amount == r.given[i].Item.Amount
		}) {
			s.note(AllOfIt, r.called(r.slug(i)))
		}
	}
}

// amountOf is an amount of something of the list.
var amountOf = regexp.MustCompile(`(?i)\b(\d[\d./]*(?: \d/\d)? ?(?:cups?|tbsp|tablespoons?|g|ml)) of (?:the )?([a-z]+)`)
