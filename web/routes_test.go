package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web"
)

// addresses are those of all pages, with things of the sample kitchen in them.
func (s *site) addresses() map[string]string {
	s.t.Helper()
	ctx := s.t.Context()
	book, err := s.store.Book(ctx, 1)
	require.NoError(s.t, err)
	burners, err := s.store.Burners(ctx)
	require.NoError(s.t, err)
	gatherings, err := s.store.Gatherings(ctx)
	require.NoError(s.t, err)
	ids := map[string]string{"puddings": s.pudding().ID, "stove": s.onStove().ID, "logbook": book[0].ID,
		"kitchen": burners[0].ID, "gatherings": "none"}
	if len(gatherings) > 0 {
		ids["gatherings"] = gatherings[0].ID
	}
	pots, err := s.store.Pots(ctx)
	require.NoError(s.t, err)
	filled := map[string]string{}
	for _, route := range web.Routes(s.kitchen) {
		area, _, _ := strings.Cut(strings.TrimPrefix(route.Path, "/"), "/")
		if route.Method == http.MethodGet {
			filled[route.Path] = strings.NewReplacer("/pots/:id", "/pots/"+pots[0].ID, ":id", ids[area], ":slug", "milk-whole", ":bench",
				"milk", ":step", "0",
				"*path", "css/frame.css", ":kind", "pudding", "/unreadable/:kind/:id", "/unreadable/batch/none",
				":name", "today.png").Replace(route.Path)
		}
	}
	return filled
}

// statuses are those of pages that have nothing to show without being asked, or
// in the sample kitchen.
var statuses = map[string]int{"/logbook/:id/photo.jpg": http.StatusNotFound, "/settings/code.png": http.StatusNotFound,
	"/unreadable/:kind/:id": http.StatusNotFound, "/unreadable/:kind/:id/stored.json": http.StatusNotFound,
	"/puddings/:id/sweeten": http.StatusUnprocessableEntity,
	"/sample":               http.StatusNotFound,                                                    // of a kitchen without one
	"/trust":                http.StatusNotFound, "/trust/kirdu-household.crt": http.StatusNotFound} // of a kitchen that speaks no TLS

func TestEveryPageRenders(t *testing.T) {
	s := newSite(t, nil)
	for route, address := range s.addresses() {
		if route == "/stove/:id/changes" { // a stream
			continue
		}
		response, body := s.get(address)
		if status, other := statuses[route]; other {
			require.Equal(t, status, response.StatusCode, address)
			continue
		}
		if response.StatusCode == http.StatusSeeOther { // to the one that is meant
			address = response.Header.Get("Location")
			response, body = s.get(address)
		}
		require.Equal(t, http.StatusOK, response.StatusCode, address)
		require.NotEmpty(t, body, address)
		require.Contains(t, response.Header.Get("Content-Security-Policy"), "default-src 'self'")
		if strings.HasPrefix(response.Header.Get("Content-Type"), "text/html") {
			require.Contains(t, body, "</html>", address)
			require.NotContains(t, body, "ZgotmplZ", address)
			require.NotContains(t, body, "<no value>", address)
		}
	}
	_, body := s.get("/puddings?search=quince")
	require.Contains(t, body, "No pudding has")
}

// What cannot be read stands in its place, can be saved and removed, and no page fails
// for it.
func TestWhatCannotBeReadIsShownInItsPlace(t *testing.T) {
	s := newSite(t, nil)
	ctx := t.Context()
	pudding, cooking := s.pudding(), s.onStove()
	book, err := s.store.Book(ctx, 2)
	require.NoError(t, err)
	addresses := s.addresses()
	_, err = s.store.DB().ExecContext(ctx, `INSERT INTO own_material (slug, document, changed_at)
			VALUES ('quince-own', '{"slug":"quince-own","of_100_g":{"water":400}}', '2026-11-20T12:00:00.000000000Z')`)
	require.NoError(t, err)
	for _, spoil := range []struct{ query, id string }{
		{`UPDATE plan_version SET document = json_set(document, '$.format', 'kirdu-plan/9') WHERE pudding_id = ?`, pudding.ID},
		{`UPDATE cook SET document = json_set(document, '$.steps', 'none') WHERE id = ?`, cooking.ID},
		{`UPDATE cook SET line = '{}' WHERE id = ?`, book[0].ID},
		{`UPDATE cook_event SET marks = '[]' WHERE cook_id = ?`, book[1].ID},
		{`UPDATE lesson SET observations = '"none"' WHERE cook_id <> ?`, ""},
	} {
		result, err := s.store.DB().ExecContext(ctx, spoil.query, spoil.id)
		require.NoError(t, err)
		n, err := result.RowsAffected()
		require.NoError(t, err)
		require.Positive(t, n, spoil.query)
	}
	for route, address := range addresses {
		if _, other := statuses[route]; other || route == "/stove/:id/changes" {
			continue
		}
		response, _ := s.get(address)
		if response.StatusCode == http.StatusSeeOther {
			response, _ = s.get(response.Header.Get("Location"))
		}
		require.Equal(t, http.StatusOK, response.StatusCode, address)
	}
	list := map[store.Kind]string{store.APudding: "/puddings", store.ABatch: "/logbook", store.AMaterial: "/pantry"}
	for _, bad := range []struct {
		kind     store.Kind
		id, said string
	}{{store.APudding, pudding.ID, "a later Kirdu"}, {store.ABatch, book[0].ID, ""}, {store.ABatch, book[1].ID, "marks"},
		{store.AMaterial, "quince-own", "behaviour"}} {
		path := "/unreadable/" + string(bad.kind) + "/" + bad.id
		_, body := s.get(list[bad.kind])
		require.Contains(t, body, `href="`+path+`"`)
		response, body := s.get(path)
		require.Equal(t, http.StatusOK, response.StatusCode, path)
		require.Contains(t, body, bad.said)
		response, body = s.get(path + "/stored.json")
		require.Equal(t, "application/json", response.Header.Get("Content-Type"))
		require.Contains(t, body, bad.id)
		response, _ = s.post(path+"/remove", nil)
		require.Equal(t, http.StatusSeeOther, response.StatusCode, path)
		_, body = s.get(list[bad.kind])
		require.NotContains(t, body, `href="`+path+`"`)
	}
	// What can be read is not removed by the way round.
	response, _ := s.post("/unreadable/pudding/"+s.pudding().ID+"/remove", nil)
	require.Equal(t, http.StatusNotFound, response.StatusCode)
	response, _ = s.post("/puddings/"+pudding.ID+"/restore", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, body := s.get("/puddings")
	require.Contains(t, body, pudding.Plan.Name, "its row was kept")
	response, _ = s.post("/logbook/"+book[1].ID+"/restore", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, body = s.get("/logbook")
	require.Contains(t, body, "/unreadable/batch/"+book[1].ID)
	// A lesson is worked out anew.
	require.NoError(t, s.kitchen.CatchUp(ctx))
	lessons, err := s.store.Lessons(ctx)
	require.NoError(t, err)
	require.NotEmpty(t, lessons)
	for _, l := range lessons {
		if l.CookID != book[0].ID && l.CookID != book[1].ID {
			require.False(t, l.Unreadable)
			require.NotNil(t, l.Observations)
		}
	}
}
