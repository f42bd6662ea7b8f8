package recipe

import (
	"cmp"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// What is cooked over a flame, under pressure, in the oven, and what stands and cools after it.

// heat puts a flame under the pot.
func (c *cookery) heat(l *clause, usual vessel.Flame, until plan.Until) {
	c.offHeat = false
	stir := l.stirring()
	if stir == "" {
		stir = plan.StirOften
	}
	flame := l.flame()
	if flame == "" {
		flame = c.flame
	}
	if flame == "" || l.verb == "simmer" && flame == vessel.Low { // "turn it down and simmer"
		flame = usual
	}
	c.flame = ""
	step := plan.Step{Do: plan.Heat, Flame: flame, Stir: stir, Until: &until, Sign: l.sign(), Lid: c.lid}
	c.lid = nil
	c.emit(step)
}

// bowlToPan puts what this sentence has stirred together into the pan that is to be opened.
func (c *cookery) bowlToPan(l *clause) {
	if bowl := c.mixedLast(); c.next != nil && bowl >= 0 && c.bowlOfSentence() == bowl && namesNothing(c, l) {
		c.put([]mention{allOf(bowl)}, plan.Step{})
	}
}

func (c *cookery) boil(l *clause) (fine bool) {
	c.bowlToPan(l)
	list := c.fresh(l)
	if len(list) == 0 && len(c.held()) == 0 && l.find("water") >= 0 && steepedSaid.MatchString(c.text[c.now]) {
		l.has("water")
		return true // for what is soaked in it
	}
	if len(list) == 0 && len(c.held()) == 0 && l.find("water") >= 0 {
		list = c.waterForAll(l)
	}
	c.aside(l, list)
	list = c.asOther(list)
	c.put(list, plan.Step{})
	c.fromBowl() // "whisk the flour into the cold milk, bring to the boil"
	if len(c.held()) == 0 {
		c.liquids()
	}
	if len(c.held()) == 0 {
		return false
	}
	turned := c.flame
	const boils = 99
	if celsius := l.celsius(); celsius > 0 && celsius < boils { // "bring to 90 °C"
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
		return true
	}
	if l.has("simmering point", "just to a simmer", "just below the boil", "just under the boil", "just under a boil", "just below a boil",
		"nearly to the boil", "almost to the boil", "just below boiling", "just under boiling", "just below boiling point",
		"just under boiling point", "scalding point", "just short of boiling", "just short of the boil", "below boiling point") {
		nearly := nearlyBoiling
		c.heat(l, vessel.Medium, plan.Until{TempC: &nearly})
		return true
	}
	if minutes := l.minutes(); minutes > 0 && l.waitsFor() && l.thickens() { // "until it boils and thickens, about 6 minutes"
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		return true
	}
	c.heat(l, vessel.High, plan.Until{Boil: true})
	last := &c.steps[len(c.steps)-1]
	if last.Flame == vessel.Simmer || last.Flame == vessel.Boil { // "bring to a simmer"
		last.Flame = vessel.MediumHigh
	}
	if turned != "" && last.Flame == turned {
		last.Flame = vessel.High
		c.flame = turned
	}
	if minutes := l.minutes(); minutes > 0 && l.verb != "bring" {
		c.heat(l, vessel.Boil, plan.Until{Minutes: &minutes})
	} else if minutes > 0 && l.has("for") {
		c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes})
	}
	return true
}

func (c *cookery) cook(l *clause) (fine bool) {
	if (l.verb == "warm" || l.verb == "heat") && !slices.ContainsFunc(c.unused(l), c.isFat) && l.has("a spoonful of",
		"a spoon of", "a splash of", "a little of", "a few spoons of") {
		l.has("milk", "water", "cream") // for what is steeped in it: the rest of it goes into the pot
		return true
	}
	if fat := c.unused(l); (l.verb == "heat" || l.verb == "warm") && c.onlyFat(fat) && l.minutes() == 0 {
		last := c.last
		c.hotFat(l, c.mentions(l))
		c.last = append(c.last, slices.DeleteFunc(slices.Clone(last), func(m mention) bool { // "wash the rice. Heat the ghee and fry it"
			return m.item < 0 || !c.unput(m) || !c.behaves(m, pantry.Grain)
		})...)
		return true
	}
	c.bowlToPan(l)
	list := c.fresh(l)
	if len(list) == 0 && l.has("oven", "the oven", "grill") {
		return true // it is heated before
	}
	if c.onlyFat(list) && l.minutes() == 0 && l.find("adding") < 0 {
		c.hotFat(l, list)
		return true
	}
	if l.verb == "keep" && c.anyNew(list) && l.minutes() == 0 && l.bareMinutes() == 0 && !l.waitsFor() && l.flame() == "" {
		return false // "keep the milk that runs out"
	}
	from := c.holderOfAll(list)
	another := from >= 0 && from != c.at && c.holders[from].pot
	if another && len(c.held()) > 0 && c.onlyWaterHeld() && inThat.MatchString(l.text()) {
		list = []mention{allOf(from)} // "boil the water and cook the sago in it", which was roasted in another pan
	} else {
		c.aside(l, list)
		list = c.asOther(list)
	}
	if l.do == doCook && c.melts(l, list) {
		return true
	}
	bare := l.verb == "boil" && c.bareTissue(list)
	if bare {
		list = append(list, c.unsaidWater(l, c.enoughWater(l)))
		defer c.drainPot() // "boil the sweet potatoes until soft"
	}
	list = c.boilsFirst(l, list)
	c.put(list, plan.Step{})
	c.fromBowl()
	if len(c.held()) == 0 {
		c.liquids()
	}
	if len(c.held()) == 0 {
		return false
	}
	minutes := l.minutes()
	if minutes == 0 {
		minutes = l.bareMinutes()
	}
	if c.underPressure(l, minutes) || c.staysInOven(l, minutes) || c.inAll(l, minutes) {
		return true
	}
	if c.heated > 0 && minutes > 0 && c.inDish() && l.flame() == "" { // "cook for 2 hours"
		c.bake(l)
		return true
	}
	if (c.oven == plan.SlowCooker || c.oven == plan.Microwave) && minutes > 0 {
		c.bakeFor(l, minutes)
		return true
	}
	return c.heatUntil(l, minutes)
}

