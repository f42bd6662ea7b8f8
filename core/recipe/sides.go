package recipe

import (
	"regexp"
	"strings"
)

// Where no heading parts a list from its method, each line is weighed for itself, and the text is parted where that fits best.

// Weights of a line: above 0 it is like one of a list, below like a sentence of a method.
const (
	surelyListed = 2
	surelyTold   = -3
)

var (
	innerEnd   = regexp.MustCompile(`\pL{2}[)"”]?[.!;] +[\pL\d]`)
	figureUnit = regexp.MustCompile(`(?i)\b\d[\d./ ]*(?:cups?|tbsp|tsp|g|gms?|kg|ml|l|litres?|liters?|oz)\b`)
	tellsHow   = regexp.MustCompile(`(?i)\b(?:on top|in)\.?$|\b(?:to the boil|off the heat|until|till|stirring)\b`)
	timeFirst  = regexp.MustCompile(`(?i)^\W*\d[\d -]*(?:to \d+ )?(?:min(?:ute)?s?|hours?|hrs?|h|whistles?)\b`)
	notThis    = regexp.MustCompile(`(?i)^(?:don['’]?t|do not|never|always|careful|n\.?b\b|p\.?s\b)|!$`)
	foretells  = regexp.MustCompile(`(?i)^(?:an?|the|this|it)\b.* (?:will|should|must|may|can) [a-z]+\b`) // "A brown skin will form."
	capitals   = regexp.MustCompile(`^[^a-z]*\p{Lu}{3}[^a-z]*$`)
)

// likeList weighs a line. Source of the weights: our own judgement, tried over the recipes of testdata/methods.txt.
func likeList(plain string) (weight int) {
	const (
		long, longer = 14, 24 // words
		short        = 5
		several      = 3
	)
	isNumbered := false
	if at := leadingNumber.FindString(plain); strings.HasSuffix(at, " ") {
		plain = plain[len(at):]
		isNumbered = !withAmount.MatchString(plain) || timeFirst.MatchString(plain) // a list may be numbered
	}
	if foretells.MatchString(plain) {
		return surelyTold + 1
	}
	words := roughly(plain)
	count := len(strings.Fields(plain))
	told := 0 // words of doing that begin a clause
	for k, w := range words {
		switch thing := nounish[w.text] || greasing[w.text]; {
		case doing[w.text] == "" || !opens(words, k):
		case thing && (k > 0 || count <= short):
		case thing || k > 0 || count == 1:
			told++
		default:
			told += 2
		}
	}
	told += boolInt(tellsHow.MatchString(plain)) + boolInt(timeFirst.MatchString(plain))
	begins := withAmount.MatchString(plain) && !isNumbered
	switch {
	case begins, hasAmount(plain) && count <= long && !isNumbered:
		weight += surelyListed
	case told == 0 && count <= long && finishedWith(plain):
		return weight + surelyListed // "To serve: treacle or jaggery"
	case toServeWith.MatchString(plain) && (doing[words[0].text] == "" || !behindDoing[words[1].text]):
		return weight + surelyListed // "brown sugar and cream to serve"
	case told == 0 && (len(figureUnit.FindAllString(plain, -1)) >= several || partWithList(plain)):
		weight += surelyListed // "rice 100 g, milk 1 l, sugar 80 g"
	case count <= short && told == 0 && !strings.HasSuffix(plain, "."):
		weight++
	}
	if isNumbered {
		weight -= 3
	}
	weight -= min(told, several)
	if !begins || told > 0 {
		weight -= boolInt(count > long) + boolInt(count > longer)
	}
	if begins && told == 0 {
		return weight // "Half a pound of rice. Three pints of milk."
	}
	ends := strings.HasSuffix(plain, ".") && (count > short || !hasAmount(plain))
	return weight - min(len(innerEnd.FindAllString(plain, -1)), several) - boolInt(ends)
}

// roughly are the words of a line and what parts them: to read it wholly takes much longer.
func roughly(plain string) (list []*token) {
	for w := range strings.FieldsSeq(apartFrom.Replace(strings.ToLower(plain))) {
		list = append(list, &token{text: w, one: w})
	}
	return list
}

var apartFrom = strings.NewReplacer(",", " , ", ";", " , ", ":", " , ", "(", " , ", ")", " , ", ". ", " , ")

