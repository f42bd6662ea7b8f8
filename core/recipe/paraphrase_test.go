package recipe_test

import (
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/recipe"
)

// verbs are those that sentences of methods begin with.
const verbs = `Put|Add|Bring|Heat|Stir|Cook|Simmer|Pour|Melt|Soak|Wash|Rinse|Drain|Boil|Mix|Roast|Fry|Whisk|Fold|Remove|Take|Let|Leave|` +
	`Serve|Chill|Garnish|Grind|Mash|Place|Warm|Beat|Toast`

// paraphrases say the same in other words: a pattern, and what stands in its place.
var paraphrases = func() (list []struct {
	said *regexp.Regexp
	as   string
}) {
	for _, p := range [][2]string{
		{`\bminutes\b`, "mins"}, {`\bmins?\b`, "minutes"}, {`(\d+)-(\d+) (min|minutes)`, "$1 to $2 $3"}, {`(\d)-(\d)`, "$1–$2"},
		{`\bfor (\d)`, "for about $1"}, {` for (\d+) minutes\b`, " ($1 minutes)"}, {`\b30 minutes\b`, "half an hour"},
		{`\b10 minutes\b`, "ten minutes"}, {`\bfor (\d+) (?:minutes|min) more\b`, "for another $1 minutes"},
		{`\buntil\b`, "till"}, {`\btill\b`, "until"}, {`(?i)\bto the boil\b`, "to a boil"}, {`(?i)\bto a boil\b`, "to the boil"},
		{`(?i)\bthe rest of the\b`, "the remaining"}, {`(?i)\bthe remaining\b`, "the rest of the"}, {`(?i)\bhalf of the\b`, "half the"},
		{`(?i)\bhalf the\b`, "half of the"}, {`\bthe other half\b`, "the remaining half"},
		{`(?i)\bin another (pan|pot|saucepan)\b`, "in a separate $1"}, {`(?i)\bin a (?:separate|second) (pan|pot)\b`, "in another $1"},
		{`\bMeanwhile,? `, "In the meantime, "}, {`\bWhen the\b`, "As soon as the"}, {`\bFinally,? `, "Lastly, "},
		{`\bAdd the\b`, "Stir in the"}, {`\bStir in the\b`, "Add the"}, {`, then add `, " and add "}, {` and simmer`, ", then simmer"},
		{`\bcovered\b`, "with the lid on"}, {`\bSimmer\b`, "Let it simmer"}, {`(?i)\btake off the heat\b`, "Remove from the heat"},
		{`\bgolden\b`, "golden brown"}, {`\. `, ".\n- "}, {`\. `, "! "}, {`\. ([A-Z])`, "; $1"}, {`\btogether with\b`, "along with"},
		{`\bRoast\b`, "Toast"}, {`\bPlace\b`, "Put"}, {`\bWash\b`, "Rinse"}, {`^(?:` + verbs + `)\b`, "First "},
		{`([.;] )(?:` + verbs + `)\b`, "${1}Then "}, {`([.;] )(?:` + verbs + `)\b`, "${1}Please "},
		{`([.;] )(?:` + verbs + `)\b`, "${1}After that "},
		{`([.;] )(?:` + verbs + `)\b`, "${1}Now "}, {`([.;] )(?:` + verbs + `)\b`, "${1}Next, "},
		{`([.;] )(?:` + verbs + `)\b`, "${1}Once that is done, "}, {`([.;] )(?:` + verbs + `)\b`, "${1}I "},
		{`([.;] )(?:` + verbs + `)\b`, "${1}You then "}, {`([.;] )(?:Add|Pour|Fold|Stir)\b`, "${1}Carefully "},
		{`([.;] )(?:` + verbs + `)\b`, "${1}Afterwards "}, {`([.;] )(?:` + verbs + `)\b`, "${1}Then we "},
		{`\. Add `, ", then add "}, {`\. Bring `, ", bring "}, {`\bfor (\d)`, "for approx. $1"}, {`\bfor (\d)`, "for around $1"},
		{`\bBring the milk to the boil\b`, "Heat the milk until it boils"}, {`\bBring the milk to the boil\b`, "Get the milk boiling"},
		{`\bBring the milk to the boil\b`, "Put the milk on to boil"}, {`\buntil soft\b`, "until it is nice and soft"},
		{`(?i)\b(?:take|remove) (?:it )?(?:off|from) the heat\b`, "Take the pan off the stove"}, {`\bon low heat\b`, "on sim"},
		{`\bGarnish with\b`, "Decorate with"}, {`\bGarnish with\b`, "Top with"}, {`, stirring often\b`, " and stir often"},
	} {
		list = append(list, struct {
			said *regexp.Regexp
			as   string
		}{regexp.MustCompile(p[0]), p[1]})
	}
	return list
}()