// onlyWaterHeld reports whether there is nothing but water in the pot.
func (c *cookery) onlyWaterHeld() bool {
	return !slices.ContainsFunc(c.held(), func(i int) bool { return c.given[i].Item.Material != "water" })
}

// inThat is said of what is cooked in what was named before.
var inThat = regexp.MustCompile(`\bin (?:it|that|this)\b`)

// inAll takes how long what a sentence tells of takes altogether: "until each addition is absorbed, about 30 minutes in total".
func (c *cookery) inAll(l *clause, minutes measure.Minute) bool {
	last := len(c.steps) - 1
	if minutes == 0 || last < 0 || !l.has("in total", "altogether", "in all", "all told") || c.steps[last].Do != plan.Heat {
		return false
	}
	if at := c.madeBy(last); at != c.now || c.steps[last].Until.Minutes != nil {
		return false
	}
	c.saidMinutes(minutes)
	return true
}

// bareTissue reports whether nothing but vegetables or fruit is boiled, in a pot that holds nothing: in water, which is poured off.
func (c *cookery) bareTissue(list []mention) bool {
	return len(c.held()) == 0 && len(list) > 0 && !slices.ContainsFunc(list, func(m mention) bool {
		return m.item < 0 || m.holder >= 0 || m.share <= 0 || !c.behaves(m, pantry.Tissue)
	})
}

// untilSoft reports whether a clause waits until something is soft: it says so behind "until", or says no more than "cook it soft".
func (l *clause) untilSoft() bool {
	at := slices.IndexFunc(l.words, func(w *token) bool { return w.text == "until" || w.text == "when" })
	if at < 0 {
		return l.has("soft", "tender", "cooked through", "al dente", "done")
	}
	return (&clause{words: l.words[at:]}).has(softWords...)
}

// underPressure takes how long a cooker is under pressure, said behind the whistle: "till the first whistle, then lower the heat
// and cook for 15 minutes".
func (c *cookery) underPressure(l *clause, minutes measure.Minute) bool {
	last := len(c.steps) - 1
	if last < 0 || minutes == 0 || c.steps[last].Do != plan.Pressure || (c.steps[last].Whistles == 0 || c.steps[last].Minutes != nil) &&
		c.assumed != last {
		return false
	}
	if c.madeBy(last) != c.now && c.assumed != last {
		return false
	}
	if c.assumed == last { // "bring to pressure. After one whistle lower the heat and cook for 20 minutes"
		if found := numberedWhistle.FindString(strings.ToLower(c.text[c.now])); found != "" {
			c.steps[last].Whistles = 1
		}
		c.answer()
	}
	c.steps[last].Minutes = &minutes
	c.flame = ""
	l.flame()
	l.sign()
	return true
}

