package recipe

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
)

// ErrTwoRecipes is the fault of a text with more than one recipe in it.
var ErrTwoRecipes = measure.Code("recipe.two-recipes")

// A Text is a pasted recipe, taken apart. No line of it is lost: what belongs to neither its list nor its method is in
// Notes or in Around.
type Text struct {
	Name, List, Method string
	Bowls              int    // how many it is said to serve; 0: not said
	Notes              string // what is told beside it: tips, keeping, other ways of doing it
	Around             string // what the page has around it: its story, its times, what it holds in nutrients
}

// A part is what a line of a recipe belongs to.
type part string

const (
	leadPart   part = "lead" // what stands before any heading
	listPart   part = "list"
	methodPart part = "method"
	notesPart  part = "notes"
	aroundPart part = "around"
)

// A block is what stands under one heading.
type block struct {
	part  part
	lines []string
	gaps  map[int]bool // of its lines: before which one or more are empty
}

func (b *block) append(line string, gap bool) {
	if gap && b.gaps == nil {
		b.gaps = map[int]bool{}
	}
	if gap {
		b.gaps[len(b.lines)] = true
	}
	b.lines = append(b.lines, line)
}

// headings are the lines that begin a part.
var headings = []struct {
	part part
	said *regexp.Regexp
}{
	{leadPart, regexp.MustCompile(`(?i)^(?:the )?(?:full |printable )?recipe(?: card)?$`)},
	{listPart, regexp.MustCompile(`(?i)^(?:the )?(?:recipe )?(?:ingredients?|you(?:'ll| will)? need|what you(?:'ll| will)? need|` +
		`things (?:needed|required)|ingredients? (?:needed|required|list|you(?:'ll| will)? need))` +
		`(?: for (?:\d[^,]{0,20}|this recipe))?(?: list)?(?: ?[(\[].*[)\]])?$`)},
	{methodPart, regexp.MustCompile(`(?i)^(?:the |recipe |cooking |preparation )?(?:method|instructions?|directions?|preparation|` +
		`procedure|steps|` +
		`how to (?:make|cook|prepare)(?: [^.?!]{2,50})?|how (?:we|i) (?:make|cook) (?:it|this)|what to do|making it|let'?s cook|` +
		`step[- ]by[- ]step(?: (?:method|instructions?|directions?|guide))?|method of preparation|` +
		`(?:steps|instructions?|directions?) (?:to make|for making)(?: [^.?!]{2,50})?)(?: ?[(\[].*[)\]])?$`)},
	{notesPart, regexp.MustCompile(`(?i)^(?:(?:recipe|cook'?s|chef'?s|kitchen|my|some|a few|helpful|useful|pro|expert|top|important) )?` +
		`(?:notes?|tips?|hints?)(?: (?:and|&|for|on|to) [^.?!]{2,50})?(?: ?[(\[].*[)\]])?$|` +
		`^(?:storage|storing|how (?:long|to (?:store|freeze|reheat|keep|serve))|make[- ]ahead|making ahead|reheating|leftovers?|` +
		`freezing|variations?|` +
		`substitut(?:es?|ions?)|swaps|serving (?:suggestions?|ideas|tips)|what to serve with|` +
		`troubleshooting|ingredient notes?|about the ingredients?)\b[^.!]{0,60}$`)},
	{aroundPart, regexp.MustCompile(`(?i)^(?:nutrition|nutritional|equipment|utensils|tools|special equipment|you(?:'ll|` +
		` will)? also need|video|` +
		`watch|faqs?|frequently asked|questions?|comments?|reviews?|reader|leave a|post a|reply|related|more [a-z -]{2,40} recipes|` +
		`other recipes|similar|` +
		`you (?:may|might|will|'ll) also (?:like|enjoy|love)|did you (?:make|try|like)|share this|about (?:this|the author|me)|` +
		`why (?:this|you|i|we)|what is|what are|can i|is it|table of contents|contents|in this (?:post|article)|keywords?|tags|` +
		`filed under|` +
		`categor(?:y|ies)|history|the story|newsletter|subscribe)\b[^.!]{0,70}$`)},
}

