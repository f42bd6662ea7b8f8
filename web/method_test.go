package web_test

import (
	"html"
	"net/http"
	"net/url"
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
