package recipe

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A token is a word of a sentence. What is read of a sentence is marked, so that what is not can be asked.
type token struct {
	text, one string // as it stands in lower case; singular
	read      bool
}

// methodWords are the words of a sentence in lower case; commas are words of their own.
func methodWords(text string) (list []*token) {
	text = strings.NewReplacer(",", " , ", ":", " , ", "(", " , ", ")", " , ", "°", " ° ", "…", " ", "→", " , ",
		"->", " , ", "=>", " , ", " + ", " and ", "&", " and ", " / ", " or ").Replace(strings.ToLower(text))
	text = mixedFraction.ReplaceAllStringFunc(text, func(found string) string {
		return found[:1] + " " + writtenOut[found[1:]]
	})
	text = contracted.Replace(strings.NewReplacer(" w/ ", " with ", " pwd ", " powder ", " pwdr ", " powder ").Replace(text + " "))
	if strings.Contains(text, "powders") {
		text = thePowders.ReplaceAllString(text, "$1 spices")
	}
	if strings.Contains(text, " all") {
		text = putAllIn.ReplaceAllString(text, "$1 everything $2")
	}
	text = beforeAdding.ReplaceAllString(text, "$1 , then add ")
	text = beforeCold.ReplaceAllString(text, " , then refrigerate")
	text = strings.NewReplacer(" before chilling", " , then chill", " before refrigerating", " , then refrigerate",
		" the balance of the ", " the rest of the ", " the balance ", " the remaining ",
		" apart from ", " except ", " other than ", " except ", " what is left of ", " the rest of ",
		" whatever is left of ", " the rest of ").Replace(text)
	text = followsThat.ReplaceAllString(text, "")
	text = ownJuice.ReplaceAllString(text, "")
	if staysOn.MatchString(text) && (strings.Contains(text, "until") || anyTime.MatchString(text)) {
		text = staysOn.ReplaceAllString(text, "cook on $1")
	}
	text = strings.ReplaceAll(wordForms(text), "to a boil", "to the boil")
	text = thickBase.ReplaceAllString(text, "heavy")
	text = sideUp.ReplaceAllString(text, "")
	text = oneBoil.ReplaceAllString(text, "to a boil")
	text = softSugar.ReplaceAllString(text, "$1")
	text = unitDash.ReplaceAllString(text, "$1 to $2")
	text = rangeDash.ReplaceAllString(text, "$1 to $2")
	text = strings.ReplaceAll(dashBetween.ReplaceAllString(text, "$1 , $2"), "-", " ")
	for w := range strings.FieldsSeq(numberUnit.ReplaceAllString(inWords(text), "$1 $2")) {
		if w = strings.Trim(w, `.'"!?`); w == "" {
			continue
		}
		if value, known := fractions[firstRune(w)]; known && len([]rune(w)) == 1 {
			w = strconv.FormatFloat(value, 'g', 4, 64)
		}
		list = append(list, &token{text: w, one: singularWord(w), read: w == ","})
	}
	return list
}

