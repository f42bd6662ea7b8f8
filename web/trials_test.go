package web_test

import (
	"encoding/json"
	"fmt"
	"html"
	"maps"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/plantest"
)

// Cooks' puddings go through the front door: begun from a way, and then made what they are by
// the forms of the pages alone.

// A builder makes a pudding by forms.
type builder struct {
	*site
	id     string
	target map[string]any
	steps  []any
	pots   map[string]string // a pot of the target to its name in what is built
	ids    []int             // which step of the target each step is; below 0 for none
}

const (
	begun = -1 // the way began with it
	taker = -2 // it takes a new part, for as long as the target's own step is not there
)

// verbKinds are the names by which each verb is put in.
var verbKinds = map[plan.Verb]string{
	plan.Prep: "prepare: wash, cut, peel, grate", plan.Soak: "prepare: soak", plan.Roast: "prepare: roast",
	plan.Fry: "prepare: fry a garnish",
	plan.Mix: "prepare: stir together cold", plan.Melt: "prepare: melt a syrup", plan.Steam: "prepare: steam",
	plan.Press: "prepare: press coconuts",
	plan.Grind: "prepare: grind a part", plan.Squeeze: "prepare: squeeze juice out of a part", plan.Heat: "simmer",
	plan.Pressure: "cook under pressure",
	plan.Bake:     "bake", plan.Mash: "mash", plan.Drain: "drain", plan.Rest: "rest", plan.Cool: "cool down", plan.Hold: "keep hot",
	plan.Chill:   "chill",
	plan.Caramel: "brown sugar dry", plan.Add: "put something in",
}

func object(t require.TestingT, x any) map[string]any {
	data, err := json.Marshal(x)
	require.NoError(t, err)
	o := map[string]any{}
	require.NoError(t, json.Unmarshal(data, &o))
	return o
}

func (b *builder) present() *plan.Plan {
	stored, err := b.store.Pudding(b.t.Context(), b.id)
	require.NoError(b.t, err)
	return stored.Plan
}

func (b *builder) send(path string, form url.Values, what string) {
	b.t.Helper()
	stored, err := b.store.Pudding(b.t.Context(), b.id)
	require.NoError(b.t, err)
	form.Set("version", strconv.Itoa(stored.Version))
	response, body := b.post("/puddings/"+b.id+path, form)
	faults := regexp.MustCompile(`class="fault"[^>]*>([^<]*)<`).FindAllStringSubmatch(body, 3)
	require.Equal(b.t, http.StatusSeeOther, response.StatusCode, "%s: %v", what, faults)
}

var fieldName = regexp.MustCompile(`<(?:input|select|textarea)[^>]* name="([^"]+)"`)

// fields are the names of what can be filled in on a page.
func (b *builder) fields(path string) []string {
	_, body := b.get("/puddings/" + b.id + path)
	var names []string
	for _, m := range fieldName.FindAllStringSubmatch(body, -1) {
		names = append(names, html.UnescapeString(m[1]))
	}
	return names
}

// lookUp finds what stands at a path of a document: "until.minutes", "items[2].amount".
func lookUp(document any, path string) any {
	for _, part := range strings.FieldsFunc(path, func(r rune) bool { return r == '.' || r == '[' }) {
		switch x := document.(type) {
		case map[string]any:
			document = x[strings.TrimSuffix(part, "]")]
		case []any:
			n, err := strconv.Atoi(strings.TrimSuffix(part, "]"))
			if err != nil || n >= len(x) {
				return nil
			}
			document = x[n]
		default:
			return nil
		}
	}
	return document
}

func typed(value any) string {
	switch x := value.(type) {
	case string:
		return x
	case bool:
		return strconv.FormatBool(x)
	case float64:
		return strconv.FormatFloat(x, 'f', -1, 64)
	}
	return ""
}

