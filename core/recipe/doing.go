package recipe

import (
	"strings"
)

// An action is what a word of doing asks for.
type action string

const (
	doAdd     action = "add"
	doBoil    action = "boil"
	doCook    action = "cook"
	doSoak    action = "soak"
	doRoast   action = "roast"
	doFry     action = "fry"
	doGrind   action = "grind"
	doGrate   action = "grate"
	doCut     action = "cut"
	doPeel    action = "peel"
	doMash    action = "mash"
	doDrain   action = "drain"
	doPress   action = "squeeze"
	doChill   action = "chill"
	doCool    action = "cool"
	doRest    action = "rest"
	doBake    action = "bake"
	doTop     action = "top"
	doOff     action = "off"
	doTurn    action = "turn"
	doCooker  action = "cooker"
	doMelt    action = "melt"
	doSteam   action = "steam"
	doCaramel action = "caramel"
	doMove    action = "move"
	doPass    action = "pass"    // nothing that a plan has a step for, unless it is served with something
	doNothing action = "nothing" // what a plan has no step for
)

// doing are the words that begin a clause.
var doing = map[string]action{}

func init() {
	for do, list := range map[action]string{
		doAdd: `add pour tip put drop throw combine place fold return mix sweeten whisk beat stir blend take toss swirl tumble slide
			finish dissolve sift scrape loosen dilute lower introduce incorporate pop rain shower arrange flavour flavor dot crumble lift
			scent perfume season layer thin slacken whip churn bind work trickle drip pile draw pull move sharpen deglaze tuck`,
		doBoil: "bring",
		doCook: `boil simmer cook heat reheat reduce thicken warm keep continue let allow maintain stew poach braise scald bubble evaporate
			cooks`,
		doRest: "leave rest stand set sit steep infuse", doSoak: "soak soften hydrate", doRoast: "roast toast brown",
		doFry:   "fry saute sauté temper puff sweat",
		doGrind: "grind blitz pound pulse", doGrate: "grate shred shave",
		doCut:  "chop slice dice cut halve quarter cube snip slit split sliver julienne",
		doPeel: "peel pare deseed hull core stone pit slip",
		doMash: "mash crush puree purée liquidise liquidize", doDrain: "drain strain filter sieve", doPress: "squeeze press extract wring",
		doChill: "chill refrigerate", doCool: "cool", doBake: "bake microwave",
		doTop: "garnish decorate scatter sprinkle top strew drizzle break dust lay", doOff: "remove kill", doTurn: "turn switch raise increase",
		doCooker: "pressure",
		doMelt:   "melt", doSteam: "steam", doCaramel: "caramelise caramelize",
		doMove: "transfer divide spoon ladle share portion fill distribute",
		doPass: `wash rinse serve cover taste enjoy preheat grease spray watch adjust check discard pick clean uncover repeat ensure avoid
			prepare make reserve save store hold release wait open start begin gather weigh savour eat drink fish butter oil line
			skim close seal lock rub shake give lick unmould skin refresh send tilt spread smear get invert blanch parboil fluff`,
	} {
		for w := range strings.FieldsSeq(list) {
			doing[w] = do
		}
	}
}

// participles are words of doing as they are told of what was done: "the milk is boiled".
func participle(w string) (base string, ok bool) {
	for _, form := range []string{strings.TrimSuffix(w, "ed"), strings.TrimSuffix(w, "d"), strings.TrimSuffix(strings.TrimSuffix(w, "ed"),
		w[max(len(w)-3, 0):max(len(w)-2, 0)])} {
		if form != w && doing[form] != "" {
			return form, true
		}
	}
	switch w {
	case "fried":
		return "fry", true
	case "ground":
		return "grind", true
	case "brought":
		return "bring", true
	case "put", "left", "kept":
		return map[string]string{"put": "put", "left": "leave", "kept": "keep"}[w], true
	}
	return "", false
}

// happens are words of doing for what comes about by itself.
var happens = wordSet("thicken bubble boil melt dissolve reduce brown soften puff simmer evaporate")

var passive = map[string]bool{"is": true, "are": true, "be": true, "was": true, "were": true, "been": true, "gets": true}

// nextDoing finds the next word that begins a clause after a condition without a comma.
func (c *cookery) nextDoing(tokens []*token, from int) int {
	for k := from + 1; k < len(tokens); k++ {
		itself := doing[tokens[k].text] == doTurn && k > 0 && subject[tokens[k-1].text] // "when they turn golden"
		if do := doing[tokens[k].text]; do != "" && !itself && opens(tokens, k) && do != doCook && do != doPass && do != doCool {
			return k
		}
	}
	return -1
}

