package web_test

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
)

func (s *site) home() plan.Home {
	s.t.Helper()
	home, err := s.store.Home(context.Background())
	require.NoError(s.t, err)
	return home
}

// plan returns the present plan of the first pudding of the shelf.
func (s *site) plan() *plan.Plan { return s.pudding().Plan }

func TestPagesBeforeTheFlame(t *testing.T) {
	s := newSite(t, nil)
	id := s.pudding().ID
	for path, holds := range map[string]string{
		"/benches/coconut": "First press", "/benches/coconut?way=wanted": "coconuts",
		"/benches/coconut?way=pack&pack=coconut-powder&pack_g=100": "of water make",
		"/benches/milk": "6.0 % fat", "/benches/milk?way=poured": "6.6 % fat", "/benches/milk?way=fresh": "of sugar along",
		"/benches/milk?way=instead": "stand for",
		"/benches/milk?way=reduced": "saves about", "/benches/sweetener": "taste as sweet", "/benches/sweetener?also=honey&to_pct=50": "honey",
		"/benches/sweetener?way=syrup": "sieve", "/benches/sweetener?way=lumps": "strained syrup", "/benches/measure": "cup",
		"/benches/coconut?way=wanted&thin_g=400": "Or from coconut cream", "/benches/sweetener?from2=honey&from2_g=40": "40 g honey",
		"/pantry/new?like=rice-short":                              `value="Short-grain white rice, mine"`,
		"/benches/measure?material=sooji&amount=1+blue-mug&into=g": "218 g",
		"/pantry": "Milk and cream", "/pantry?search=lauki": "Bottle gourd", "/pantry?search=nothing-such": "Nothing in the pantry",
		"/pantry/moong-split": "stops softening", "/pantry/new": "pack says", "/kitchen/measures": "226 ml", "/kitchen/weigh": "slanting",
		"/intake": "Paste", "/supplies": "can be made now", "/buying": "still to get", "/puddings/" + id + "/scale?bowls=18": "Less milk",
		"/puddings/" + id + "/balance": "Balanced", "/puddings/" + id + "/balance?thickness=8&sweet=11": "and not to 8",
		"/puddings/" + id + "/balance?bowls=9": "9 bowls of",
	} {
		response, body := s.get(path)
		require.Equal(t, http.StatusOK, response.StatusCode, path)
		require.Contains(t, body, holds, path)
		require.NotContains(t, body, "ZgotmplZ", path)
		require.NotContains(t, body, "NaN", path)
	}
	response, _ := s.get("/benches")
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, _ = s.get("/benches/soup")
	require.Equal(t, http.StatusNotFound, response.StatusCode)
}

