package recipe

import (
	"regexp"
	"slices"
	"strings"

	"kirdu/core/pantry"
)

// What later sentences say of what is named now: a cook reads the whole recipe before the first step.

// later are the sentences behind the one that is read, at most so many; 0 is all. There are none where the rest is placed.
func (c *cookery) later(most int) []string {
	if c.now < 0 || c.now+1 >= len(c.text) {
		return nil
	}
	list := c.text[c.now+1:]
	if most > 0 {
		list = list[:min(most, len(list))]
	}
	return list
}

// namedLater reports whether a later sentence names something again.
func (c *cookery) namedLater(item int) bool {
	return slices.ContainsFunc(c.namedIn(strings.Join(c.later(0), " . ")), func(group []int) bool { return slices.Contains(group, item) })
}

// restLater reports whether a later sentence speaks of what is left of something: "in the remaining ghee".
func (c *cookery) restLater(item int) bool {
	for _, text := range c.later(0) {
		text = theOthers.ReplaceAllString(text, "the rest of the $1")
		for _, found := range restOf.FindAllStringSubmatch(text, -1) {
			if slices.ContainsFunc(c.namedIn(found[1]), func(group []int) bool { return slices.Contains(group, item) }) {
				return true
			}
		}
	}
	return false
}

// theOthers is said of the nuts of which some were taken.
var theOthers = regexp.MustCompile(`(?i)\b(?:the|your) other ((?:cashew|almond|pistachio|walnut|hazelnut|peanut)s?)\b`)

// addedLater reports whether a later clause or sentence puts something in by its name: "now add the rice".
func (c *cookery) addedLater(item int) bool {
	later := " " + strings.Join(plainWords(c.ahead+" "+strings.Join(c.later(0), " ")), " ") + " "
	return slices.ContainsFunc(c.names[item], func(name string) bool {
		return strings.Contains(later, " add "+name+" ") || strings.Contains(later, " add the "+name+" ") ||
			strings.Contains(later, " add this "+name+" ")
	})
}

// saidLater reports whether the sentence of a clause names an item that the clause does not: it goes in then.
func (c *cookery) saidLater(l *clause, item int) bool {
	if item < 0 || c.now >= len(c.text) {
		return false
	}
	all := " " + strings.Join(plainWords(c.text[c.now]), " ") + " "
	here := " " + l.text() + " " + strings.Join(plainWords(l.text()), " ") + " "
	const enough = 3 // words to find it by
	said := plainWords(l.asked().text())
	said = said[:min(enough, len(said))]
	if at := strings.Index(all, " "+strings.Join(said, " ")+" "); len(said) > 0 && at > 0 {
		all = all[at:] // "wash the rice and cook with the water": it was named before
	}
	if slices.ContainsFunc(c.names[item], func(name string) bool {
		return strings.Contains(all, " "+name+" ") && !strings.Contains(here, " "+name+" ")
	}) {
		return true
	}
	const ahead = 5 // sentences
	for _, text := range c.later(ahead) {
		at := goesInSaid.FindStringIndex(text)
		if at == nil || c.sweetens(item) && strings.Contains(strings.ToLower(text), "syrup") {
			continue
		}
		if !passivelyIn.MatchString(text[at[0]:at[1]]) {
			text = text[at[0]:] // what stands before that is done with otherwise
		}
		plain := cookedOfIt.ReplaceAllString(intoIt.ReplaceAllString(text, ""), "")
		if slices.ContainsFunc(c.namedIn(plain), func(group []int) bool { return slices.Contains(group, item) }) {
			return true
		}
	}
	return false
}

// comesLater reports whether what goes in now is for a pot of its own: what is in the pot was cooked, and a later sentence puts
// that into something: "cook the sago in a cup of water ... put the dal, the sago and the syrup into a pot".
func (c *cookery) comesLater(list []mention) bool {
	if c.next != nil || !c.cooked() || c.now < 0 {
		return false
	}
	cooks, grain := false, c.any(list, pantry.Grain) || c.any(list, pantry.Tissue)
	for _, m := range list {
		if m.item < 0 || m.share <= 0 || m.holder >= 0 || slices.Contains(c.held(), m.item) {
			return false
		}
		water := c.given[m.item].Item.Material == "water" && !grain // for what is in the pot
		cooks = cooks || c.behaves(m, pantry.Grain) || c.material(m.item) != nil && pours(c.material(m.item)) && m.share >= fullyUsed && !water
	}
	if !cooks {
		return false
	}
	const ahead = 5 // sentences
	for _, text := range append([]string{c.ahead}, c.later(ahead)...) {
		for _, found := range putIn.FindAllStringSubmatch(text, -1) {
			together := c.heldDry() && slices.ContainsFunc(c.namedIn(found[1]), func(group []int) bool { // "add the mashed rice and dal"
				return slices.ContainsFunc(list, func(m mention) bool { return m.item == group[0] && c.behaves(m, pantry.Grain) })
			})
			if !together && slices.ContainsFunc(c.namedIn(found[1]), func(group []int) bool {
				i, of := group[0], mention{item: group[0]}
				return slices.Contains(c.held(), i) && c.used[i] >= fullyUsed && (c.behaves(of, pantry.Grain) || c.behaves(of, pantry.Tissue))
			}) {
				return true
			}
		}
	}
	return false
}

// heldDry reports whether there is no liquid in the pot: what it holds was only roasted.
func (c *cookery) heldDry() bool {
	return !slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Liquid) })
}