var (
	// factSaid is a line that says something of the recipe as a whole, with its figure behind it or on the next line.
	factSaid = regexp.MustCompile(`(?i)^(?:(?:course|cuisine|category|keywords?|labels?|tags|cost|time|author|recipe (?:by|type|` +
		`source)|calories|energy|diet|` +
		`difficulty|level|skill|cost|rating|published|updated|last updated|posted|allerg(?:ens?|y information))\s*(?:[:|-]\s*.*|\d.*|)|` +
		`(?:prep(?:aration)?|cook(?:ing)?|bak(?:e|ing)|total|rest(?:ing)?|soak(?:ing)?|chill(?:ing)?|cool(?:ing)?|active|inactive|` +
		`additional|` +
		`setting|hands[- ]on)[ -]?time\s*(?:[:|-]\s*.*|(?:about )?\d.*|))$`)
	factAlone = regexp.MustCompile(`(?i)^[\pL -]+:?$`)
	// timeSaid is one that in a method would be something to do.
	timeSaid = regexp.MustCompile(`(?i)^(?:prep(?:aration)?|cook(?:ing)?|bak(?:e|ing)|total|rest(?:ing)?|soak(?:ing)?|` +
		`chill(?:ing)?|active|ready in|` +
		`start to finish|time)\s*[:|-]?\s*(?:about )?(?:\d+\s*(?:minutes?|mins?|hours?|hrs?|h|m)\s*)+$`)
	servesSaid = regexp.MustCompile(`(?i)^(?:serves?|servings|yields?|makes|portions|for|feeds)\s*[:|-]?\s*(?:about |around |approx\.? )?` +
		`(\d+)(?: ?(?:to|-|or) ?\d+)?\s*(?:people|persons|servings?|portions?|bowls?|as .*|adults?.*|hungry .*|small .*|large .*|` +
		`generous .*|)\.?$`)
	servesHead  = regexp.MustCompile(`(?i)^(?:serves?|servings?|makes|for|yields?)\b.{0,40}$`)
	keyOfServes = regexp.MustCompile(`(?i)^(?:serves|servings?|yields?|makes|portions?):?$`)
	peopleSaid  = regexp.MustCompile(`(?i)^(\d+) (?:servings?|people|persons|portions?|bowls)$`)
	servesToo   = regexp.MustCompile(`(?i)\b(?:serves|servings|makes|sufficient for|enough for):? (\d+)\b|` +
		`\b(\d+) (?:servings|portions|people|persons|bowls)\b`)
	bareFact  = regexp.MustCompile(`(?i)^(?:\d+\s*(?:minutes?|mins?|hours?|hrs?|h|m|kcal|servings?|people|portions?)\s*)+$`)
	nutrients = regexp.MustCompile(`(?i)\b(?:calories|kcal|carbohydrates?|protein|sodium|cholesterol|saturated)\b.*\d+ ?(?:k?cal|` +
		`m?g|%|kj)`)
	// onThePage is what a page lays around a recipe for its readers to press.
	onThePage = regexp.MustCompile(`(?i)^(?:(?:jump to (?:the )?(?:recipe|video|comments)|print(?: (?:the )?recipe)?|pin(?: (?:it|` +
		`the recipe|recipe))?|` +
		`save(?: (?:the )?recipe)?|share|rate(?: this recipe)?|cook mode|keep (?:the |your )?screen (?:on|awake)|` +
		`prevent your screen from going dark|us customary|us|metric|imperial|cups|grams|[123]x|[½¼]x|scale|select all|deselect all|` +
		`add (?:all )?to (?:the )?(?:cart|basket|list|shopping list)|skip to .{3,30}|advertisement|ads?|continue reading|read more|` +
		`photos?(?: by .{2,40})?|image(?: credit)?.{0,40}|copyright.{0,60}|all rights reserved|home|menu|search|log ?in|sign ?up|` +
		`\d+ (?:comments?|reviews?|ratings?|votes?)|[★☆✩⭐ ]+|[\d.,]+ (?:from|out of) [\d.,]+.*|views?:? [\d.,]+|read ?time.{0,20}|` +
		`by [A-Z][\w. ]{1,40}|(?:posted|published|updated|last updated)\b.{0,60})[\s·|•/,]*)+$`)
	// What a chat writes before each message, a step's own name in bold, what others wrote, and two headings side by side.
	chatted = regexp.MustCompile(`^\[?\d{1,2}[/.]\d{1,2}(?:[/.]\d{2,4})?,? \d{1,2}:\d{2}(?::\d{2})?(?: ` +
		`?[AaPp]\.?[Mm]\.?)?\]?(?: -)? [^:]{1,40}: `)
	emphasis      = regexp.MustCompile(`^[*_]([^*_ ][^*_]*)[*_](\PL*)$`)
	boldLead      = regexp.MustCompile(`^(\d+[.)] *|[-*] *)\*\*[^*]{1,40}[.:]\*\*:?(.*)$`)
	commentsBelow = regexp.MustCompile(`(?i)^\d+ (?:comments?|replies|responses|thoughts|reviews?)(?: on\b.{0,60})?:?$`)
	bothHeads     = regexp.MustCompile(`(?i)^ingredients:?\s+\|?\s*(?:method|directions?|instructions?|preparation):?$`)
	numbered      = regexp.MustCompile(`(?i)^(?:step )?\d+\s*[.):]\s+\pL`)
	amountBehind  = regexp.MustCompile(`(?i)(?:(?:\b(?:half|quarter|one|two|three|a|\d[\d./]*(?: \d/\d)? ?[½¼¾⅓⅔]?)|[½¼¾⅓⅔]) ?` +
		`(?:(?:a|big|small|heaped) )?` +
		`(?:cups?|tbsp|tsp|g|gms?|kg|kilos?|ml|l|litres?|liters?|ltr|nos?|tins?|pinch|spoons?|spoonfuls?|tablespoons?|teaspoons?|` +
		`glass(?:es)?|handfuls?|packets?|bunch|katoris?|bowls?|tumblers?|mugs?)|\b\d+(?: (?:big|small|large|medium|ripe|whole|fresh))?)\.?$`)
	withAmount = regexp.MustCompile(`(?i)^[-*•·▢\s]*(?:(?:about|around|approx\.?|some) )?(?:\d|[¼½¾⅓⅔⅛]|an? |` +
		`(?:pinch|handful|knob|dash)(?:es|s)? (?:of )?|` +
		`(?:half|one|two|three|four|five|six|seven|eight|nine|ten|twelve) (?:(?:a|an|and|half|of|quarters?|thirds?|small|large|ripe) ` +
		`)*(?:cups?|glass(?:es)?|litres?|liters?|pints?|pounds?|ounces?|spoons?|tablespoons?|teaspoons?|tbsp|tsp|handfuls?|tins?|cans?|` +
		`eggs?|sticks?|pods?|kilos?|kg|grams?|bowls?|mugs?|pinch(?:es)?|drops?|bananas?|mangoe?s?|apples?|coconuts?|lemons?)\b)`)
	comment = regexp.MustCompile(`(?i)^(?:reply|\d+ (?:days|weeks|months|years) ago\b.*|.{2,30} says:?)$`)
)