// Words of doing that are one only beside certain others.
var (
	// Only before these.
	onlyBefore = map[string]map[string]bool{"pressure": wordSet("cook"), "split": wordSet("the open it each"),
		"thin": wordSet("with it the down out"), "dot": wordSet("with the it over on"),
		"microwave": wordSet("for on at the it until again"), "butter": greased, "oil": greased, "line": greased}
	greased = wordSet("a an the your two four six some") // dishes: "with sugar, butter and salt" are things
	// Not before these: "stand by", "let it take colour", "the rest of".
	notBefore = map[string]map[string]bool{"stand": wordSet("by"), "take": wordSet("colour color on up about care around"),
		"rest": wordSet("of"), "peel": wordSet("to out in"), "brown": wordSet("in , and until then over sugar rice lentils basmati")}
	// Only behind these: "let it get cold".
	onlyBehind = map[string]map[string]bool{"get": wordSet(", and then")}
	// What is a thing as often is done only behind these, and words for how: "and mash", "gently press".
	nounsBehind = wordSet(", and then now & it them or bowl pan saucepan pot jug meanwhile finally next first afterwards lastly i we you")
	// Behind these nothing begins: "the boil", "to a simmer", "do not boil".
	neverBehind = wordSet(`reduce lower increase raise pressure same serve served until very keep the a an to of rolling gentle ` +
		`well for dry in
		with is are has have low high medium at on stop into from off under over first fan slotted wooden metal will its your this that
		room rice not don't never without slow full by can could cannot bare steady light brisk lively quiet eat enjoy`)
	// Behind "warm" and "cool", where that is done: "warm the milk", and not "warm milk".
	warmed = wordSet("the it a through in over gently up slowly completely to down for until , and then this them well on slightly " +
		"before half some")
)

// opens reports whether a word of doing begins a clause where it stands: "the boil" and "a simmer"
// are things.
func opens(words []*token, k int) bool {
	word, next := words[k].text, ""
	if k+1 < len(words) {
		next = words[k+1].text
	}
	if only := onlyBefore[word]; only != nil && !only[next] && (k > 0 || next != "" && !greasing[word]) {
		return false
	}
	if k == 0 {
		return true
	}
	before := words[k-1].text
	measured := measures[word] && (next == "of" || isFigure(before) || numberWords[before] > 0)
	if word == "brown" && shades[before] || measured { // "a golden brown", "one spoon of ghee"
		return false
	}
	mixes := word == "mix" && (next == "in" || next == "into") && before != "the" && before != "a" // "when it is cold mix in the orange"
	if nounish[word] && !nounsBehind[before] && !strings.HasSuffix(before, "ly") && !mixes || notBefore[word][next] ||
		onlyBehind[word] != nil && !onlyBehind[word][before] || word == "rest" && doing[before] != "" && before != "let" ||
		word == "heat" && !heats(words, k) {
		return false
	}
	warms := word == "warm" || word == "cool"
	if neverBehind[before] && !(before == "rice" && warms) {
		return before == "dry" && word == "roast" || before == "rice" && doing[word] != doPass && word != "cooks"
	}
	if warms && (words[0].text == "serve" || words[0].text == "eat") && next != "it" && next != "the" {
		return false // "serve the rice warm in small bowls"
	}
	if warms && next == "" {
		return word == "cool"
	}
	return !warms || warmed[next] || isFigure(next)
}

// heats reports whether "heat" is what is done, and not what is turned down.
func heats(words []*token, k int) bool {
	switch words[k-1].text {
	case ",", "and", "then", "now", "meanwhile", "slowly", "gently":
		return k+1 == len(words) || words[k+1].text != "off"
	}
	if k+1 == len(words) || words[k+1].text == "off" {
		return false
	}
	next := words[k+1].text
	switch next {
	case "the", "it", "a", "some", "half", "up", "through", "remaining", "rest", "oil", "ghee", "butter", "milk", "water":
		return true
	}
	return next[0] >= '0' && next[0] <= '9'
}

// greasing are words of doing that are things of the list more often.
var greasing = wordSet("butter oil line")

// shades are said of a brown.
var shades = wordSet("golden light deep dark pale rich nice even")

// measures are words of doing that things are measured with.
var measures = wordSet("spoon ladle drop dash")

// nounish are words of doing that are as often things.
var nounish = map[string]bool{"puree": true, "purée": true, "mash": true, "mix": true, "whisk": true, "press": true, "steam": true,
	"cover": true,
	"grill": true, "place": true, "shower": true, "grease": true, "measure": true, "extract": true, "top": true, "temper": true,
	"bubble": true, "finish": true, "blend": true, "fish": true, "butter": true, "oil": true, "line": true, "season": true, "layer": true,
	"thin": true, "skin": true, "rub": true, "work": true, "lick": true, "fill": true, "shake": true, "peel": true, "puff": true,
	"dust": true, "drink": true, "quarter": true, "sieve": true, "core": true, "stone": true, "pit": true, "hull": true, "pulse": true,
	"close": true, "seal": true, "lock": true}

// anyForm returns the word of doing that a word is a form of: "stirred", "stirring", "stirs", "brought".
func anyForm(w string) (base string, ok bool) {
	if doing[w] != "" {
		return w, true
	}
	if base, known := irregular[w]; known {
		return base, true
	}
	if base, known := participle(w); known {
		return base, true
	}
	if stem, ing := strings.CutSuffix(w, "ing"); ing {
		for _, form := range []string{stem, stem + "e", strings.TrimSuffix(stem, stem[max(len(stem)-1, 0):])} {
			if doing[form] != "" {
				return form, true
			}
		}
	}
	for _, ending := range [][2]string{{"ies", "y"}, {"es", ""}, {"s", ""}} {
		if stem, many := strings.CutSuffix(w, ending[0]); many && doing[stem+ending[1]] != "" {
			return stem + ending[1], true
		}
	}
	return "", false
}

var irregular = map[string]string{"took": "take", "taken": "take", "threw": "throw", "thrown": "throw", "brought": "bring", "left": "leave",
	"kept": "keep", "ground": "grind", "fried": "fry", "stood": "stand", "sat": "sit", "beaten": "beat", "ate": "eat", "made": "make",
	"shook": "shake", "froze": "chill", "strewn": "strew", "began": "begin", "gave": "give", "given": "give", "ran": "run"}
