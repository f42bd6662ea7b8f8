package web_test

import (
	"bufio"
	"context"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/demo"
	"kirdu/exchange"
	"kirdu/store"
	"kirdu/web"
)

var now = time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)

// A site is the application with the sample kitchen, at a fixed time.
type site struct {
	t       testing.TB
	kitchen *app.Kitchen
	store   *store.Store
	server  *httptest.Server
	client  *http.Client
}

// sampleFile is the data file of the sample kitchen; it is filled once for all tests.
var sampleFile = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "kirdu-sample")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "kitchen.sqlite")
	s, err := store.Open(context.Background(), path)
	if err != nil {
		return nil, err
	}
	k := &app.Kitchen{Store: s, Now: func() time.Time { return now }, Zone: time.UTC, Log: slog.New(slog.DiscardHandler)}
	if err := errors.Join(demo.Fill(context.Background(), k), s.Close()); err != nil {
		return nil, err
	}
	return os.ReadFile(path)
})

// writeSample writes a data file with the sample kitchen.
func writeSample(t testing.TB, path string) {
	t.Helper()
	data, err := sampleFile()
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, data, 0o600))
}

func newSite(t testing.TB, change func(*web.Options)) *site {
	t.Helper()
	path := filepath.Join(t.TempDir(), "kitchen.sqlite")
	writeSample(t, path)
	s, err := store.Open(context.Background(), path)
	require.NoError(t, err)
	k := &app.Kitchen{Store: s, Now: func() time.Time { return now }, Zone: time.UTC, Log: slog.New(slog.DiscardHandler)}
	o := web.Options{Kitchen: k}
	if change != nil {
		change(&o)
	}
	server := httptest.NewServer(web.Handler(o))
	t.Cleanup(func() { server.Close(); s.Close() })
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := server.Client()
	client.Jar = jar
	client.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	return &site{t, k, s, server, client}
}

// bareFault is the code of a fault, or a sentence without what it names, on a page.
var bareFault = regexp.MustCompile(`[>“" ](?:app|archive|balance|benches|convert|cook|design|device|exchange|form|full|gadgets|` +
	`gatherings|kitchen|learnt|logbook|measure|pantry|plan|recipe|rescue|scale|serving|settings|start|store|stove|supplies|` +
	`timetable|vessel|ways|workbench)` +
	`\.[a-z]+(?:-[a-z]+)*[<;: ]|%!|BADINDEX`)