// finishedWith reports whether a line has in it what a pudding is finished or served with: "To serve: treacle or jaggery".
func finishedWith(plain string) bool {
	part := partAndList.FindStringSubmatch(plain)
	return part != nil && headed.MatchString(part[1]) && !isSentence(part[2])
}

// behindDoing are words behind one of doing that is no name: "chill to serve", "heat the milk to serve", and not "brown sugar to serve".
var behindDoing = wordSet("the a an it them in on with well and to for until your all")

// toServeWith is a line of a list that says what something is for, and not how much.
var toServeWith = regexp.MustCompile(`(?i)^\pL[^.;:!]{2,60}?,? (?:to|for) (?:serve|serving|garnish(?:ing)?|dust(?:ing)?|sprinkl(?:e|ing)|` +
	`decorat(?:e|ing)|top|topping)$`)

// listsAmounts reports whether a line lists something with its amount: "A pudding for cold days. It keeps well." does not.
func listsAmounts(plain string) bool {
	const several = 3
	tells := innerEnd.MatchString(plain) && strings.HasPrefix(strings.ToLower(plain), "a")
	return hasAmount(plain) && (!tells || figureUnit.MatchString(plain)) ||
		(len(figureUnit.FindAllString(plain, -1)) >= several || partWithList(plain)) && !isSentence(plain)
}

// partWithList reports whether a line is a part of a list and what belongs to it: "For the sago: 200 g sago, 1.5 l water".
func partWithList(plain string) bool {
	return partAndList.MatchString(plain) && strings.Contains(plain, ",") && figureUnit.MatchString(plain)
}

// onlyHeads reports whether a line stands above others, of either kind: "For the syrup:", "TO FINISH".
func onlyHeads(plain string) bool {
	const most = 6 // words
	return len(strings.Fields(plain)) <= most && !hasAmount(plain) && (strings.HasSuffix(plain, ":") || headed.MatchString(plain) ||
		capitals.MatchString(plain))
}

// sidesOf tells of each line of a block, from one on, whether it belongs to a list, to the method that stands below it, or to
// what is told beside that.
func sidesOf(b *block, from int) []part {
	lines := b.lines[from:]
	weights := make([]int, len(lines))
	for k := len(lines) - 1; k >= 0; k-- {
		plain := clean(lines[k])
		switch {
		case onlyStep.MatchString(plain):
			weights[k] = surelyTold
		case !onlyHeads(plain) || finishedWith(plain):
			weights[k] = likeList(plain)
		case k+1 < len(lines):
			weights[k] = max(min(weights[k+1], 1), -1)
		}
	}
	at := parted(weights, func(k int) bool { return b.gaps[from+k] })
	sides := make([]part, len(lines))
	for k, weight := range weights {
		sides[k] = listPart
		if weight <= surelyTold || k >= at && weight < surelyListed {
			sides[k] = methodPart
		}
	}
	for k := len(lines) - 1; k > at && sides[k] == methodPart && besideIt(clean(lines[k])); k-- {
		sides[k] = notesPart
	}
	return sides
}

// parted is where the lines of a list end: there as many as can be are on the side that they are like. An empty line says so,
// too.
func parted(weights []int, gap func(int) bool) (at int) {
	sum := 0
	for _, weight := range weights {
		sum -= weight
	}
	best := 2 * sum
	for k, weight := range weights {
		sum += 2 * weight
		if fits := 2*sum + boolInt(k+1 < len(weights) && gap(k+1)); fits >= best {
			best, at = fits, k+1
		}
	}
	return at
}

// besideIt reports whether a line below a method only warns or tells: "don't add the sugar early!!"
func besideIt(plain string) bool {
	return notThis.MatchString(plain) && !isSentence(plain) && !strings.ContainsAny(plain, "0123456789:")
}

// stoveTop is where something is cooked, and nothing that is done.
var stoveTop = regexp.MustCompile(`(?i)\bstove[- ]?top\b`)

// isSentence reports whether a line tells what to do.
func isSentence(line string) bool {
	const fewest = 5
	words := plainWords(line)
	line = stoveTop.ReplaceAllString(line, "stove")
	if withAmount.MatchString(line) && !numbered.MatchString(line) || len(words) < fewest {
		return false
	}
	for k, w := range methodWords(line) {
		if do := doing[w.text]; do != "" && do != doPass && k < 8 {
			return numbered.MatchString(line) || strings.ContainsAny(line, ".") || k < 2
		}
	}
	return false
}