// heatUntil heats what is in the pot until what a clause says, or for a usual time.
func (c *cookery) heatUntil(l *clause, minutes measure.Minute) (fine bool) {
	if c.at >= 0 && c.onlySugar() {
		l.has("a thick syrup", "a thin syrup", "a syrup", "thick syrup", "syrup")
	}
	remaining := cmp.Or(c.remainingVolume(l), l.remaining())
	grain, slowest := c.grainMeant(l)
	usual := vessel.Simmer
	if l.verb == "boil" {
		usual = vessel.Boil
	}
	celsius := l.celsius()
	switch {
	case c.at >= 0 && c.onlySugar() && caramelSaid.MatchString((&clause{words: l.until()}).text()) && c.browns(l):
	case celsius > 0 && celsius < 105:
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case remaining > 0:
		c.heat(l, vessel.Medium, plan.Until{RemainingPct: &remaining})
		c.saidMinutes(minutes)
	case minutes > 0 && l.has("half done", "half cooked", "half soft", "half tender", "almost soft", "almost tender", "almost cooked",
		"nearly soft", "nearly tender", "nearly cooked", "partly cooked", "partly soft"):
		c.heat(l, usual, plan.Until{Minutes: &minutes})
	case slowest != nil && l.match(partlyDone) != nil:
		c.heat(l, usual, plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: partly(slowest.Kinetics)}})
	case slowest != nil && l.untilSoft():
		l.thickens()
		c.heat(l, usual, plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: gentle(slowest.Kinetics)}})
		c.saidMinutes(minutes)
	case minutes > 0 && thickThen.MatchString(l.text()) && l.has("then") && l.has("more", "longer", "further") && l.thickens():
		grade := thickUsual // "until it thickens, then two minutes more"
		c.heat(l, usual, plan.Until{Thickness: &grade})
		c.heat(l, usual, plan.Until{Minutes: &minutes})
	case minutes > 0:
		c.heat(l, usual, plan.Until{Minutes: &minutes})
	case slowest != nil && l.has("white dot", "white speck", "white spot", "white centre", "white center", "white eye"):
		c.heat(l, usual, plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: gentle(slowest.Kinetics)}})
	case slowest != nil && (l.find("water") >= 0 || l.find("milk") >= 0 || l.find("liquid") >= 0) && l.has("disappeared", "disappears", "gone",
		"vanished", "boiled away"), slowest != nil && l.has("absorbed", "absorb", "soaked up", "taken up", "evaporated", "evaporates",
		"dries up", "dried up"), slowest != nil && l.find("moisture") >= 0 && l.has("gone", "disappears", "disappeared", "left"):
		if slowest.Behaviour == pantry.Tissue {
			usual = vessel.Medium // vegetables take up nothing: it boils away
		}
		left := absorbed
		if l.has("most", "almost", "nearly") {
			left = mostAbsorbed
		}
		c.heat(l, usual, plan.Until{FreeWaterPct: &left})
	case l.thickens() || l.verb == "thicken":
		grade := thickUsual
		c.heat(l, usual, plan.Until{Thickness: &grade})
	case c.warms(l, usual):
	case (l.verb == "keep" || l.verb == "continue" || l.verb == "let" || l.verb == "allow") && l.find("until") < 0 &&
		!(l.find("cooking") >= 0 && c.justAdded()): // "add the rice and keep cooking": the next sentence says until when
		return len(c.steps) > 0 && c.steps[len(c.steps)-1].Do == plan.Pressure && l.has("pressure", "steam")
	default:
		usualMinutes := c.guess(simmerUsual)
		c.heat(l, usual, plan.Until{Minutes: &usualMinutes})
		c.assumed = len(c.steps) - 1
	}
	return true
}

// partly is the doneness of what is cooked part of the way.
func partly(k *pantry.Kinetics) float64 {
	const part = 0.7 // of what is liked. Source: our own judgement
	return part * k.WantedLow
}

// littleGone reports whether hardly anything has boiled away before what was added last: what the list has is in the pot.
func (c *cookery) littleGone() bool {
	const little measure.Minute = 10
	pot, latest := c.holders[c.at].name, 0
	for k, s := range c.steps {
		if s.Do == plan.Add && s.Pot == pot {
			latest = k
		}
	}
	minutes := measure.Minute(0)
	for _, s := range c.steps[:latest] {
		switch {
		case s.Do != plan.Heat || s.Pot != pot || s.Until == nil || s.Until.Boil || s.Until.TempC != nil:
		case s.Until.Minutes == nil:
			return false
		default:
			minutes += *s.Until.Minutes
		}
	}
	return minutes <= little
}

// gramsOf is what the list has of an item; 0 where nobody knows.
func (c *cookery) gramsOf(i int) float64 {
	m := c.material(i)
	if m == nil {
		return 0
	}
	amount, err := measure.ParseAmount(c.given[i].Item.Amount)
	if err != nil {
		return 0
	}
	g, err := c.reader.measures.Grams(amount, m.Body())
	if err != nil {
		return 0
	}
	return float64(g)
}

// warms heats until a clause's sign of warmth: it is melted, steams, nearly boils or takes colour.
func (c *cookery) warms(l *clause, usual vessel.Flame) bool {
	switch {
	case l.has("dissolved", "dissolves", "melted", "melts", "dissolve", "melt"):
		few := fewMinutes
		c.heat(l, usual, plan.Until{Minutes: &few})
	case l.has("almost boiling", "nearly boiling", "almost boils", "nearly boils", "about to boil", "on the point of boiling", "simmers",
		"simmering", "to simmer", "bubbles form", "bubbles appear", "small bubbles", "tiny bubbles"):
		celsius := nearlyBoiling
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case l.has("steaming", "steams", "hot") || l.verb == "scald":
		celsius := steaming
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case l.verb == "warm" || l.verb == "heat" || l.verb == "reheat":
		celsius := measure.Celsius(60)
		if l.verb == "heat" {
			celsius = steaming
		}
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case l.has("take colour", "take on colour", "take color", "change colour", "changes colour", "colour a little"):
		browns := c.guess(roastUsual)
		c.heat(l, vessel.Medium, plan.Until{Minutes: &browns})
	default:
		return false
	}
	return true
}

// The free water that is left, in per cent of the weight, where all of it or most is taken up. Source: docs/plan-format.md, and
// our own judgement of "most".
const absorbed, mostAbsorbed = 5.0, 15.0

// onlySugar reports whether the pot holds nothing but sugar, and water to dissolve it.
func (c *cookery) onlySugar() bool {
	sugar := false
	for _, i := range c.held() {
		m := c.material(i)
		if m == nil || m.Kind != "sweetener" && m.Slug != "water" {
			return false
		}
		sugar = sugar || m.Kind == "sweetener"
	}
	return sugar
}

// RecipeSays begins the note of a step that ends by something else than the minutes which the recipe has for it.
const RecipeSays = "The recipe says "

