package recipe

import (
	"cmp"
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// namesOf returns the phrases by which a method may call a line of the list, the longest first.
func (r *Reader) namesOf(g Given) []string {
	m, ok := r.pantry.Material(g.Item.Material)
	if !ok {
		return nil
	}
	set := map[string]bool{}
	add := func(text string) {
		words := plainWords(text)
		for k := range words {
			if phrase := strings.Join(words[k:], " "); len(phrase) > 2 && !describes[phrase] || phrase == "dal" || k == 0 && len(words) > 0 {
				set[phrase] = true
			}
		}
	}
	add(m.ShortName())
	for _, alias := range m.Aliases {
		add(alias)
	}
	for _, names := range []map[string]string{r.names, r.near} {
		for phrase, slug := range names {
			if slug == m.Slug && (r.names[phrase] == slug || strings.Contains(" "+strings.Join(plainWords(g.Text), " ")+" ", " "+phrase+" ")) {
				set[phrase] = true
				if r.names[phrase] != slug {
					add(phrase) // "blossom water" of an orange blossom water
				}
			}
		}
	}
	for _, found := range bracketed.FindAllStringSubmatch(g.Text, -1) { // "rice flakes (ada)"
		const longest = 2
		words := plainWords(found[1])
		own := len(words) > 0 && len(words) <= longest && !slices.ContainsFunc(words, func(w string) bool {
			return describes[w] || doing[w] != "" || numberWords[w] > 0 || strings.ContainsFunc(w, unicode.IsDigit) || filler[w]
		})
		if _, done := participle(strings.Join(words, "")); own && !done {
			set[strings.Join(words, " ")] = true
		}
	}
	if found := orSaid.FindStringSubmatch(g.Text); found != nil { // "3 tbsp oil or ghee": the method may say either
		if words := plainWords(found[1]); r.names[strings.Join(words, " ")] != "" {
			set[strings.Join(words, " ")] = true
		}
	}
	if m.Slug != "water" {
		delete(set, "water") // of roses
	}
	delete(set, "paste") // of vanilla; it is what was ground
	if !strings.HasPrefix(m.Slug, "milk-") || m.Behaviour != pantry.Liquid {
		delete(set, "milk") // of coconut milk and condensed milk more is said
	}
	for _, class := range classes[m.Kind] {
		set[class] = true
	}
	switch {
	case m.Behaviour == pantry.Grain:
		set["grain"] = true
	case m.Behaviour == pantry.Piece && m.Kind != "fruit" && m.Kind != "dairy":
		set["nut"] = true
	}
	for part, more := range commonly {
		if strings.Contains(m.Slug, part) && (part != "milk-" || m.Behaviour == pantry.Liquid) {
			for _, phrase := range more {
				set[phrase] = true
			}
		}
	}
	// Whatever the list calls it beside: "rosematta" of a line that the pantry took for red rice.
	for _, w := range plainWords(g.Text) {
		const longName = 4
		named := len(w) > longName || len(w) == 3 && strings.Contains(g.Text, w+" (")
		if named && !describes[w] && !filler[w] && !besideUnit[w] && !r.words[w] {
			if _, unit := intakeUnits[w]; !unit {
				set[w] = true
			}
		}
	}
	var list []string
	for phrase := range set {
		list = append(list, phrase)
	}
	slices.SortFunc(list, func(a, b string) int {
		if d := strings.Count(b, " ") - strings.Count(a, " "); d != 0 {
			return d
		}
		return strings.Compare(a, b)
	})
	return list
}

// lastWords lets things be called by the last word of their name, where nothing else ends so: "the flakes" of millet flakes.
func (c *cookery) lastWords() {
	const shortest = 5 // letters
	last := make([]string, len(c.given))
	for i := range c.given {
		name, _, _ := strings.Cut(bracketed.ReplaceAllString(c.given[i].Text, ""), ",")
		words := plainWords(name)
		if len(words) > 1 {
			last[i] = words[len(words)-1]
		}
	}
	if milk := c.onlyMilk(); milk >= 0 {
		c.names[milk] = append(c.names[milk], "milk") // "the boiling milk" is the oat drink
	}
	for i, word := range last {
		taken := slices.ContainsFunc(last[:i], func(other string) bool { return other == word }) || slices.Contains(last[i+1:], word)
		if len(word) < shortest || taken || c.isName(word) || describes[word] || doing[word] != "" || filler[word] || besideUnit[word] ||
			vagueNames[word] || len(c.names[i]) == 0 {
			continue
		}
		if _, unit := intakeUnits[word]; !unit && !strings.ContainsFunc(word, unicode.IsDigit) {
			c.names[i] = append(c.names[i], word)
		}
	}
}

// onlyMilk is the plant milk of a list that has one and no other milk; -1 for none.
func (c *cookery) onlyMilk() int {
	only := -1
	for i := range c.given {
		m := c.material(i)
		switch {
		case slices.Contains(c.names[i], "milk"), m != nil && strings.Contains(m.Slug, "milk") && only >= 0:
			return -1
		case m != nil && strings.Contains(m.Slug, "milk") && m.Behaviour == pantry.Liquid && !strings.HasPrefix(m.Slug, "coconut"):
			only = i
		}
	}
	return only
}

// vagueNames are last words of names that are said of other things as well.
var vagueNames = wordSet("water cream paste syrup powder sauce juice mixture batter topping caramel custard puree")

// commonly are what cooks call things in a method, by a piece of the slug.
var commonly = map[string][]string{"rice": {"rice"}, "moong": {"dal", "lentil", "pulse"}, "masoor": {"dal", "lentil", "pulse"},
	"urad":   {"dal", "lentil", "pulse"},
	"chana":  {"dal", "lentil", "pulse", "chickpea"},
	"lentil": {"dal", "lentil", "pulse"}, "milk-": {"milk"}, "condensed-milk": {"milk"}, "evaporated-milk": {"milk"},
	"coconut-milk": {"coconut milk"}, "coconut-milk-thick": {"thick milk", "first milk"}, "coconut-milk-thin": {"thin milk", "second milk"},
	"coconut-cream": {"coconut milk", "cream"}, "cream-": {"cream"},
	"sago": {"sago", "pearl", "tapioca"}, "wheat": {"wheat"}, "millet": {"millet"}, "vermicelli": {"vermicelli", "noodle"},
	"egg-": {"egg"}, "egg-white": {"white"}, "vanilla-pod": {"vanilla", "pod", "bean", "vanilla seed"},
	"vanilla-extract": {"essence", "extract"}, "pandan-leaf": {"pandan"}, "cornstarch": {"starch"}, "saffron": {"strand", "thread"}}

// classes are words for all of a kind.
var classes = map[string][]string{"sweetener": {"sugar", "sweetener"}, "nut": {"nut", "dry fruit"}, "spice": {"spice"},
	"fruit": {"fruit"}, "dried-fruit": {"dry fruit", "dried fruit"}}

func isClass(phrase string) bool {
	switch phrase {
	case "nut", "spice", "sweetener", "fruit", "dry fruit", "dried fruit", "pulse":
		return true
	}
	return false
}

// A mention is something that a clause names: an item of the list and how much of it, or what was
// made of some: a part, or what another pot holds.
type mention struct {
	item   int     // -1: none
	share  float64 // of all that the list has of it, or of what a part or a pot holds
	holder int     // -1: none
	at     int     // where its name stands
}

// A holder is what things are put into: a pot on the flame, or a bowl or a pan beside.
type holder struct {
	name  string // of the pot or the part
	pot   bool
	words []string // by which it is called
	items []int    // of the list
	left  float64
	press bool // a milk of pressed coconut
	waits bool // a pot: a later sentence puts what it holds into what is cooked meanwhile
}

// orSaid is what may stand for what a line has.
var orSaid = regexp.MustCompile(`(?i)\bor ([a-z]+(?: [a-z]+)?)\s*(?:,|\(|$)`)

// allOf is all that is left in a holder.
func allOf(holder int) mention { return mention{item: -1, share: 1, holder: holder} }

// mentions finds what a clause names.
func (c *cookery) mentions(l *clause) []mention {
	list := c.mentioned(l)
	c.remember(list)
	return list
}

func (c *cookery) remember(list []mention) {
	if len(list) > 0 {
		c.last = slices.Clone(list)
	}
}

// inPotAlready reports whether "everything" is what is in the pot: it is brought to the boil, cooked, mashed or left
// to stand, and not put in.
func (c *cookery) inPotAlready(l *clause) bool {
	switch l.do {
	case doBoil, doCook, doRest, doMash, doCool, doChill:
		return len(c.held()) > 0 && (l.find("everything") >= 0 || l.find("all together") >= 0)
	case doAdd:
		if l.find("everything") < 0 || l.verb != "mix" && l.verb != "stir" || !c.cooked() || c.now < 0 {
			return false
		}
		if c.madeBy(len(c.steps)-1) == c.now {
			return true // "add the sugar and mix everything well"
		}
		for i := range c.given {
			if c.used[i] < fullyUsed && c.given[i].Section == c.section && !c.isTopping(i) && !c.namedLater(i) {
				return false
			}
		}
		return true
	}
	return false
}

// mentioned finds what a clause names, and remembers nothing of it.
func (c *cookery) mentioned(l *clause) (list []mention) {
	end := len(l.words)
	if at := slices.IndexFunc(l.words, func(w *token) bool { return w.text == "until" }); at >= 0 {
		end = at // what it is then is not what it is done to
		for _, w := range l.words[at+1:] {
			w.read = w.read || c.isName(w.one)
		}
	}
	if list, meant := c.whatWasMade(l); meant {
		return list
	}
	waits := false // "till everything comes together"
	if k := l.find("everything"); k > 0 && conditions[l.words[k-1].text] {
		waits = true
	}
	if !waits && l.has("everything") || l.has("all the ingredients", "all ingredients", "remaining ingredients", "rest of the ingredients",
		"other ingredients",
		"all the rest", "all together") || l.find("ingredients") >= 0 && c.sectionOf(l) != "" {
		return c.everything(l)
	}
	taken := make([]bool, len(l.words))
	take := func(from, to int) {
		for j := from; j < to; j++ {
			taken[j], l.words[j].read = true, true
		}
	}
	also := len(l.words)
	if end < also {
		also = l.withIt(end)
	}
	for length := 4; length >= 1; length-- {
		for k := 0; k+length <= len(l.words); k++ {
			if k+length > end && k < also || slices.Contains(taken[k:k+length], true) {
				continue
			}
			found, again := c.named(l, k, length, list)
			if again {
				for _, w := range l.words[k : k+length] {
					w.read = true // it is in what is named before
				}
			}
			if len(found) == 0 {
				continue
			}
			list = append(list, found...)
			take(k, k+length)
			if j := k + length; j < end && !taken[j] && behindNames[l.words[j].one] {
				take(j, j+1) // "the rice flour paste"
			}
			if to := c.ofTheFruit(l, found[0], k+length, end); to > 0 {
				take(k+length, to) // "the zest of the lime"
			}
		}
	}
	slices.SortStableFunc(list, func(a, b mention) int { return a.at - b.at })
	return list
}

// withIt is where it is said what else is heated, behind a clause's "until": "until it boils with the vanilla pod".
func (l *clause) withIt(until int) int {
	for k := until + 1; k < len(l.words); k++ {
		if l.words[k].text == "with" && hotEnough[l.words[k-1].text] {
			return k
		}
	}
	return len(l.words)
}

var hotEnough = wordSet("boils boiling hot steams steaming simmers warm")

// behindNames are words for what was made of what they stand behind.
var behindNames = wordSet("paste mixture slurry syrup powder")

// ofTheFruit is the end of what only says of which fruit a zest or a juice is: "of the lime"; 0 for none.
func (c *cookery) ofTheFruit(l *clause, m mention, from, end int) int {
	if m.item < 0 || !strings.HasPrefix(c.given[m.item].Item.Material, "citrus-") && c.given[m.item].Item.Material != "orange-juice" ||
		from >= end || l.words[from].text != "of" {
		return 0
	}
	for k := from + 1; k < min(from+4, end); k++ {
		switch l.words[k].one {
		case "lemon", "lime", "orange":
			return k + 1
		}
	}
	return 0
}

// whatWasMade reports whether "everything" is no more of the list: what was made last, or what is in the pot.
func (c *cookery) whatWasMade(l *clause) (list []mention, meant bool) {
	all := l.find("everything") >= 0
	switch last := len(c.steps) - 1; {
	case last >= 0 && all && len(c.last) == 1 && c.last[0].item < 0 && c.last[0].holder >= 0 &&
		c.steps[last].Name == c.holders[c.last[0].holder].name && c.holders[c.last[0].holder].left > 0: // "pour everything into the pot"
		list = slices.Clone(c.last)
	case all && slices.Contains([]string{"pour", "tip", "scrape", "return", "spoon", "ladle", "turn"}, l.verb) &&
		(l.find("over") >= 0 || l.find("onto") >= 0 || l.find("back") >= 0 || l.verb == "return" ||
			l.find("into") >= 0 && len(c.held()) > 0 && c.restComesLater() ||
			l.find("into") >= 0 && c.cooked() && (l.find("dish") >= 0 || l.find("tin") >= 0 || l.find("bowls") >= 0)):
	case c.inPotAlready(l):
	default:
		return nil, false
	}
	l.has("everything", "all together")
	return list, true
}

// everything is all of the list, or of the part of it that is told of, that is in no pot yet.
func (c *cookery) everything(l *clause) (list []mention) {
	section := cmp.Or(c.sectionOf(l), c.section)
	for i := range c.given {
		if c.used[i] < 1 && len(c.names[i]) > 0 && !c.isTopping(i) && c.given[i].Section == section && !c.given[i].inMethod {
			list = append(list, mention{item: i, share: 1 - c.used[i], holder: -1})
		}
	}
	at := max(l.find("except"), l.find("but"))
	if at < 0 {
		return list
	}
	but := c.mentioned(&clause{words: l.words[at+1:]})
	l.words[at].read = true
	for _, one := range but {
		delete(c.said, one.item)
	}
	return slices.DeleteFunc(list, func(m mention) bool {
		return slices.ContainsFunc(but, func(one mention) bool { return one.item == m.item })
	})
}

// isName reports whether a word names something that is here.
func (c *cookery) isName(one string) bool {
	return slices.ContainsFunc(c.names, func(names []string) bool { return slices.Contains(names, one) })
}

// endsName reports whether a word ends the name of something that is here: "the hot oat milk".
func (c *cookery) endsName(one string) bool {
	return c.isName(one) || slices.ContainsFunc(c.names, func(names []string) bool {
		return slices.ContainsFunc(names, func(name string) bool { return strings.HasSuffix(name, " "+one) })
	})
}

// beginsName reports whether a word begins the name of something that is here.
func (c *cookery) beginsName(one string) bool {
	return slices.ContainsFunc(c.names, func(names []string) bool {
		return slices.ContainsFunc(names, func(name string) bool { return strings.HasPrefix(name, one+" ") })
	})
}

// named finds what some words of a clause name. again tells that it is in what was named before.
func (c *cookery) named(l *clause, k, length int, before []mention) (list []mention, again bool) {
	phrase := phraseOf(l.words[k : k+length])
	if phrase == "" {
		return nil, false
	}
	candidates := c.candidates(phrase, l, k)
	made := func(h holder) bool { return !h.pot && h.left > 0 && slices.Contains(h.words, phrase) }
	if groundNames[l.words[k+length-1].one] && slices.ContainsFunc(c.holders, made) {
		candidates = nil // "the mango puree" is the bowl with it, and not the fruit of the list
	}
	if phrase == "nut" {
		candidates = c.whichNuts(l, k+length, candidates)
	}
	if c.waterAgain(l, k, length, candidates) {
		candidates = nil
	}
	for _, i := range candidates {
		if slices.ContainsFunc(before, func(m mention) bool { return m.item == i && m.share > 0 }) {
			again = true
			continue
		}
		if meant, settled := c.inSomething(l, k, i); settled {
			return append(list, meant...), len(meant) == 0
		}
		if h := c.holderOf(i); h >= 0 && c.restOfBowl(l, k, h) {
			return append(list, mention{item: -1, share: 1, holder: h, at: k}), false
		}
		if h := c.holderOf(i); h < 0 || c.used[i] <= fullyUsed || c.next == nil && slices.Contains(c.held(), i) {
			list = append(list, mention{item: i, share: c.shareBefore(l, k, i), holder: -1, at: k})
		} else if again = slices.ContainsFunc(append(before, list...), func(m mention) bool { return m.holder == h }); !again {
			one := mention{item: i, share: 0, holder: h, at: k}
			if part := c.partShare(l, k); part < 1 && !c.holders[h].pot {
				one.item, one.share = -1, part // "half of the fried nuts"
			}
			list = append(list, one)
		}
		if c.said != nil {
			c.said[i] = true
		}
		both := k > 0 && l.words[k-1].text == "both" && length == 1 && l.words[k].text != l.words[k].one // "both dals"
		if !isClass(phrase) && !both && !(phrase == "milk" && l.words[k].text == "milks") {
			return list, again
		}
	}
	if len(list) > 0 {
		return list, again
	}
	becomes := k > 1 && l.words[k-1].text == "a" && (l.words[k-2].text == "to" || l.words[k-2].text == "into") // "boil it to a sauce"
	if becomes && (phrase == "sauce" || phrase == "syrup") {
		l.words[k].read = true
	}
	for h := range c.holders {
		called := slices.Contains(c.holders[h].words, phrase) || c.holders[h].pot && !becomes && c.loosely(phrase, h)
		if called && (c.holders[h].left > 0 || c.holders[h].pot) && !slices.ContainsFunc(before, func(m mention) bool { return m.holder == h }) {
			return []mention{{item: -1, share: c.partShare(l, k), holder: h, at: k}}, false
		}
	}
	if len(candidates) > 0 {
		return nil, again
	}
	if list = c.groundTo(phrase, k); len(list) == 0 {
		list = c.unlisted(l, k, length, phrase)
	}
	return list, again
}

// whichNuts are the nuts that are meant where they go in: not those for the top, and as a powder those that were ground.
func (c *cookery) whichNuts(l *clause, behind int, nuts []int) []int {
	only := func(fits func(int) bool) {
		if some := slices.DeleteFunc(slices.Clone(nuts), func(i int) bool { return !fits(i) }); len(some) > 0 {
			nuts = some
		}
	}
	if l.do == doAdd {
		only(func(i int) bool { return !c.isTopping(i) })
	}
	if behind < len(l.words) && (l.words[behind].text == "powder" || l.words[behind].text == "paste") {
		only(func(i int) bool { return c.given[i].Item.State == pantry.Ground })
	}
	return nuts
}

// restOfBowl reports whether what is left of a bowl is meant, of which a part is in: "the rest of the coconut milk".
func (c *cookery) restOfBowl(l *clause, k, h int) bool {
	if c.holders[h].pot || c.holders[h].left >= fullyUsed {
		return false
	}
	return slices.ContainsFunc(l.words[max(k-4, 0):k], func(w *token) bool {
		return w.text == "rest" || w.text == "remaining" || w.text == "remainder" || w.text == "other"
	})
}

// sameAmount is how far two amounts may be apart that are the same.
const sameAmount = 0.03

// waterAgain reports whether words name with its amount what is all in: more water.
func (c *cookery) waterAgain(l *clause, k, length int, candidates []int) bool {
	if len(candidates) == 0 {
		return false
	}
	if i := candidates[0]; c.given[i].Item.Material == "water" && c.used[i] == 0 && len(candidates) == 1 &&
		c.waterForLater(i, cmp.Or(first(c.amountBefore(l, k)), c.amountAfter(l, k+length))) {
		return true
	}
	if i := candidates[0]; c.given[i].Item.Material == "water" && !c.given[i].inMethod && plentySaid.MatchString(l.text()) &&
		(c.restLater(i) || c.laterInFull(i)) {
		return true // the list's is for what comes: "in plenty of water ... bring the remaining water to the boil"
	}
	if i := candidates[0]; c.waterFor(l, k, length, i) {
		return true
	}
	if i := candidates[0]; c.used[i] <= fullyUsed || !c.given[i].inMethod && c.given[i].Item.Material != "water" {
		return false
	}
	text, _ := c.amountBefore(l, k)
	return cmp.Or(text, c.amountAfter(l, k+length)) != "" || c.boilsInWater(l, k) || someWater(l) && l.do == doAdd && c.waterToMelt(l) != ""
}

// waterFor reports whether the list has its water for something that the clause does not name, and that is said with another
// amount: "2 cups of water" beside "1/2 cup water for the jaggery".
func (c *cookery) waterFor(l *clause, k, length, item int) bool {
	found := forSaid.FindStringSubmatch(c.given[item].Text)
	if found == nil || c.given[item].Item.Material != "water" || c.used[item] > 0 {
		return false
	}
	said, _ := c.amountBefore(l, k)
	share, ok := c.shareOf(cmp.Or(said, c.amountAfter(l, k+length)), item)
	if !ok || math.Abs(share-1) < sameAmount {
		return false
	}
	return slices.ContainsFunc(c.namedIn(found[1]), func(group []int) bool {
		return !slices.ContainsFunc(c.namedIn(l.text()), func(here []int) bool { return here[0] == group[0] })
	})
}

// plentySaid is said of water that nobody measures.
var plentySaid = regexp.MustCompile(`\b(?:plenty|lots|a lot|an? (?:large |big |deep |wide |tall )?(?:pan|pot|saucepan|potful|panful)) of ` +
	`[a-z ]{0,20}water\b`)

// forSaid is what a line of the list is for.
var forSaid = regexp.MustCompile(`(?i)\b(?:for|to (?:melt|dissolve|cook|boil|soak)) (.+)$`)

// someWater reports whether water is said of which nobody says how much.
func someWater(l *clause) bool {
	return l.find("enough water") >= 0 || l.find("little water") >= 0 || l.find("splash of water") >= 0
}

// boilsInWater reports whether what is in no pot yet is boiled in water of which no amount is said: it is other water than what is in.
func (c *cookery) boilsInWater(l *clause, k int) bool {
	return (l.do == doBoil || l.do == doCook) && slices.ContainsFunc(l.words[max(k-4, 0):k], func(w *token) bool { return w.text == "in" }) &&
		slices.ContainsFunc(c.solids(l), c.unput) && c.cooksInWater(l, k)
}

func first(text string, _ int) string { return text }

// waterForLater reports whether an amount of water is another than that of the list, which a later sentence names: "cook in 3 cups
// of water ... melt the jaggery in 2 cups water".
func (c *cookery) waterForLater(item int, said string) bool {
	if share, ok := c.shareOf(said, item); said == "" || !ok || math.Abs(share-1) < sameAmount {
		return false
	}
	return c.laterInFull(item)
}

// laterInFull reports whether a later sentence takes the water of the list with its amount.
func (c *cookery) laterInFull(item int) bool {
	later := clause{words: methodWords(strings.Join(c.later(0), " , "))}
	for k, w := range later.words {
		if w.text != "water" {
			continue
		}
		text, _ := c.amountBefore(&later, k)
		if share, ok := c.shareOf(text, item); text != "" && ok && math.Abs(share-1) < sameAmount {
			return true
		}
	}
	return false
}

// inSomething finds where something of the list is meant that is in something: what it soaked in, fat that is left of frying,
// what was cooked of it. settled tells that it is; what it soaked in is nothing more.
func (c *cookery) inSomething(l *clause, k, item int) (meant []mention, settled bool) {
	if k == 0 {
		return nil, false
	}
	said := l.words[k-1].text
	if (said == "their" || said == "its") && c.behaves(mention{item: item}, pantry.Liquid) {
		return nil, true
	}
	if h := c.leftFat(l, k, item); h >= 0 {
		return []mention{{item: -1, share: 1, holder: h, at: k}}, true
	}
	if h := c.seasonedWith(l, k, item); h >= 0 {
		return []mention{{item: item, share: 0, holder: h, at: k}}, true // "the salted coconut milk"
	}
	if c.used[item] > 0 && c.used[item] < fullyUsed && cookedFirst[said] && c.inSomePot(item) {
		return []mention{{item: item, share: 0, holder: c.holderOf(item), at: k}}, true // "the sweet coconut milk"
	}
	if h := c.holderOf(item); said == "fried" && h >= 0 && !c.holders[h].pot && c.used[item] >= fullyUsed {
		return []mention{{item: -1, share: 1, holder: h, at: k}}, true // and not those that were ground and are in the pot
	}
	if cookedFirst[said] && c.used[item] >= fullyUsed {
		l.words[k-1].read = true // "the reduced milk"
	}
	return nil, false
}

// cookedFirst is said of what has been in a pot already.
var cookedFirst = wordSet("sweet sweetened hot boiling spiced thickened reduced infused scented")

// leftFat returns the fat that something was fried in before, if that is meant: "in the same ghee"; -1 for none.
func (c *cookery) leftFat(l *clause, k, item int) int {
	inPan := k+3 <= len(l.words) && phraseOf(l.words[k+1:min(k+4, len(l.words))]) == "in the pan" // "the remaining ghee in the pan"
	if k == 0 || l.words[k-1].text != "same" && !inPan {
		return -1
	}
	if inPan {
		(&clause{words: l.words[max(k-2, 0):k]}).has("remaining", "left")
	}
	return slices.IndexFunc(c.holders, func(h holder) bool {
		return strings.HasSuffix(h.name, ".fat") && h.left > 0 && slices.Contains(h.items, item)
	})
}

// seasonedWith returns the other pot that is meant by what its content is called: "the salted coconut milk"; -1 for none.
func (c *cookery) seasonedWith(l *clause, k, item int) int {
	if k == 0 {
		return -1
	}
	fits := func(m *pantry.Material) bool { return false }
	switch l.words[k-1].text {
	case "salted":
		fits = func(m *pantry.Material) bool { return m.Slug == "salt" }
	case "sweet", "sweetened", "sugared":
		fits = func(m *pantry.Material) bool { return m.Kind == "sweetener" }
	case "spiced":
		fits = func(m *pantry.Material) bool { return m.Kind == "spice" }
	}
	return slices.IndexFunc(c.holders, func(h holder) bool {
		return h.pot && h.left > 0 && h.name != c.holders[max(c.at, 0)].name && slices.Contains(h.items, item) &&
			slices.ContainsFunc(h.items, func(i int) bool { m := c.material(i); return m != nil && fits(m) })
	})
}

// inSomePot reports whether part of an item is in a pot.
func (c *cookery) inSomePot(item int) bool {
	return slices.ContainsFunc(c.holders, func(h holder) bool { return h.pot && slices.Contains(h.items, item) })
}

// groundWith is what was ground to one paste with something, and is in nothing yet: spices, and some of a liquid.
func (c *cookery) groundWith(item int) (list []mention) {
	if item < 0 || item >= len(c.preparations) {
		return nil
	}
	ground := slices.IndexFunc(c.preparations[item], func(p preparing) bool { return strings.HasPrefix(p.name, "grind") && p.sentence >= 0 })
	if ground < 0 {
		return nil
	}
	for with := range c.given { // in the order of the list
		share := cmp.Or(c.reserved[with], 1)
		if sentence, is := c.powdered[with]; is && sentence == c.preparations[item][ground].sentence && (c.used[with] == 0 || share < 1) {
			list = append(list, mention{item: with, share: share, holder: -1})
		}
	}
	return list
}

// groundNames are what something is called that was ground or mashed.
var groundNames = wordSet("paste batter puree purée powder pulp mash")

// groundTo returns what was ground and is in no pot yet: "the paste".
func (c *cookery) groundTo(phrase string, k int) (list []mention) {
	if !groundNames[phrase] {
		return nil
	}
	mashed := c.mashedPot()
	if phrase == "mash" && mashed >= 0 {
		return []mention{{item: -1, share: 1, holder: mashed, at: k}} // beside what was ground
	}
	for i := range c.given {
		ground := slices.IndexFunc(c.preparations[i], func(p preparing) bool { return strings.HasPrefix(p.name, "grind") && p.sentence >= 0 })
		if ground < 0 || c.used[i] > 0 && c.reserved[i] == 0 {
			continue
		}
		share := cmp.Or(c.preparations[i][ground].share, 1)
		if share < 1 && c.reserved[i] != share {
			continue // that part of it is in
		}
		list = append(list, mention{item: i, share: share, holder: -1, at: k})
		for _, with := range c.groundWith(i) {
			if !slices.ContainsFunc(list, func(m mention) bool { return m.item == with.item }) {
				with.at = k
				list = append(list, with)
			}
		}
	}
	if len(list) == 0 && mashed >= 0 && phrase != "powder" {
		return []mention{{item: -1, share: 1, holder: mashed, at: k}}
	}
	slices.SortStableFunc(list, func(a, b mention) int { return a.item - b.item })
	return list
}

// mashedPot is the pot in which something was mashed; -1 for none.
func (c *cookery) mashedPot() int {
	mashed := slices.IndexFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Mash })
	return slices.IndexFunc(c.holders, func(h holder) bool { return mashed >= 0 && h.pot && h.left > 0 && h.name == c.steps[mashed].Pot })
}