// fill takes each field of a page from a document.
func fill(names []string, prefix string, document map[string]any) url.Values {
	form := url.Values{}
	for _, name := range names {
		path, mine := strings.CutPrefix(name, prefix)
		if !mine || strings.HasSuffix(name, ".remove") {
			continue
		}
		if _, isTick := strings.CutSuffix(path, "_shown"); isTick {
			form.Set(name, "1")
			continue
		}
		switch x := lookUp(document, path).(type) {
		case []any:
			form.Del(name)
			for _, one := range x {
				form.Add(name, typed(one))
			}
		case nil:
			if !slices.Contains(names, name+"_shown") {
				form.Set(name, "")
			}
		case bool:
			if x || !slices.Contains(names, name+"_shown") {
				form.Set(name, typed(x))
			}
		default:
			form.Set(name, typed(x))
		}
	}
	return form
}

// build makes the target out of a way.
func (b *builder) build(target *plan.Plan) *plan.Plan {
	response, _ := b.post("/puddings/new", url.Values{"way": {"reduced in milk"}, "bowls": {"4"}})
	require.Equal(b.t, http.StatusSeeOther, response.StatusCode)
	b.id = strings.TrimPrefix(response.Header.Get("Location"), "/puddings/")
	b.target = object(b.t, target)
	b.steps, _ = b.target["steps"].([]any)
	for b.ids = nil; len(b.present().Steps) > 1; {
		b.send("", url.Values{"op": {fmt.Sprintf("remove-step:%d", len(b.present().Steps)-1)}}, "leave out")
	}
	b.ids = []int{begun}
	for _, name := range target.PotNamesSorted() {
		b.pot(name, target)
	}
	b.around(target, false)
	for i := range target.Steps {
		b.step(i, target)
	}
	for at := len(b.ids) - 1; at >= 0; at-- {
		if b.ids[at] < 0 {
			b.do(url.Values{"op": {fmt.Sprintf("remove-step:%d", at)}}, 0)
		}
	}
	b.around(target, true)
	return b.present()
}

// pot puts in a pot of the target.
func (b *builder) pot(name string, target *plan.Plan) {
	if name == plan.MainPot {
		b.pots = map[string]string{name: name}
		return
	}
	had := b.present().Pots
	b.send("/all", url.Values{"pots.new": {"shape:" + string(target.Pots[name].Shape)}, "op": {"more"}}, "a pot")
	for now := range b.present().Pots {
		if _, before := had[now]; !before {
			b.pots[name] = now
		}
	}
}

// around says what stands around the steps.
func (b *builder) around(target *plan.Plan, served bool) {
	document := object(b.t, target)
	if len(target.Serve) > 0 && document["served_from"] == nil {
		document["served_from"] = []any{plan.MainPot}
	}
	if one, is := document["served_from"].(string); is {
		document["served_from"] = []any{one}
	}
	if served, is := document["served_from"].([]any); is {
		for i := range served {
			served[i] = b.pots[typed(served[i])]
		}
	}
	names := b.fields("/all")
	form := fill(names, "", document)
	for _, name := range names {
		if strings.HasPrefix(name, "pots") || strings.HasPrefix(name, "burners") {
			form.Del(name)
		}
	}
	if served { // what comes to the table is known when all is there
		form = url.Values{"served_from": form["served_from"], "served_from_shown": {"1"}}
	} else {
		delete(form, "served_from")
		delete(form, "served_from_shown")
	}
	for original, key := range b.pots {
		at := slices.Index(b.present().PotNamesSorted(), key)
		prefix := fmt.Sprintf("pots[%d].", at)
		pot := object(b.t, target.Pots[original])
		if pot["uses"] == nil {
			pot["uses"] = []any{"stove", "pressure", "oven", "slow-cooker", "microwave", "table"}
		}
		for name, values := range fill(names, prefix, pot) {
			form[name] = values
		}
	}
	b.send("/all", form, "what stands around")
}

