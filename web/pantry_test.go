package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// A household's own names are found by the search, and by the reader of recipes.
func TestOwnNamesOfAMaterial(t *testing.T) {
	s := newSite(t, nil)
	response, page := s.post("/pantry/rice-short", url.Values{"aliases": {"  auntie's  rice, pearl rice,"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode, page)
	_, page = s.get("/pantry/rice-short")
	require.Contains(t, page, "auntie&#39;s rice, pearl rice")
	_, page = s.get("/pantry?search=pearl+rice")
	require.Contains(t, page, "Short-grain white rice")
	_, page = s.post("/intake", url.Values{"list": {"100 g pearl rice\n1 l milk"}, "name": {"x"}, "bowls": {"4"}})
	require.Contains(t, page, "2 of 2 lines are clear")

	response, page = s.post("/pantry/rice-short", url.Values{"aliases": {strings.Repeat("long ", 20)}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, page, "names with commas between")
	response, _ = s.post("/pantry/rice-short", url.Values{"aliases": {""}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, page = s.get("/pantry?search=auntie")
	require.Contains(t, page, "Nothing in the pantry goes by")

	response, _ = s.post("/pantry", url.Values{"name": {"Hill millet"}, "aliases": {"thinna, mountain millet"}, "like": {"millet-little"},
		"fat": {"4"}, "carbohydrate": {"67"}, "sugars": {"1"}, "fibre": {"8"}, "protein": {"9"}, "salt": {"0.01"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, page = s.get("/pantry?search=mountain")
	require.Contains(t, page, "Hill millet")
}

// What the pantry has not is answered with what is near to it, and said to be only that.
func TestNearNamesAreMarked(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/pantry?search=margarine")
	require.Contains(t, page, "near to “margarine”, not the same")
	_, page = s.post("/intake", url.Values{"list": {"100 g margarine\n1 l milk\n1 tsp elachi powder"}, "name": {"x"}, "bowls": {"4"}})
	require.Contains(t, page, "The pantry has no margarine")
	require.Contains(t, page, "2 of 3 lines are clear")
}