// mixedFraction is a fraction right behind its number: "2½ cups".
var (
	mixedFraction = regexp.MustCompile(`\d[¼½¾⅓⅔⅛]`)
	writtenOut    = map[string]string{"¼": "1/4", "½": "1/2", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8"}
)

func firstRune(w string) rune { return []rune(w)[0] }

// ownJuice is what comes with fruit: "the plums and their juice".
var ownJuice = regexp.MustCompile(` (?:and|with|in) (?:all )?(?:its|their) (?:own )?juices?\b`)

// beforeAdding is said of what comes next: "let it cool before adding the honey".
var beforeAdding = regexp.MustCompile(`(\pL|\d) before (?:adding|stirring in|mixing in) `)

// thePowders are the spices of a list.
var thePowders = regexp.MustCompile(`\b(the|both|all the) (?:spice |dry )?powders\b`)

// putAllIn is said of everything that there is: "put all in a pudding pan".
var putAllIn = regexp.MustCompile(`\b(put|place|mix|combine|tip) all(?: the ingredients| ingredients)? (in|into|together)\b`)

// contracted writes out what is drawn together.
var contracted = strings.NewReplacer("’", "'", "'ll ", " will ", "'ve ", " have ", "'re ", " are ", " pc ", " pressure cook ", "it's ",
	"it is ", "that's ", "that is ")

// beforeCold is said of what comes next, too: "let it cool before putting it in the fridge".
var beforeCold = regexp.MustCompile(` before (?:putting|placing|moving|transferring) (?:it |them |the pudding )?(?:in|into|` +
	`to) the (?:fridge|refrigerator)`)

// sideUp is how halves lie.
var sideUp = regexp.MustCompile(`\b(?:with the )?(?:cut|skin|flat|round) ?-?(?:sides?|face) (?:up|down|upwards?|downwards?)\b`)

// thickBase is said of a pan, and not of what is in it.
var thickBase = regexp.MustCompile(`\b(?:thick|heavy)[ -]?(?:bottomed|based|bottom|base|duty)\b`)

// oneBoil is said of what comes to the boil once.
var (
	// Words that only say what comes next.
	followsThat = regexp.MustCompile(`^(?:and )?(?:after that|after this|afterwards|next|following this|subsequently)(?: ,)? `)
	// "it stays on a low flame for half an hour"
	staysOn = regexp.MustCompile(`^(?:(?:then|now) )?(?:the (?:pot|pan|pudding|rice|milk|payasam|kheer)|it|this) (?:then |now )?` +
		`(?:goes|is put|is placed|stays|sits|stands|remains|is left|is kept)(?: back)? (?:on|onto|over|at) ` +
		`((?:the |a )?(?:very )?(?:[a-z]+ )?(?:flame|heat|fire|gas)\b)`)
	// "for two mins till done"
	shortMinutes = regexp.MustCompile(`\b([a-z]+ |\d+ ?)mins?\b`)
	tillSaid     = regexp.MustCompile(`\b([Tt])ill\b`)
	dryRoast     = regexp.MustCompile(`(?i)\bdry[- ](?:roast|toast|fry)\b`)
	bareSimmer   = regexp.MustCompile(`(?i)\bto (?:an?|the|its) (?:bare|barest|low|lowest|(?:very )?slow|very gentle|gentlest|quiet|` +
		`light|steady|lazy) simmer\b`)
)

// cookStirring is one thing to do.
var cookStirring = strings.NewReplacer("ook and stir ", "ook, stirring, ", "immer and stir ", "immer, stirring, ",
	"tir in between", "tir now and then", "tirring in between", "tirring now and then", " esp ", " especially ",
	"ut in a double boiler", "ut in a pan", " shower in ", " rain in ", "set by to cool", "set aside to cool")

var (
	cookerPot  = regexp.MustCompile(`(?i)\b(the |an? |your )(?:electric )?pressure (?:cooking |cooker )pot\b`)
	atPressure = regexp.MustCompile(`(?i)(^|, |; )(?:on |set to |at )?(high|low) pressure,? (?:for )?(\d+) ?min(?:ute)?s?\b`)
)

// What is said of nuts that are peeled: "pour boiling water on the almonds, leave for half an hour, slip off the skins", "put the
// almonds in a bowl, cover with boiling water and leave for 20 minutes".
var (
	nutsInWater = regexp.MustCompile(`(?i)\bpour (?:over )?(?:some |plenty of )?(?:boiling|hot) water (?:on|onto|over) (?:the |your )?(` +
		nutNames + `)` + theyStand)
	coveredNuts = regexp.MustCompile(`(?i)\b(?:put|place) (?:the |your )?(` + nutNames + `) in(?:to)? a (?:small )?(?:bowl|cup|dish)` +
		`(?:,| and|, and) (?:cover (?:them )?with|pour over) (?:boiling|hot) water` + theyStand)
	skinsOff = regexp.MustCompile(`(?i)\b(?:slip|rub|pull|peel) (?:the |their )?skins off(?: them)?\b`)
)

const (
	nutNames  = `almonds?|pistachios?|hazelnuts?|walnuts?|cashews?|nuts`
	theyStand = `(?:, (?:and )?| and )(?:leave|let|soak|allow|cover)(?: (?:it|them))?(?: to)?(?: (?:stand|sit|soak|steep))? for `
)

// flameDown is said of a flame that is made lower, as some say it.
var flameDown = regexp.MustCompile(`(?i)\b(?:bring|take) (?:down the (heat|flame|fire)|the (heat|flame|fire) down)\b`)

// wordForms writes words that have two forms in the one that is read.
func wordForms(text string) string {
	text = tillSaid.ReplaceAllStringFunc(text, func(till string) string {
		if till[0] == 'T' {
			return "Until"
		}
		return "until"
	})
	text = cookStirring.Replace(text)
	for k := range otherForms {
		if one := &otherForms[k]; strings.Contains(text, one.sign) { // to look for words is much quicker than to match them
			text = one.said.ReplaceAllString(text, one.as)
		}
	}
	return text
}

// otherForms are put as they are read, one after the other, each looked for only where its sign is.
var otherForms = []struct {
	sign string
	said *regexp.Regexp
	as   string
}{
	{"ry", dryRoast, "roast"}, {"simmer", bareSimmer, "to a gentle simmer"},
	{"ressure", cookerPot, "${1}pressure cooker"}, {"ressure", atPressure, "${1}cook at $2 pressure for $3 minutes"},
	{"skins off", skinsOff, "slip off the skins"},
	{" water", nutsInWater, "soak the $1 in hot water for "}, {" water", coveredNuts, "soak the $1 in hot water for "},
	{" down", flameDown, "lower the $1$2"}, {"min", shortMinutes, "${1}minutes"},
}

var oneBoil = regexp.MustCompile(`\bto one (?:good |full |rolling )?boil\b`)

// softSugar is a sugar's name, and no doneness.
var softSugar = regexp.MustCompile(`\bsoft ((?:light |dark )?brown sugar)`)

var (
	unitDash  = regexp.MustCompile(`(mins?|minutes?|secs?|seconds?|hrs?|hours?) ?- ?(\d)`)
	rangeDash = regexp.MustCompile(`(\d) ?- ?(\d)`)
	// "heat it for a minute - not to the boil"
	dashBetween = regexp.MustCompile(`([a-z),]) --? ([a-z(])`)
	numberUnit  = regexp.MustCompile(`(\d|[¼½¾⅓⅔])(\pL)`)
)

var ordinals = map[string]string{"1st": "first", "2nd": "second", "3rd": "third"}

// ordinal is a number that counts no amount: "2nd milk".
var ordinal = regexp.MustCompile(`(?i)\b(1st|2nd|3rd)\b`)

// partOrdinal is a part as some write it: "2/3rd".
var partOrdinal = regexp.MustCompile(`\b(\d/\d) ?(?:rds?|ths?|nds?)\b`)

// inWords writes such numbers in words.
func inWords(text string) string {
	if strings.Contains(text, "/") { // to look for a sign is much quicker than to match
		text = partOrdinal.ReplaceAllString(text, "$1")
	}
	if lower := strings.ToLower(text); !strings.Contains(lower, "1st") && !strings.Contains(lower, "2nd") && !strings.Contains(lower, "3rd") {
		return text
	}
	return ordinal.ReplaceAllStringFunc(text, func(found string) string {
		return ordinals[strings.ToLower(found)]
	})
}

// conditions begin what is waited for, or only might be.
var conditions = map[string]bool{"when": true, "once": true, "after": true, "until": true, "while": true, "before": true,
	"as": true, "so": true, "because": true, "that": true, "otherwise": true, "or": true, "which": true, "by": true}

// A clause is one thing that is done.
type clause struct {
	do    action
	verb  string
	words []*token // what led up to the verb, and what stands after it
	lead  int      // words before the verb
	joins bool     // what it names is done with what was named before: both are "them"
}

// copied returns the words of a clause, to be read without being marked.
func (l *clause) copied() []*token {
	words := make([]*token, len(l.words))
	for k, w := range l.words {
		one := *w
		words[k] = &one
	}
	return words
}

func (l *clause) text() string {
	list := make([]string, len(l.words))
	for k, w := range l.words {
		list[k] = w.text
	}
	return strings.Join(list, " ")
}

// has reports whether a clause says one of the phrases, and marks what it found as read.
func (l *clause) has(phrases ...string) bool {
	found := false
	for _, phrase := range phrases {
		if at := l.find(phrase); at >= 0 {
			found = true
			for k := range strings.Fields(phrase) {
				l.words[at+k].read = true
			}
		}
	}
	return found
}

// find returns where a phrase begins, -1 for nowhere.
func (l *clause) find(phrase string) int {
	wanted := strings.Fields(phrase)
	for k := 0; k+len(wanted) <= len(l.words); k++ {
		if same := func() bool {
			for j, w := range wanted {
				if l.words[k+j].text != w {
					return false
				}
			}
			return true
		}(); same {
			return k
		}
	}
	return -1
}

// match finds a pattern in the words of a clause and marks them as read.
func (l *clause) match(re *regexp.Regexp) []string { return l.matchIn(l.text(), re) }

// matchIn finds a pattern in the text of a clause of which a part may be blank.
func (l *clause) matchIn(text string, re *regexp.Regexp) []string {
	at := re.FindStringSubmatchIndex(text)
	if at == nil {
		return nil
	}
	from := 0
	for _, w := range l.words {
		to := from + len(w.text)
		if from < at[1] && to > at[0] {
			w.read = true
		}
		from = to + 1
	}
	return re.FindStringSubmatch(text)
}

// unread returns the words that nothing was made of and that say something.
func unread(tokens []*token) (list []string) {
	for _, w := range tokens {
		if w.read || describes[w.text] || filler[w.text] || filler[w.one] || len(w.text) == 1 && (w.text[0] < '0' || w.text[0] > '9') {
			continue
		}
		if _, verb := doing[w.text]; verb {
			continue
		}
		if strings.HasSuffix(w.text, "ly") {
			continue // how, not what
		}
		list = append(list, w.text)
	}
	return list
}

// filler are words that no step hangs on: what holds a sentence together, what things look like, what is stirred with.
var filler = map[string]bool{}

func init() {
	for w := range strings.FieldsSeq(`
		a an the this that these those it its them they i you we your my our he she some any all each and or but then now next first
		second finally last once again also too just only very quite well still yet so as at in into onto on upon of off to for from
		with without by over under until till when while after before during about around near through throughout up down out away
		aside apart together if not no never more less most least enough plenty much many few lot bit little is are was were be been
		being has have had do does did done will would should can could may might must need needs make makes sure see there here where
		which who what how than same other another both either heavy heavier bottomed based base thick bottom pan pot saucepan vessel
		pressure cooker kadai skillet wok deep wide large medium small big non stick wooden spoon ladle spatula whisk fork bowl bowls
		dish plate stove hob burner gas cup cups glass glasses flame heat fire low high rolling gentle boil boiling boils simmer
		simmering bubble bubbles bubbling hot warm cold cool room temperature stir stirring stirred mix mixing mixed mixture cook
		cooking cooked cooks add adding added pour pouring time times minute minutes hour hours min mins moment moments today day days
		night golden brown browned light lightly dark pale pink glossy shiny glassy transparent translucent colour color fragrant
		aromatic nutty aroma smell smells raw roasted toasted fried soft softened softens tender ready creamy thickened thickens thin
		smooth mushy fluffy plump swell swollen puffed side sides edge edges top surface skin film layer lump lumps lumpy froth foam
		cream burn burning burns burnt catch catching catches scorch sticking sticks boil-over overflow curdle curdles curdling split
		splits carefully thoroughly completely fully properly nicely evenly gradually good nice right desired wanted consistency
		texture taste liking sweetness size ingredient ingredients rest remaining remainder wash washed rinse rinsed drain drained
		clean cleaned water-clear clear runs serve served serving enjoy immediately straight best pudding dessert sweet whole half-way
		way part parts one two three four five six seven eight nine ten let lets allow keep keeps kept leave put get go goes come
		comes going coming start starts begin begins take takes taken turn turned set sit stand heated heat-proof proof lined buttered
		macerate remains blends
		greased prepared preparation cover covered lid uncovered open opened close closed separate separately different meanwhile
		simultaneously alongside beside occasionally often frequently constantly continuously regularly remove removed note tip
		optional want like wish prefer however usually always back fast slow quick quickly slowly needed required use using used
		scraping scrape end beginning puff puffs dry payasam kheer payesh phirni halwa pradhaman pongal porridge
		ladleful along clay shallow cling foil
		paper parchment impurities letting eating cooled pots longer cloth largest muslin form forms rise rises lasts nothing
		something anything everyone itself themselves yourself myself own their his her whose whatever wherever whenever finger
		fingers thumb hand hands palm teeth bite spoonfuls drop drops trace traces sign signs hint touch grit dirt dust husk husks
		crumb crumbs speck specks dot dots spot spots centre center middle heart inside outside corner corners running tap sink
		colander tea towel kitchen absorbent napkin mortar pestle board knife grater processor blender jar jug mug tray rack trivet
		hotplate counter worktop shelf table tablecloth mesh fine-mesh slotted skimmer paddle saucer smallest biggest widest heaviest
		lowest highest possible slightest tiniest barest merest steam steamy bubbly blip blips plop plops ripple ripples splutter
		splutters splash splashes spit spits wet wetted damp moist watery sticky silky velvety dense loose looser runny pourable
		spoonable set-up firm firmer thicker thinner crisp crisper tender-ish plumper bigger doubled double single pair morning
		evening afternoon noon lunch supper dinner breakfast party feast guest guests family child children kid kids everybody nobody
		somebody delicious lovely wonderful beautiful heavenly favourite favorite famous secret trick point idea reason matter mind
		luck attention patience care caution worry hurry contents content amount amounts quantity kind sort type ways manner style
		gone left-over stuck burnt-on clinging forming developing releasing wobble wobbly jiggle set-looking shake shaking between
		against across beyond towards toward above below underneath beneath behind opposite because since although though unless
		whether whilst as-is such rather instead else even ever almost nearly already soon later early earlier late shorter sooner
		halfway midway first-rate proper perfect exact rough ordinary usual normal plain clean-smelling again-and-again pity shame
		fine okay ok yes please don't won't can't doesn't isn't aren't shouldn't cannot stop stopping giving give gives given gave
		having doing making taking puddle crust bottom-most uppermost lay lays lying laid hold holds holding look looks looking watch
		watching seeing think know find finds feel feels wobbles quiver trembles tremble shimmer shimmering glisten glistening kadhai
		karahi uruli tawa stockpot milkpan double-boiler heatproof ovenproof flameproof lidded roomy sturdy ajar half-open tilted
		partially partly rid lose loses losing colour-change darken darkens deepen deepens turning lengthways lengthwise crossways
		crosswise shards slivers wedges triangles chunks matchsticks strips batons oven range grill preheated meantime waiting wait
		household recipe batch recipes batches version versions book grandmother grandma mother mum aunt uncle friend friends
		neighbour people others free hard break strewn scattered sprinkled dusted drizzled poured lifting juices run excess wrap
		plastic stream beating dissolved dissolves dissolve clump clumps earthen earthenware bare ice pongal thing browning stopped
		pie moderate final prevent avoid avoiding pause baking peaks masher diameter moulds followed broad scalding nests regular
		colouring coloring show changing knotted tossing twirl lock steamed soaked boiled poached grilled rondeau skimming infused
		bruised checking occasional among amongst tilting kettle strainer murmur pass cupful residue direction blended slices cubes
		rounds settle batter larger pat casserole minimum setting boiler residual centers finishes finish blowing slimy bath fallen
		quietly missing swirling safe account peeks pops maintain intervals glassware blanch blanched cm inch inches mm send lengths
		diagonal bias paste released release releases subsided tick ticks vanish vanishes warmer far finishing stripes layered handle
		valve knob dial timer pack packet carton bottle whisked scum coat coated coats ceasing ceaselessly melts melted spoonful every
		unmoulded rubber cloudy fun amazing lines whipped pint pints spooned addition additions total dutch steady stay stays formed
		string thread segments crackle segmented starch keeping alternating alternately alternate coulis electric tight fitting pin
		basin iced mound mounded pattern patterns coins generous alone begun mixer rava tadka collects creamier solids reserved
		spatter spatters angle dollop hiss hisses remain reducing semi inner grinder
		square squares package litre litres sauteed sautéed semi become becomes mashing`) {
		filler[w] = true
	}
}

// numberWord reads "five", "twenty five".
func timeWords(text string) string {
	return numberOfTime.ReplaceAllStringFunc(text, func(found string) string {
		fields := strings.Fields(found)
		unit := fields[len(fields)-1]
		sum, known := 0.0, false
		for _, w := range fields[:len(fields)-1] {
			if n, is := moreNumbers[w]; is {
				sum, known = sum+n, true
			} else if n, is := numberWords[w]; is {
				sum, known = sum+n, true
			} else if w == "more" {
				continue
			} else if known {
				return found
			}
		}
		if !known {
			return found
		}
		return strconv.FormatFloat(sum, 'f', -1, 64) + " " + unit
	})
}

var moreNumbers = map[string]float64{"thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "ninety": 90, "eighteen": 18, "sixteen": 16,
	"another": 1}

var (
	number      = `(?:\d+ \d+/\d+|\d+/\d+|\d+(?:\.\d+)?)`
	minutesSaid = regexp.MustCompile(`(` + number + `)(?: (?:to|or) (` + number + `)| (\d+))?` +
		`(?: more| further| extra| another)? ?` +
		`(minutes?|mins?|min|hours?|hrs?|hr|h)\b`)
	numberOfTime = regexp.MustCompile(`\b(?:(?:twenty|thirty|forty|fifty) )?[a-z]+ (?:more )?(?:minutes?|hours?)\b`)
	anyTime      = regexp.MustCompile(`half an hour|(?:three quarters|(?:a )?quarter) of an hour|` +
		`(?:an|one) hour and (?:a half|a quarter|three quarters)|a? ?(?:couple of|few) (?:more )?(?:minutes|hours)|` +
		`overnight|over night|(?:(?:` + number + `|[a-z]+)(?: (?:to|or|and))? )?(?:` +
		number + `|[a-z]+)(?: more| further| extra| another)? (?:minutes?|mins?|hours?|hrs?)\b|` + number + ` h\b`)
	orSoLong  = regexp.MustCompile(`\bor (?:for )?(?:at least |about )?` + number + `(?: to ` + number + `)? (?:hours?|hrs?|h)\b`)
	hoursAnd  = regexp.MustCompile(`(\d+|an?|one|two|three) ?(?:hours?|hrs?|h) (?:and )?(\d+) ?(?:minutes?|mins?|m)\b`)
	toAnHour  = regexp.MustCompile(`(\d+) ?(?:minutes?|mins?) (?:to|or) (?:an?|1|one) (?:hour|hr)s?(?: and a half)?`)
	everyTime = regexp.MustCompile(`(?:every|each|at intervals of) (?:(?:half|quarter of) an hour|half hour|hour|` +
		`(?:\S+ )?(?:to \S+ )?(?:minutes?|mins?|while))`)
	whistleSaid     = regexp.MustCompile(`(\w+)(?: (?:to|or) \w+)? whistles?`)
	numberedWhistle = regexp.MustCompile(`(?:\d+|one|two|three|four|five|six|seven|eight|nine|ten) whistles?`)
	ovenHeated      = regexp.MustCompile(`(?i)\boven\b[^.;]{0,40}?\b(\d{3}|\d{2}) ?(?:°|degrees?)? ?([CF]\b)? ?([a-z]*)`)
	byPartSaid      = regexp.MustCompile(`\bby (?:a |one |about |another |further |around |nearly )*(?:half|third|quarter|two thirds)`)
	lastMinutes     = regexp.MustCompile(`(?i)\bthe (?:last|final) (?:[a-z0-9-]+ minutes?|half hour|half an hour|hour)\b|` +
		`\b(?:minutes?|mins?|hour) before (?:the end|it is done|the rice is done|the end of (?:the )?cooking)\b`)
	takesSaid = regexp.MustCompile(`(?i)^(?:and )?(?:(?:(?:that|this|it|which) )?(?:takes|will take|should take|can take|may take|` +
		`needs|wants)|allow|reckon on|reckon with|count on) (.*?)(?: or so| altogether| in all)?$`)
	ovenSaid = regexp.MustCompile(`(\d{2,3})(?: ?°)? ?(c|f|degrees?|celsius|fahrenheit)?\b`)
)

// minutes reads how long, the middle of a range; 0 for nothing said.
func (l *clause) minutes() measure.Minute {
	l.match(everyTime)
	text := everyTime.ReplaceAllStringFunc(l.text(), func(every string) string { return strings.Repeat(" ", len(every)) })
	if l.matchIn(text, anyTime) == nil {
		return 0
	}
	l.match(orElse)
	if strings.Contains(text, "overnight") {
		l.match(orSoLong)
	}
	l.has("hour and a half", "hour and a quarter", "hour and three quarters")
	for _, known := range []struct {
		words   string
		minutes measure.Minute
	}{{"three quarters of an hour", 45}, {"quarter of an hour", 15}, {"half an hour", 30}, {"good half hour", 30}, {"good hour", 60},
		{"hour and a half", 90}, {"hour and a quarter", 75}, {"hour and three quarters", 105}, {"overnight", 480}, {"over night", 480},
		{"few minutes", 3},
		{"few more minutes", 3}, {"couple of minutes", 2}, {"couple of more minutes", 2}, {"couple of hours", 120}, {"few hours", 180}} {
		if strings.Contains(text, known.words) {
			return known.minutes
		}
	}
	if found := l.match(toAnHour); found != nil { // "45 minutes to 1 hour"
		high := 60.0
		if strings.Contains(found[0], "half") {
			high = 90
		}
		return measure.Minute((mixedNumber(found[1]) + high) / 2)
	}
	if found := l.match(hoursAnd); found != nil {
		return measure.Minute(60*mixedNumber(timeWords(found[1]+" hours")) + mixedNumber(found[2]))
	}
	found := minutesSaid.FindStringSubmatch(timeWords(text))
	if found == nil {
		return 0
	}
	low := mixedNumber(found[1])
	high := low
	for _, second := range found[2:4] {
		if second != "" {
			high = max(high, mixedNumber(second))
		}
	}
	middle := (low + high) / 2
	if strings.HasPrefix(found[4], "h") {
		middle *= 60
	}
	return measure.Minute(min(middle, 3000))
}

// mixedNumber reads "20", "1.5", "1/2" and "1 1/2".
func mixedNumber(text string) (sum float64) {
	for w := range strings.FieldsSeq(text) {
		if n, ok := readNumber(w); ok {
			sum += n
		}
	}
	return sum
}

// stirring reads how to stir, "" for as usual.
func (l *clause) stirring() plan.Stir {
	switch {
	case l.verb == "keep" && l.beginsWith("stirring"),
		l.has("constantly", "continuously", "all the time", "always stirring", "without stopping", "nonstop", "non stop", "keep stirring",
			"all the while"):
		return plan.StirConstant
	case l.match(lastPart) != nil, l.match(everyTime) != nil,
		l.has("occasionally", "now and then", "now and again", "from time to time", "sometimes",
			"every now and then", "every now and again",
			"once in a while", "every few minutes",
			"at intervals", "intermittently", "once an hour", "every so often", "twice", "once or twice", "a couple of times", "a few times",
			"once half way", "once halfway", "half way through", "halfway through", "every hour", "every half hour"):
		return plan.StirNow
	case l.has("often", "frequently", "regularly", "every minute"):
		return plan.StirOften
	case l.has("without stirring", "do not stir", "don't stir", "undisturbed"):
		return plan.StirNone
	}
	return ""
}

// lastPart is said of how it is stirred at the end: "stirring often in the last half hour".
var lastPart = regexp.MustCompile(`\bstirring (?:more )?(?:often|frequently|constantly)? ?(?:in|for|during|towards) the ` +
	`(?:last|final) (?:half hour|hour|quarter of an hour|[a-z0-9]+ minutes)\b`)

// flame reads which, "" for none said.
func (l *clause) flame() vessel.Flame {
	switch {
	case l.has("medium high"):
		return vessel.MediumHigh
	case l.has("medium low", "low medium", "low to medium"):
		return vessel.MediumLow
	case l.has("medium heat", "medium flame", "on medium", "over medium", "moderate heat", "moderate flame", "to medium", "a medium"):
		return vessel.Medium
	case l.has("high heat", "high flame", "on high", "full flame", "over high", "to high", "strong flame", "fierce flame"):
		return vessel.High
	case l.has("over boiling water", "over simmering water", "over hot water", "lowest", "flame low", "heat low", "fire low", "gentlest",
		"as low as it will go", "as low as possible", "as low as you can", "right down",
		"to the minimum", "at the minimum", "minimum heat", "lowest setting", "very low", "low heat", "low flame", "on low", "over low",
		"to low", "on sim", "to sim", "in sim", "sim flame", "small flame", "slow fire", "low fire",
		"tiny flame", "lowest flame", "smallest flame", "smallest heat", "smallest possible flame", "tiniest flame", "slow flame"):
		return vessel.Low
	case l.find("not") < 0 && l.find("don't") < 0 && l.find("never") < 0 && l.find("without") < 0 &&
		l.has("rolling boil", "boil hard", "rapidly", "briskly", "vigorously"):
		return vessel.Boil
	case l.has("gently", "gentle", "simmer", "barely bubbling", "just bubbling"):
		return vessel.Simmer
	}
	return ""
}

// lid reads whether one is on, nil for nothing said.
func (l *clause) lid() *bool {
	switch {
	case l.has("uncovered", "without a lid", "without the lid", "no lid", "lid off", "lid removed", "remove the lid", "open the lid",
		"opening the lid", "lift the lid", "take the lid off",
		"take off the lid", "without lid", "without covering"):
		return new(bool)
	case l.find("water") >= 0 && l.has("enough water to cover", "water to cover", "water to just cover"):
		return nil
	case l.has("covered", "lidded", "lid on", "with a lid", "with the lid", "under a lid", "cover", "put the lid on", "lid"):
		l.has("half covered", "partly covered", "partially covered", "half lidded", "half on", "half off")
		return new(true)
	}
	return nil
}

// until returns what a clause waits for, and marks it as read: a sign, if it is nothing else.
func (l *clause) until() (words []*token) {
	at := slices.IndexFunc(l.words, func(w *token) bool { return w.text == "until" })
	if at < 0 {
		return nil
	}
	end := len(l.words)
	for k := at + 1; k < end; k++ {
		if w := l.words[k].text; w == "," && k+1 < len(l.words) && (strings.HasSuffix(l.words[k+1].text, "ing") || l.words[k+1].text == "about") {
			end = k
		}
	}
	return l.words[at+1 : end]
}

// sign is what a clause waits for, as it says it.
func (l *clause) sign() string {
	var list []string
	extra := false
	for _, w := range l.until() {
		extra = extra || !w.read && !plainSign[w.text] && w.text != ","
		w.read = w.read || !isFigure(w.text) && !strings.Contains(w.text, "/") // what is measured is no sign
		list = append(list, w.text)
	}
	text := strings.ReplaceAll(strings.Join(list, " "), " ,", ",")
	for _, end := range []string{" then", " and"} {
		text = strings.TrimSuffix(strings.Trim(text, " ,"), end)
	}
	text = strings.Trim(text, " ,")
	const most = 120
	if !extra || len(text) > most {
		return ""
	}
	return text
}

// plainSign are words that a target says already.
var plainSign = map[string]bool{"the": true, "it": true, "is": true, "are": true, "and": true, "has": true, "have": true, "a": true,
	"to": true, "boils": true, "boil": true, "boiling": true, "very": true, "just": true, "rice": true, "milk": true, "they": true}
