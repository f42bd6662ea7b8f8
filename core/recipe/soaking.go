package recipe

import (
	"regexp"
	"slices"
	"strings"

	"kirdu/core/pantry"
)

// A soaking is told in words of which each is one of doing: "put it in a bowl, cover with cold water and set aside". Where a
// sentence does nothing else, it is read as a whole: what soaks, and how long.

var (
	// What a sentence may do that only soaks something.
	soakingVerbs = wordSet(`put place cover tip pour soak leave let allow set stand sit rest keep rinse wash drain clean pick ` +
		`shake squeeze soften swell transfer add take strain press use`)
	soakWater = regexp.MustCompile(`(?i)\b(?:cold|cool|fresh|lukewarm|warm|hot|tepid|boiling|enough|plenty of|some|with|in|under|` +
		`of|over) water\b|\bwater to cover\b`)
	softensSaid = regexp.MustCompile(`(?i)\b(?:to|until they|till they|until it|till it)? ?(?:soften|soft|swell|plump|fluff up)\b`)
	standsSaid  = regexp.MustCompile(`(?i)\b(?:soak|cover|leave|stand|set (?:it |them )?aside|sit|let|rest|bowl of|put|place)`)
	keepsWater  = regexp.MustCompile(`(?i)\b(?:the|same|soaking) water\b|\bnot drain|\d[^,.;]{0,12} (?:of )?(?:(?:cold|warm|` +
		`hot) )?water\b|\bcups? of water\b`)
	theWater   = regexp.MustCompile(`(?i)\bin the (?:cold|cool|warm|hot|lukewarm) water\b`)
	overAFlame = regexp.MustCompile(`(?i)\b(?:boil(?:s|ed)?|simmer\w*|cook\w*|heat|bring|fry|roast|steam|saucepan|cooker|flame|` +
		`stove|oven)\b`)
	hotWaterOver = regexp.MustCompile(`(?i)\bthe (?:boiling|hot) water (?:over|on)\b`)
	goesIn       = regexp.MustCompile(`(?i)\b(?:goes?|went|comes?) (?:in|into)\b`)
	washedSaid   = regexp.MustCompile(`(?i)\b(?:rinse|wash)`)
)

// onlySoaks reads a sentence that soaks grain and does nothing else. It reports whether it is one.
func (c *cookery) onlySoaks(text string) bool {
	wet := soakWater.MatchString(text) || washedSaid.MatchString(text) && softensSaid.MatchString(text)
	if !wet || !standsSaid.MatchString(text) || keepsWater.MatchString(text) || overAFlame.MatchString(text) || goesIn.MatchString(text) {
		return false
	}
	words := methodWords(text)
	for _, w := range words {
		if base, does := anyForm(w.text); does && !soakingVerbs[base] && !soakingVerbs[w.text] && !describes[w.text] {
			return false
		}
	}
	var grain []mention
	water := -1 // of the list, poured off again
	for _, group := range c.namedIn(text) {
		for _, i := range group {
			m := mention{item: i, share: 1, holder: -1}
			switch {
			case c.given[i].Item.Material == "water":
				drained := drainSaid.MatchString(text) && theWater.MatchString(text)
				hot := hotWaterOver.MatchString(text) && (strings.Contains(c.given[i].Text, "boiling") || c.drains() && !c.waterIsLater())
				if c.used[i] == 0 && (drained || hot) && water < 0 {
					water = i
				}
			case !c.behaves(m, pantry.Grain) || c.used[i] > 0:
				return false
			default:
				grain = append(grain, m)
			}
		}
	}
	minutes := (&clause{words: words}).minutes()
	if len(grain) == 0 || minutes == 0 {
		return false
	}
	for _, m := range grain {
		if !c.preparing(m.item, preparing{name: "soak", minutes: minutes, sentence: c.now}) {
			return false
		}
	}
	if water >= 0 {
		c.used[water] = 1
	}
	c.said = map[int]bool{}
	c.last = slices.Clone(grain)
	return true
}
