package web_test

import (
	"context"
	"maps"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/plantest"
)

// formIn is what a browser sends of a form of a page when nothing was touched. Each select of
// it must have an option that is selected.
func formIn(t *testing.T, page, action string) url.Values {
	t.Helper()
	root, err := html.Parse(strings.NewReader(page))
	require.NoError(t, err)
	form := url.Values{}
	found := false
	var walk func(n *html.Node, inside bool)
	walk = func(n *html.Node, inside bool) {
		at := func(name string) (string, bool) {
			for _, a := range n.Attr {
				if a.Key == name {
					return a.Val, true
				}
			}
			return "", false
		}
		if n.Type == html.ElementNode {
			name, _ := at("name")
			switch n.Data {
			case "form":
				to, _ := at("action")
				inside = to == action
				found = found || inside
			case "input":
				kind, _ := at("type")
				_, checked := at("checked")
				if value, _ := at("value"); inside && name != "" && (kind != "checkbox" && kind != "radio" || checked) {
					form.Add(name, value)
				}
			case "textarea":
				if inside && n.FirstChild != nil {
					form.Add(name, n.FirstChild.Data)
				} else if inside {
					form.Add(name, "")
				}
			case "select":
				if inside {
					chosen, one := selected(n)
					require.True(t, one, "%s has no selected option", name)
					form.Add(name, chosen)
				}
			}
		}
		for child := n.FirstChild; child != nil; child = child.NextSibling {
			walk(child, inside)
		}
	}
	walk(root, false)
	require.True(t, found, "no form for %s", action)
	return form
}

// selected finds the option of a select that is marked as such.
func selected(n *html.Node) (value string, found bool) {
	if n.Type == html.ElementNode && n.Data == "option" {
		is := false
		for _, a := range n.Attr {
			switch a.Key {
			case "selected":
				is = true
			case "value":
				value = a.Val
			}
		}
		return value, is
	}
	for child := n.FirstChild; child != nil; child = child.NextSibling {
		if value, found := selected(child); found {
			return value, true
		}
	}
	return "", false
}

// oddPlan says things that no cook of ours says.
const oddPlan = `{"format":"kirdu-plan/1","name":"odd","serves":5,"served_from":["main","side"],"aim":{"sweet_pct":12.5},
	"eaters":{"under_five":true}, "pots":{"main":{"shape":"bowl","top_mm":300,"height_mm":140,"heavy":true,
	"burner":"back"},"side":{"shape":"taper","bottom_mm":150,"top_mm":200, "height_mm":90,"uses":["table",
	"stove"]}},"burners":{"back":{"kind":"wood","power_w":3000,"efficiency":0.15,"flame_w":{"low":120.5}}},
	"steps":[ {"do":"add","items":[{"material":"sugar-white","amount":"2 1/2 tbsp","also":"40 g"}]}, {"do":"add",
	"items":[{"material":"rice-short","amount":"90.25 g","state":"raw"},{"material":"water","above_mm":31.5}],
	"manner":["whisking"]}, {"do":"heat","flame_w":333.3,"lid":false,"until":{"boil":true,"minutes":20,
	"max_minutes":33}}, {"do":"heat","flame_pct":12.5,"stir":"none","until":{"doneness":{"of":"rice-short",
	"at":1.15},"thickness":4.25}}, {"do":"add","pot":"side","items":[{"pot":"main","share":0.37}],"temp_c":71.5},
	{"do":"mash","pct":33.3,"minutes":0.5}, {"do":"cool","to_c":40.5,"lid":true},{"do":"rest","minutes":7.25,
	"lid":true,"note":"as it is"}]}`

// Saving a page that nobody touched changes nothing: the Workbench, what stands around the
// steps, and each step, of every way, reference and cook's pudding.
func TestUntouchedPagesChangeNothing(t *testing.T) {
	s := newSite(t, nil)
	plans := plantest.Trials(t)
	maps.Copy(plans, plantest.References(t))
	for _, w := range plan.Ways() {
		for _, serve := range []plan.Serve{plan.Hot, plan.Chilled} {
			choice, err := w.Check(plan.WayChoice{Bowls: 6, Serve: serve, Burner: vessel.DefaultBurner()})
			if err != nil {
				continue // a way that is not served so
			}
			p, err := w.Start(choice)
			require.NoError(t, err)
			plans[w.Name+" "+string(serve)] = p
		}
	}
	odd, err := plan.Read([]byte(oddPlan))
	require.NoError(t, err)
	plans["odd"] = odd
	home, err := s.store.Home(context.Background())
	require.NoError(t, err)
	for name, p := range plans {
		id := uuid.NewString()
		require.NoError(t, s.store.CreatePudding(t.Context(), id, p.In(home), s.kitchen.Now()))
		document := func() string {
			stored, err := s.store.Pudding(t.Context(), id)
			require.NoError(t, err)
			data, err := stored.Plan.JSON()
			require.NoError(t, err)
			return string(data)
		}
		before := document()
		for _, path := range []string{"", "/all", "/steps/0"} {
			response, page := s.get("/puddings/" + id + path)
			require.Equal(t, http.StatusOK, response.StatusCode, name)
			response, body := s.post("/puddings/"+id+path, formIn(t, page, "/puddings/"+id+path))
			require.Equal(t, http.StatusSeeOther, response.StatusCode, "%s%s: %s", name, path, faultsIn(body))
			require.Equal(t, before, document(), "%s%s", name, path)
		}
	}
	require.Greater(t, len(plans), 70)
}

func faultsIn(body string) string {
	at := strings.Index(body, `class="fault"`)
	if at < 0 {
		return ""
	}
	return body[at:min(len(body), at+200)]
}
