package recipe

import (
	"cmp"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// whenFirst puts what an addition waits for before it: "add the sugar only when the rice is soft", "stir in the jaggery after 5
// minutes".
func (t *telling) whenFirst() {
	for k := 2; k+1 < len(t.words); k++ {
		from, cond := k, k // where it is said that it waits, and the word of waiting
		switch w := t.at(k); {
		case w == "as" && t.at(k+1) == "soon" && t.at(k+2) == "as":
			cond = k + 2
		case w != "when" && w != "once" && w != "after":
			continue
		}
		for t.at(from-1) == "only" || t.at(from-1) == "just" {
			from--
		}
		if joins[t.at(from-1)] {
			continue // that waits which follows
		}
		begin, end := t.additionBefore(from), t.waitEnds(cond)
		if begin < 0 || !t.addsSomething(begin, from, t.at(cond) == "after") || !t.isWait(cond, end) {
			return
		}
		if waits := (clause{words: t.words[cond:end]}); t.at(cond) == "after" && t.longerThan(waits.minutes()) {
			t.replace(from, end) // it goes in part of the way
			return
		}
		t.putFirst(begin, from, cond, end)
		return
	}
}

var joins = wordSet(", and then or")

// additionBefore returns where the clause begins that adds something and ends at a word; -1 where none does.
func (t *telling) additionBefore(from int) int {
	for begin := from - 1; begin >= 0; begin-- {
		w, next := t.at(begin), t.words[begin+1]
		unknown := w == "and" && !t.isName(next.one) && !describes[next.text] && !isFigure(next.text) // "pour on and knead"
		switch {
		case doing[w] == doAdd && t.starts(begin):
			return begin
		case conditions[w] || w == "if" || doing[w] != "" && t.starts(begin) || unknown:
			return -1
		}
	}
	return -1
}

// addsSomething reports whether a clause names what is in no pot yet, or means what the sentence has named; in hot fat nothing
// waits for the whole pot.
func (t *telling) addsSomething(begin, from int, afterTime bool) bool {
	what := clause{words: t.words[begin+1 : from]}
	fries := t.fat != nil || slices.ContainsFunc(t.words[:begin], func(w *token) bool { return doing[w.text] == doFry })
	if fries || what.find("off") >= 0 {
		return false
	}
	them := what.find("them") >= 0 || what.find("it") >= 0
	return len(t.unused(&what)) > 0 || afterTime && them && len(t.unused(&clause{words: t.words[:begin]})) > 0
}

// waitEnds returns where what is waited for ends: at a comma, or where something is done again.
func (t *telling) waitEnds(cond int) int {
	end := cond + 1
	for end < len(t.words) && t.at(end) != "," && !(t.at(end) == "and" && doing[t.at(end+1)] != "" && !happens[t.at(end+1)]) {
		end++
	}
	return end
}

// isWait reports whether words say how things are then, or how long that takes: not "once that", "after adding the milk".
func (t *telling) isWait(cond, end int) bool {
	first := t.at(cond + 1)
	if first == "that" || first == "all" || strings.HasSuffix(first, "ing") && first != "boiling" {
		return false
	}
	waits := clause{words: t.words[cond:end]}
	tells := waits.find("is") >= 0 || waits.find("has") >= 0 || waits.find("have") >= 0
	return len(t.unused(&waits)) == 0 && (t.at(cond) != "after" || tells || waits.minutes() > 0)
}

// putFirst moves what is waited for before the clause that begins there.
func (t *telling) putFirst(begin, from, cond, end int) {
	word := "when"
	if t.at(cond) == "after" {
		word = "after"
	}
	t.words[cond].read = true
	moved := append([]*token{{text: word, one: word}}, t.words[cond+1:end]...)
	before := slices.Clone(t.words[:begin])
	for len(before) > 0 && joins[before[len(before)-1].text] {
		before = before[:len(before)-1]
	}
	if len(before) > 0 {
		before = append(before, &token{text: ",", read: true}, &token{text: "and", one: "and"})
	}
	comma := &token{text: ",", read: true}
	t.words = slices.Concat(before, moved, []*token{comma}, t.words[begin:from], t.words[end:])
}

// longerThan reports whether what is in the pot is heated for longer than so many minutes.
func (c *cookery) longerThan(minutes measure.Minute) bool {
	last := len(c.steps) - 1
	return last >= 0 && !c.offHeat && c.assumed != last && c.steps[last].Do == plan.Heat && c.steps[last].Until != nil &&
		c.steps[last].Until.Minutes != nil &&
		*c.steps[last].Until.Minutes > minutes
}

// afterMinutes reads "and after 5 minutes the cream": it cooks so long, and then that goes in.
func (t *telling) afterMinutes() {
	for k := 1; k+3 < len(t.words); k++ {
		if t.at(k) != "after" || t.at(k-1) != "and" && t.at(k-1) != "," && t.at(k-1) != "then" {
			continue
		}
		end := k + 1
		for end < len(t.words) && !strings.HasPrefix(t.at(end), "minute") {
			end++
		}
		const longest = 4 // "another five to ten minutes"
		if end-k > longest || end+1 >= len(t.words) {
			continue
		}
		next := end + 1
		for t.at(next) == "," || t.at(next) == "then" {
			next++
		}
		switch base, does := anyForm(t.at(next)); {
		case does && doing[base] == doAdd && base == t.at(next):
			t.replace(end+1, next, ",", "then")
		case t.at(next) == "the" || next < len(t.words) && t.isName(t.words[next].one):
			t.replace(end+1, next, ",", "then", "add")
		default:
			continue
		}
		t.replace(k, k+1, "cook", "for")
		return
	}
}

// thenThings reads what is named without a word of doing: "fry the cashews till golden, then the raisins", and "the whole
// thing" as "it".
func (t *telling) thenThings() {
	for k := 0; k < len(t.words); k++ {
		if t.at(k) == "the" && (t.at(k+1) == "lot" || t.at(k+1) == "whole" && (t.at(k+2) == "thing" || t.at(k+2) == "lot")) {
			end := k + 2
			if t.at(k+1) == "whole" {
				end++
			}
			t.replace(k, end, "it")
		}
		name := k + 1
		if t.at(name) == "the" {
			name++
		}
		if t.at(k) == "and" && name+1 < len(t.words) && t.isName(t.words[name].one) && waits(t.at(name+1)) &&
			slices.ContainsFunc(t.texts(0, k), waits) {
			t.replace(k, k+1, ",", "then", "add") // "fry the cashews till golden and the raisins till plump"
			continue
		}
		if t.at(k) == "and" && name+2 < len(t.words) && t.isName(t.words[name].one) && t.at(name+1) == "for" &&
			(isFigure(t.at(name+2)) || t.at(name+2) == "about" || t.at(name+2) == "around") &&
			doing[t.at(0)] != "" && slices.Contains(t.texts(0, k), "for") {
			t.replace(k, k+1, ",", "then", t.at(0)) // "soak the dal for half an hour and the sago for 20 minutes"
			continue
		}
		if t.at(k) != "then" || k == 0 {
			continue
		}
		next := k + 1
		if t.at(next) == "the" {
			next++
		}
		for next+1 < len(t.words) && describes[t.at(next)] && !t.isName(t.words[next].one) && t.at(next) != "and" {
			next++ // "then the ground almonds"
		}
		if next >= len(t.words) || !t.isName(t.words[next].one) || doing[t.at(next)] != "" {
			continue
		}
		end := next
		for end < len(t.words) && t.at(end) != "," && doing[t.at(end)] == "" && !passive[t.at(end)] && !t.goes(end) {
			end++
		}
		if end == len(t.words) || t.at(end) == "," {
			t.replace(k+1, k+1, "add")
		}
	}
}

func waits(word string) bool { return word == "until" }

// restOfNotes reads "boil, 15 min low": a time with its flame, and no word of doing.
func (t *telling) restOfNotes() {
	for k := 1; k+3 < len(t.words); k++ { // "boil, then low flame 20 min"
		flame := (t.at(k) == "low" || t.at(k) == "medium" || t.at(k) == "high") && (t.at(k+1) == "flame" || t.at(k+1) == "heat")
		if flame && (t.at(k-1) == "," || t.at(k-1) == "then") && isFigure(t.at(k+2)) && strings.HasPrefix(t.at(k+3), "minute") {
			t.replace(k+2, k+2, "for")
			t.replace(k, k, "cook", "on")
			return
		}
	}
	for k := 1; k+2 < len(t.words); k++ {
		unit := t.at(k + 1)
		if t.at(k-1) != "," || !isFigure(t.at(k)) || !strings.HasPrefix(unit, "minute") && unit != "h" && unit != "hours" {
			continue
		}
		flame := false
		end := k + 2
		for ; end < len(t.words) && t.at(end) != "," && doing[t.at(end)] == ""; end++ {
			flame = flame || slices.Contains([]string{"low", "medium", "high", "flame"}, t.at(end))
		}
		if flame {
			for j := k + 2; j < end; j++ {
				if w := t.at(j); (w == "low" || w == "medium" || w == "high") && t.at(j-1) != "on" {
					t.replace(j, j, "on")
					break
				}
			}
			t.replace(k, k, "cook", "for")
			return
		}
	}
}

// thingsIn reads "milk in, boil, 6 minutes": what stands before a comma goes in first.
func (t *telling) thingsIn() {
	end := slices.IndexFunc(t.words, func(w *token) bool { return w.text == "," })
	if end < 2 || t.at(end-1) != "in" || end+1 >= len(t.words) {
		return
	}
	for _, w := range t.words[:end-1] {
		if doing[w.text] != "" && w.text != "thin" || !t.isName(w.one) && w.text != "and" && !describes[w.text] {
			return
		}
	}
	t.replace(0, 0, "add")
}

// ownUnits reads what notes leave out: "low, 40 min, stir every 5".
func (t *telling) ownUnits() {
	for k := 0; k < len(t.words); k++ {
		switch w := t.at(k); {
		case (w == "low" || w == "medium" || w == "high") && (k == 0 || t.at(k-1) == ",") && (t.at(k+1) == "," || k+1 == len(t.words)):
			t.replace(k, k, "on")
			k++
		case (w == "for" || w == "another") && t.bareNumber(k+1),
			w == "every" && isFigure(t.at(k+1)) && t.at(k+1) != "" && (t.at(k+2) == "" || t.at(k+2) == ","):
			t.replace(k+2, k+2, "minutes")
		case t.amountOfNothing(k, "ml", wordSet("other remaining last")):
			t.sayOf(k+2, t.leftLiquid())
		case t.at(k) == "rest" && t.at(k+1) != "of" && t.find(k, "sweeten") && t.isName("sugar"):
			t.sayOf(k+1, "sugar") // "sweeten the rice with the rest"
		case t.restOfNothing(k):
			t.sayOf(k+1, cmp.Or(t.leftLiquid(), t.leftOver(k))) // "heat the rest with the sugar"
		case t.amountOfNothing(k, "cup", wordSet("aside reserve back")):
			t.sayOf(k+2, t.namedBefore(k))
		}
	}
}

// amountOfNothing reports whether an amount stands behind some words that does not say of what: "the other 800 ml to the boil".
func (t *telling) amountOfNothing(k int, unit string, behind map[string]bool) bool {
	ends := wordSet(", to and in with for")
	return t.at(k) != "" && isFigure(t.at(k)) && t.at(k+1) == unit && k > 1 && behind[t.at(k-1)] && (t.at(k+2) == "" || ends[t.at(k+2)])
}

// restOfNothing reports whether "the rest" is said, and not of what.
func (t *telling) restOfNothing(k int) bool {
	if t.at(k) != "rest" || t.at(k+1) == "of" || t.at(k+1) == "for" || t.at(k+1) == "aside" || t.at(k+1) == "back" || k == 0 {
		return false
	}
	return doing[t.at(k-1)] != "" && t.at(k-1) != "let" || t.at(k-1) == "the" && k > 1 && doing[t.at(k-2)] != ""
}

// sayOf puts in of what an amount is.
func (t *telling) sayOf(k int, name string) {
	if name != "" {
		t.replace(k, k, append([]string{"of", "the"}, strings.Fields(name)...)...)
	}
}

// bareNumber reports whether a number stands alone: "let it sit for ten".
func (t *telling) bareNumber(k int) bool {
	w := t.at(k)
	n, words := numberWords[w]
	if w == "" || !(isFigure(w) || words && n >= 2) || strings.Contains(w, "%") {
		return false
	}
	switch t.at(k + 1) {
	case "", ",", "and", "until", "without", "before", "then", "or", "while":
		if next := t.at(k + 2); t.at(k+1) == "or" && (isFigure(next) || numberWords[next] > 0) {
			return false
		}
		return true
	}
	return false
}

// namedBefore is the name of the liquid that stands last before a word; "" for none.
func (t *telling) namedBefore(k int) (name string) {
	for _, group := range t.namedIn(strings.Join(t.texts(0, k), " ")) {
		if m := t.material(group[0]); m != nil && pours(m) {
			name = NameOf(m)
		}
	}
	return name
}

// leftOver is the name of the one thing that was named last and of which a part is in or is kept: "set aside a spoon of the ghee.
// Add the rest"; "" for none.
func (t *telling) leftOver(k int) string {
	if kept := t.find(k, "aside", "later", "back", "reserve"); kept {
		if name := t.nameBefore(k); name != nil {
			return strings.Join(name, " ")
		}
	}
	if name := t.sharedBefore(k); name != "" {
		return name
	}
	if t.now == 0 {
		return ""
	}
	groups := t.namedIn(t.text[t.now-1])
	if len(groups) == 0 || len(groups[len(groups)-1]) > 1 {
		return ""
	}
	i := groups[len(groups)-1][0]
	if part := t.used[i] > 0 && t.used[i] < fullyUsed || t.reserved[i] > 0; !part || t.material(i) == nil {
		return ""
	}
	return NameOf(t.material(i))
}

// sharedBefore is the name of what a share of is said before a word: "stir in half of the sugar, taste, and add the rest".
func (t *telling) sharedBefore(k int) string {
	for j := 0; j < k; j++ {
		if !sharesSaid[t.at(j)] {
			continue
		}
		from := j + 1
		for from < k && (t.at(from) == "of" || t.at(from) == "the") {
			from++
		}
		const longest = 3
		for length := min(longest, k-from); length > 0; length-- {
			if t.isName(phraseOf(t.words[from : from+length])) {
				return strings.Join(t.texts(from, from+length), " ")
			}
		}
	}
	return ""
}

var sharesSaid = wordSet("half third quarter most")

// find reports whether one of these stands before a word.
func (t *telling) find(k int, words ...string) bool {
	return slices.ContainsFunc(t.texts(0, k), func(w string) bool { return slices.Contains(words, w) })
}

// leftLiquid is the name of the liquid of which a part is in, "" for none or several.
func (t *telling) leftLiquid() (name string) {
	for i := range t.given {
		part := t.used[i] > 0 && t.used[i] < fullyUsed || t.reserved[i] > 0
		if m := t.material(i); m != nil && pours(m) && part && len(t.names[i]) > 0 {
			if name != "" {
				return ""
			}
			name = NameOf(m)
		}
	}
	return name
}