// TestBadInputBeforeTheFlame: a message at the field, 422, what was typed is
// still there, and nothing is stored.
func TestBadInputBeforeTheFlame(t *testing.T) {
	s := newSite(t, nil)
	before, version := s.home(), s.pudding().Version
	burner := s.burner()
	pot := s.pot()
	long := strings.Repeat("1 cup rice\n", 10_000)
	for name, c := range map[string]struct {
		method, path string
		form         url.Values
		says, keeps  string
	}{
		"unknown unit":        {"GET", "/benches/measure?amount=2+cupz", nil, "unknown unit", `value="2 cupz"`},
		"fat beyond both":     {"GET", "/benches/milk?way=blend&fat_pct=60", nil, "these two reach from", `value="60"`},
		"no number":           {"GET", "/benches/coconut?coconuts=∞", nil, "give a number from", "∞"},
		"below nothing":       {"GET", "/benches/sweetener?from_g=-3", nil, "give a number from", "-3"},
		"no such way":         {"GET", "/benches/milk?way=churn", nil, "choose what you want to know", ""},
		"too lean a pack":     {"GET", "/benches/coconut?way=pack&pack_fat_pct=50", nil, "ask for that or less", `value="50"`},
		"a list of thousands": {"POST", "/intake", url.Values{"list": {long}}, "is too long", "1 cup rice"},
		"an empty list":       {"POST", "/intake", url.Values{"list": {" \n "}, "name": {"Mine"}}, "is empty", `value="Mine"`},
		"a fixed unit": {"POST", "/kitchen/measures", url.Values{"name": {"ml"}, "how": {"ml"}, "size": {"20"}}, "one size everywhere",
			`value="ml"`},
		"nothing in the cup": {"POST", "/kitchen/measures", url.Values{"name": {"cup"}, "how": {"water"}, "full_g": {"200"},
			"empty_g": {"300"}}, "weigh it full", `value="200"`},
		"a test that gained": {"POST", "/kitchen/burners/" + burner + "/test", url.Values{"pot": {pot}, "flame": {"high"},
			"before_g": {"1000"}, "after_g": {"1100"}, "minutes": {"10"}}, "boiling water only loses", `value="1100"`},
		"a test of no time": {"POST", "/kitchen/burners/" + burner + "/test", url.Values{"pot": {pot}, "flame": {"high"},
			"before_g": {"1000"}, "after_g": {"800"}, "minutes": {"0"}}, "give minutes from 2", `value="0"`},
		"a flame unheard of": {"POST", "/kitchen/burners/" + burner + "/test", url.Values{"pot": {pot}, "flame": {"blue"},
			"before_g": {"1000"}, "after_g": {"800"}, "minutes": {"10"}}, "choose a flame", ""},
		"a pot like a door": {"POST", "/kitchen/weigh", url.Values{"name": {"barn"}, "walls": {"straight"}, "height_mm": {"100"},
			"high_mm": {"90"}, "high_g": {"400000"}}, "wider than 1.5 m", `value="400000"`},
		"fillings that cross": {"POST", "/kitchen/weigh", url.Values{"name": {"x"}, "walls": {"taper"}, "height_mm": {"100"},
			"high_mm": {"90"}, "high_g": {"2000"}, "low_mm": {"95"}, "low_g": {"2100"}}, "deeper and heavier", `value="2100"`},
		"half an oven": {"POST", "/kitchen/room", url.Values{"ambient_c": {"20"}, "humidity_pct": {"50"}, "altitude_m": {"0"},
			"tap_c": {"10"}, "scale_limit_g": {"5000"}, "units": {"us"}, "ovens": {"0.5"}}, "a whole number of ovens", `value="0.5"`},
		"on the moon": {"POST", "/kitchen/room", url.Values{"ambient_c": {"20"}, "humidity_pct": {"50"}, "altitude_m": {"90000"},
			"tap_c": {"10"}, "scale_limit_g": {"5000"}, "units": {"us"}}, "from -400 to 5000", `value="90000"`},
		"more than a pack": {"POST", "/pantry", url.Values{"name": {"Hill rice"}, "like": {"rice-short"}, "fat": {"50"},
			"carbohydrate": {"60"}}, "more than 100 g", "Hill rice"},
		"sugars of nothing": {"POST", "/pantry", url.Values{"name": {"Hill rice"}, "like": {"rice-short"}, "sugars": {"20"}},
			"part of the carbohydrate", "Hill rice"},
		"a name of emoji":     {"POST", "/pantry", url.Values{"name": {"🍚"}, "like": {"rice-short"}}, "letters a to z", "🍚"},
		"parts beyond 100 g":  {"POST", "/pantry/jaggery", url.Values{"water": {"50"}}, "must add up", `value="50"`},
		"a figure of letters": {"POST", "/pantry/jaggery", url.Values{"ph": {"sour"}}, "give a number", `value="sour"`},
		"not a material":      {"POST", "/supplies", url.Values{"material": {"unobtainium"}}, "choose a material", "unobtainium"},
		"not an amount": {"POST", "/supplies", url.Values{"material": {"honey"}, "amount": {"1/0 cup"}}, "give a number and a unit",
			"1/0 cup"},
		"no bowls":          {"POST", "/buying", url.Values{"pudding": {s.pudding().ID}, "bowls": {"½"}}, "whole number of bowls", ""},
		"bowls of letters":  {"GET", "/puddings/" + s.pudding().ID + "/scale?bowls=many", nil, "whole number of bowls", `value="many"`},
		"an aim beyond all": {"GET", "/puddings/" + s.pudding().ID + "/balance?thickness=9&sweet=sweet", nil, "from 1 to 8", `value="sweet"`},
		"no time of day":    {"POST", "/puddings/" + s.pudding().ID + "/serve-at", url.Values{"at": {"tonight"}}, "no time of day", ""},
		"no target":         {"POST", "/benches/milk/write", url.Values{"target": {"x"}}, "choose a pudding", ""},
	} {
		t.Run(name, func(t *testing.T) {
			response, body := s.do(c.method, c.path, c.form, nil)
			require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
			require.Contains(t, body, c.says)
			require.Contains(t, body, c.keeps)
		})
	}
	require.Equal(t, before, s.home())
	require.Equal(t, version, s.pudding().Version)
}