// said says a method in the words of a paraphrase; what stands before a verb leaves it where it is.
func said(method string, k int) string {
	p := paraphrases[k]
	if !strings.HasSuffix(p.as, " ") || !strings.HasPrefix(p.as, "${1}") && !strings.Contains(p.said.String(), verbs) {
		return p.said.ReplaceAllString(method, p.as)
	}
	return p.said.ReplaceAllStringFunc(method, func(found string) string {
		verb := strings.TrimLeft(found, ".; ")
		return strings.TrimSuffix(found, verb) + strings.TrimPrefix(p.as, "${1}") + strings.ToLower(verb)
	})
}

// The same in other words makes the same plan, or is doubted. Each recipe is tried with some of them.
func TestParaphrasesMeanTheSame(t *testing.T) {
	data, err := os.ReadFile("testdata/methods.txt")
	require.NoError(t, err)
	pan := regexp.MustCompile(`\b(?:pan|pot|saucepan|dish|syrup)\d*\b`)
	plain := func(c recipe.Cooked) string {
		steps := strings.Split(pan.ReplaceAllString(strings.ReplaceAll(shortly(c.Plan), " on top", ""), "P"), "; ")
		for i := range steps { // in whatever order things are named
			words := strings.Fields(steps[i])
			slices.Sort(words[1:])
			steps[i] = strings.Join(words, " ")
		}
		return strings.Join(steps, "; ")
	}
	doubts := func(c recipe.Cooked) int {
		n := len(c.Unplaced)
		for _, s := range c.Sentences {
			n += len(s.Doubts)
			if !s.Understood() {
				n++
			}
		}
		return n
	}
	const every = 97
	tried := 0
	for r, one := range strings.Split("\n"+string(data), "\n== ")[1:] {
		name, rest, _ := strings.Cut(one, "\n")
		list, rest, _ := strings.Cut(rest, "\n--\n")
		method, _, _ := strings.Cut(rest, "\n=> ")
		var read *recipe.Cooked
		for k := range paraphrases {
			other := said(method, k)
			if (r+k)%every != 0 || other == method {
				continue
			}
			if read == nil {
				read = new(cookText(t, list, method))
			}
			tried++
			again := cookText(t, list, other)
			if want, got := plain(*read), plain(again); want != got && doubts(again) <= doubts(*read) {
				t.Errorf("%s, with %q:\nwant %s\ngot  %s", name, paraphrases[k].as, want, got)
			}
		}
	}
	t.Logf("%d paraphrases", tried)
	require.Greater(t, tried, 150)
}

// Sentences that run into each other, or come in another order, may be read as anything that can be cooked; nothing breaks.
func TestSentencesRunTogether(t *testing.T) {
	data, err := os.ReadFile("testdata/methods.txt")
	require.NoError(t, err)
	try := func(list, method string) {
		if _, err := tryText(t, list, method); err != nil {
			require.ErrorIs(t, err, recipe.ErrNoLiquid)
		}
	}
	const every, first = 17, 1
	for r, one := range strings.Split("\n"+string(data), "\n== ")[1:] {
		if r%every != first {
			continue
		}
		_, rest, _ := strings.Cut(one, "\n")
		list, rest, _ := strings.Cut(rest, "\n--\n")
		method, _, _ := strings.Cut(rest, "\n=> ")
		sentences := recipe.Sentences(method)
		for _, between := range []string{" - ", ", ", " and ", " "} {
			try(list, strings.Join(sentences, between))
		}
		slices.Reverse(sentences)
		try(list, strings.Join(sentences, ". "))
	}
}
