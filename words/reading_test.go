package words_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/words"
)

// What a sentence was read as shows each figure that was read: what a title leaves out stands beside it.
func TestFiguresBesideATitle(t *testing.T) {
	milk := `{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"100 g"}]}`
	cases := map[string]struct {
		steps string
		step  int
		want  string
	}{
		"amounts of several":  {milk, 0, "1 235 g whole milk (6 cups) · 100 g short-grain white rice (½ cup)"},
		"one is in the title": {milk + `,{"do":"add","items":[{"material":"sugar-white","amount":"85 g"}]}`, 1, ""},
		"soaked": {`{"do":"soak","name":"grain","items":[{"material":"rice-short","amount":"90 g"}],"minutes":30},{"do":"add",
			"items":[{"part":"grain"},{"material":"milk-whole","amount":"1 l"}]}`, 0, "90 g short-grain white rice (½ cup), 30 min"},
		"simmered":      {milk + `,{"do":"heat","flame":"simmer","until":{"minutes":12}}`, 1, ""},
		"flame and lid": {milk + `,{"do":"heat","flame":"low","lid":true,"until":{"minutes":12}}`, 1, "low flame, lid on"},
		"its own minutes": {milk + `,{"do":"heat","flame":"simmer","note":"The recipe says 25 minutes.",
			"until":{"doneness":{"of":"rice-short","at":1.5}}}`, 1,
			"the recipe says 25 minutes"},
		"whistles and minutes": {milk + `,{"do":"pressure","flame":"low","whistles":1,"minutes":8}`, 1, "low flame, then 8 min"},
		"in the oven":          {milk + `,{"do":"bake","in":"oven","oven_c":150,"minutes":120,"covered":true}`, 1, "2 h, covered"},
		"chilled":              {milk + `,{"do":"chill","hours":4}`, 1, "4 h"},
		"covered":              {milk + `,{"do":"rest","minutes":10,"lid":true}`, 1, "covered"},
		"mashed":               {milk + `,{"do":"mash","pct":40}`, 1, "40 % of it"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p, f := pudding(t, c.steps)
			require.Equal(t, c.want, plainSpaces(words.Printer{}.Figures(p, f, c.step)))
		})
	}
}