func (s *site) burner() string {
	burners, err := s.store.Burners(context.Background())
	require.NoError(s.t, err)
	return burners[0].ID
}

func (s *site) pot() string {
	pots, err := s.store.Pots(context.Background())
	require.NoError(s.t, err)
	return pots[0].ID
}

func (s *site) accepts(path string, form url.Values) {
	s.t.Helper()
	response, body := s.post(path, form)
	require.Equal(s.t, http.StatusSeeOther, response.StatusCode, "%s: %s", path,
		regexp.MustCompile(`class="fault"[^>]*>[^<]*`).FindString(body))
}

// TestKitchenFindsItselfOut: what is measured once counts in every pudding.
func TestKitchenFindsItselfOut(t *testing.T) {
	s := newSite(t, nil)
	s.accepts("/kitchen/measures", url.Values{"name": {"Tbsp"}, "how": {"material"}, "material": {"jaggery"}, "full_g": {"40"},
		"empty_g": {"29.5"}, "seen": {"1"}})
	require.InDelta(t, 15, s.home().Measures["tablespoon_ml"], 0.01)

	burner, pot := s.burner(), s.pot()
	s.accepts("/kitchen/burners/"+burner+"/test", url.Values{"pot": {pot}, "flame": {"high"}, "before_g": {"2180"}, "after_g": {"1990"},
		"minutes": {"10"}, "with_pot": {"1"}})
	require.InDelta(t, 190*2257/600.+45, float64(s.home().Burners[0].FlameW[vessel.High]), 12)
	_, body := s.get("/puddings/" + s.pudding().ID)
	longer := regexp.MustCompile(`data-total-time>([^<]*)`).FindStringSubmatch(body)[1]
	_, body = s.get("/kitchen/burners/" + burner + "/test")
	test := regexp.MustCompile(`/test/([0-9a-f-]+)/remove`).FindStringSubmatch(body)[1]
	s.accepts("/kitchen/burners/"+burner+"/test/"+test+"/remove", nil)
	require.Empty(t, s.home().Burners[0].FlameW)
	_, body = s.get("/puddings/" + s.pudding().ID)
	require.NotEqual(t, longer, regexp.MustCompile(`data-total-time>([^<]*)`).FindStringSubmatch(body)[1])

	s.accepts("/kitchen/room", url.Values{"ambient_c": {"20"}, "humidity_pct": {"50"}, "altitude_m": {"2850"}, "tap_c": {"10"},
		"scale_limit_g": {"5000"}, "units": {"us"}, "ovens": {"2"}, "fridge_l": {"35.5"}})
	fittings, err := s.store.Fittings(t.Context(), store.Fittings{})
	require.NoError(t, err)
	require.Equal(t, store.Fittings{Ovens: 2, FridgeL: 35.5}, fittings)
	_, body = s.get("/puddings/" + s.pudding().ID)
	require.Contains(t, body, "2 lb 12 oz", "the milk in pounds and ounces beside")
	require.True(t, s.home().US)
	require.InDelta(t, 2850, s.home().Kitchen.AltitudeM, 0)

	s.accepts("/kitchen/weigh", url.Values{"name": {"the tin pail"}, "walls": {"taper"}, "height_mm": {"120"}, "high_mm": {"110"},
		"high_g": {"4000"}, "low_mm": {"55"}, "low_g": {"1850"}, "mass_g": {"900"}})
	pots, err := s.store.Pots(context.Background())
	require.NoError(t, err)
	pail := pots[len(pots)-1]
	require.InDelta(t, 1850, float64(pail.Volume(55)), 0.1)
	require.InDelta(t, 4000, float64(pail.Volume(110)), 0.1)
}