// saidMinutes notes at the last step how long the recipe says that it takes, where it ends by something else.
func (c *cookery) saidMinutes(minutes measure.Minute) {
	if minutes > 0 {
		last := &c.steps[len(c.steps)-1]
		at, note := unmarked(last.Note)
		last.Note = marked(at, strings.TrimSpace(note+" "+RecipeSays+strconv.FormatFloat(float64(minutes), 'f', -1, 64)+" minutes."))
	}
}

// remaining reads "reduced by half", "to two thirds", "by a quarter": what is left, in per cent.
func (l *clause) remaining() float64 {
	said := l.match(leftSaid)
	if said == nil && l.verb != "reduce" && !l.goneOf() && !slices.ContainsFunc([]string{"reduced", "reduces", "reduce", "down", "reducing",
		"evaporated"}, func(w string) bool { return l.find(w) >= 0 }) {
		return 0
	}
	if said != nil {
		if part, ok := readNumber(partInFigures.FindString(said[0])); ok {
			return 100 * part // "until it is about 3/4"
		}
	}
	if found := l.match(percentSaid); found != nil {
		if left, err := strconv.ParseFloat(found[1], 64); err == nil && leftOfIt.Holds(left) {
			return left
		}
	}
	if found := l.match(fractionSaid); found != nil {
		if part := mixedNumber(found[1]); part > 0.05 && part < 1 {
			if strings.HasPrefix(found[0], "by") {
				part = 1 - part
			}
			return 100 * part
		}
	}
	if partOfAnHour.MatchString(l.text()) || !l.has("half", "third", "thirds", "quarter", "quarters", "fourth", "fourths") {
		return 0
	}
	by := byPartSaid.MatchString(l.text()) || l.find("evaporated") >= 0 || l.goneOf()
	l.has("by", "another", "further")
	part := 50.0
	switch {
	case l.has("two thirds", "2/3"):
		part = 67
	case l.has("three quarters", "three fourths", "three fourth"):
		part = 75
	case l.has("third"):
		part = 33
	case l.has("quarter", "fourth"):
		part = 25
	}
	if by {
		part = 100 - part
	}
	l.has("reduced", "reduces", "reduce", "down")
	return part
}

// remainingVolume reads "until it is reduced to about 700 ml" as per cent of the weight that is in the pot; 0 for nothing said.
func (c *cookery) remainingVolume(l *clause) float64 {
	found := volumeSaid.FindStringSubmatch(l.text())
	if found == nil {
		return 0
	}
	switch found[1] { // "to about a litre"
	case "a", "one":
		found[1] = "1"
	case "half a":
		found[1] = "0.5"
	}
	amount, err := measure.ParseAmount(found[1] + " " + found[2])
	if err != nil {
		return 0
	}
	total, liquid := 0.0, -1
	for _, i := range c.held() {
		total += c.gramsOf(i) * c.used[i]
		if liquid < 0 && c.behaves(mention{item: i}, pantry.Liquid) {
			liquid = i
		}
	}
	if liquid < 0 || total == 0 || !c.littleGone() {
		return 0
	}
	kept, err := c.reader.measures.Grams(amount, c.material(liquid).Body())
	left := math.Round(100 * float64(kept) / total)
	if err != nil || !leftOfIt.Holds(left) {
		return 0
	}
	l.match(volumeSaid)
	return left
}

// goneOf reports whether a clause tells how much has gone: "until a third has boiled away".
func (l *clause) goneOf() bool { return l.match(goneSaid) != nil }

// grainInPot returns the part that takes longest of what is in.
func (c *cookery) grainInPot() (part string, slowest *pantry.Material) {
	for _, i := range c.held() {
		m := c.material(i)
		if m == nil || m.Kinetics == nil || m.Behaviour != pantry.Grain && m.Behaviour != pantry.Tissue {
			continue
		}
		if slowest == nil || m.Kinetics.CookMinutes > slowest.Kinetics.CookMinutes {
			part, slowest = c.inPotAs(m.Slug), m
		}
	}
	return part, slowest
}

// inPotAs is the name by which a material is in the pot: that of what it was stirred together with beside it, or its own.
func (c *cookery) inPotAs(slug string) string {
	name := slug
	for i := range c.steps {
		if s := &c.steps[i]; s.Do == plan.Mix && slices.ContainsFunc(s.Items, func(item plan.Item) bool {
			return item.Material != "" && item.Material == name || item.Part != "" && item.Part == name
		}) {
			name = s.Name // and that may be stirred into something again
		}
	}
	return name
}

// thickens reports whether a clause says that something is thick by then: "till thick", and not "the thick coconut milk".
func (l *clause) thickens() bool {
	for k, w := range l.words {
		named := w.text == "thick" && k+1 < len(l.words) && thickIsName[l.words[k+1].one]
		if slices.Contains(thickWords, w.text) && !named {
			w.read = true
			return true
		}
	}
	return false
}

// thickIsName is what is called thick by name.
var thickIsName = wordSet("coconut milk cream extract press syrup pan pot saucepan kadai kadhai uruli vessel bottom bottomed based base")

// grainForCooker is the grain that was made ready, where a cooker would hold nothing else to be cooked: "wash both and pressure
// cook with the water".
func (c *cookery) grainForCooker(named []mention) (ready []mention) {
	solid := func(i int) bool {
		one := mention{item: i}
		return c.behaves(one, pantry.Grain) || c.behaves(one, pantry.Tissue)
	}
	if slices.ContainsFunc(c.held(), solid) || slices.ContainsFunc(named, func(m mention) bool { return m.holder >= 0 || solid(m.item) }) {
		return nil
	}
	for i := range c.given {
		if c.used[i] == 0 && len(c.preparations[i]) > 0 && c.behaves(mention{item: i}, pantry.Grain) {
			ready = append(ready, mention{item: i, share: 1, holder: -1})
		}
	}
	return ready
}