// Split takes a pasted recipe apart: what stands under headings such as "Ingredients" and "Method", and what stands
// around them; without such headings the lines with an amount and the sentences. A text that is only a list comes back as
// its list. Errors: ErrTwoRecipes.
func Split(text string) (Text, error) {
	var s splitting
	s.take(text, leadPart)
	return s.text()
}

// SplitMethod takes apart what was pasted as a method alone: what stands under "Notes" and the like is none.
func SplitMethod(text string) Text {
	var s splitting
	s.take(text, methodPart)
	for _, b := range s.blocks {
		if b.part == listPart || b.part == leadPart {
			s.notes = append(s.notes, b.lines...)
			continue
		}
		s.put(b.part, b.lines)
	}
	return s.result()
}

// A splitting is a text while it is taken apart.
type splitting struct {
	blocks []block
	bowls  int

	name                       string
	list, method, notes, aside []string
}

// take sorts the lines of a text under their headings.
func (s *splitting) take(text string, first part) {
	s.blocks = []block{{part: first}}
	fact := false  // the line before is the name of a fact
	gap := false   // it is empty
	table := false // list and method stand side by side
	var beside []string
	for raw := range strings.Lines(numberedSteps(unwrapped(text))) {
		line := plainLine(raw)
		plain := clean(line)
		in := &s.blocks[len(s.blocks)-1]
		if plain == "" {
			if line != "" {
				s.aside = append(s.aside, line)
			}
			gap = true
			continue
		}
		if commentsBelow.MatchString(plain) {
			s.blocks = append(s.blocks, block{part: aroundPart})
			s.put(aroundPart, []string{line})
			continue
		}
		if s.isFact(plain, fact, in.part) {
			s.aside, fact = append(s.aside, line), factAlone.MatchString(plain)
			continue
		}
		fact = false
		if s.onOneLine(line) {
			continue
		}
		begins, is := headingOf(plain)
		titled := is && begins == methodPart && s.name == "" && len(s.blocks) == 1 && len(in.lines) == 0 && len(strings.Fields(plain)) > 2
		switch {
		case titled:
			s.servesToo(plain)
			s.name = plain // "How to make rice pudding"
		case bothHeads.MatchString(plain):
			s.blocks = append(s.blocks, block{part: listPart})
			table = strings.Contains(plain, "|")
		case table && strings.Contains(line, "|"):
			left, right, _ := strings.Cut(strings.Trim(line, "| "), "|")
			in.append(strings.TrimSpace(left), gap)
			beside = append(beside, strings.TrimSpace(right))
		case is && !(in.part == aroundPart && begins == notesPart && !briefly(plain)):
			s.servesToo(plain)
			s.blocks = append(s.blocks, block{part: begins})
			if begins == notesPart || begins == aroundPart {
				s.put(begins, []string{line})
			}
		default:
			in.append(line, gap)
			gap = false
		}
	}
	if len(beside) > 0 {
		s.blocks = append(s.blocks, block{part: methodPart, lines: beside})
	}
}

