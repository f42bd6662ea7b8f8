package recipe

import (
	"maps"
	"regexp"
	"slices"
	"strings"

	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What a cook knows of a kitchen, held against the steps: what is boiled in water has some, what is poured off leaves what
// was boiled, what is called cooked was, an oven is no flame, what goes in ladle by ladle does not go in at once.

var (
	waterSaid = regexp.MustCompile(`(?i)\b(?:boil|cook|simmer|soften|poach)\b[^.;]*\bin (?:plenty of |lots of |enough |fresh |boiling |` +
		`salted |hot |some |a little |a lot of |just enough |a (?:large |big )?(?:pan|pot) of (?:boiling |salted )*)*water\b`)
	drainSaid  = regexp.MustCompile(`(?i)\b(?:drain|strain)\b`)
	cookedSaid = regexp.MustCompile(`(?i)\b(?:the|your|with|add|this) (?:cooked|boiled|softened|steamed|(mashed)) ` +
		`(?:and (?:cooled|drained|mashed|ground) )?([a-z]+ ?[a-z]*)`)
	flameSaid  = regexp.MustCompile(`(?i)\b(?:simmer|boil|heat|hob|stove|flame|fire|burner|saucepan|pan|pot|bubble|hotplate|warm|fry|gas)\w*`)
	amountSaid = regexp.MustCompile(`(?i)\b(?:\d[\d/. ]*|an? |half an? |one |two |three )(?:cups?|ml|l|g|tbsp|tsp|tablespoons?|teaspoons?|` +
		`glass(?:es)?) (?:of )?(?:the )?(?:cold |warm |more |remaining |extra )*([a-z]+ ?[a-z]*)`)
	bitByBit = regexp.MustCompile(`(?i)\b(?:ladle(?:ful)?|cup(?:ful)?|glass|little|bit)s? at a time\b|\bladle by ladle\b|\bin (?:two|three|` +
		`four|several|small) (?:additions|goes|batches|lots|portions|stages)\b`)
	steepsSaid = regexp.MustCompile(`(?i)\b(?:saffron|strands|threads|aside|reserve|keep)\b`)
	eachTaken  = regexp.MustCompile(`(?i)\b(?:each|before|until it (?:is|has)|between)\b`)
)

// kitchen adds to a sentence what a cook would miss in its steps.
func (r *second) kitchen(s *Sentence) {
	if len(s.Steps) == 0 {
		return
	}
	touches := func(slug string) bool {
		return slices.ContainsFunc(s.Steps, func(k int) bool { return r.steps[k].touched[slug] })
	}
	if waterSaid.MatchString(s.plain) && !touches("water") && r.does(s, plan.Heat, plan.Pressure) {
		s.note(NotPut, "water")
	}
	r.amounts(s)
	r.drained(s)
	r.raw(s)
	r.overFlame(s)
	for _, k := range s.Steps {
		one := &r.plan.Steps[k]
		if one.Do == plan.Heat && !flameSaid.MatchString(s.plain) && r.afterBaking(k) {
			s.note(Flame, "")
		}
		if one.Do == plan.Add && bitByBit.MatchString(s.Text) && eachTaken.MatchString(s.Text) && !slices.Contains(one.Manner, plan.InGoes) {
			for _, group := range r.namedIn(s.plain) {
				if m, ok := r.reader.pantry.Material(r.slug(group[0])); ok && m.Behaviour == pantry.Liquid && r.steps[k].touched[m.Slug] {
					s.note(AtOnce, NameOf(m))
				}
			}
		}
	}
}

// overFlame finds what only comes about over a flame, or is said to stay on one, where none of the steps heats.
func (r *second) overFlame(s *Sentence) {
	hot := func(k int) bool {
		return slices.Contains(heating, r.plan.Steps[k].Do)
	}
	at, first := comesAbout.FindStringIndex(s.plain), s.Steps[0]
	begins := at != nil && (at[0] < len("and just ") || r.plan.Steps[first].Do != plan.Add) // "when it boils add the rice"
	if slices.ContainsFunc(s.Steps, hot) || begins && first > 0 && hot(first-1) {
		return
	}
	rests := r.does(s, plan.Rest) && staysOnFlame.MatchString(s.plain) && !offSaid.MatchString(s.plain)
	if rests || at != nil {
		s.note(NotDone, "heat")
	}
}

var heating = []plan.Verb{plan.Heat, plan.Pressure, plan.Bake, plan.Melt, plan.Caramel, plan.Steam, plan.Roast, plan.Fry}

// What shows that a pot is over a flame.
var (
	comesAbout = regexp.MustCompile(`(?i)\b(?:when|once|as soon as|until|till|as|before) ` +
		`(?:it|they|the (?:milk|pudding|payasam|mixture|kheer)) ` +
		`(?:just |only |nearly )*(?:starts? (?:to )?|begins? (?:to )?|comes? (?:back )?to (?:a|the) )?` +
		`(?:boil|bubbl|simmer|steam|warm|heat)(?:e?s|ing|e)?\b`)
	staysOnFlame = regexp.MustCompile(`(?i)\b(?:low|slow|small|gentle|medium|reduce|lower|turn down)\b[^.;]*\b(?:flame|heat|fire|gas)\b`)
	offSaid      = regexp.MustCompile(`(?i)\b(?:off|remove|removed|from the (?:heat|flame|fire|stove))\b`)
)

// amounts finds an amount of a liquid of which nothing goes in.
func (r *second) amounts(s *Sentence) {
	told := slices.ContainsFunc(s.Doubts, func(d Doubt) bool { return d.Of == NotPut || d.Of == InAlready })
	if told || steepsSaid.MatchString(s.plain) {
		return
	}
	for _, found := range amountSaid.FindAllStringSubmatch(s.plain, -1) {
		i, ok := r.first(found[1])
		if !ok || r.comesWith[i] {
			continue
		}
		m, known := r.reader.pantry.Material(r.slug(i))
		goesIn := func(k int) bool { return r.steps[k].put[r.slug(i)] || r.plan.Steps[k].Do == plan.Press }
		if known && m.Behaviour == pantry.Liquid && m.Slug != "water" && !slices.ContainsFunc(s.Steps, goesIn) {
			s.note(InAlready, NameOf(m))
		}
	}
}

// drained finds what was in the pot beside what is boiled and drained: it would be poured off with its liquid.
func (r *second) drained(s *Sentence) {
	if !drainSaid.MatchString(s.plain) || !r.does(s, plan.Heat, plan.Drain) {
		return
	}
	named := map[string]bool{"water": true}
	for _, i := range r.unplaced {
		named[r.slug(i)] = true // where that is was no sentence's doing
	}
	for _, group := range r.namedIn(s.plain) {
		for _, i := range group {
			named[r.slug(i)] = true
		}
	}
	for _, k := range s.Steps {
		if r.plan.Steps[k].Do != plan.Drain {
			continue
		}
		solids, other := boolInt(r.namesPieces(s)), ""
		for _, slug := range slices.Sorted(maps.Keys(r.steps[k].touched)) {
			m, ok := r.reader.pantry.Material(slug)
			solid := ok && (m.Behaviour == pantry.Grain || m.Behaviour == pantry.Tissue)
			if solid {
				solids++
			}
			if (solid || ok && m.Behaviour == pantry.Liquid) && !named[slug] {
				other = slug
			}
		}
		if m, ok := r.reader.pantry.Material(other); ok && (solids > 1 || m.Behaviour == pantry.Liquid) {
			s.note(WithIt, NameOf(m))
		}
	}
}

// namesPieces reports whether a sentence names raisins or nuts: what is poured off them was not in the pot.
func (r *second) namesPieces(s *Sentence) bool {
	return slices.ContainsFunc(r.namedIn(s.plain), func(group []int) bool { return r.behaves(mention{item: group[0]}, pantry.Piece) })
}

// raw finds what is called cooked where it goes in, and no step has cooked it.
func (r *second) raw(s *Sentence) {
	for _, found := range cookedSaid.FindAllStringSubmatch(s.plain, -1) {
		groups := r.namedIn(found[2])
		if len(groups) == 0 {
			continue
		}
		for _, i := range groups[0] {
			r.rawOne(s, i, found[1] != "")
		}
	}
}

// rawOne is the same of one thing of the list; fruit is mashed raw.
func (r *second) rawOne(s *Sentence, i int, mashed bool) {
	text := strings.ToLower(r.given[i].Text)
	m, known := r.reader.pantry.Material(r.slug(i))
	fruit := known && m.Behaviour == pantry.Tissue
	if !known || m.Behaviour != pantry.Grain && (!fruit || mashed) || strings.Contains(text, "cooked") || strings.Contains(text, "boiled") {
		return
	}
	arrives, cooked := false, false
	for k := 0; k <= s.Steps[len(s.Steps)-1]; k++ {
		switch touched := r.steps[k].touched[m.Slug]; r.plan.Steps[k].Do {
		case plan.Heat, plan.Pressure, plan.Bake, plan.Steam:
			cooked = cooked || touched
		case plan.Add:
			arrives = arrives || slices.Contains(s.Steps, k) && touched && !cooked
		}
	}
	if arrives {
		s.note(Raw, NameOf(m))
	}
}

// afterBaking reports whether the step over a flame is of a pot that is in an oven or a slow cooker still.
func (r *second) afterBaking(k int) bool {
	for b := k - 1; b >= 0; b-- {
		switch one := &r.plan.Steps[b]; {
		case one.PotName() != r.plan.Steps[k].PotName() || one.Do.IsPreparation():
		case one.Do == plan.Bake:
			return true
		case one.Do != plan.Add:
			return false
		}
	}
	return false
}