// servedLater reports whether what is in the pan beside the pot is named again by a later sentence, and a clause names nothing
// of the pot: what is sprinkled is sprinkled over that.
func (c *cookery) servedLater(l *clause) bool {
	if c.at < 0 || l.do == doPass || len(c.held()) == 0 || l.find("over") >= 0 || l.find("pudding") >= 0 {
		return false
	}
	at := c.steps[len(c.steps)-1].Pot
	if at != c.holders[c.at].name {
		return false
	}
	return slices.ContainsFunc(c.namedIn(strings.Join(c.later(0), " . ")), func(group []int) bool {
		m := c.material(group[0])
		return m != nil && m.Kind == "fruit" && slices.Contains(c.held(), group[0])
	})
}

// restComesLater reports whether later sentences name all that is in nothing yet.
func (c *cookery) restComesLater() bool {
	for i := range c.given {
		if c.used[i] < fullyUsed && !c.given[i].inMethod && len(c.names[i]) > 0 && !c.namedLater(i) && !c.said[i] {
			return false
		}
	}
	return true
}

// waterIsLater reports whether a later sentence puts the water of the list on.
func (c *cookery) waterIsLater() bool {
	return waterOn.MatchString(strings.Join(c.later(0), ". "))
}

// laterShare is how much of fat, milk or sugar later sentences take with an amount of their own, if that is not most of it: "fry
// the nuts in a spoon of ghee", "grind with 1/4 cup of milk". What is taken of the hot milk is in the pot then.
func (c *cookery) laterShare(item int) (sum float64) {
	const littleFat, most = 0.25, 0.5
	m := c.material(item)
	if m == nil || m.Slug == "water" || !pours(m) && m.Behaviour != pantry.Fat && m.Kind != "sweetener" {
		return 0
	}
	for _, text := range c.later(0) {
		for _, found := range c.ownTaken(text) {
			if i, ok := c.first(found[3]); !ok || i != item || found[2] != "" {
				continue
			}
			amount := strings.ToLower(found[1])
			if strings.Contains(amount, "little") || strings.Contains(amount, "some") {
				sum += littleFat * float64(boolInt(m.Behaviour == pantry.Fat))
				continue
			}
			s := scan{reader: c.reader, line: &Line{}}
			if q, _, ok := s.quantity(strings.Fields(spoonSaid.ReplaceAllString(amount, "tbsp"))); ok && q.number > 0 {
				share, _ := c.shareOf(q.String(), item)
				sum += share
			}
		}
	}
	if sum > most {
		return 0
	}
	return sum
}

// ownTaken is what a sentence takes with an amount of its own. Each is looked through once.
func (c *cookery) ownTaken(text string) [][]string {
	found, known := c.takes[text]
	if !known {
		found = takesOwn.FindAllStringSubmatch(text, -1)
		c.takes[text] = found
	}
	return found
}

// putIn is said of what goes into a pot.
var putIn = regexp.MustCompile(`(?i)\b(?:adds?|combines?|puts?|(?:tip|stir|pour|mix|fold|drop|slide)s? in) ([^.;]*?)` +
	`(?:\b(?:to|into|onto|with|until|in (?:an?|the)|and (?:cook|simmer|boil|stir|mix|bring|heat|let|leave)|lid)\b|$)`)

// passivelyIn is said of what is put in, where its name stands before that.
var passivelyIn = regexp.MustCompile(`(?i)(?:ed|thrown)\b|\b(?:go(?:es)?|comes?|went)\b`)

// cookedOfIt is said of what was cooked before it goes in: "add the mashed rice and dal".
var cookedOfIt = regexp.MustCompile(`(?i)\b(?:mashed|cooked|boiled|softened)\b [^,.;]*`)

// intoIt is said of what something goes into: "add this paste to the dal".
var intoIt = regexp.MustCompile(`(?i)\b(?:to|into|onto|over|from|through) (?:the |this |it )?(?:(?:cooked|boiled|mashed|hot|` +
	`simmering|boiling|soft|` +
	`tender|rest|same|of) ?)*[a-z]+(?: (?:dal|rice|milk|mixture|pot|pan))?` +
	`(?: and (?:the )?(?:[a-z]+ )?(?:dal|rice|lentils?|millet|sago|wheat|barley))?`)

// goesInSaid is said of what goes into the pot.
var goesInSaid = regexp.MustCompile(`(?i)\b(?:add(?:s|ed)?|(?:puts?|tips?|tip(?:ped)?|sprinkled?|pour(?:ed)?|stir(?:red)?|drop(?:ped)?|` +
	`throw[n]?|rain(?:ed)?|` +
	`goes|go|come|comes|went) (?:it|them|in|into|on)|drained)\b`)

var (
	// takesOwn is said of what is taken with an amount of its own; behind that whether it is hot, and its name.
	takesOwn = regexp.MustCompile(`(?i)\b(?:in|with|heat|melt|add|into|using) ((?:another |about )?(?:a little|some|` +
		`(?:\d[\d/. ]*|an? |half an? |one |two |three )` +
		`(?:cups?|ml|l|g|tbsp|tsp|tablespoons?|teaspoons?|spoons?|spoonfuls?|glass(?:es)?)))(?: of)?(?: the| of)*(?: cold| melted| plain)* ` +
		`(hot |warm |boiling |remaining )?([a-z]+ ?[a-z]*)`)
	spoonSaid = regexp.MustCompile(`\b(?:spoons?|spoonfuls?)\b`)
)