// loosely reports whether a pot may be meant by "the sauce", "the milk mixture".
func (c *cookery) loosely(phrase string, h int) bool {
	if phrase == "mixture" {
		return h != c.at
	}
	if phrase == "sauce" || phrase == "topping" {
		if main := c.mainPot(); main >= 0 && c.at != main && c.cooked() {
			return h == c.at // "boil it to a sauce. Pour the sauce over the rice"
		}
		return h > 0 || h != c.at
	}
	if phrase == "syrup" {
		return c.isSyrup(h)
	}
	if phrase == "caramel" {
		return slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Caramel && s.Pot == c.holders[h].name })
	}
	of, what, two := strings.Cut(phrase, " ")
	if two && what == "syrup" {
		return c.isSyrup(h)
	}
	if what == "sauce" && h == c.mainPot() && c.otherPot() >= 0 {
		return false
	}
	return two && (what == "sauce" || what == "mixture" || what == "topping") && slices.ContainsFunc(c.holders[h].items, func(i int) bool {
		return slices.Contains(c.names[i], of) || slices.ContainsFunc(c.names[i], func(name string) bool {
			return strings.HasPrefix(name,
				of+" ")
		})
	})
}

// isSyrup reports whether a pot holds nothing but what sweetens, water and what flavours it.
func (c *cookery) isSyrup(h int) bool {
	sweet, water := false, false
	for _, i := range c.holders[h].items {
		switch m := c.material(i); {
		case m == nil:
		case m.Kind == "sweetener":
			sweet = true
		case m.Slug == "water":
			water = true
		case m.Kind != "spice" && m.Kind != "flavour":
			return false
		}
	}
	return sweet && water
}

