package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/plantest"
)

// A cup that is found to be another says which puddings it changes and by how much, before
// it counts; those that the cook names keep their grams.
func TestAnotherCupSaysWhatItChanges(t *testing.T) {
	s := newSite(t, nil)
	ids := map[string]string{}
	for _, name := range []string{"kept", "followed"} {
		p := plantest.WithSteps(t, `{"do":"add","items":[{"material":"milk-whole","amount":"4 cups"},{"material":"rice-short","amount":"90 g"}]}`,
			plantest.Boil)
		p.Name = name
		ids[name] = uuid.NewString()
		require.NoError(t, s.store.CreatePudding(t.Context(), ids[name], p, s.kitchen.Now()))
	}
	form := url.Values{"name": {"cup"}, "how": {"ml"}, "size": {"250"}}
	measured := func() int {
		all, err := s.store.Measurings(t.Context())
		require.NoError(t, err)
		return len(all)
	}
	before := measured()
	response, body := s.post("/kitchen/measures", form)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, body, "kept")
	require.Contains(t, body, fmt.Sprintf(`value="%s"`, ids["kept"]))
	require.Contains(t, body, "Whole milk: 930 g, then 1\u202f030 g", "the cup of the sample kitchen holds 226 ml")
	require.Equal(t, before, measured(), "nothing is taken yet")
	form.Set("seen", "1")
	form.Set("keep", ids["kept"])
	response, _ = s.post("/kitchen/measures", form)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, before+1, measured())
	amount := func(name string) string {
		pudding, err := s.store.Pudding(t.Context(), ids[name])
		require.NoError(t, err)
		return pudding.Plan.Steps[0].Items[0].Amount
	}
	require.Equal(t, "931.1 g", amount("kept"))
	require.Equal(t, "4 cups", amount("followed"))
	// What nobody measures with is taken at once.
	response, _ = s.post("/kitchen/measures", url.Values{"name": {"jug"}, "how": {"ml"}, "size": {"1100"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
}