// grainMeant is the grain or vegetable that a clause waits for: the one that it names behind "until", or the slowest in the pot.
// What softens no more, as flour, is none.
func (c *cookery) grainMeant(l *clause) (part string, meant *pantry.Material) {
	part, meant = c.grainInPot()
	at := slices.IndexFunc(l.words, func(w *token) bool { return w.text == "until" })
	if at < 0 {
		return part, meant
	}
	for _, group := range c.namedIn((&clause{words: l.words[at+1:]}).text()) {
		for _, i := range group {
			m := c.material(i)
			if m == nil || !slices.Contains(c.held(), i) {
				continue
			}
			if m.Behaviour == pantry.Flour {
				return "", nil
			}
			if m.Kinetics != nil && (m.Behaviour == pantry.Grain || m.Behaviour == pantry.Tissue) {
				return c.inPotAs(m.Slug), m
			}
		}
	}
	return part, meant
}

func (c *cookery) pressure(l *clause) (fine bool) {
	list := c.asOther(c.fresh(l))
	c.put(append(list, c.grainForCooker(list)...), plan.Step{})
	if len(c.held()) == 0 {
		c.liquids()
	}
	if len(c.held()) == 0 {
		return false
	}
	c.sealed = false
	step := plan.Step{Do: plan.Pressure}
	l.has("until the first whistle")
	if found := l.match(whistleSaid); found != nil {
		n, ok := numberWords[found[1]]
		if found[1] == "first" {
			n, ok = 1, true
		}
		if figure, err := strconv.Atoi(found[1]); err == nil {
			n, ok = float64(figure), true
		}
		if ok && n >= 1 && n <= 30 {
			step.Whistles = int(n)
		}
	}
	minutes := l.minutes()
	const most = 180
	if minutes > most {
		minutes = 0 // what is soaked overnight
	}
	if or := whistlesOr.MatchString(l.text()); or && step.Whistles > 0 {
		minutes = 0 // "6 whistles or 20 minutes" is the same twice
	}
	if last := len(c.steps) - 1; minutes > 0 && step.Whistles == 0 && last >= 0 && c.assumed == last && c.steps[last].Do == plan.Pressure {
		c.answer() // "bring to pressure. Cook for 5 minutes at pressure"
		c.steps[last].Minutes = &minutes
		return true
	}
	if step.Whistles == 0 || minutes > 0 {
		if minutes == 0 {
			minutes = c.guess(cookerMinutes)
			defer func() { c.assumed = len(c.steps) - 1 }()
		}
		step.Minutes = &minutes
	}
	l.has("pressure", "cooker", "natural", "naturally")
	step.Flame = l.flame()
	if step.Flame == vessel.Simmer || step.Flame == vessel.Boil {
		step.Flame = ""
	}
	step.Sign = ""
	l.sign()
	c.lid = nil
	c.emit(step)
	return true
}

// standing lets the pot stand, cool or chill.
func (c *cookery) standing(l *clause) bool {
	list := c.asOther(c.mentions(l))
	if slices.ContainsFunc(list, func(m mention) bool { return m.holder >= 0 && !c.holders[m.holder].pot }) {
		return true // a syrup that cools while the pot goes on
	}
	minutes := l.minutes()
	if c.steeps == c.now && minutes > 0 && namesNothing(c, l) && l.do == doRest {
		l.readAll()
		return true // what is steeped beside the pot
	}
	if l.do == doRest && len(c.last) == 1 && len(c.dressed[c.last[0].item]) > 0 && namesNothing(c, l) && minutes == 0 {
		l.readAll()
		return true // fruit that draws juice
	}
	if l.do == doChill {
		c.fromBowl() // "mix the oats with the milk in a bowl and refrigerate"
	}
	if len(c.held()) == 0 {
		ready := l.do == doCool && slices.ContainsFunc(c.last, func(m mention) bool { return m.item >= 0 && len(c.preparations[m.item]) > 0 })
		if ready { // what was roasted cools by itself
			c.strained[c.now] = true
			l.readAll()
		}
		return ready
	}
	if l.has("warm place") && minutes > 0 {
		c.portion()
	}
	pressure := len(c.steps) > 0 && c.steps[len(c.steps)-1].Do == plan.Pressure && l.has("pressure", "steam")
	if pressure {
		return true // what a cooker does by itself
	}
	const short = 30
	switch {
	case l.do == doRest && l.verb == "leave" && c.staysInOven(l, minutes):
	case l.do == doChill:
		hours := chillUsual
		if minutes > 0 {
			hours = float64(minutes) / 60
		} else {
			c.guess(chillUsual * 60)
		}
		c.portion()
		l.has("fridge", "refrigerator")
		l.sign()
		c.emit(plan.Step{Do: plan.Chill, Hours: &hours})
	case l.do == doCool && (minutes == 0 || minutes > short):
		c.portion()
		to := l.coolTo()
		l.sign()
		c.cool(to)
	case minutes > 0:
		l.sign()
		c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes, Lid: c.lid})
		c.lid = nil
	case l.has("until hand warm", "until lukewarm", "until tepid", "until it is hand warm", "until it is lukewarm", "until just warm",
		"until cool enough", "until barely warm"):
		c.portion()
		c.cool(lukewarm)
	case l.do == doRest && c.offHeat && l.find("until") >= 0 && l.untilSoft():
		stands := c.guess(simmerUsual) // "take off the heat, cover, leave until clear"
		c.emit(plan.Step{Do: plan.Rest, Minutes: &stands, Lid: c.lid})
		c.lid = nil
	case l.has("until cold", "until cool", "to set", "completely"):
		c.portion()
		c.cool(cooled)
	default:
		return false
	}
	return true
}