func phraseOf(words []*token) string {
	list := make([]string, len(words))
	for k, w := range words {
		if w.text == "," {
			return ""
		}
		list[k] = w.one
	}
	return strings.Join(list, " ")
}

// candidates are the lines that go by a phrase, the likeliest first: what is not in yet, of the part of
// the recipe that is being told.
func (c *cookery) candidates(phrase string, l *clause, k int) (list []int) {
	for i := range c.given {
		if slices.Contains(c.names[i], phrase) {
			list = append(list, i)
		}
	}
	if at := k + len(strings.Fields(phrase)); at < len(l.words) && slices.Contains([]string{"peel", "zest", "rind"}, l.words[at].one) {
		list = slices.DeleteFunc(list, func(i int) bool { return strings.HasSuffix(c.given[i].Item.Material, "-juice") }) // of the lemon
	}
	if len(list) < 2 {
		return list
	}
	if phrase == "sugar" { // honey and jaggery are meant by it only where there is none
		sugars := slices.DeleteFunc(slices.Clone(list), func(i int) bool { return !strings.Contains(c.given[i].Item.Material, "sugar") })
		if len(sugars) > 0 {
			list = sugars
		}
	}
	if phrase == "milk" { // of condensed milk more is said, where there is other milk
		plain := slices.DeleteFunc(slices.Clone(list), func(i int) bool { return !strings.HasPrefix(c.given[i].Item.Material, "milk-") })
		if len(plain) > 0 && l.words[k].text != "milks" {
			list = plain
		}
	}
	beside := c.sectionNamed(l)
	kind := "" // "hot milk", "thick milk": what is said before the name
	if k > 0 {
		kind = l.words[k-1].one
	}
	said := cmp.Or(first(c.amountBefore(l, k)), c.amountAfter(l, k+len(strings.Fields(phrase))))
	waits := slices.ContainsFunc(l.words[:k], func(w *token) bool { return w.text == "until" }) || k > 2 && l.words[k-1].text == "the" &&
		l.words[k-2].text == "dissolve" && l.words[k-3].text == "to" // "stir until the sugar dissolves": that which is in
	rank := func(i int) (n int) {
		switch used := c.used[i] > fullyUsed; {
		case used && waits && slices.Contains(c.held(), i):
			n -= 4
		case used:
			n += 4
		}
		if share, ok := c.shareOf(said, i); said != "" && ok && math.Abs(share-1) < sameAmount {
			n -= 6 // "melt the jaggery in 1/2 cup water", of which the list has a line
		}
		if c.given[i].Section != c.section {
			n += 2
		}
		if beside != nil && c.given[i].Section == *beside {
			n -= 3
		}
		if kind != "" && (!filler[kind] || kind == "boiling") && slices.Contains(plainWords(c.given[i].Text), kind) {
			n -= 8
		}
		if phrase == "egg" && c.given[i].Item.Material != "egg-whole" {
			n += 3 // of yolks and whites more is said, where there is an egg
		}
		if phrase == "coconut milk" && strings.HasPrefix(c.given[i].Item.Material, "coconut-milk") {
			n--
		}
		if phrase == "milk" && !strings.HasPrefix(c.given[i].Item.Material, "milk-") {
			n++
		}
		given := plainWords(c.given[i].Text)
		if phrase == "sugar" && slices.ContainsFunc(given, func(w string) bool { return sugarKinds[w] }) {
			n++ // "sugar" beside icing sugar is the other
		}
		for w := range strings.FieldsSeq(phrase) { // "the third milk", of three
			n += boolInt(!slices.Contains(given, w))
		}
		return n
	}
	slices.SortStableFunc(list, func(a, b int) int { return rank(a) - rank(b) })
	return list
}

