package recipe_test

import (
	"cmp"
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/core/vessel"
)

// standardReader is that of a kitchen that has weighed nothing yet; to learn all names takes it a while.
var standardReader = sync.OnceValue(func() *recipe.Reader { return recipe.NewReader(pantry.Standard(), measure.Measures{}) })

// cookText reads a list and a method as a cook pastes them.
func cookText(t testing.TB, list, method string) recipe.Cooked {
	t.Helper()
	c, err := tryText(t, list, method)
	require.NoError(t, err)
	return c
}

// tryText is the same of a text that may be no recipe.
func tryText(t testing.TB, list, method string) (recipe.Cooked, error) {
	t.Helper()
	r := standardReader()
	lines, err := r.Read(list)
	require.NoError(t, err)
	var given []recipe.Given
	section := ""
	supplied := r.Supply(lines, method, 6)
	for k, l := range lines {
		if l.Heading {
			section = l.Note
			continue
		}
		if l.Material == "" { // asked
			continue
		}
		if l.Amount == "" {
			l.Amount = cmp.Or(supplied[k].Amount, "1 pinch")
		}
		given = append(given, recipe.Given{Item: plan.Item{Material: l.Material, Amount: l.Amount, State: l.State}, Text: l.Text,
			Note: l.Note, Section: section})
	}
	choice := plan.WayChoice{Bowls: 6, Serve: plan.Hot, Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 240, HeightMM: 160},
		Burner: vessel.DefaultBurner()}
	c, err := r.Cook("x", choice, given, method, nil, recipe.OpenPot)
	if err != nil {
		return c, err
	}
	read, err := plan.Reread(c.Plan)
	require.NoError(t, err, method)
	require.NotEmpty(t, forecast.Run(read, forecast.Options{CourseOnly: true}).Steps)
	return c, nil
}

// shortly writes the steps of a plan in a line: "add milk-whole; heat high boil".
func shortly(p *plan.Plan) string {
	var all []string
	for i := range p.Steps {
		s := &p.Steps[i]
		said := []string{string(s.Do)}
		if s.Pot != "" {
			said[0] = s.Pot + "/" + said[0]
		}
		for _, item := range s.Items {
			said = append(said, item.Material+item.Part)
			if item.Pot != "" {
				said = append(said, "pot:"+item.Pot)
			}
		}
		if s.Topping {
			said = append(said, "on top")
		}
		if s.Flame != "" {
			said = append(said, string(s.Flame))
		}
		if s.Stir != "" && s.Stir != plan.StirOften {
			said = append(said, string(s.Stir))
		}
		if u := s.Until; u != nil {
			switch {
			case u.Boil:
				said = append(said, "boil")
			case u.Doneness != nil:
				said = append(said, "soft")
			case u.Thickness != nil:
				said = append(said, "thick")
			case u.FreeWaterPct != nil:
				said = append(said, "absorbed")
			case u.RemainingPct != nil:
				said = append(said, fmt.Sprintf("%.0f%%", *u.RemainingPct))
			case u.Minutes != nil:
				said = append(said, fmt.Sprintf("%.3gmin", float64(*u.Minutes)))
			}
		}
		switch {
		case s.Whistles > 0:
			said = append(said, fmt.Sprint(s.Whistles))
		case s.Hours != nil:
			said = append(said, fmt.Sprintf("%.3gh", *s.Hours))
		case s.Minutes != nil:
			said = append(said, fmt.Sprintf("%.3gmin", float64(*s.Minutes)))
		}
		all = append(all, strings.Join(said, " "))
	}
	return strings.Join(all, "; ")
}

// TestMethodsAreFollowed reads recipes of several hands against the steps that they mean.
func TestMethodsAreFollowed(t *testing.T) {
	data, err := os.ReadFile("testdata/methods.txt")
	require.NoError(t, err)
	sentences, understood := 0, 0
	for _, one := range strings.Split("\n"+string(data), "\n== ")[1:] {
		name, rest, _ := strings.Cut(one, "\n")
		list, rest, _ := strings.Cut(rest, "\n--\n")
		method, wanted, found := strings.Cut(rest, "\n=> ")
		require.True(t, found, name)
		c := cookText(t, list, method)
		require.False(t, c.ByList, name)
		if got := shortly(c.Plan); strings.TrimSpace(wanted) != got {
			t.Errorf("%s\nwant %s\ngot  %s", name, strings.TrimSpace(wanted), got)
		}
		for _, s := range c.Sentences {
			for _, d := range s.Doubts {
				t.Logf("%s: %q: %s %s %s %v", name, s.Text, d.Of, d.Words, d.Amount, d.Minutes)
			}
			sentences++
			if s.Understood() {
				understood++
			} else {
				t.Logf("%s: asked: %s", name, s.Text)
			}
		}
	}
	t.Logf("%d of %d sentences were understood", understood, sentences)
	require.GreaterOrEqual(t, float64(understood), 0.9*float64(sentences))
}