// numberedSteps sets a point behind the numbers of steps that have none: "1 Simmer the apricots", "2 Put the rice in a pan". A list
// of amounts has no such order, and no words of doing.
func numberedSteps(text string) string {
	const fewest = 3
	lines := strings.SplitAfter(text, "\n")
	var steps []int
	told := 0
	for k, line := range lines {
		found := bareNumber.FindStringSubmatch(line)
		if found == nil || found[1] != strconv.Itoa(len(steps)+1) {
			continue
		}
		steps = append(steps, k)
		told += boolInt(doing[strings.ToLower(found[2])] != "" || beginsPhrase[strings.ToLower(found[2])])
	}
	if len(steps) < fewest || 2*told < len(steps) {
		return text
	}
	for _, k := range steps {
		lines[k] = bareNumber.ReplaceAllString(lines[k], "$1. $2")
	}
	return strings.Join(lines, "")
}

var bareNumber = regexp.MustCompile(`^ *(\d{1,2}) (\p{Lu}\p{Ll}+)`)

// plainLine takes off a line what a chat or a marked-up text puts around it.
func plainLine(raw string) string {
	line := chatted.ReplaceAllString(strings.TrimSpace(raw), "")
	if named := boldLead.FindStringSubmatch(line); named != nil && strings.TrimSpace(named[2]) != "" {
		line = named[1] + named[2] // "1. **Cook.** Rinse the millet"
	}
	line = strings.TrimSpace(strings.TrimLeft(strings.NewReplacer("**", "", "__", "").Replace(line), "#"))
	if emphasised := emphasis.FindStringSubmatch(line); emphasised != nil {
		return emphasised[1] + emphasised[2] // "*Rice kheer*"
	}
	return line
}