// do sends an edit and finds where the new steps are.
func (b *builder) do(form url.Values, insert ...int) {
	b.t.Helper()
	before := b.present().Steps
	b.send("", form, fmt.Sprint(form))
	after := b.present().Steps
	same := 0
	for same < len(before) && same < len(after) && jsonOf(before[same]) == jsonOf(after[same]) {
		same++
	}
	if more := len(after) - len(before); more > 0 {
		require.Len(b.t, insert, more)
		// Equal steps stand beside each other: the new one is the last that can be.
		b.ids = slices.Insert(b.ids, same, insert...)
		return
	}
	b.ids = slices.Delete(b.ids, same, same+len(before)-len(after))
}

func jsonOf(s plan.Step) string {
	s.Items = slices.Clone(s.Items)
	for i := range s.Items {
		s.Items[i].Share = nil // a new taker halves what another took
	}
	data, err := json.Marshal(s)
	if err != nil {
		panic(err)
	}
	return string(data)
}

// step puts in one step of the target and fills in all of it.
func (b *builder) step(i int, target *plan.Plan) {
	b.t.Helper()
	s := &target.Steps[i]
	document, _ := b.steps[i].(map[string]any)
	form := url.Values{"op": {"add-step"}, "step.kind": {verbKinds[s.Do]}, "step.after": {strconv.Itoa(len(b.ids) - 1)}}
	if s.Do == plan.Portion {
		form.Set("step.kind", "share out in bowls")
		if s.Slices > 0 {
			form.Set("step.kind", "cut in slices")
		}
	}
	if !s.Do.IsPreparation() {
		form.Set("step.pot", b.pots[s.PotName()])
	}
	insert := []int{i}
	switch {
	case s.Of != "" && s.Do.IsPreparation():
		form.Set("step.from", "part:"+s.Of)
	case len(s.Items) > 0 && s.Items[0].Material != "":
		form.Set("step.material", s.Items[0].Material)
		form.Set("step.amount", s.Items[0].Amount)
		if s.Items[0].Amount == "" {
			form.Set("step.amount", "100 g")
		}
	case len(s.Items) > 0:
		form.Set("step.kind", "put in a part, or what another pot holds")
		form.Set("step.from", "part:"+s.Items[0].Part)
		if s.Items[0].Pot != "" {
			form.Set("step.from", "pot:"+b.pots[s.Items[0].Pot])
		}
	}
	if s.Do.IsPreparation() && s.Of == "" {
		insert = []int{i, taker}
	}
	b.do(form, insert...)
	at := slices.Index(b.ids, i)
	if len(insert) > 1 { // it takes half for now
		path := fmt.Sprintf("/steps/%d", at+1)
		b.send(path, url.Values{fmt.Sprintf("steps[%d].items[0].share", at+1): {"0.5"}}, "half of it")
	}
	document = clone(b.t, document)
	if document["pot"] != nil || b.pots[s.PotName()] != plan.MainPot {
		document["pot"] = b.pots[s.PotName()]
	}
	if pan, is := document["pan"].(string); is {
		document["pan"] = b.pots[pan]
	}
	if items, is := document["items"].([]any); is {
		for _, item := range items {
			if pot, is := item.(map[string]any)["pot"].(string); is {
				item.(map[string]any)["pot"] = b.pots[pot]
			}
		}
	}
	if until, is := document["until"].(map[string]any); is && until["of_step"] != nil {
		until["of_step"] = float64(slices.Index(b.ids, int(until["of_step"].(float64))))
	}
	path := fmt.Sprintf("/steps/%d", at)
	for range len(s.Items) + 1 { // one item more each time
		names := b.fields(path)
		b.send(path, fill(names, fmt.Sprintf("steps[%d].", at), document), fmt.Sprintf("step %d, %s", i, s.Do))
		if len(b.present().Steps[at].Items) >= len(s.Items) {
			break
		}
	}
}

func clone(t require.TestingT, o map[string]any) map[string]any { return object(t, o) }