// What is no method arranges the list; what is not understood is said so, and nothing is made up.
func TestWhatIsNoMethod(t *testing.T) {
	const list = "1 l milk\n80 g rice\n90 g sugar"
	for _, text := range []string{"", "My grandmother made this on rainy days.", "Lorem ipsum, dolor: sit amet!",
		strings.Repeat("word ", 2000)} {
		c := cookText(t, list, text)
		require.True(t, c.ByList, text)
		require.Contains(t, shortly(c.Plan), "heat high boil")
		for _, s := range c.Sentences {
			require.False(t, s.Understood(), s.Text)
		}
	}
	r := recipe.NewReader(pantry.Standard(), measure.Measures{})
	_, err := r.Cook("x", plan.WayChoice{}, nil, strings.Repeat("boil ", 5000), nil, recipe.OpenPot)
	require.ErrorIs(t, err, recipe.ErrLongMethod)
	c := cookText(t, list, "Bring the milk to the boil. Hum a tune of your own. Add the rice and simmer until soft.")
	require.False(t, c.Sentences[1].Understood())
	require.Len(t, c.Unplaced, 1, "the sugar")
	c = cookText(t, list+"\n1 tbsp ghee\n10 cashews",
		"Bring the milk to the boil. Add the rice, the sugar and the ghee and simmer until soft. Fry the cashews in a spoon of ghee and add.")
	require.Equal(t, []recipe.Doubt{{Of: recipe.NotPut, Words: "1 tbsp ghee"}}, c.Sentences[2].Doubts, "there is none left")
}

func FuzzMethod(f *testing.F) {
	f.Add("Bring the milk to a boil, add half the sugar and simmer for 1 1/2 hours or until reduced by a third.")
	f.Add("soak it overnight; fry them in the ghee. three whistles")
	r := recipe.NewReader(pantry.Standard(), measure.Measures{})
	given := []recipe.Given{{Item: plan.Item{Material: "milk-whole", Amount: "1 l"}, Text: "1 l milk"},
		{Item: plan.Item{Material: "rice-short", Amount: "80 g"}, Text: "80 g rice"}, {Item: plan.Item{Material: "sugar-white", Amount: "90 g"}},
		{Item: plan.Item{Material: "ghee", Amount: "1 tbsp"}}, {Item: plan.Item{Material: "cashew", Amount: "20 g"}}}
	choice := plan.WayChoice{Bowls: 6, Serve: plan.Hot, Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 240, HeightMM: 160},
		Burner: vessel.DefaultBurner()}
	f.Fuzz(func(t *testing.T, method string) {
		c, err := r.Cook("x", choice, given, method, nil, recipe.OpenPot)
		if err != nil {
			return
		}
		if _, err := plan.Reread(c.Plan); err != nil {
			t.Fatalf("%q makes a plan that cannot be: %v", method, err)
		}
	})
}

// Eggs and fruit that go in parted are one line of the list still: what has no place is told by that line.
func TestApartIsOneLine(t *testing.T) {
	list := "1 l milk\n100 g sago\n3 eggs\n80 g sugar\n"
	c := cookText(t, list, "Boil the milk with the sago and the sugar for 20 minutes. Beat in the yolks. "+
		"Whip the whites and fold them in.")
	require.Empty(t, c.Unplaced)
	require.Equal(t, []string{"egg-yolk", "egg-white"}, eggsOf(c.Plan))

	c = cookText(t, list, "Separate the yolks from the whites and keep the whites for something else. "+
		"Boil the milk with the sago and the sugar for 20 minutes. Beat in the yolks.")
	require.Contains(t, eggsOf(c.Plan), "egg-yolk")
	for _, i := range c.Unplaced {
		require.Equal(t, 2, i, "the line of the eggs")
	}
}

// What no sentence places of a fruit that was parted is told by its line, too.
func TestAPartedFruitIsOneLine(t *testing.T) {
	c := cookText(t, "1 l milk\n80 g rice\n90 g sugar\n1 lemon", "Bring the milk to the boil with the rice and simmer for 30 minutes. "+
		"Stir in the sugar. If you like lemon zest or lemon juice, serve them beside it.")
	for _, i := range c.Unplaced {
		require.Equal(t, 3, i, "the line of the lemon")
	}
	require.Len(t, c.Trails, 4)
}

// eggsOf are the eggs of a plan, in order.
func eggsOf(p *plan.Plan) (all []string) {
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if strings.HasPrefix(item.Material, "egg-") {
				all = append(all, item.Material)
			}
		}
	}
	return all
}

// Where some of the nuts are ground and the rest is fried, each part is got ready for itself and goes in by its name.
func TestSomeOfTheNutsAreGround(t *testing.T) {
	c := cookText(t, "1 l milk\n15 cashews\n2 tbsp ghee\n80 g sugar", "Soak 10 of the cashews in hot water for 20 minutes and grind them "+
		"to a smooth paste. Fry the remaining cashews in the ghee. Bring the milk to the boil. Add the cashew paste and cook 5 minutes. Add the "+
		"sugar. Top with the fried cashews.")
	var in []string
	for _, s := range c.Plan.Steps {
		for _, item := range s.Items {
			if item.Material == "cashew" || item.Part != "" {
				in = append(in, string(s.Do)+" "+item.Part+item.Amount)
			}
		}
	}
	require.Equal(t, []string{"soak 10 nut", "fry 5 nut", "add cashew", "add garnish"}, in)
	for _, s := range c.Sentences {
		require.Empty(t, s.Doubts, s.Text)
	}
}
