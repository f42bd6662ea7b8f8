package web_test

import (
	"html"
	"kirdu/core/plan"
	"net/http"
	"net/url"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// asShown reads the answers of the page of what was understood, to be sent as they stand.
func asShown(page string, form url.Values) url.Values {
	sent := url.Values{}
	for key, values := range form {
		sent[key] = values
	}
	answer := regexp.MustCompile(`name="((?:amount|material)\d+)"\s+(?:list="materials"\s+)?value="([^"]*)"`)
	for _, found := range answer.FindAllStringSubmatch(page, -1) {
		sent.Set(found[1], html.UnescapeString(found[2]))
	}
	return sent
}

// A recipe is pasted with its method: each sentence stands beside its steps, and the pudding has them.
func TestARecipeWithItsMethod(t *testing.T) {
	s := newSite(t, nil)
	form := url.Values{"list": {"1 l milk\n80 g rice, soaked for 30 minutes\n90 g sugar\n10 cashews\n1 tbsp ghee"}, "name": {"Evening rice"},
		"bowls": {"4"}, "serve": {"hot"}, "method": {"Bring the milk to the boil. Add the rice and simmer for 25 minutes or until soft. " +
			"Think of the sea. Stir in the sugar and cook for 5 minutes. Fry the cashews in the ghee and put them on top."}}
	response, page := s.post("/intake", form)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, page, "1 of 5 sentences were not understood")
	require.Contains(t, page, "Bring it to the boil")
	require.Contains(t, page, "Soak the short-grain white rice")
	require.Regexp(t, `Soak the short-grain white rice, 80.g [^<]*, 30.min`, page, "its time is there to be checked")
	require.NotContains(t, page, "does not say where these go")
	response, _ = s.post("/intake/pudding", asShown(page, form))
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	list, err := s.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	var verbs []string
	for _, step := range list[0].Plan.Steps {
		verbs = append(verbs, string(step.Do))
	}
	require.Equal(t, "soak add heat add heat add heat fry add", strings.Join(verbs, " "))
	require.Contains(t, list[0].Plan.Notes, "Think of the sea")

	form.Set("method", strings.Repeat("Stir it well. ", 2000))
	response, page = s.post("/intake/pudding", asShown(page, form))
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, page, "paste the method of one recipe")
	form.Set("method", "It was a dark and stormy night.")
	response, page = s.post("/intake", form)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, page, "No pot and no flame were found in it")
}

// A whole page is pasted, with its story, its times and what others wrote below: the recipe is taken out of it, and what was
// left out is there to be seen.
func TestAWholePageIsPasted(t *testing.T) {
	s := newSite(t, nil)
	pasted, err := os.ReadFile("../core/recipe/testdata/pages/card.txt")
	require.NoError(t, err)
	form := url.Values{"list": {string(pasted)}, "bowls": {"4"}, "serve": {"hot"}, "name": {""}, "method": {""}}
	response, page := s.post("/intake", form)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, page, "9 of 10 lines are clear")
	require.Contains(t, page, `value="Creamy Stovetop Rice Pudding"`)
	require.NotContains(t, page, "not understood")
	require.Contains(t, page, "What the text has beside the recipe")
	require.Contains(t, page, "212 votes")
	sent := formIn(t, page, "/intake/pudding")
	require.NotContains(t, sent.Get("list"), "votes")
	response, _ = s.post("/intake/pudding", sent)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	list, err := s.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	require.Equal(t, "Creamy Stovetop Rice Pudding", list[0].Plan.Name)
	require.Contains(t, list[0].Plan.Notes, "keeps in an airtight container")
	require.NotContains(t, list[0].Plan.Notes, "votes")

	form.Set("method", "Directions\nBoil the milk with the rice for 20 minutes. Stir in the sugar.\nStorage\nKeeps for two days.\nServes 8")
	_, page = s.post("/intake", form)
	require.Contains(t, page, "Keeps for two days.")
	form.Set("bowls", "11")
	_, page = s.post("/intake", form)
	require.Equal(t, "11", formIn(t, page, "/intake/pudding").Get("bowls"), "what the cook has typed stays")
}

// What is no recipe is said plainly, and nothing of it is kept.
func TestWhatIsNoRecipe(t *testing.T) {
	s := newSite(t, nil)
	before, err := s.store.Puddings(t.Context(), 100)
	require.NoError(t, err)
	novel := strings.Repeat("It was a dark and stormy night, and the rain fell in torrents, except at occasional intervals. ", 40)
	for name, c := range map[string]struct {
		list, method string
		status       int
		says         string
	}{
		"nothing": {"", "", 422, "is empty"},
		"two recipes": {"Ingredients\n1 l milk\nMethod\nBoil it.\n\nIngredients\n2 l milk\nMethod\nBoil it.", "", 422,
			"more than one recipe"},
		"ten thousand lines":  {strings.Repeat("1 g sugar\n", 10000), "", 422, "at most 200 lines"},
		"another language":    {"80 g Rundkornreis\n1 Prise Safran\nZucker nach Geschmack\nein Stück Butter\nSahne", "", 200, "Hardly a line"},
		"a novel":             {novel, "", 422, "no ingredients with an amount"},
		"prose for a method":  {"1 l milk\n80 g rice", novel, 200, "No pot and no flame were found in it"},
		"prose without a sum": {"some milk\na bit of rice\nsugar", "Boil the milk and add the rice.", 200, "goes into the notes"},
	} {
		response, page := s.post("/intake", url.Values{"list": {c.list}, "method": {c.method}, "bowls": {"4"}})
		require.Equal(t, c.status, response.StatusCode, name)
		require.Contains(t, page, c.says, name)
	}
	after, err := s.store.Puddings(t.Context(), 100)
	require.NoError(t, err)
	require.Len(t, after, len(before))

	_, page := s.post("/intake", url.Values{"list": {"Evening rice\nIngredients\n1 l milk\n80 g rice\n\n" +
		"Method\nBoil the milk. Add the rice and simmer until soft."},
		"bowls": {"4"}})
	require.Contains(t, page, `value="Evening rice"`)
	require.Contains(t, page, "Bring it to the boil")
	require.Contains(t, page, "2 of 2 lines are clear")
}