// sugarKinds are said of sugar that is not the usual one.
var sugarKinds = wordSet("icing confectioner powdered vanilla demerara muscovado pearl coarse")

// holderOf returns where an item of the list is, other than the pot that is being cooked in; -1 for nowhere.
func (c *cookery) holderOf(item int) int {
	for h := len(c.holders) - 1; h >= 0; h-- {
		if h != c.at && !c.holders[h].press && c.holders[h].left > 0 && slices.Contains(c.holders[h].items, item) {
			return h
		}
	}
	return -1
}

// unlisted takes up what the method names with its amount and the list does not have: "with 3 cups of
// water".
func (c *cookery) unlisted(l *clause, k, length int, phrase string) []mention {
	slug, known := c.reader.names[phrase]
	if !known || length == 1 && (describes[phrase] && phrase != "salt" || doing[l.words[k].text] != "") {
		return nil
	}
	text, from := c.amountBefore(l, k)
	if text == "" {
		text, from = c.amountAfter(l, k+length), k
	}
	if slug == "rice-cooked" {
		if list := c.cookedHere(l, from, k); list != nil {
			return list
		}
	}
	if text == "" && slug == "water" && (l.verb == "melt" || l.verb == "dissolve" || someWater(l) && l.do == doAdd) {
		if text = c.waterToMelt(l); text != "" {
			from = k
			c.doubt(NoAmount, "water", text)
			l.words[k].read = true
		}
	}
	switch {
	case text != "":
	case slug == "water" && c.cooksInWater(l, k):
		text, from = c.enoughWater(l), k
		c.doubt(NoAmount, "water", text)
		l.words[k].read = true
	default:
		if slug == "water" {
			l.words[k].read = false // asked, unless it goes with a soaking
		}
		return nil
	}
	for j := from; j < k; j++ {
		l.words[j].read = true
	}
	if from == k {
		for j := k + length; j < min(k+length+4, len(l.words)); j++ {
			l.words[j].read = true
		}
	}
	item := plan.Item{Material: slug, Amount: text}
	if amount, err := measure.ParseAmount(text); err != nil {
		return nil
	} else if m, ok := c.reader.pantry.Material(slug); !ok {
		return nil
	} else if _, err := c.reader.measures.Grams(amount, m.Body()); err != nil {
		return nil
	}
	c.given = append(c.given, Given{Item: item, Text: text + " " + phrase, Section: c.section, inMethod: true})
	c.used, c.preparations = append(c.used, 0), append(c.preparations, nil)
	c.names = append(c.names, c.reader.namesOf(c.given[len(c.given)-1]))
	return []mention{{item: len(c.given) - 1, share: 1, holder: -1, at: k}}
}

