package recipe

import (
	"cmp"
	"slices"

	"kirdu/core/plan"
)

// A LookAt is why a sentence deserves a second look, though nothing in it is doubted. Tried over 373 recipes that a reader
// had not seen before, what such a rule picks out, a quarter of the sentences, was wrong twice as often as the rest.
type LookAt string

// Why a sentence deserves a second look.
const (
	InAPan        LookAt = "in-a-pan"       // Words: the pan of its own that its steps are in
	BackInThePot  LookAt = "back-in-pot"    // the sentence before was in a pan of its own
	InShares      LookAt = "in-shares"      // Words: goes in at several places; Amount and Share: how much of it here
	StirredBeside LookAt = "stirred-beside" // something is stirred together beside the pot
	ManySteps     LookAt = "many-steps"
)

// Looks lists them.
func Looks() []LookAt { return []LookAt{InAPan, BackInThePot, InShares, StirredBeside, ManySteps} }

// A Look is one reason, with what it is about.
type Look struct {
	At            LookAt
	Words, Amount string
	Share         float64
}

// looks says of each sentence that was read without a doubt why it is looked at all the same.
func (r *Cooked) looks(c *cookery) {
	if r.ByList {
		return
	}
	places := map[string]int{} // of the plan at which a material goes in, by slug
	for i := range r.Plan.Steps {
		for _, item := range r.Plan.Steps[i].Items {
			places[item.Material]++
		}
	}
	beside := false
	for k := range r.Sentences {
		s := &r.Sentences[k]
		was := beside
		pan, cooks := r.panOf(s.Steps)
		if cooks {
			beside = pan != ""
		}
		doubted := slices.ContainsFunc(s.Doubts, func(d Doubt) bool { return d.Of != HowLong })
		if len(s.Steps) == 0 || doubted || s.As != "" {
			continue
		}
		if pan != "" {
			s.Looks = append(s.Looks, Look{At: InAPan, Words: pan})
		} else if was && cooks {
			s.Looks = append(s.Looks, Look{At: BackInThePot})
		}
		s.Looks = append(s.Looks, c.sharesIn(k, places)...)
		if slices.ContainsFunc(s.Steps, func(i int) bool { return r.Plan.Steps[i].Do == plan.Mix }) {
			s.Looks = append(s.Looks, Look{At: StirredBeside})
		}
		const many = 3
		if len(s.Steps) >= many && len(s.Looks) == 0 {
			s.Looks = append(s.Looks, Look{At: ManySteps})
		}
	}
}

// sharesIn are the shares of things that a sentence takes, and what other sentences take more of.
func (c *cookery) sharesIn(sentence int, places map[string]int) (list []Look) {
	for _, one := range c.taken {
		g := c.given[one.item]
		if one.sentence != sentence || g.inMethod || one.share > fullyUsed && places[g.Item.Material] < 2 {
			continue
		}
		if m, ok := c.reader.pantry.Material(g.Item.Material); ok {
			amount := cmp.Or(c.amountIn(one), g.Item.Amount)
			list = append(list, Look{InShares, NameOf(m), amount, one.share})
		}
	}
	return list
}

// panOf is the first pan of its own that steps are in, "" for none. cooks reports whether they are about any pot.
func (r *Cooked) panOf(steps []int) (pan string, cooks bool) {
	for _, i := range steps {
		s := &r.Plan.Steps[i]
		if s.Do.IsPreparation() {
			continue
		}
		if cooks = true; s.PotName() != plan.MainPot {
			return s.PotName(), true
		}
	}
	return "", cooks
}