func TestOwnMaterials(t *testing.T) {
	s := newSite(t, nil)
	s.accepts("/pantry/jaggery", url.Values{"ph": {"5.9"}})
	_, body := s.get("/pantry/jaggery")
	require.Contains(t, body, "your own; the table has 5.5")
	s.accepts("/pantry/jaggery", url.Values{"ph": {"5.9"}, "reset": {"ph"}})
	require.Empty(t, s.home().Materials, "figures of the table need no entry")

	s.accepts("/pantry", url.Values{"name": {"Hill rice"}, "like": {"rice-short"}, "energy_kcal": {"348"}, "fat": {"0.9"},
		"carbohydrate": {"78"}, "sugars": {"0.3"}, "fibre": {"1.2"}, "protein": {"7"}, "salt": {"0"}})
	require.Len(t, s.home().Materials, 1)
	response, _ := s.edit(url.Values{"new[0].material": {"hill rice"}, "new[0].amount": {"20 g"}, "op": {"add-item:0"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Len(t, s.plan().Materials, 1, "the plan carries it along")
	s.accepts("/pantry/hill-rice/remove", nil)
	require.Empty(t, s.home().Materials)
	require.Len(t, s.plan().Materials, 1)
	s.accepts("/pantry/hill-rice/restore", nil)
	require.Len(t, s.home().Materials, 1)
}

// TestBenchesWriteIntoPuddings takes each answer into a plan.
func TestBenchesWriteIntoPuddings(t *testing.T) {
	s := newSite(t, nil)
	write := func(bench, label string, form url.Values) {
		t.Helper()
		_, body := s.get("/benches/" + bench + "?" + form.Encode())
		choice := regexp.MustCompile(`<option value="(` + s.pudding().ID + `[^"]*)">[^<]*` + label).FindStringSubmatch(body)
		require.NotNil(t, choice, "%s: no target for %s", bench, label)
		form.Set("target", choice[1])
		form.Set("which", "0")
		s.accepts("/benches/"+bench+"/write", form)
	}
	sweet := s.forecastSweet()
	write("sweetener", "white sugar", url.Values{"way": {"swap"}, "from": {"sugar-white"}, "from_g": {"100"}, "to": {"jaggery"},
		"also": {"honey"}, "to_pct": {"70"}})
	require.InEpsilon(t, sweet, s.forecastSweet(), 0.001)
	write("milk", "whole milk", url.Values{"way": {"blend"}, "a": {"milk-whole"}, "b": {"cream-single"}, "total_g": {"1000"},
		"fat_pct": {"6"}})
	require.Equal(t, "cream-single", s.plan().Steps[0].Items[1].Material)
	write("measure", "short-grain white rice", url.Values{"material": {"rice-short"}, "amount": {"100 g"}, "into": {"cup"}})
	require.Contains(t, s.plan().Steps[0].Items[2].Amount, "cup")
	write("coconut", "", url.Values{"way": {"press"}, "coconuts": {"1"}, "presses": {"2"}, "water1_ml": {"0"}, "water2_ml": {"300"},
		"temp_c": {"40"}})
	require.Equal(t, plan.Press, s.plan().Steps[0].Do)
	// Where its milks go in the cook says.
	_, page := s.get("/puddings/" + s.pudding().ID)
	require.Contains(t, page, "Nothing takes this yet: Coconut (first press)")
	n := len(s.plan().Steps)
	s.accepts("/puddings/"+s.pudding().ID, url.Values{"version": {fmt.Sprint(s.pudding().Version)}, "op": {"put-part:coconut.1"},
		"put[coconut.1]": {"1"}})
	require.Len(t, s.plan().Steps, n)
	items := s.plan().Steps[1].Items
	require.Equal(t, "coconut.1", items[len(items)-1].Part)
	write("coconut", "", url.Values{"way": {"press"}, "coconuts": {"2"}, "presses": {"1"}, "water1_ml": {"100"}, "temp_c": {"40"}})
	require.Len(t, s.plan().Steps, n, "it takes the place of the pressing that is there")
	require.Len(t, s.plan().Steps[0].Presses, 1)
	// An answer that was reckoned before the pudding changed is not written.
	_, body := s.get("/benches/sweetener?from=jaggery&to=maple-syrup")
	old := regexp.MustCompile(`<option value="(` + s.pudding().ID + `[^"]*)">[^<]*jaggery`).FindStringSubmatch(body)[1]
	s.edit(url.Values{"name": {"Another name"}})
	response, body := s.post("/benches/sweetener/write", url.Values{"from": {"jaggery"}, "to": {"maple-syrup"}, "target": {old},
		"which": {"0"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "was changed meanwhile")
}

func (s *site) forecastSweet() float64 {
	p := s.plan()
	sweet := 0.0
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, mass, err := p.Weigh(item); err == nil && m.Kind == "sweetener" {
				sweet += float64(mass) * m.Sweetness()
			}
		}
	}
	return sweet
}

func TestListBecomesAPudding(t *testing.T) {
	s := newSite(t, nil)
	list := "1 cup rice (350 g), washed\n1 l milk\n2 cupz sugar\nsalt to taste\nsomething nobody knows"
	response, body := s.post("/intake", url.Values{"list": {list}, "name": {"From next door"}, "bowls": {"6"}})
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, body, "Which do you trust?")
	require.Contains(t, body, "They would agree with a cup of 412 ml; yours counts as 226 ml.")
	require.Contains(t, body, "is not in the pantry")

	answers := url.Values{"list": {list}, "name": {"From next door"}, "bowls": {"6"}, "serve": {"hot"},
		"material0": {"Short-grain white rice"}, "amount0": {"1 cup"}, "trust0": {"also"}, "material1": {"milk"}, "amount1": {"1 l"},
		"material2": {"sugar"}, "amount2": {""}, "material3": {"salt"}, "amount3": {""}, "material4": {""}, "amount4": {""}}
	response, body = s.post("/intake/pudding", answers)
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "leave the line out")
	answers.Set("amount2", "80 g")
	answers.Set("skip4", "1")
	s.accepts("/intake/pudding", answers)
	p := s.plan()
	require.Equal(t, "From next door", p.Name)
	require.Equal(t, "350 g", p.Steps[0].Items[1].Amount)
	require.Contains(t, p.Notes, "something nobody knows")
	require.Contains(t, p.Notes, "salt to taste")
}

func TestRecipeFile(t *testing.T) {
	s := newSite(t, nil)
	send := func(name, data string) (*http.Response, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		part, err := w.CreateFormFile("file", name)
		require.NoError(t, err)
		_, err = part.Write([]byte(data))
		require.NoError(t, err)
		require.NoError(t, w.Close())
		response, err := s.client.Post(s.server.URL+"/intake", w.FormDataContentType(), &b)
		require.NoError(t, err)
		defer response.Body.Close()
		var body bytes.Buffer
		_, err = body.ReadFrom(response.Body)
		require.NoError(t, err)
		return response, body.String()
	}
	response, body := send("recipe.json", `{"@type":"Recipe",
		"name":"Sago of the slipway","recipeYield":"8","recipeIngredient":["1 cup sago","1 l milk"]}`)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, body, "Sago of the slipway")
	require.Contains(t, body, `value="8"`)
	require.Contains(t, body, "Small starch pearls")
	// A saved page that carries no recipe for programs is read as it stands.
	response, body = send("page.html", `<!doctype html><html><head><title>x</title><style>p{}</style></head><body><nav><a>Home</a></nav>
		<h1>Sago of the ferry</h1><p>I love it.</p><h2>Ingredients</h2><ul><li>1 cup sago</li><li>1 l <b>milk</b></li>
		<li>90&nbsp;g sugar</li></ul>
		<h2>Method</h2><ol><li>Bring the milk to the boil, add the sago and simmer for 15 minutes.</li><li>Stir in the sugar.</li></ol>
		<script>track("1 l petrol")</script></body></html>`)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, body, "Sago of the ferry")
	require.Contains(t, body, "3 of 3 lines are clear")
	require.NotContains(t, body, "petrol")
	require.Contains(t, body, "Bring it to the boil")
	// A plan of another kitchen: its cup is 300 ml, ours 226.
	document := `{"format":"kirdu-plan/1","name":"From the other bank","measures":{"cup_ml":300},
		"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":120}},
		"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"3 cups"},{"material":"rice-short","amount":"80 g"}]},
			{"do":"heat","flame":"high","until":{"boil":true}}]}`
	response, _ = send("other.kirdu.json", document)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, "From the other bank", s.plan().Name)
	require.Equal(t, "927 g", s.plan().Steps[0].Items[0].Amount)
	require.Equal(t, "80 g", s.plan().Steps[0].Items[1].Amount)
	version := s.pudding().ID
	response, body = send("other.kirdu.json", strings.Replace(document, "3 cups", "3 cupz", 1))
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "steps[0].items[0].amount")
	require.Equal(t, version, s.pudding().ID, "nothing was taken over")

	response, body = send("picture.png", "\x89PNG")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "picture.png")
}