// cookedHere returns the rice that was cooked before: "combine 1 1/2 cups of the cooked rice with the milk".
func (c *cookery) cookedHere(l *clause, from, k int) []mention {
	for i := range c.given {
		if c.used[i] == 0 || !strings.HasPrefix(c.given[i].Item.Material, "rice-") || c.behaves(mention{item: i}, pantry.Flour) {
			continue
		}
		for _, w := range l.words[min(from, k):k] {
			w.read = true
		}
		if c.said != nil {
			c.said[i] = true
		}
		for h := range c.holders {
			if c.holders[h].left > 0 && slices.Contains(c.holders[h].items, i) && (h != c.at || c.next != nil) {
				return []mention{{item: -1, share: 1, holder: h, at: k}}
			}
		}
		return []mention{{item: i, share: 0, holder: -1, at: k}}
	}
	return nil
}

// sectionOf returns the part of the list that a clause names: "the syrup ingredients".
func (c *cookery) sectionOf(l *clause) string {
	for _, w := range l.words {
		for i := range c.given {
			if s := c.given[i].Section; s != "" && slices.Contains(plainWords(s), w.one) {
				w.read = true
				return s
			}
		}
	}
	return ""
}

// sectionNamed is the part of the list that all else is of that a clause names, and that the list has but once: "the rhubarb,
// sugar and orange juice"; nil if there is no such part.
func (c *cookery) sectionNamed(l *clause) *string {
	var found *string
	for _, group := range c.namedIn(l.text()) {
		if len(group) > 1 {
			continue
		}
		section := &c.given[group[0]].Section
		if found != nil && *found != *section {
			return nil
		}
		found = section
	}
	return found
}

