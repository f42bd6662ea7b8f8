package web_test

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/store"
)

// What batches teach is laid over every plan, shown with its range, and forgotten
// when that is wanted.
func TestWhatWasLearnt(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/logbook/learnt")
	for _, words := range []string{"Power of the", "batches", "Forget"} {
		require.True(t, strings.Contains(page, words), words)
	}
	id := s.pudding().ID
	total := func() string {
		_, page := s.get("/puddings/" + id)
		return regexp.MustCompile(`data-total-time[^>]*>([^<]*)`).FindStringSubmatch(page)[1]
	}
	learnt := total()
	stored := s.pudding().Plan
	require.Nil(t, stored.Calibration.Evaporation, "the plan on the shelf stays as it was written")
	s.edited(url.Values{"op": {"bowls:+1"}})
	require.Nil(t, s.pudding().Plan.Calibration.Evaporation, "nor is it saved with an edit")
	s.post("/puddings/"+id+"/undo", nil)

	thing := regexp.MustCompile(`name="of" value="([^"]*)"><input type="hidden" name="name" value="([^"]*)"`)
	for _, kind := range thing.FindAllStringSubmatch(page, -1) {
		response, _ := s.post("/logbook/learnt/forget", url.Values{"of": {kind[1]}, "name": {kind[2]}})
		require.Equal(t, "/logbook/learnt", response.Header.Get("Location"))
	}
	_, page = s.get("/logbook/learnt")
	require.True(t, strings.Contains(page, "Nothing yet") && strings.Contains(page, "Remember it again"))
	require.NotEqual(t, learnt, total())
	things, err := s.store.ForgottenThings(context.Background())
	require.NoError(t, err)
	for _, f := range things {
		s.post("/logbook/learnt/remember", url.Values{"of": {string(f.Quantity)}, "name": {f.Name}})
	}
	require.Equal(t, learnt, total(), "remembered as it was")
	response, _ := s.post("/logbook/learnt/forget", url.Values{"of": {"the moon"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
}

// The book is searched, paged, and a batch made again as it was noted.
func TestBookIsSearched(t *testing.T) {
	s := newSite(t, nil)
	count := func(query string) int {
		t.Helper()
		response, page := s.get("/logbook" + query)
		require.Equal(t, http.StatusOK, response.StatusCode)
		return strings.Count(page, `<th scope="row"><a href="/logbook/`)
	}
	all := count("")
	require.Greater(t, all, 3)
	rice := count("?search=RICE")
	require.Positive(t, rice)
	require.Less(t, rice, all)
	require.Zero(t, count("?search=%25"), "a per cent sign is itself")
	judged := 0
	for _, verdict := range append(store.SweetnessVerdicts(), store.Unjudged) {
		judged += count("?verdict=" + url.QueryEscape(verdict))
	}
	require.Equal(t, all, judged)
	for _, query := range []string{"?verdict=salty", "?page=-1", "?page=x", "?search=" + strings.Repeat("x", 81)} {
		response, _ := s.get("/logbook" + query)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, query)
	}
	book, err := s.store.Book(context.Background(), 1)
	require.NoError(t, err)
	k := book[0]
	sweet := func(p *plan.Plan) float64 {
		return forecast.Run(p, forecast.Options{NominalOnly: true}).Sweetness.Pct.Value
	}
	response, _ := s.post("/logbook/"+k.ID, url.Values{"sweetness": {"not sweet enough"}, "note": {"a lantern more"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, _ = s.post("/logbook/"+k.ID+"/again", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	again, err := s.store.Pudding(context.Background(), strings.TrimPrefix(response.Header.Get("Location"), "/puddings/"))
	require.NoError(t, err)
	require.InDelta(t, sweet(k.Plan)+1, sweet(again.Plan), 0.25)
	require.Contains(t, again.Plan.Notes, "a lantern more")
	require.Equal(t, 1, count("?search=lantern+more"))
	response, _ = s.post("/logbook/nobody/again", nil)
	require.Equal(t, http.StatusNotFound, response.StatusCode)
}

// How a pudding is wanted the next time balances the plan that is made of its batch, and the puddings that are new.
func TestWishesForTheNextTime(t *testing.T) {
	s := newSite(t, nil)
	book, err := s.store.Book(context.Background(), 20)
	require.NoError(t, err)
	thick := func(p *plan.Plan) float64 {
		return forecast.Run(p, forecast.Options{NominalOnly: true}).Thickness.As(p.Serve).Value
	}
	soft := func(p *plan.Plan) (least float64) {
		least = math.Inf(1)
		for _, done := range forecast.Run(p, forecast.Options{NominalOnly: true}).Doneness {
			least = min(least, done.Value)
		}
		return least
	}
	madeBy := func(path string, form url.Values) *plan.Plan {
		response, body := s.post(path, form)
		require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
		made, err := s.store.Pudding(context.Background(), strings.TrimPrefix(response.Header.Get("Location"), "/puddings/"))
		require.NoError(t, err)
		return made.Plan
	}
	fresh := url.Values{"way": {"reduced in milk"}, "bowls": {"6"}, "serve": {"warm"}}
	before := madeBy("/puddings/new", fresh)

	k := book[0]
	response, _ := s.post("/logbook/"+k.ID, url.Values{"thicker": {"thicker"}, "softer": {"softer"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	again := madeBy("/logbook/"+k.ID+"/again", nil)
	require.InDelta(t, thick(k.Plan)+learn.WishGrade, thick(again), 0.25)
	require.Greater(t, soft(again), soft(k.Plan))
	_, page := s.get("/logbook/" + k.ID)
	require.Contains(t, page, `value="thicker" selected`)

	for _, one := range book[1:] {
		response, _ = s.post("/logbook/"+one.ID, url.Values{"thicker": {"thicker"}})
		require.Equal(t, http.StatusSeeOther, response.StatusCode)
	}
	_, page = s.get("/logbook/learnt")
	require.Contains(t, page, "Thickness that is liked")
	require.Contains(t, page, "Softness that is liked")
	require.InDelta(t, thick(before)+0.7, thick(madeBy("/puddings/new", fresh)), 0.35, "a household that likes it thicker gets it so")

	for field, bad := range map[string]string{"thicker": "like a brick", "softer": "thicker"} {
		response, body := s.post("/logbook/"+k.ID, url.Values{field: {bad}})
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
		require.Contains(t, body, "choose from the list")
	}
}

// BenchmarkBook lists, searches and opens a book of a hundred and of ten thousand.
func BenchmarkBook(b *testing.B) {
	for _, size := range []int{100, 10000} {
		s := newSite(b, nil)
		ctx := context.Background()
		book, err := s.store.Book(ctx, 10)
		require.NoError(b, err)
		for n := len(book); n < size; n++ {
			k := book[n%len(book)]
			k.ID = uuid.NewString()
			k.BegunAt = k.BegunAt.Add(-time.Duration(n) * time.Hour)
			require.NoError(b, s.store.StartCook(ctx, k))
			for _, e := range k.Events {
				e.ID = uuid.NewString()
				require.NoError(b, s.store.AppendEvent(ctx, k.ID, e, now))
			}
		}
		last, err := s.store.Book(ctx, 1)
		require.NoError(b, err)
		for name, path := range map[string]string{"list": "/logbook?", "search": "/logbook?search=pear", "in vain": "/logbook?search=zebra",
			"tag": "/logbook?tag=breakfast", "batch": "/logbook/" + last[0].ID + "?"} {
			b.Run(fmt.Sprintf("%s/%d", name, size), func(b *testing.B) {
				for n := 0; b.Loop(); n++ {
					response, _ := s.get(path + "&n=" + strconv.Itoa(n)) // each is written anew
					require.Equal(b, http.StatusOK, response.StatusCode)
				}
			})
		}
	}
}