// onOneLine takes a heading that has what belongs to it behind it: "Method: boil the milk". A note is of its line alone.
func (s *splitting) onOneLine(line string) bool {
	const least = 8 // letters
	if before, list, rest := listInASentence(clean(line)); len(list) > 0 {
		if before != "" {
			s.aside = append(s.aside, before)
		}
		if rest != "" {
			list = append(list, rest)
		}
		s.blocks = append(s.blocks, block{part: listPart, lines: list})
		return true
	}
	head, rest, colon := strings.Cut(clean(line), ":")
	if !colon {
		head, rest, colon = strings.Cut(clean(line), " - ")
	}
	begins, is := headingOf(head)
	if rest = strings.TrimSpace(rest); !colon || !is || len(rest) < least {
		return false
	}
	switch begins {
	case notesPart, aroundPart:
		s.put(begins, []string{line})
	case listPart:
		s.blocks = append(s.blocks, block{part: begins, lines: inOneLine(rest)})
	default:
		s.blocks = append(s.blocks, block{part: begins, lines: []string{rest}})
	}
	return true
}

// listInASentence parts a list that is told: "You need a cup of rice, two pints of milk and some nutmeg." before and rest are what
// the line says beside it.
func listInASentence(line string) (before string, list []string, rest string) {
	const fewest = 3
	begins := 0
	found := needsSaid.FindStringSubmatch(line)
	for _, end := range sentenceEnd.FindAllStringIndex(line, -1) {
		if found != nil {
			break
		}
		begins = end[1]
		found = needsSaid.FindStringSubmatch(line[begins:])
	}
	if found == nil {
		return "", nil, ""
	}
	before = strings.TrimSpace(line[:begins])
	told := found[1]
	if end := sentenceEnd.FindStringIndex(told); end != nil {
		told, rest = told[:end[0]], strings.TrimSpace(told[end[1]:])
	}
	with := 0
	for _, one := range commasOutside(told) {
		one = strings.TrimPrefix(one, "and ")
		words := roughly(one)
		if len(words) == 0 || doing[words[0].text] != "" && !greasing[words[0].text] && !nounish[words[0].text] {
			return "", nil, "" // "take a cup of rice, wash it, ..."
		}
		with += boolInt(withAmount.MatchString(one))
		list = append(list, one)
	}
	if len(list)+strings.Count(list[len(list)-1], " and ") < fewest || with < fewest-1 {
		return "", nil, ""
	}
	return before, list, rest
}

// needsSaid is how a list begins that is told.
var needsSaid = regexp.MustCompile(`(?i)^(?:for (?:this|it) )?(?:you(?:'ll| will| would)? need|we need|it needs|it takes|` +
	`i (?:use|take)|take)[: ]+(.+)$`)

// inOneLine parts a list that stands in one line: "1 cup rice, 1 l milk, a pinch of saffron".
func inOneLine(text string) []string {
	const fewest = 3
	apart := strings.Split(text, ";")
	if len(apart) < fewest {
		apart = strings.Split(text, ", ")
	}
	var list []string
	for k, one := range apart {
		if one = strings.TrimSpace(one); k > 0 && !withAmount.MatchString(one) && len(strings.Fields(one)) == 1 && allDescribe(one) {
			list[len(list)-1] += ", " + one // "rice, washed"
			continue
		}
		list = append(list, one)
	}
	if len(list) < fewest {
		return []string{text}
	}
	return list
}

// briefly reports whether a heading has nothing but itself: "Notes", and no "Notes on what to buy".
func briefly(heading string) bool { return len(strings.Fields(heading)) <= 2 }

// headingOf returns the part that a line begins.
func headingOf(plain string) (part, bool) {
	const longest = 80
	heading := strings.TrimSpace(strings.TrimRight(plain, ":.-=*#_ "))
	heading = strings.TrimSpace(strings.TrimLeft(heading, "#*=_- "))
	if len(heading) > longest {
		return "", false
	}
	for _, h := range headings {
		if h.said.MatchString(heading) {
			return h.part, true
		}
	}
	return "", false
}