// described is a step as it can be compared: pots by what they are in the target.
func (b *builder) described(p *plan.Plan, pots map[string]string, number func(int) int) []string {
	var all []string
	for i := range p.Steps {
		s := p.Steps[i]
		s.Pot = pots[s.PotName()]
		s.Pan = pots[s.Pan]
		s.Items = slices.Clone(s.Items)
		for j := range s.Items {
			s.Items[j].Pot = pots[s.Items[j].Pot]
		}
		if s.Until != nil && s.Until.OfStep != nil {
			until := *s.Until
			of := number(*until.OfStep)
			until.OfStep = &of
			s.Until = &until
		}
		data, err := json.Marshal(s)
		require.NoError(b.t, err)
		all = append(all, string(data))
	}
	slices.Sort(all)
	return all
}

// Every cook's pudding can be said by forms, and what was built is the same pudding: the same
// steps, and the same forecast.
func TestCooksPuddingsAreBuiltByForms(t *testing.T) {
	s := newSite(t, nil)
	targets := plantest.Trials(t)
	maps.Copy(targets, plantest.References(t))
	for name, target := range targets {
		t.Run(name, func(t *testing.T) {
			b := &builder{site: &site{}}
			*b.site = *s
			b.t = t
			built := b.build(target)
			back, same := map[string]string{}, map[string]string{}
			for original, key := range b.pots {
				back[key], same[original] = original, original
			}
			want := b.described(target, same, func(i int) int { return i })
			got := b.described(built, back, func(i int) int { return b.ids[i] })
			require.Equal(t, want, got)
			for original, key := range b.pots {
				require.Equal(t, target.Pots[original], built.Pots[key])
			}
			// In the air of one kitchen both come to the same.
			one, other := target.Clone(), built.Clone()
			other.Kitchen, other.Measures, other.Materials, other.Calibration = one.Kitchen, one.Measures, one.Materials, one.Calibration
			f, g := forecast.Run(one, forecast.Options{NominalOnly: true}), forecast.Run(other, forecast.Options{NominalOnly: true})
			require.InEpsilon(t, f.Yield.MassG.Value, g.Yield.MassG.Value, 1e-6)
			require.InEpsilon(t, f.Time.TotalMin.Value, g.Time.TotalMin.Value, 1e-6)
			require.InEpsilon(t, f.Sweetness.Pct.Value, g.Sweetness.Pct.Value, 1e-6)
			require.Equal(t, target.Serves, built.Serves)
			require.Equal(t, target.Serve, built.Serve)
			require.Equal(t, target.Name, built.Name)
		})
	}
}

// The second of two devices sees what the first has changed, and loses nothing.
func TestTwoDevicesAtOneStep(t *testing.T) {
	s := newSite(t, nil)
	id, version := s.pudding().ID, strconv.Itoa(s.pudding().Version)
	_, page := s.get("/puddings/" + id + "/steps/0") // both have it open
	second := formIn(t, page, "/puddings/"+id+"/steps/0")
	first := url.Values{"version": {version}, "steps[0].items[0].amount": {"900 g"}}
	response, _ := s.post("/puddings/"+id+"/steps/0", first)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	second.Set("steps[0].sign", "the spoon stands")
	second.Set("steps[0].note", "as my aunt does")
	response, body := s.post("/puddings/"+id+"/steps/0", second)
	require.Equal(t, http.StatusConflict, response.StatusCode)
	require.Contains(t, body, "changed this pudding meanwhile")
	require.Contains(t, body, "900 g")
	require.Contains(t, body, "the spoon stands", "what was typed is there")
	again := formIn(t, body, "/puddings/"+id+"/steps/0")
	require.NotEqual(t, version, again.Get("version"))
	response, _ = s.post("/puddings/"+id+"/steps/0", again)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, "the spoon stands", s.plan().Steps[0].Sign)
	require.Equal(t, "900 g", s.plan().Steps[0].Items[0].Amount, "what the first device saved stays")

	response, _ = s.post("/puddings/"+id+"/all", url.Values{"version": {version}, "notes": {"late"}})
	require.Equal(t, http.StatusConflict, response.StatusCode)
	require.NotEqual(t, "late", s.plan().Notes)
}
