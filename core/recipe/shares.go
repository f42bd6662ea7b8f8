package recipe

import (
	"math"
	"regexp"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// amountBefore reads an amount that stands before a name: "3 cups of", "another 100 g". from is where it
// begins.
func (c *cookery) amountBefore(l *clause, k int) (text string, from int) {
	words := make([]string, k)
	for j := range words {
		words[j] = l.words[j].text
		if l.words[j].one == "spoonful" || l.words[j].one == "spoon" {
			words[j] = "tbsp"
		}
	}
	for from = max(k-6, 0); from < k; from++ {
		var line Line
		s := scan{reader: c.reader, line: &line}
		q, rest, ok := s.quantity(words[from:])
		if !ok || q.unit == "" || q.number <= 0 || from > 0 && words[from-1] == "in" && q.unit == "bowl" { // "in a bowl whisk the yolks"
			continue
		}
		if !topsWith.MatchString(strings.Join(words[from:k], " ")) { // "80 g of washed rice", and no "sprinkle of toasted almonds"
			rest = slices.DeleteFunc(slices.Clone(rest), func(w string) bool { return describes[w] })
		}
		if between := strings.Join(rest, " "); !plainBetween.MatchString(between) {
			continue
		}
		if k+2 < len(l.words) && l.words[k+1].text == "at" && l.words[k+2].text == "a" { // "a spoon of ghee at a time": all of it
			l.has("at a time")
			for _, w := range l.words[from:k] {
				w.read = true
			}
			return "", k
		}
		return q.String(), from
	}
	return "", k
}

// amountAfter reads an amount in brackets behind a name: "a large pan of water (2 litres)".
func (c *cookery) amountAfter(l *clause, k int) string {
	if k+2 >= len(l.words) || l.words[k].text != "," {
		return ""
	}
	words := make([]string, 0, 4)
	for _, w := range l.words[k+1 : min(k+4, len(l.words))] {
		if w.text == "," {
			break
		}
		words = append(words, w.text)
	}
	s := scan{reader: c.reader, line: &Line{}}
	if q, rest, ok := s.quantity(words); ok && q.unit != "" && q.number > 0 && len(rest) == 0 {
		return q.String()
	}
	return ""
}

// plainBetween may stand between an amount and what it is of.
var plainBetween = regexp.MustCompile(`^(?:(?:of|the|a|hot|warm|cold|boiling|fresh|` +
	`more|plain|more of|remaining|same|reserved|lukewarm|clean) ?)*$`)

// shareBefore reads "half the", "the rest of the", "a third of the", "100 g of the" before a name, and "half
// of it": how much of what the list has.
func (c *cookery) shareBefore(l *clause, at, item int) float64 {
	left := 1 - c.used[item]
	if share, kept := c.keptShare(l, at, item); kept {
		return min(share, left)
	}
	left = max(left-c.reserved[item], 0)
	if text, from := c.amountBefore(l, at); text != "" {
		if share, ok := c.shareOf(text, item); ok {
			for j := from; j < at; j++ {
				l.words[j].read = true
			}
			const slack = 0.03
			if left > 0 && share > left*(1+slack) {
				c.doubt(MoreThanListed, c.given[item].Text, text)
			}
			if share > left*(1-slack) {
				return left
			}
			return share
		}
	}
	if l.find("at a time") >= 0 && c.restLater(item) {
		return left / 2 // "adding ghee a spoon at a time ... in the remaining ghee"
	}
	if share := c.piecesShare(l, at, item); share > 0 && share < left {
		return share
	}
	from := max(at-5, 0)
	for k := at - 1; k >= from; k-- {
		share := left
		switch l.words[k].one {
		case "half":
			share = 0.5
		case "most":
			share = mostOf
		case "third":
			share = 1.0 / 3
		case "quarter":
			share = 0.25
		case "little", "some", "tablespoon", "spoonful", "splash", "few", "ladle", "ladleful", "dash", "bit":
			m := c.material(item)
			again := m != nil && (c.sweetens(item) || m.Behaviour == pantry.Piece || m.Behaviour == pantry.Fat) && c.namedLater(item)
			if m != nil && pours(m) || again { // "with a little sugar", and later "the rest of it"
				share = plan.SlurryShare
			}
		case "remaining": // "half the remaining ghee"
			if parts := c.partShare(l, k); parts < 1 {
				return parts * left
			}
			return left
		case "two", "the", "of", "a", "one", "cold", "hot", "warm", "boiling":
			continue
		default:
			return left - min(c.laterShare(item), left)
		}
		if k > 0 && l.words[k-1].text == "two" && l.words[k].one == "third" {
			share = 2.0 / 3
		}
		if k > 0 && l.words[k-1].text == "three" && l.words[k].one == "quarter" {
			share = 0.75
		}
		l.words[k].read = true
		if l.words[k].one == "half" && c.used[item] > 0 && k > 0 && (l.words[k-1].text == "other" || l.words[k-1].text == "second") {
			return left
		}
		return min(share, left)
	}
	return left - min(c.laterShare(item), left)
}

// piecesShare reads how many of the pieces of a list are meant: "one pandan leaf", "two of the eggs"; 0 for no number of them.
func (c *cookery) piecesShare(l *clause, at, item int) float64 {
	k := at - 1
	for k >= 0 && (l.words[k].text == "the" || l.words[k].text == "of") {
		k--
	}
	m := c.material(item)
	all, err := measure.ParseAmount(c.given[item].Item.Amount)
	if k < 0 || m == nil || err != nil || m.PieceName == "" || all.Unit != strings.ReplaceAll(strings.ToLower(m.PieceName), " ", "-") {
		return 0
	}
	number := float64(numberWords[l.words[k].text])
	if isFigure(l.words[k].text) {
		number = mixedNumber(l.words[k].text)
	}
	if number == all.Number {
		l.words[k].read = true // "fry the 10 cashews"
	}
	if number < 1 || number != math.Trunc(number) || number >= all.Number {
		return 0
	}
	l.words[k].read = true
	return number / all.Number
}

// keptShare is what was kept of something, if that is named: "the reserved coconut milk", "into the cup of milk".
func (c *cookery) keptShare(l *clause, at, item int) (share float64, kept bool) {
	share = c.reserved[item]
	if share <= 0 {
		return 0, false
	}
	all := c.used[item]+share >= fullyUsed // "the rest" is what was kept
	for _, w := range l.words[max(at-3, 0):at] {
		if w.text == "reserved" || w.text == "kept" || all && meansKept[w.text] {
			w.read, kept = true, true
		}
	}
	if c.behaves(mention{item: item}, pantry.Piece) && (at > 0 && l.words[at-1].text == "ground" ||
		slices.ContainsFunc(l.words[at+1:min(at+3, len(l.words))], func(w *token) bool { return groundNames[w.one] })) {
		kept = true // "the cashew paste", while the rest was fried
	}
	text, from := c.amountBefore(l, at)
	named, ok := c.shareOf(text, item)
	theCup := text == "" && at > 1 && l.words[at-1].text == "of" && l.words[at-2].one == "cup"
	if kept = kept || theCup || ok && named == share; kept {
		for _, w := range l.words[from:at] {
			w.read = true
		}
		delete(c.reserved, item)
	}
	return share, kept
}

// meansKept are said of what was kept, where all else is in.
var meansKept = wordSet("cold rest remaining remainder")

// mostOf is how much "most of" something is. Source: our own judgement.
const mostOf = 0.8

// shareOf is how much of an item an amount is.
func (c *cookery) shareOf(text string, item int) (float64, bool) {
	m := c.material(item)
	amount, err := measure.ParseAmount(text)
	all, errAll := measure.ParseAmount(c.given[item].Item.Amount)
	if m == nil || err != nil || errAll != nil {
		return 0, false
	}
	part, err := c.reader.measures.Grams(amount, m.Body())
	whole, errAll := c.reader.measures.Grams(all, m.Body())
	if err != nil || errAll != nil || whole <= 0 {
		return 0, false
	}
	return float64(part / whole), true
}

// partShare reads "half the syrup", "some of the hot milk".
func (c *cookery) partShare(l *clause, at int) float64 {
	for k := at - 1; k >= max(at-5, 0); k-- {
		share, w := 0.0, l.words[k]
		switch w.one {
		case "half":
			share = 0.5
		case "most":
			share = mostOf
		case "third":
			share = 1.0 / 3
			if k > 0 && l.words[k-1].text == "two" {
				share = 2.0 / 3
			}
		case "quarter":
			share = 0.25
			if k > 0 && l.words[k-1].text == "three" {
				share = 0.75
			}
		case "some", "little", "ladle", "ladleful", "spoonful":
			share = 0.2
		case "the", "of", "a", "hot", "warm", "boiling", "fried":
			continue
		}
		if share == 0 && c.beginsName(w.one) { // "the hot oat milk"
			continue
		}
		if share == 0 {
			break
		}
		w.read = true
		return share
	}
	return 1
}