func TestScalingIsTaken(t *testing.T) {
	s := newSite(t, nil)
	p := s.pudding()
	s.accepts("/puddings/"+p.ID+"/scale", url.Values{"version": {"1"}, "bowls": {"18"}, "kind": {"reduce first"}})
	taken := s.plan()
	require.Equal(t, 18, taken.Serves)
	require.Equal(t, "the boathouse pot", taken.Pots[plan.MainPot].Name)
	require.Equal(t, []plan.Item{{Material: "rice-short", Amount: "315 g"}}, taken.Steps[3].Items)
	response, _ := s.post("/puddings/"+p.ID+"/scale", url.Values{"version": {"1"}, "bowls": {"18"}, "kind": {"reduce first"}})
	require.Equal(t, http.StatusConflict, response.StatusCode)
}

func TestHouseAndBasket(t *testing.T) {
	s := newSite(t, nil)
	s.accepts("/supplies", url.Values{"material": {"palm jaggery"}, "amount": {"1 cup"}})
	at, err := s.store.AtHand(context.Background())
	require.NoError(t, err)
	require.InDelta(t, 226*0.75, float64(at["palm-sugar"].V), 0.1)
	s.accepts("/supplies/palm-sugar/used-up", nil)

	_, body := s.get("/supplies")
	swap := regexp.MustCompile(`action="(/puddings/[0-9a-f-]+/swap)"`).FindStringSubmatch(body)[1]
	s.accepts(swap, url.Values{"bowls": {"6"}})

	_, body = s.get("/buying")
	require.Contains(t, body, "Walnut halves")
	s.accepts("/buying/ticks/walnut", url.Values{"in": {"1"}})
	_, text := s.get("/buying.txt")
	require.Contains(t, text, "[x] Walnut halves")
	require.Contains(t, text, "[ ] Whole milk")
	_, table := s.get("/buying.csv")
	rows, err := csv.NewReader(strings.NewReader(table)).ReadAll()
	require.NoError(t, err)
	require.Greater(t, len(rows), 5)
	require.Equal(t, []string{"kind", "material", "mass_g", "pieces", "piece", "in_basket", "for"}, rows[0])
	// More bowls: what is in the basket no longer covers it.
	buys, bought, err := s.store.Buying(context.Background())
	require.NoError(t, err)
	require.Greater(t, float64(bought["walnut"]), 50.0)
	s.accepts("/buying", url.Values{"pudding": {buys[1].PuddingID}, "bowls": {"28"}})
	_, body = s.get("/buying")
	require.Contains(t, body, "more than is in the basket")
	s.accepts("/buying/puddings/"+buys[1].PuddingID+"/remove", nil)
	_, body = s.get("/buying")
	require.NotContains(t, body, "Walnut halves")
}

