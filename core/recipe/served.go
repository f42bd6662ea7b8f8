package recipe

import (
	"regexp"
	"slices"

	"kirdu/core/plan"
)

// servedAs is how a sentence says that the pudding is eaten: the first word of warmth behind the eating counts, unless it is
// that of what comes with it ("serve with cold cream").
var servedAs = regexp.MustCompile(`(?i)\b(?:serv(?:e|es|ed|ing)|eat|eaten|enjoy|best|tastes?)\b[^.;]*?\b(` +
	`hot|warm|lukewarm|room temperature|` +
	`chilled|(?:ice[- ])?cold|(?:straight )?from the (?:fridge|refrigerator))(?: (?:or|and) (hot|warm|at room temperature|chilled|cold))?` +
	`(?:$|[.,;!)]| (?:with|in|and|from|or|topped|straight|the|next|after)\b)`)

var coldWord = regexp.MustCompile(`(?i)cold|chilled|from the`)

// servedChilled reports whether a method serves its pudding from the refrigerator: it says so, or chills it last of all and
// says nothing else.
func servedChilled(p *plan.Plan, sentences []Sentence) bool {
	for _, s := range slices.Backward(sentences) {
		found := servedAs.FindStringSubmatch(s.Text)
		if found == nil {
			continue
		}
		if either := found[2] != "" && coldWord.MatchString(found[1]) != coldWord.MatchString(found[2]); !either {
			return coldWord.MatchString(found[1])
		}
	}
	for i := range slices.Backward(p.Steps) {
		switch s := &p.Steps[i]; {
		case s.PotName() != plan.MainPot || s.Do.IsPreparation():
		case s.Do == plan.Chill:
			return true
		case s.Do == plan.Heat || s.Do == plan.Bake || s.Do == plan.Pressure:
			return false
		}
	}
	return false
}