func (s *site) do(method, path string, form url.Values, header http.Header) (*http.Response, string) {
	s.t.Helper()
	request, err := http.NewRequest(method, s.server.URL+path, strings.NewReader(form.Encode()))
	require.NoError(s.t, err)
	if form != nil {
		request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	for name, values := range header {
		request.Header[name] = values
		if name == "Host" {
			request.Host = values[0]
		}
	}
	response, err := s.client.Do(request)
	require.NoError(s.t, err)
	defer response.Body.Close()
	body, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	if response.StatusCode >= http.StatusBadRequest && response.StatusCode < http.StatusInternalServerError {
		require.Empty(s.t, bareFault.FindString(string(body)), "%s %s: a fault that is not said", method, path)
	}
	if _, timed := s.t.(*testing.B); !timed && strings.HasPrefix(response.Header.Get("Content-Type"), "text/html") {
		ascii := func(r rune) bool { return strings.ContainsRune(" \n\t", r) }
		return response, strings.Join(strings.FieldsFunc(string(body), ascii), " ") // lines are broken for those who read the templates
	}
	return response, string(body)
}

func (s *site) get(path string) (*http.Response, string) { return s.do(http.MethodGet, path, nil, nil) }

func (s *site) post(path string, form url.Values) (*http.Response, string) {
	return s.do(http.MethodPost, path, form, nil)
}

// pudding returns the first pudding of the shelf.
func (s *site) pudding() store.Pudding {
	s.t.Helper()
	shelf, err := s.store.Puddings(context.Background(), 10)
	require.NoError(s.t, err)
	p, err := s.store.Pudding(context.Background(), shelf[0].ID)
	require.NoError(s.t, err)
	return p
}

func (s *site) onStove() store.Cook {
	s.t.Helper()
	cooks, err := s.store.OnStove(context.Background())
	require.NoError(s.t, err)
	return cooks[0]
}

func TestWhatIsNotThereLeadsBack(t *testing.T) {
	s := newSite(t, nil)
	for _, path := range []string{"/nowhere", "/puddings/nobody", "/stove/nobody", "/logbook/nobody", "/static/"} {
		response, body := s.get(path)
		require.Equal(t, http.StatusNotFound, response.StatusCode, path)
		require.Contains(t, body, `href="/"`, path)
	}
	response, _ := s.do(http.MethodDelete, "/kitchen", nil, nil)
	require.Equal(t, http.StatusMethodNotAllowed, response.StatusCode)
}

// edit posts a form of the Workbench on the present version.
func (s *site) edit(fields url.Values) (*http.Response, string) {
	p := s.pudding()
	if fields.Get("version") == "" {
		fields.Set("version", strconv.Itoa(p.Version))
	}
	return s.post("/puddings/"+p.ID, fields)
}

func TestWorkbenchEdits(t *testing.T) {
	s := newSite(t, nil)
	pots, err := s.store.Pots(context.Background())
	require.NoError(t, err)
	burners, err := s.store.Burners(context.Background())
	require.NoError(t, err)
	response, _ := s.edit(url.Values{"name": {"Rice for ten"}, "bowls": {"10"}, "serve": {"chilled"}, "pot": {pots[3].ID},
		"burner":                   {burners[1].ID},
		"steps[0].items[0].amount": {"1300 ml"}, "steps[0].items[1].material": {"rice-glutinous"}, "steps[2].flame": {"medium"},
		"steps[2].until.remaining_pct": {"72"},
		"steps[1].stir":                {"constant"}, "steps[1].lid_shown": {"1"}, "steps[1].lid": {"1"}, "sugar_after": {"1"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	p := s.pudding().Plan
	require.Equal(t, "Rice for ten", p.Name)
	require.Equal(t, 10, p.Serves)
	require.Equal(t, plan.Chilled, p.Serve)
	require.Equal(t, plan.Chill, p.Steps[len(p.Steps)-1].Do)
	require.Equal(t, "the boathouse pot", p.Pots["main"].Name)
	require.InDelta(t, 1500, float64(p.Burner.PowerW), 0)
	require.Equal(t, "2167 ml", p.Steps[0].Items[0].Amount, "for ten instead of six")
	require.Equal(t, "rice-glutinous", p.Steps[0].Items[1].Material)
	require.True(t, p.Steps[1].Lidded())
	require.Equal(t, plan.StirConstant, p.Steps[1].Stirring())
	require.True(t, p.Sweetens(2), "the sugar goes in once it boils")
	require.InDelta(t, 72, *p.Steps[3].Until.RemainingPct, 0)
}

func TestWorkbenchItems(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.edit(url.Values{"op": {"add-item:0"}, "new[0].material": {"cinnamon"}, "new[0].amount": {"1 stick"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, "cinnamon", s.pudding().Plan.Steps[0].Items[3].Material)
	response, _ = s.edit(url.Values{"version": {"2"}, "op": {"remove-item:0.2"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, "cinnamon", s.pudding().Plan.Steps[0].Items[2].Material)
	response, _ = s.edit(url.Values{"version": {"3"}, "bowls": {"6"}, "op": {"more-bowls"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, 7, s.pudding().Plan.Serves)
	response, _ = s.post("/puddings/"+s.pudding().ID+"/undo", url.Values{"version": {"4"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, 6, s.pudding().Plan.Serves)
}

// TestBadEditsChangeNothing sends what a cook may mistype: each gets a word at
// its field, sees what was typed again, and nothing is stored.
func TestBadEditsChangeNothing(t *testing.T) {
	cases := map[string]struct {
		fields url.Values
		want   []string
	}{
		"unknown unit":       {url.Values{"steps[0].items[0].amount": {"2 cupz"}}, []string{`value="2 cupz"`, "unknown unit"}},
		"over zero":          {url.Values{"steps[0].items[0].amount": {"1/0 cup"}}, []string{`value="1/0 cup"`, "give a number and a unit"}},
		"negative":           {url.Values{"steps[0].items[0].amount": {"-3 g"}}, []string{"give a number above 0"}},
		"right to left":      {url.Values{"steps[0].items[0].amount": {"\u202e1 kg"}}, []string{"give a number and a unit"}},
		"no bowls":           {url.Values{"bowls": {"0"}}, []string{"give a whole number of bowls"}},
		"bowls in words":     {url.Values{"bowls": {"six"}}, []string{`value="six"`, "give a whole number of bowls"}},
		"unknown material":   {url.Values{"steps[0].items[1].material": {"plutonium"}}, []string{"is not a material of the pantry"}},
		"reduce to nothing":  {url.Values{"steps[2].until.remaining_pct": {"0"}}, []string{`value="0"`, "give a number above 0 and below 100"}},
		"reduce to infinity": {url.Values{"steps[2].until.remaining_pct": {"Inf"}}, []string{"give a number, such as 70"}},
		"unknown pot":        {url.Values{"pot": {"nobody"}}, []string{"choose a pot of your kitchen"}},
		"unknown flame":      {url.Values{"steps[1].flame": {"hellfire"}}, []string{"give one of: off, low"}},
		"unknown serving":    {url.Values{"serve": {"frozen"}}, []string{"give one of: hot"}},
		"empty name":         {url.Values{"name": {""}}, []string{"give a text of 1 to 80"}},
		"sugar nowhere":      {url.Values{"sugar_after": {"77"}}, []string{"choose a moment from the list"}},
		"half a new item": {url.Values{"op": {"add-item:0"}, "new[0].material": {"cinnamon"}},
			[]string{"choose a material and give its amount"}},
		"bad new amount": {url.Values{"op": {"add-item:0"}, "new[0].material": {"cinnamon"}, "new[0].amount": {"two"}},
			[]string{`value="two"`}},
		"softer than soft": {url.Values{"aim.doneness.rice-short": {"99"}}, []string{"choose how soft it is wanted"}},
		"two faults at once": {url.Values{"bowls": {"-1"}, "steps[2].until.remaining_pct": {"x"}},
			[]string{"whole number of bowls", "give a number, such as 70"}},
	}
	s := newSite(t, nil)
	before, err := s.pudding().Plan.JSON()
	require.NoError(t, err)
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			response, body := s.edit(c.fields)
			require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
			for _, want := range c.want {
				require.Contains(t, body, want)
			}
			require.Equal(t, 1, s.pudding().Version)
		})
	}
	_, body := s.edit(url.Values{"steps[0].items[0].amount": {"2 cupz"}, "steps[1].flame": {"low"}, "steps[1].lid_shown": {"1"},
		"steps[1].lid":               {"1"},
		"steps[0].items[1].material": {"rice-red"}, "serve": {"room"}})
	for _, kept := range []string{`value="low" selected`, `value="rice-red" selected`, `value="room" selected`,
		`name="steps[1].lid" value="1" checked`} {
		require.Contains(t, body, kept, "all that was chosen is still chosen")
	}
	after, err := s.pudding().Plan.JSON()
	require.NoError(t, err)
	require.Equal(t, string(before), string(after))
	response, _ := s.edit(url.Values{"version": {"9"}, "bowls": {"8"}})
	require.Equal(t, http.StatusConflict, response.StatusCode, "made from a version that is not the present one")
	response, _ = s.post("/puddings/"+s.pudding().ID, url.Values{"bowls": {"8"}})
	require.Equal(t, http.StatusBadRequest, response.StatusCode)
}

func TestNewPudding(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.post("/puddings/new", url.Values{"way": {"reduced in milk"}, "base": {"millet-little"}, "bowls": {"5"},
		"serve": {"hot"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, "/puddings/"+s.pudding().ID, response.Header.Get("Location"))
	require.Equal(t, "Little millet in whole milk", s.pudding().Plan.Name)
	for field, form := range map[string]url.Values{
		"base":   {"way": {"reduced in milk"}, "base": {"gravel"}, "bowls": {"5"}, "serve": {"hot"}},
		"bowls":  {"way": {"reduced in milk"}, "base": {"rice-short"}, "bowls": {"lots"}, "serve": {"hot"}},
		"serve":  {"way": {"ground grain set cold"}, "bowls": {"5"}, "serve": {"hot"}},
		"finish": {"way": {"whisked meal then baked"}, "bowls": {"5"}, "finish": {"over a bonfire"}},
		"few":    {"way": {"stirred in stages"}, "bowls": {"2"}},
	} {
		response, body := s.post("/puddings/new", form)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, field)
		require.Contains(t, body, `class="fault"`, field)
	}
	response, _ = s.post("/puddings/new", url.Values{"way": {"by magic"}, "bowls": {"5"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	id := s.pudding().ID
	s.post("/puddings/"+id+"/remove", nil)
	_, body := s.get("/puddings?removed=" + id)
	require.NotContains(t, body, "/puddings/"+id+`">Little`)
	s.post("/puddings/"+id+"/restore", nil)
	require.Equal(t, id, s.pudding().ID)
}

func TestStoveRecords(t *testing.T) {
	s := newSite(t, nil)
	k := s.onStove()
	path := "/stove/" + k.ID
	tell := func(fields url.Values) (*http.Response, string) {
		if fields.Get("id") == "" {
			fields.Set("id", uuid.NewString())
		}
		return s.post(path, fields)
	}
	// The sample's wide pan weighs 1460 g empty.
	response, _ := tell(url.Values{"kind": {"weighed"}, "mass": {"2 960"}, "with_pot": {"1"}, "age_ms": {"60000"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	e := s.onStove().Events[2]
	require.InDelta(t, 1500, float64(e.Mass), 0)
	require.Equal(t, now.Add(-time.Minute), e.At, "it waited a minute on the device")
	_, body := s.get(path)
	require.Contains(t, body, "data-changed")
	id := uuid.NewString()
	tell(url.Values{"id": {id}, "kind": {"next"}, "step": {"2"}})
	tell(url.Values{"id": {id}, "kind": {"next"}, "step": {"2"}})
	state := s.onStove().State()
	require.Equal(t, 3, state.Step, "sent twice, done once")

	for name, c := range map[string]struct {
		fields url.Values
		want   string
	}{
		"minus 3 kg":          {url.Values{"kind": {"weighed"}, "mass": {"-3000"}}, "give the weight in grams"},
		"not a number":        {url.Values{"kind": {"weighed"}, "mass": {"NaN"}}, "give the weight in grams"},
		"lighter than empty":  {url.Values{"kind": {"weighed"}, "mass": {"900"}, "with_pot": {"1"}}, "the empty pot alone weighs more"},
		"deeper than the pot": {url.Values{"kind": {"dipped"}, "depth": {"400"}}, "not above the rim"},
		"a blank look":        {url.Values{"kind": {"felt"}, "part": {"millet-barnyard"}, "value": {"soft"}}, "choose one of the answers"},
		"felt of nothing":     {url.Values{"kind": {"felt"}, "value": {"1"}}, "of a part that is in the pot"},
		"thick as a brick":    {url.Values{"kind": {"spooned"}, "value": {"9"}}, "from 1 to 8"},
		"hotter than fire":    {url.Values{"kind": {"probed"}, "value": {"900"}}, "from -5 to 220"},
		"no depth":            {url.Values{"kind": {"dipped"}, "depth": {""}}, "give the depth in millimetres"},
		"unknown kind":        {url.Values{"kind": {"sneezed"}}, "is no kind of event"},
		"a bad id":            {url.Values{"kind": {"next"}, "step": {"3"}, "id": {"1; DROP TABLE"}}, "cannot be read"},
		"from the future":     {url.Values{"kind": {"next"}, "step": {"3"}, "age_ms": {"-5"}}, "cannot be read"},
	} {
		t.Run(name, func(t *testing.T) {
			response, body := tell(c.fields)
			require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
			require.Contains(t, body, c.want)
			require.Len(t, s.onStove().Events, 4)
		})
	}

	response, _ = tell(url.Values{"kind": {"finished"}, "mass": {"1380"}})
	require.Equal(t, "/logbook/"+k.ID, response.Header.Get("Location"))
	response, _ = s.get(path)
	require.Equal(t, http.StatusSeeOther, response.StatusCode, "what is finished is in the book")
	response, _ = s.post("/logbook/"+k.ID, url.Values{"eaten": {"warm"}, "thickness": {"5"}, "sweetness": {"just right"},
		"note": {"<b>good</b>"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, body = s.get("/logbook/" + k.ID)
	require.Contains(t, body, "&lt;b&gt;good&lt;/b&gt;")
	require.Contains(t, body, "1\u202f380 g")
	response, body = s.post("/logbook/"+k.ID, url.Values{"thickness": {"99"}, "sweetness": {"salty"}, "note": {"kept"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "kept")
}

// TestStreamOfChanges hears of an event at once, whole and uncompressed.
func TestStreamOfChanges(t *testing.T) {
	s := newSite(t, nil)
	k := s.onStove()
	ctx, cancel := context.WithTimeout(t.Context(), 10*time.Second)
	defer cancel()
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, s.server.URL+"/stove/"+k.ID+"/changes", nil)
	require.NoError(t, err)
	response, err := s.client.Do(request)
	require.NoError(t, err)
	defer response.Body.Close()
	require.Equal(t, "text/event-stream", response.Header.Get("Content-Type"))
	lines := bufio.NewScanner(response.Body)
	require.True(t, lines.Scan())
	require.Equal(t, ": here", lines.Text())
	s.post("/stove/"+k.ID, url.Values{"id": {uuid.NewString()}, "kind": {"weighed"}, "mass": {"1500"}})
	for lines.Scan() && lines.Text() != "event: changed" {
	}
	require.Equal(t, "event: changed", lines.Text())
	other, _ := s.get("/stove/nobody/changes")
	require.Equal(t, http.StatusNotFound, other.StatusCode)
}

func TestKitchenForms(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.post("/kitchen/pots", url.Values{"name": {"the tray"}, "shape": {"tray"}, "length_mm": {"300"}, "width_mm": {"200"},
		"height_mm": {"50"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	pots, err := s.store.Pots(context.Background())
	require.NoError(t, err)
	require.Len(t, pots, 5)
	s.post("/kitchen/pots/"+pots[4].ID+"/remove", nil)
	_, body := s.get("/kitchen?removed_pot=" + pots[4].ID)
	require.Contains(t, body, "/restore")
	for name, form := range map[string]url.Values{
		"wider than a door": {"name": {"x"}, "shape": {"straight"}, "diameter_mm": {"2500"}, "height_mm": {"100"}},
		"no depth":          {"name": {"x"}, "shape": {"straight"}, "diameter_mm": {"250"}},
		"no name":           {"shape": {"straight"}, "diameter_mm": {"250"}, "height_mm": {"100"}},
		"no such shape":     {"name": {"x"}, "shape": {"cube"}},
		"deep tray":         {"name": {"x"}, "shape": {"tray"}, "length_mm": {"300"}, "width_mm": {"200"}, "height_mm": {"800"}},
		"negative weight":   {"name": {"x"}, "shape": {"straight"}, "diameter_mm": {"250"}, "height_mm": {"100"}, "mass_g": {"-1"}},
	} {
		response, body := s.post("/kitchen/pots", form)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, name)
		require.Contains(t, body, `class="fault"`, name)
		require.Contains(t, body, `value="`+form.Get("name")+`"`, name)
	}
	response, _ = s.post("/kitchen/burners", url.Values{"burner_name": {"side"}, "kind": {"induction"}, "power_w": {"1800"},
		"efficiency_pct": {"85"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, body = s.post("/kitchen/burners", url.Values{"burner_name": {"side"}, "kind": {"nuclear"}, "power_w": {"1e9"},
		"efficiency_pct": {"120"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Equal(t, 3, strings.Count(body, `class="fault"`))
}

func TestOtherSitesAreRefused(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.do(http.MethodPost, "/puddings/new", url.Values{"way": {"reduced in milk"}},
		http.Header{"Sec-Fetch-Site": {"cross-site"}})
	require.Equal(t, http.StatusForbidden, response.StatusCode)
	response, _ = s.do(http.MethodPost, "/puddings/new", url.Values{"way": {"reduced in milk"}},
		http.Header{"Origin": {"http://elsewhere.example"}})
	require.Equal(t, http.StatusForbidden, response.StatusCode)
	response, _ = s.do(http.MethodGet, "/", nil, http.Header{"Host": {"elsewhere.example"}})
	require.Equal(t, http.StatusMisdirectedRequest, response.StatusCode, "a name of another site that leads here")
	response, _ = s.post("/puddings/new", url.Values{"base": {strings.Repeat("x", 2<<20)}})
	require.Equal(t, http.StatusRequestEntityTooLarge, response.StatusCode, "2 MB of grain")
}

func TestPassphrase(t *testing.T) {
	s := newSite(t, func(o *web.Options) { o.Kitchen.Login, o.Hosts = true, []string{} })
	ctx := context.Background()
	require.ErrorIs(t, s.kitchen.SetPassphrase(ctx, "short"), app.ErrPassphraseLength)
	const said = " lantern supper " // to the letter, with its spaces
	require.NoError(t, s.kitchen.SetPassphrase(ctx, said))
	response, _ := s.get("/kitchen")
	require.Equal(t, "/login", response.Header.Get("Location"))
	response, _ = s.post("/puddings/new", url.Values{"way": {"reduced in milk"}, "bowls": {"4"}})
	require.Equal(t, http.StatusUnauthorized, response.StatusCode)
	response, body := s.post("/login", url.Values{"passphrase": {"guess"}})
	require.Equal(t, http.StatusUnauthorized, response.StatusCode)
	require.Contains(t, body, "not the passphrase")
	response, _ = s.post("/login", url.Values{"passphrase": {said}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	cookie := strings.Join(response.Header.Values("Set-Cookie"), "\n")
	require.Contains(t, cookie, "HttpOnly")
	require.Contains(t, cookie, "SameSite=Lax")
	response, _ = s.get("/kitchen")
	require.Equal(t, http.StatusOK, response.StatusCode)
	s.post("/logout", nil)
	response, _ = s.get("/kitchen")
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	limited := false
	for range 10 {
		response, _ = s.post("/login", url.Values{"passphrase": {"guess"}})
		limited = limited || response.StatusCode == http.StatusTooManyRequests
	}
	require.True(t, limited, "guessing is slowed down")
}

// TestFirstVisitIsLight adds up what a browser loads for its first page.
func TestFirstVisitIsLight(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/puddings/" + s.pudding().ID)
	total := 0
	load := func(path string) {
		response, body := s.do(http.MethodGet, path, nil, http.Header{"Accept-Encoding": {"gzip"}})
		require.Equal(t, http.StatusOK, response.StatusCode, path)
		total += len(body)
	}
	load("/puddings/" + s.pudding().ID)
	for _, found := range regexp.MustCompile(`(?:href|src)="(/static/[^"#]+)`).FindAllStringSubmatch(page, -1) {
		load(found[1])
	}
	for _, font := range []string{"atkinson-hyperlegible-next-latin-600-normal.woff2", "fraunces-latin-600-normal.woff2"} {
		load("/static/vendor/" + font)
	}
	load("/static/js/moments.js")
	for _, page := range []string{"/static/cook.html", "/static/templates/frame.html"} {
		response, _ := s.get(page)
		require.Equal(t, http.StatusNotFound, response.StatusCode, "%s is sent to nobody as it is", page)
	}
	const limit = 250_000
	require.Less(t, total, limit)
	t.Logf("first visit: %d bytes", total)
}

func TestStaticFilesAreCached(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/")
	address := regexp.MustCompile(`/static/css/tokens.css\?v=\w+`).FindString(page)
	response, _ := s.get(address)
	require.Contains(t, response.Header.Get("Cache-Control"), "immutable")
	response, _ = s.get("/static/vendor/icons.svg")
	require.Equal(t, "no-cache", response.Header.Get("Cache-Control"))
	response, _ = s.do(http.MethodGet, "/static/vendor/icons.svg", nil, http.Header{"If-None-Match": {response.Header.Get("ETag")}})
	require.Equal(t, http.StatusNotModified, response.StatusCode)
}

// TestRecipeOut takes a pudding out as a recipe and reads its list again: as
// much of everything.
func TestRecipeOut(t *testing.T) {
	s := newSite(t, nil)
	response, data := s.get("/puddings/" + s.pudding().ID + "/recipe.json")
	require.Equal(t, "application/ld+json", response.Header.Get("Content-Type"))
	r, err := exchange.ReadRecipe([]byte(data))
	require.NoError(t, err)
	require.Equal(t, s.pudding().Plan.Serves, r.Bowls)
	want, got := map[string]float64{}, map[string]float64{}
	s.pudding().Plan.Uses(func(m *pantry.Material, mass measure.Gram, _ int) { want[m.Slug] += float64(mass) })
	reader := recipe.NewReader(pantry.Standard(), nil)
	lines, err := reader.Read(strings.Join(r.Ingredients, "\n"))
	require.NoError(t, err)
	for _, line := range lines {
		_, mass, err := s.pudding().Plan.Weigh(plan.Item{Material: line.Material, Amount: line.Amount})
		require.NoError(t, err, line.Text)
		got[line.Material] += float64(mass)
	}
	for slug, mass := range want {
		require.InDelta(t, mass, got[slug], 0.1, slug)
	}
}

func TestPlanFile(t *testing.T) {
	s := newSite(t, nil)
	response, body := s.get("/puddings/" + s.pudding().ID + "/plan.kirdu.json")
	require.Contains(t, response.Header.Get("Content-Disposition"), "Short-grain-rice-with-pear-and-bay.kirdu.json")
	_, err := plan.Read([]byte(body))
	require.NoError(t, err)
}

func BenchmarkWorkbenchPage(b *testing.B) {
	benchmarkPage(b, func(s *site) string { return "/puddings/" + s.pudding().ID })
}
func BenchmarkStovePage(b *testing.B) {
	benchmarkPage(b, func(s *site) string { return "/stove/" + s.onStove().ID })
}
func BenchmarkTodayPage(b *testing.B) { benchmarkPage(b, func(*site) string { return "/" }) }

// BenchmarkRecipePage reads a recipe of ten lines and eight sentences.
func BenchmarkRecipePage(b *testing.B) {
	const list = "1 cup broken wheat\n400 g jaggery\n3 cups thin coconut milk\n1 cup thick coconut milk\n3 tbsp ghee\n" +
		"1/4 cup cashews\n1/4 cup coconut bits\n1 tsp cardamom powder\n1/2 tsp dry ginger powder\n3 cups water"
	const method = "Heat 1 tbsp ghee in a pressure cooker and roast the broken wheat until it changes colour. Add 3 cups of water and " +
		"pressure cook for 3 whistles. In the meantime melt the jaggery with 3/4 cup water and strain. When the pressure has gone " +
		"down open the cooker, add the jaggery syrup to the wheat and cook on medium for 10 minutes until it thickens. Pour in the " +
		"thin coconut milk and simmer for 10-12 minutes. Lower the flame, add the thick milk, ginger and cardamom, and switch off " +
		"before it boils. Fry the coconut bits and cashews in the remaining ghee and add to the payasam. Serve hot."
	s := newSite(b, nil)
	for b.Loop() {
		s.post("/intake", url.Values{"list": {list}, "method": {method}, "name": {"Wheat"}, "bowls": {"6"}})
	}
}

func benchmarkPage(b *testing.B, of func(*site) string) {
	s := newSite(b, nil)
	path := of(s)
	for n := 0; b.Loop(); n++ {
		s.get(path + "?n=" + strconv.Itoa(n)) // each is written anew
	}
}