// How cold is meant. Source: our own judgement.
const (
	cooled        measure.Celsius = 30
	lukewarm      measure.Celsius = 40
	cooledALittle measure.Celsius = 65
)

// coolTo reads how far something cools.
func (l *clause) coolTo() measure.Celsius {
	if celsius := l.celsius(); celsius > 0 {
		return celsius
	}
	switch {
	case l.has("slightly", "a little", "a bit", "somewhat", "off the boil"):
		return cooledALittle
	case l.has("lukewarm", "tepid", "warm", "hand warm", "blood warm"):
		return lukewarm
	}
	return cooled
}

func (c *cookery) cool(to measure.Celsius) { c.emit(plan.Step{Do: plan.Cool, ToC: &to}) }

// turn takes the pot off the flame, or changes that for what comes.
func (c *cookery) turn(l *clause) bool {
	if l.do == doOff {
		off := l.has("heat", "flame", "fire", "stove", "gas", "hob", "burner") || l.verb == "turn" || l.verb == "switch"
		if nearly := nearlyBoiling; l.verb == "remove" && !off && l.match(beforeBoiling) != nil && len(c.held()) > 0 {
			c.heat(l, vessel.Medium, plan.Until{TempC: &nearly}) // "add the thick milk and remove before it boils"
			c.offHeat = true
			return true
		}
		if l.verb == "remove" && !off && c.onlyUntil(l) {
			c.offHeat = true
			return true
		}
		if l.verb == "remove" && !off {
			last := len(c.steps) - 1
			if last >= 0 && c.steps[last].Do == plan.Heat && len(c.mentions(l)) == 0 {
				c.offHeat = true
				return true // "heat for a minute and remove"
			}
			return last >= 0 && (c.steps[last].Do == plan.Fry || c.steps[last].Do == plan.Roast)
		}
		c.mentions(l)
		last := len(c.steps) - 1
		soon := l.find("after") >= 0 || l.match(offSoon) != nil
		if minutes := l.minutes(); minutes > 0 && soon && len(c.held()) > 0 && last >= 0 && c.steps[last].Do == plan.Add {
			c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes}) // "switch off after 2 minutes"
		} else if minutes > 0 && !soon && c.lastCooked() == plan.Heat {
			c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes}) // "turn off the heat for 10 minutes"
		}
		if nearly := nearlyBoiling; l.match(beforeBoiling) != nil && len(c.held()) > 0 && c.steps[len(c.steps)-1].Do != plan.Heat {
			c.heat(l, vessel.Medium, plan.Until{TempC: &nearly}) // "add the milk and turn off just before it boils"
		}
		if l.match(afterBoiling) != nil && len(c.held()) > 0 && c.steps[len(c.steps)-1].Do != plan.Heat {
			c.heat(l, vessel.Medium, plan.Until{Boil: true}) // "add the milk and remove after the first boil"
		}
		c.onlyUntil(l)
		c.offHeat = true
		return true
	}
	flame := l.flame()
	if l.verb == "simmer" { // "simmer the flame"
		flame = vessel.Simmer
	}
	if flame == "" && (l.verb == "reduce" || l.verb == "lower" || l.has("down")) {
		flame = vessel.Low
		if l.has("medium") {
			flame = vessel.Medium
		}
		if l.has("simmer") {
			flame = vessel.Simmer
		}
	}
	if flame == "" && (l.verb == "raise" || l.verb == "increase" || l.has("up")) {
		flame = vessel.High
		if l.has("medium") {
			flame = vessel.Medium
		}
	}
	c.flame = flame
	return flame != "" || l.verb == "put" || l.verb == "place" || l.verb == "set" || l.verb == "return"
}

// beforeBoiling is said of a pot that is taken off when it is nearly boiling.
var beforeBoiling = regexp.MustCompile(`\b(?:just before|before|as soon as|when|once|the moment) ` +
	`(?:it|the milk|the pudding|the mixture)?\s?(?:(?:is about|begins?|starts?|comes?) )?(?:to )?(?:an? |the )?` +
	`(?:boils?|boiling|bubbles?|bubbling|simmers?|simmering|the first bubbles?|(?:small |tiny |the first )+bubbles (?:appear|show|form|rise)` +
	`(?: (?:at|round|around) the (?:edges?|sides?))?)\b`)

// onlyUntil heats what was added last until a clause takes it off: "add the milk and switch off when it starts to steam".
func (c *cookery) onlyUntil(l *clause) bool {
	if len(c.held()) == 0 {
		return false
	}
	heats := c.steps[len(c.steps)-1].Do == plan.Heat
	switch hot := steaming; {
	case l.has("when hot", "once hot", "when heated through", "once heated through"), l.match(steamsUp) != nil:
		c.heat(l, vessel.Low, plan.Until{TempC: &hot})
	case !heats && l.match(bubblesUp) != nil:
		c.heat(l, vessel.Medium, plan.Until{Boil: true})
	default:
		return false
	}
	return true
}