// A sentence that is taken out becomes a note, and a way can be chosen where there is no method.
func TestAsidesAndSchools(t *testing.T) {
	s := newSite(t, nil)
	form := url.Values{"list": {"1 l milk\n80 g rice\n90 g sugar"}, "bowls": {"4"}, "serve": {"hot"}, "name": {"Aside"},
		"method": {"Boil the milk. Add the rice and simmer until soft. Bake for 2 hours. Stir in the sugar."}, "aside2": {"1"}}
	_, page := s.post("/intake", form)
	require.Contains(t, page, "a note at the step before")
	response, _ := s.post("/intake/pudding", asShown(page, form))
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	list, err := s.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	notes := ""
	for _, step := range list[0].Plan.Steps {
		require.NotEqual(t, plan.Bake, step.Do)
		notes += step.Note
	}
	require.Contains(t, notes, "Bake for 2 hours")

	form = url.Values{"list": {"200 g moong dal\n800 ml water\n250 g jaggery\n1 cup thick coconut milk"}, "bowls": {"6"}, "serve": {"hot"},
		"name": {"Schools"}}
	_, page = s.post("/intake", form)
	require.Contains(t, page, "How do you cook it?")
	require.Less(t, strings.Index(page, "In the cooker first"), strings.Index(page, "In an open pot"), "the likeliest first")
	form.Set("school", "open-pot")
	response, _ = s.post("/intake/pudding", asShown(page, form))
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	list, err = s.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	for _, step := range list[0].Plan.Steps {
		require.NotEqual(t, plan.Pressure, step.Do)
	}
}

// A second pan of a recipe is another pot of the kitchen than the first.
func TestASecondPanIsAnotherPot(t *testing.T) {
	s := newSite(t, nil)
	form := url.Values{"list": {"75 g pudding rice\n700 ml milk\nFor the compote:\n400 g plums\n100 g sugar\n100 ml water"}, "bowls": {"4"},
		"serve": {"hot"}, "name": {"Two pans"}, "method": {"Put the rice and the milk in a pan, bring to the boil and simmer for 30 minutes.\n" +
			"For the compote, put the sugar and the water in a small pan and bring to the boil. " +
			"Add the plums and cook for 20 minutes until soft.\n" +
			"Spoon the compote over the rice."}}
	_, page := s.post("/intake", form)
	require.Contains(t, page, "In a pan of its own (compote)")
	response, _ := s.post("/intake/pudding", asShown(page, form))
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	list, err := s.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	pots := list[0].Plan.Pots
	require.Len(t, pots, 2)
	require.NotEqual(t, pots[plan.MainPot].Name, pots["compote"].Name)
}

// A sentence that was read wrongly is put right beside it, by what is done or in other words, and her own words
// stay at the step. What cannot be done is told beside it, and a correction leaves with its sentence.
func TestASentenceIsPutRight(t *testing.T) {
	s := newSite(t, nil)
	form := url.Values{"list": {"1 l milk\n80 g rice\n90 g sugar\n10 cashews"}, "bowls": {"4"}, "serve": {"hot"}, "name": {"Put right"},
		"method": {"Boil the milk. Let the rice have its sauna. Simmer until soft. In goes the white gold."}}
	_, page := s.post("/intake", form)
	require.Contains(t, page, "1 of 4 sentences were not understood, 1 in part")
	require.Contains(t, page, "Put them right beside it")

	form.Set("do1", "add")
	response, page := s.post("/intake", asShown(page, form))
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, page, "choose what it is done with")

	form.Set("with1", "short-grain white rice")
	form.Set("say3", "Stir in half of the sugar")
	response, page = s.post("/intake", asShown(page, form))
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, page, "Read as: Add the short-grain white rice")
	require.Contains(t, page, "Read as: Stir in half of the sugar")
	require.NotContains(t, page, "were not understood")
	form.Del("do1")
	form.Del("with1")
	form.Set("say1", "Add the short-grain white rice") // as the page has it now
	response, _ = s.post("/intake/pudding", asShown(page, form))
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	list, err := s.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	p := list[0].Plan
	require.Equal(t, "milk-whole rice-short sugar-white", strings.Join(goesIn(p)[:3], " "))
	require.Contains(t, p.Steps[2].Note, "Let the rice have its sauna")
	require.Equal(t, "45 g", p.Steps[4].Items[0].Amount)

	form.Set("do2", "simmer")
	form.Set("number2", "9999")
	_, page = s.post("/intake/pudding", asShown(page, form))
	require.Contains(t, page, "give a number above 0, at most 600")
	form.Set("number2", "25")
	form.Set("was2", "Another sentence")
	_, page = s.post("/intake", asShown(page, form))
	require.NotContains(t, page, "Read as: Simmer it for 25 minutes")
	form.Set("say3", strings.Repeat("Stir it well. ", 40))
	response, page = s.post("/intake", asShown(page, form))
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, page, "say it in 300 letters")
}

// goesIn lists the materials of a plan as they go in.
func goesIn(p *plan.Plan) (list []string) {
	for _, step := range p.Steps {
		for _, item := range step.Items {
			list = append(list, item.Material)
		}
	}
	return list
}