// isFact reports whether a line is what a page says about a recipe as a whole: how long, for how many, what to press.
func (s *splitting) isFact(plain string, valued bool, in part) bool {
	const longest = 90
	if found := servesSaid.FindStringSubmatch(strings.Trim(plain, "()")); found != nil {
		s.serves(found[1])
		return true
	}
	if found := peopleSaid.FindStringSubmatch(plain); found != nil {
		s.serves(found[1])
	}
	if len(plain) > longest && !nutrients.MatchString(plain) {
		return false
	}
	switch {
	case keyOfServes.MatchString(plain), strings.Contains(plain, " » "), strings.Contains(plain, " > "):
		return true
	case onThePage.MatchString(plain), factSaid.MatchString(plain), nutrients.MatchString(plain):
		s.servesToo(plain)
		return true
	case in != methodPart && timeSaid.MatchString(plain):
		return true
	case valued && len(plain) < 30 && in != listPart:
		return true
	}
	return bareFact.MatchString(plain)
}

// servesToo takes how many it is for from a line that says more.
func (s *splitting) servesToo(plain string) {
	if found := servesToo.FindStringSubmatch(plain); found != nil {
		s.serves(cmp.Or(found[1], found[2]))
	} else if found := forSoMany.FindStringSubmatch(plain); found != nil {
		s.serves(found[1])
	}
}

// serves takes how many it is for, said first.
func (s *splitting) serves(number string) {
	n, err := strconv.Atoi(number)
	if words := numberWords[strings.ToLower(number)]; words > 1 {
		n, err = int(words), nil // "for two"
	}
	if err == nil && n > 0 && n <= 500 && s.bowls == 0 {
		s.bowls = n
	}
}

// text decides which blocks are the recipe.
func (s *splitting) text() (Text, error) {
	s.sayNothingOf()
	lists := s.which(listPart, func(b block) bool { return amounts(b.lines) >= 2 })
	if len(lists) == 0 {
		lists = s.which(listPart, func(b block) bool { return len(b.lines) > 0 })
	}
	if len(lists) == 0 {
		s.withoutHeadings()
		return s.result(), nil
	}
	methods := s.which(methodPart, func(b block) bool { return len(b.lines) > 0 })
	for k := 1; k < len(lists); k++ {
		if slices.ContainsFunc(methods, func(m int) bool { return m > lists[k-1] && m < lists[k] }) {
			return Text{}, ErrTwoRecipes
		}
	}
	if after := slices.DeleteFunc(slices.Clone(methods), func(m int) bool { return m < lists[0] }); len(after) > 0 {
		methods = after // what stands before the list tells of it beforehand
	}
	for k, b := range s.blocks {
		switch {
		case slices.Contains(lists, k):
			s.fromList(&b, len(methods) == 0)
		case slices.Contains(methods, k):
			s.method = append(s.method, b.lines...)
		case b.part == leadPart:
			s.fromLead(b.lines)
		case b.part == listPart, b.part == methodPart:
			s.notes = append(s.notes, b.lines...)
		default:
			s.put(b.part, b.lines)
		}
	}
	return s.result(), nil
}

// sayNothingOf takes what readers wrote below a page out of it.
func (s *splitting) sayNothingOf() {
	for k := range s.blocks {
		if b := &s.blocks[k]; b.part == methodPart || b.part == notesPart {
			if at := slices.IndexFunc(b.lines, func(line string) bool { return comment.MatchString(clean(line)) }); at >= 0 {
				s.aside = append(s.aside, b.lines[at:]...)
				b.lines = b.lines[:at]
			}
		}
	}
}

// which returns the blocks of a part that are like something.
func (s *splitting) which(p part, like func(block) bool) (list []int) {
	for k, b := range s.blocks {
		if b.part == p && like(b) {
			list = append(list, k)
		}
	}
	return list
}

// amounts counts the lines that begin with an amount.
func amounts(lines []string) (n int) {
	for _, line := range lines {
		if plain := clean(line); withAmount.MatchString(plain) && !numbered.MatchString(plain) {
			n++
		}
	}
	return n
}

// put adds lines to what is told beside a recipe, or to what is around it.
func (s *splitting) put(p part, lines []string) {
	switch p {
	case methodPart:
		s.method = append(s.method, lines...)
	case notesPart:
		s.notes = append(s.notes, lines...)
	default:
		s.aside = append(s.aside, lines...)
	}
}