// steamsUp and bubblesUp are said of how hot it is then.
var (
	steamsUp = regexp.MustCompile(`\b(?:when|once|as soon as|as) (?:it|the [a-z]+) (?:just |only )?(?:(?:starts|begins) to )?(?:steams?|` +
		`warms?(?: up| through)?|heats? (?:up|through)|(?:is|gets) (?:hot|warm|heated through))\b`)
	bubblesUp = regexp.MustCompile(`\b(?:when|once|as soon as|just as|as) (?:it|the [a-z]+) (?:just |only )?` +
		`(?:(?:starts|begins) to |comes to (?:a|the) )?(?:boils?|bubbles?|simmers?)\b`)
)

// offSoon is said of a flame that is on for a little longer: "switch off in a minute".
var offSoon = regexp.MustCompile(`\boff in (?:an? |one |two |a few |\d )`)

// afterBoiling is said of a pot that is taken off when it has boiled up.
var afterBoiling = regexp.MustCompile(`\b(?:after|at|with) (?:the |a |one )?(?:first |single )?boil\b|\bafter it (?:boils|` +
	`has boiled) (?:up )?once\b`)

func (c *cookery) bake(l *clause) {
	before := c.last
	list := c.asOther(c.mentions(l))
	if fruit := c.bakedApart(list, before); fruit != nil {
		list, c.next = fruit, []string{"dish"}
	}
	c.put(list, plan.Step{})
	c.fromBowl()
	if len(c.held()) == 0 {
		return
	}
	minutes := l.minutes()
	celsius := cmp.Or(c.heated, c.ovenC, ovenUsual)
	for _, found := range ovenSaid.FindAllStringSubmatch(weighed.ReplaceAllString(l.text(), ""), -1) {
		degrees, err := strconv.ParseFloat(found[1], 64)
		if err != nil || degrees < 90 {
			continue
		}
		l.has(found[1], "c", "f", "°", "degrees", "celsius", "fahrenheit", found[1]+" c", found[1]+" ° c")
		celsius = ovenCelsius(found[1], found[2])
		break
	}
	l.has("oven", "preheated")
	if l.verb == "microwave" || l.has("microwave") {
		c.oven = plan.Microwave
	}
	c.ovenC = celsius
	guessed := minutes == 0
	if guessed {
		minutes = c.guess(bakeUsual)
	}
	c.bakeFor(l, minutes)
	if guessed {
		c.assumed = len(c.steps) - 1
	}
}

// bakedApart returns the fruit that is baked in a dish of its own while something else is in the pot: "cut the rhubarb and bake with
// the sugar"; nil where that is not so.
func (c *cookery) bakedApart(list, before []mention) []mention {
	fruit := func(m mention) bool { return m.item >= 0 && c.unput(m) && c.behaves(m, pantry.Tissue) }
	if len(c.held()) == 0 || c.inDish() || c.next != nil ||
		slices.ContainsFunc(list, func(m mention) bool { return m.holder >= 0 || m.share <= 0 }) {
		return nil
	}
	list = slices.Clone(list)
	for _, m := range before {
		if fruit(m) && c.said[m.item] && !slices.ContainsFunc(list, func(one mention) bool { return one.item == m.item }) {
			list = append([]mention{{item: m.item, share: 1, holder: -1}}, list...)
		}
	}
	if !slices.ContainsFunc(list, fruit) {
		return nil
	}
	return list
}

// staysInOven bakes on where a pudding is in the oven, and nobody has taken it out: "stir, and leave it for another hour".
func (c *cookery) staysInOven(l *clause, minutes measure.Minute) bool {
	last := len(c.steps) - 1
	for last > 0 && c.steps[last].Do == plan.Add && !c.steps[last].Topping {
		last-- // "stir in the cream for the last 20 minutes"
	}
	if last < 0 || minutes == 0 || c.steps[last].Do != plan.Bake || c.steps[last].BakeIn != plan.InOven || c.next != nil ||
		c.at < 0 || c.steps[last].Pot != c.holders[c.at].name {
		return false
	}
	since := c.madeBy(last)
	if since < 0 || outOfOven.MatchString(strings.Join(c.text[since:c.now+1], ". ")) {
		return false
	}
	if c.assumed == last { // "put it in the oven. After 20 minutes stir"
		c.steps[last].Minutes = &minutes
		l.stirring()
		l.sign()
		c.answer()
		return true
	}
	c.bakeFor(l, minutes)
	return true
}

// outOfOven is said of a pudding that is baked no more.
var outOfOven = regexp.MustCompile(`(?i)\b(?:out|remove|from the oven|off|cool|stand|rest|settle|hob|stove|flame|saucepan|serve)\b`)

// ovenCelsius reads the heat of an oven; above 260 a number without its unit is one of degrees Fahrenheit.
func ovenCelsius(number, unit string) measure.Celsius {
	const hottest = 260
	degrees := mixedNumber(number)
	if strings.HasPrefix(strings.ToLower(unit), "f") || degrees > hottest {
		degrees = (degrees - 32) / 1.8
	}
	return measure.Celsius(degrees)
}

// Powers of a microwave oven, as its knob has them. Source: our own judgement of household ovens.
const (
	microwaveHigh   measure.Watt = 700
	microwaveMedium measure.Watt = 400
	microwaveLow    measure.Watt = 250
)