func (c *cookery) material(i int) *pantry.Material {
	if i < 0 {
		return nil
	}
	m, _ := c.reader.pantry.Material(c.given[i].Item.Material)
	return m
}

func (c *cookery) behaves(m mention, as pantry.Behaviour) bool {
	material := c.material(m.item)
	return material != nil && material.Behaviour == as
}

// isTopping reports whether the list has something for the end.
func (c *cookery) isTopping(i int) bool {
	if finishing(c.given[i].Section) {
		return true
	}
	text := strings.ToLower(c.given[i].Text)
	for _, word := range []string{"sprinkl", "garnish", "to finish", "to decorate", "to serve", "for serving", "for the top", "topping",
		"for strewing"} {
		if strings.Contains(text, word) {
			return true
		}
	}
	return false
}

// finishing reports whether a part of a recipe is what goes on top at the end.
func finishing(section string) bool {
	for _, w := range plainWords(section) {
		switch w {
		case "finish", "garnish", "garnishing", "topping", "top", "decorate", "decoration", "serve", "serving", "assemble", "assembly":
			return true
		}
	}
	return false
}

// take returns the item of a mention, scaled to its share, and counts it as in.
func (c *cookery) take(m mention) (plan.Item, bool) {
	if m.item >= 0 {
		m.share = min(m.share, 1-c.used[m.item])
	}
	if m.item < 0 || m.share <= 1e-9 {
		return plan.Item{}, false
	}
	_, ground := c.powdered[m.item]
	part := slices.ContainsFunc(c.preparations[m.item], func(p preparing) bool { return p.share > 0 })
	if (ground || part) && m.share == c.reserved[m.item] {
		delete(c.reserved, m.item)
		delete(c.powdered, m.item)
	}
	c.used[m.item] = min(c.used[m.item]+m.share, 1)
	return c.scaled(m.item, m.share)
}

// scaled returns a share of what the list has of something.
func (c *cookery) scaled(i int, share float64) (plan.Item, bool) {
	item := c.given[i].Item
	if math.Abs(share-1) > 1e-6 {
		amount, err := measure.ParseAmount(item.Amount)
		if err != nil {
			return plan.Item{}, false
		}
		item.Amount, item.Also = amount.Scale(share).String(), ""
	}
	return item, true
}

// pour returns what a holder gives to a step.
func (c *cookery) pour(h int, share float64) plan.Item {
	one := &c.holders[h]
	item := plan.Item{Part: one.name}
	if one.pot {
		item = plan.Item{Pot: one.name}
	}
	if share < fullyUsed && share < one.left {
		of := share / one.left
		item.Share = &of
		one.left -= share
	} else {
		one.left = 0
	}
	return item
}