// fromList takes a list; without a method under a heading of its own it may end in one.
func (s *splitting) fromList(b *block, tells bool) {
	sides := sidesOf(b, 0)
	for k, line := range b.lines {
		if tells && sides[k] == methodPart {
			s.method = append(s.method, line)
		} else {
			s.list = append(s.list, bulleted(line)...)
		}
	}
}

// fromLead takes the name of a recipe out of what stands before its list. Where the list has no heading it stands here.
func (s *splitting) fromLead(lines []string) {
	for _, line := range lines {
		plain := clean(line)
		s.servesToo(plain)
		if s.name == "" && isTitle(plain) {
			s.name = plain
			continue
		}
		s.aside = append(s.aside, line)
	}
}

// withoutHeadings takes apart what has no heading for its list: lines with an amount, and sentences.
func (s *splitting) withoutHeadings() {
	for _, b := range s.blocks {
		if b.part != leadPart {
			s.put(b.part, b.lines)
			continue
		}
		first := max(slices.IndexFunc(b.lines, func(line string) bool { return listsAmounts(clean(line)) }), 0)
		sides := sidesOf(&b, first)
		s.name = cmp.Or(s.name, titleOf(b.lines[:first]))
		if first == 1 && s.name == "" && b.gaps[1] && aWord.MatchString(clean(b.lines[0])) {
			s.name = clean(b.lines[0]) // "Sago", with a gap behind it
		}
		s.servesToo(s.name)
		tells := slices.Contains(sides, methodPart)
		for k, line := range b.lines {
			if k < first {
				s.aboveList(line, tells)
			} else {
				s.withoutHeading(line, sides[k-first])
			}
		}
	}
	if len(s.list) == 0 && len(s.method) == 0 && s.name != "" {
		s.list, s.name = []string{s.name}, ""
	}
	if len(s.blocks) == 1 && len(s.method) == 0 && s.name != "" { // a list and nothing else: its first line may be one of it
		s.list, s.name = append([]string{s.name}, s.list...), ""
	}
}

// aWord is a line of one word.
var aWord = regexp.MustCompile(`^\pL{3,}$`)

// aboveList sorts a line that stands above the first with an amount; tells says that a method stands below it.
func (s *splitting) aboveList(line string, tells bool) {
	plain := clean(line)
	begins := len(s.list) == 0
	switch {
	case plain == s.name && begins:
	case begins && servesHead.MatchString(plain) && !strings.HasPrefix(strings.ToLower(plain), "for the") && !strings.HasSuffix(plain, ":"):
		s.servesToo(plain)
		s.aside = append(s.aside, line)
	case tellsOnly(plain) || s.name != "" && isTitle(plain) && !namesPart(plain) && !strings.ContainsAny(plain, "0123456789½¼¾("):
		s.aside = append(s.aside, line)
	case begins && s.name == "" && isTitle(plain) && !namesPart(plain):
		s.name = plain
	case isSentence(plain) && tells:
		s.aside = append(s.aside, line) // its story
	case isSentence(plain):
		s.method = append(s.method, line)
	default:
		s.list = append(s.list, bulleted(line)...)
	}
}

// withoutHeading sorts one line of a side of what has no headings.
func (s *splitting) withoutHeading(line string, side part) {
	plain := clean(line)
	begins := len(s.list) == 0 && len(s.method) == 0
	switch {
	case begins && servesHead.MatchString(plain) && !strings.HasPrefix(strings.ToLower(plain), "for the") && !strings.HasSuffix(plain, ":"):
		s.servesToo(plain)
		s.aside = append(s.aside, line)
	case begins && s.name == "" && isTitle(plain) && !hasAmount(plain) && !namesPart(plain) && !isSentence(plain):
		s.name = plain
	case side == methodPart:
		s.method = append(s.method, line)
	case side == notesPart:
		s.notes = append(s.notes, line)
	default:
		s.list = append(s.list, bulleted(line)...)
	}
}