// bakeFor is in the oven, or in what else was said.
func (c *cookery) bakeFor(l *clause, minutes measure.Minute) {
	step := plan.Step{Do: plan.Bake, BakeIn: c.oven, Covered: c.lid != nil && *c.lid}
	switch c.oven {
	case plan.Microwave:
		step.PowerW = new(microwaveHigh)
		if flame := l.flame(); flame == vessel.Medium {
			step.PowerW = new(microwaveMedium)
		} else if flame == vessel.Low {
			step.PowerW = new(microwaveLow)
		}
	case plan.SlowCooker:
		l.has("low", "high", "slow cooker")
	default:
		step.BakeIn, step.OvenC = plan.InOven, new(c.ovenC)
	}
	l.stirring()
	step.Sign = l.sign()
	step.Minutes = &minutes
	if c.lid = nil; step.BakeIn == plan.InOven {
		c.oven = ""
	}
	c.emit(step)
}

var (
	partlyDone = regexp.MustCompile(`\b(?:[5-9]\d ?%|half|three[ -](?:fourths?|quarters?)|3/4|almost|nearly|partly|partially) (?:th )?` +
		`(?:of the way )?` +
		`(?:done|cooked|soft|tender)\b`)
	weighed     = regexp.MustCompile(`\b\d[\d./]* ?(?:g|ml|minutes?)\b`) // and no degrees
	thickThen   = regexp.MustCompile(`\b(?:thick\w*|creamy|coats?)\b.*\bthen\b`)
	percentSaid = regexp.MustCompile(`to (?:about )?(\d{1,2}) ?(?:%|percent|per cent)`)
	whistlesOr  = regexp.MustCompile(`whistles? or|or (?:\w+ )?whistles?`)
	goneSaid    = regexp.MustCompile(`\b(?:half|thirds?|quarters?)(?: of [a-z ]{2,20}?)? (?:has|have|is|are) (?:all )?` +
		`(?:gone|boiled away|boiled off|evaporated|disappeared|cooked away|steamed off)\b`)
	// "let it reduce for half an hour"
	partOfAnHour = regexp.MustCompile(`\bhalf (?:an )?hour\b|\bhour and a (?:half|quarter)\b|\bquarters? of an hour\b`)
	leftSaid     = regexp.MustCompile(`\b(?:is|are) (?:about |down to )?half (?:of )?(?:its|their|the) ` +
		`(?:original )?(?:volume|size|quantity|amount)\b|` +
		`\bonly (?:about )?(?:an? |two |three )?(?:half|thirds?|quarters?)(?: of it)? ` +
		`(?:is|are|remains?) ?(?:left)?\b|` +
		`\buntil (?:it|the milk) (?:is|becomes|has become) (?:about |almost |nearly |roughly |just )?(?:half|[123]/[234]|two thirds|` +
		`three quarters|three fourths?)(?: (?:of )?(?:its|the) (?:original )?(?:volume|quantity|amount))?(?: ,| and|$)`)
	volumeSaid = regexp.MustCompile(`\b(?:reduced?|reduces|boiled|down) (?:down )?to (?:about |around |roughly |just )?` +
		`(\d+ \d/\d|[\d./]+|half a|a|one) ?(ml|l|litre|cup|pint)s?\b`)
	fractionSaid  = regexp.MustCompile(`(?:to|by) (?:about )?(\d/\d)(?: th| rd)?`)
	partInFigures = regexp.MustCompile(`\d/\d`)
	celsiusSaid   = regexp.MustCompile(`(\d{2,3})(?: ?°)? ?(c|celsius|f|fahrenheit|degrees)\b`)
	bareSaid      = regexp.MustCompile(`(?:^|for |about )(\d{1,2})$`)
)

// celsius reads to what temperature a pot is heated; 0 for nothing said.
func (l *clause) celsius() measure.Celsius {
	found := l.match(celsiusSaid)
	if found == nil {
		return 0
	}
	degrees := mixedNumber(found[1])
	if degrees > 105 && strings.HasPrefix(found[2], "c") {
		return 0 // of an oven
	}
	if strings.HasPrefix(found[2], "f") || degrees > 105 {
		degrees = (degrees - 32) / 1.8
	}
	return measure.Celsius(degrees)
}

// fullCelsius is how hot an oven is to be by a clause; 0 for nothing said. It reads nothing.
func fullCelsius(l *clause) measure.Celsius {
	found := celsiusSaid.FindStringSubmatch(l.text())
	if found == nil {
		return 0
	}
	return ovenCelsius(found[1], found[2])
}

// bareMinutes reads "simmer 5".
func (l *clause) bareMinutes() measure.Minute {
	if found := l.asked().match(bareSaid); found != nil {
		return measure.Minute(mixedNumber(found[1]))
	}
	return 0
}

// boils reports whether a clause goes on until it boils.
func (l *clause) boils() bool {
	return l.do == doCook && l.remaining() == 0 && (l.has("boils", "boiling") || l.verb == "heat" && l.has("until it bubbles",
		"until bubbling")) &&
		!l.has("almost boiling", "nearly boiling", "almost boils", "nearly boils", "without boiling", "not boil", "not boiling",
			"but not to boil", "below boiling",
			"before boiling", "avoid boiling", "boiling water", "simmering water")
}