func TestPreparationOnTheWorkbench(t *testing.T) {
	s := newSite(t, nil)
	ok := func(fields url.Values) {
		t.Helper()
		response, body := s.edit(fields)
		require.Equal(t, http.StatusSeeOther, response.StatusCode, regexp.MustCompile(`class="fault"[^>]*>[^<]*`).FindString(body))
	}
	ok(url.Values{"op": {"prepare:0"}, "prep[0].item": {"1"}, "prep[0].how": {"soak"}, "prep[0].minutes": {""}})
	require.Equal(t, plan.Soak, s.plan().Steps[0].Do)
	require.InDelta(t, 30, float64(s.plan().Steps[0].FullMinutes()), 0)
	ok(url.Values{"op": {"prepare:1"}, "prep[1].item": {"1"}, "prep[1].how": {"grind to a paste"}, "prep[1].minutes": {"6"}})
	require.Equal(t, []plan.Verb{plan.Soak, plan.Grind, plan.Add}, []plan.Verb{s.plan().Steps[0].Do, s.plan().Steps[1].Do,
		s.plan().Steps[2].Do})
	response, body := s.edit(url.Values{"op": {"prepare:2"}, "prep[2].item": {"0"}, "prep[2].how": {"soak"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "cannot be prepared so")
	ok(url.Values{"op": {"unprepare:1"}})
	ok(url.Values{"op": {"unprepare:0"}})
	require.Equal(t, plan.Add, s.plan().Steps[0].Do)
	require.Equal(t, "rice-short", s.plan().Steps[0].Items[1].Material)

	s.accepts("/puddings/"+s.pudding().ID+"/serve-at", url.Values{"at": {"2026-11-26T19:30"}})
	_, body = s.get("/puddings/" + s.pudding().ID)
	require.Contains(t, body, "Thu 18:")
	_, body = s.get("/")
	require.Contains(t, body, "on the table Thu 19:30")
}

func TestMeasureOfTheKitchenIsShown(t *testing.T) {
	var none measure.Measures
	require.Equal(t, "4¼ cups", none.Household(1050, measure.Body{Density: 1.03}))
	own := measure.Measures{"blue-mug_ml": 310, "glass_ml": 190}
	require.Equal(t, "1 blue mug", own.Household(319, measure.Body{Density: 1.03}))
}

// What a bench offers is written as it says, and says what goes with it.
func TestBenchAnswers(t *testing.T) {
	s := newSite(t, nil)
	for path, says := range map[string][]string{
		// 400 g at 18 % stretched to 6 %: 1 200 g with 800 g of water.
		"/benches/coconut?way=pack&pack=coconut-milk-tin&pack_g=400&pack_fat_pct=6": {"1\u202f200 g of coconut milk", "800 g of water",
			"label for sulphite"},
		// By hand: 100 g of sugar are as sweet as 100/0.902 g of jaggery.
		"/benches/sweetener?from=sugar-white&from_g=100&to=jaggery": {"110 g jaggery", "sour enough to split",
			"turns gold"},
		"/benches/sweetener?from=jaggery&from_g=100&to=sugar-white": {"90 g white sugar", "less water"},
		"/benches/sweetener?from=sugar-white&from_g=60&from2=honey&from2_g=40&to=maple-syrup": {"taste as sweet as 60 g white sugar " +
			"and 40 g honey"},
		"/benches/milk?way=blend&a=milk-skim&b=milk-lowfat&fat_pct=1":          {"stays thin"},
		"/benches/milk?way=poured&a=cream-double&b=milk-whole&a_g=900&b_g=100": {"turns greasy"},
		"/benches/milk?way=reduced&reduced_g=500&reduced_pct=50": {"1\u202f000 g of fresh milk",
			"500 g of water are gone"},
		"/benches/sweetener?way=syrup&lumps=jaggery&lumps_g=500&water_g=10": {"sets hard again", "children away"},
		"/benches/measure?material=egg&amount=3+eggs&into=g":                {"150 g"},
		"/benches/measure?material=milk&amount=1+l&into=blue-mug":           {"3¼ blue mugs"},
	} {
		response, body := s.get(path)
		require.Equal(t, http.StatusOK, response.StatusCode, path)
		for _, text := range says {
			require.Contains(t, body, text, path)
		}
	}
}

// A watchpoint that an edit mends is mended with one press, and undone with
// another.
func TestWatchpointIsMended(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.edit(url.Values{"sugar_after": {"0"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, body := s.get("/puddings/" + s.pudding().ID)
	require.Contains(t, body, "ties up water")
	op := regexp.MustCompile(`value="(mend:sweet-before-soft:\d+)"`).FindStringSubmatch(body)
	require.NotNil(t, op)
	response, _ = s.edit(url.Values{"op": {op[1]}, "sugar_after": {"0"}}) // as the whole form is sent
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, body = s.get("/puddings/" + s.pudding().ID)
	require.NotContains(t, body, "ties up water")
	response, body = s.edit(url.Values{"op": {op[1]}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "no longer there")
}