// hasAmount reports whether a line has an amount, before its name or behind it.
func hasAmount(line string) bool {
	if dishes.MatchString(line) {
		line = forSoMany.ReplaceAllString(line, "") // "carrot kheer for 6"
	}
	return withAmount.MatchString(line) || amountBehind.MatchString(strings.TrimSpace(asideAtEnd.ReplaceAllString(line, "")))
}

// forSoMany is how many a pudding is for, behind its name.
var forSoMany = regexp.MustCompile(`(?i)\b(?:for|serves) (\d+|two|three|four|five|six|eight|ten|twelve)(?: people| persons)?$`)

// asideAtEnd is what a line says of its thing behind its amount: "wheat 1 cup (soaked overnight)".
var asideAtEnd = regexp.MustCompile(`(?: ?\| [^|]+|\([^()]*\)|, [^\d,]+)$`)

func (s *splitting) result() Text {
	if rest := strings.TrimRight(forSoMany.ReplaceAllString(s.name, ""), " ,-("); s.bowls > 0 && len(strings.Fields(rest)) > 0 {
		s.name = rest // how many has its own place
	}
	all := func(lines []string) string { return strings.Join(lines, "\n") }
	return Text{s.name, all(s.list), all(s.method), s.bowls, all(s.notes), all(s.aside)}
}

// dishes are words that a pudding is called by. Source: our own judgement.
var dishes = regexp.MustCompile(`(?i)\b(?:pudding|kheer|payasam|payesh|phirni|pradhaman|pongal|halwa|porridge|custard|rice|sago|` +
	`tapioca|millet|` +
	`semolina|barley|vermicelli|cream|dessert|sweet)\b`)

// titleOf is the name of a recipe among the lines above its list: the first that is called like a pudding, or the first; "" for
// none.
func titleOf(lines []string) (name string) {
	for _, line := range lines {
		plain := clean(line)
		if !isTitle(plain) || servesHead.MatchString(plain) || namesPart(plain) {
			continue
		}
		if dishes.MatchString(plain) {
			return plain
		}
		name = cmp.Or(name, plain)
	}
	return name
}

// namesPart reports whether a line above the list may be one of it: it has a colon, or names a part of it.
func namesPart(plain string) bool {
	return strings.Contains(plain, ":") || headed.MatchString(plain)
}

// bulleted parts a line in which several things stand with points between them.
func bulleted(line string) []string {
	const fewest = 2
	for _, point := range []string{" • ", " · ", " | "} {
		if strings.Count(line, point) >= fewest {
			return strings.Split(line, point)
		}
	}
	return []string{line}
}

// tellsOnly reports whether a line before the list only tells of the pudding.
func tellsOnly(line string) bool {
	const fewest = 8
	return len(strings.Fields(line)) >= fewest && !isSentence(line)
}

// oneWord is a title that is only what kind of pudding it is.
var oneWord = regexp.MustCompile(`(?i)^(?:kheer|payasam|payesh|phirni|pradhaman|pongal|halwa|pudding|porridge|custard)$`)

// greets is said of a line that speaks to its readers.
var greets = regexp.MustCompile(`(?i)^(?:hi|hello|hey|dear|good)\b|\b(?:is|was|are|were|here)\b`)

// isTitle reports whether a first line is what the recipe is called.
func isTitle(line string) bool {
	line = strings.TrimSuffix(line, ".")
	if figureUnit.MatchString(line) {
		return false // "milk 1200 ml, rice 110 g, sugar"
	}
	const most = 60
	const longer = 90 // for one that says which pudding it is
	marks := ".,;!?|"
	named := dishes.MatchString(line) && !hasAmount(line) && !isSentence(line) && !greets.MatchString(line)
	if named {
		marks = ".;!|" // "Carrot kheer, pressure cooker method"
	}
	return len(line) <= most+(longer-most)*boolInt(named) && !withAmount.MatchString(line) && !strings.HasSuffix(line, ":") &&
		!strings.ContainsAny(line, marks) && (len(strings.Fields(line)) >= 2 || oneWord.MatchString(line))
}
