package plan

import (
	"encoding/json"
	"fmt"
	"kirdu/core/measure"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// small is a plan with nothing but what is needed.
const small = `{"format":"kirdu-plan/1","name":"Rice","pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":100}},
"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"}]},
{"do":"heat","flame":"medium","until":{"boil":true}}]}`

func caseFiles(t testing.TB) map[string][]byte {
	t.Helper()
	names, err := filepath.Glob("../forecast/testdata/*.kirdu.json")
	require.NoError(t, err)
	require.NotEmpty(t, names)
	files := map[string][]byte{}
	for _, name := range names {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		files[filepath.Base(name)] = data
	}
	return files
}

func TestReferencePlansHaveNoFaults(t *testing.T) {
	for name, data := range caseFiles(t) {
		_, err := Read(data)
		require.NoError(t, err, name)
	}
}

func TestDefaults(t *testing.T) {
	p, err := Read([]byte(small))
	require.NoError(t, err)
	require.Equal(t, 4, p.Serves)
	require.Equal(t, Hot, p.Serve)
	require.InDelta(t, 150, float64(p.PortionG), 0)
	require.InDelta(t, 24, float64(p.Kitchen.AmbientC), 0)
	require.InDelta(t, 2200, float64(p.Burner.PowerW), 0)
	require.InDelta(t, 0.45, p.Burner.Efficiency, 0)
	require.Equal(t, []string{"main"}, p.Served())
	require.Equal(t, StirOften, p.Steps[1].Stirring())
	require.InDelta(t, 240, float64(p.Steps[1].Until.Guard()), 0)
}

func TestWrittenPlanReadsTheSame(t *testing.T) {
	for name, data := range caseFiles(t) {
		t.Run(name, func(t *testing.T) {
			p := &Plan{}
			var tree map[string]any
			require.NoError(t, json.Unmarshal(data, &tree))
			fillDefaults(tree)
			filled, err := json.Marshal(tree)
			require.NoError(t, err)
			require.NoError(t, json.Unmarshal(filled, p))
			written, err := p.JSON()
			require.NoError(t, err)
			require.JSONEq(t, string(filled), string(written), "no key of the format is lost")
		})
	}
}

func TestFaultsHavePaths(t *testing.T) {
	edit := func(old, fresh string) string {
		require.Contains(t, small, old)
		return strings.Replace(small, old, fresh, 1)
	}
	cases := map[string]struct {
		document string
		want     []string
	}{
		"unit": {edit("90 g", "2 cupz"), []string{`steps[0].items[1].amount: "2 cupz": measure.unknown-unit: cupz`}},
		"material": {edit("rice-short", "rice-shrot"),
			[]string{`steps[0].items[1].material: "rice-shrot": plan.near-material: plan.unknown-material, rice-short`}},
		"unknown key":   {edit(`"name":"Rice"`, `"name":"Rice","colour":"red"`), []string{"colour: plan.unknown-key"}},
		"flame":         {edit(`"medium"`, `"hgih"`), []string{`steps[1].flame: "hgih": plan.one-of: [off low`}},
		"no main pot":   {edit(`"main":{`, `"side":{`), []string{"pots.main: plan.main-pot"}},
		"no height":     {edit(`,"height_mm":100`, ``), []string{"pots.main.height_mm: plan.missing"}},
		"negative size": {edit(`"height_mm":100`, `"height_mm":-5`), []string{"pots.main.height_mm: -5: measure.above: 0, 1500"}},
		"no target":     {edit(`{"boil":true}`, `{}`), []string{"steps[1].until: plan.no-target"}},
		"two flames": {edit(`"flame":"medium"`, `"flame":"medium","flame_pct":40`),
			[]string{"steps[1]: plan.exactly-one: [flame flame_pct flame_w]"}},
		"verb": {edit(`"do":"heat"`, `"do":"simmer"`), []string{`steps[1].do: "simmer": plan.one-of: [prep soak`}},
		"empty pot": {edit(`"do":"add",`, `"do":"add","pot":"side",`), []string{`steps[0].pot: "side": plan.no-pot`,
			`steps[1]: plan.pot-empty: main`}},
		"no such part": {edit(`{"material":"rice-short","amount":"90 g"}`, `{"part":"rice"}`),
			[]string{`steps[0].items[1].part: "rice": plan.no-part`}},
		"doneness of none": {edit(`{"boil":true}`, `{"doneness":{"of":"barley","at":1}}`),
			[]string{`steps[1].until.doneness.of: "barley": plan.not-in-pot: [rice-short]`}},
		"later step": {edit(`{"boil":true}`, `{"remaining_pct":70,"of_step":1}`),
			[]string{"steps[1].until.of_step: 1: plan.of-step"}},
		"zero amount": {edit("90 g", "0 g"), []string{"steps[0].items[1].amount", "measure.not-positive"}},
		"served from": {edit(`"steps"`, `"served_from":"tray","steps"`), []string{`served_from: "tray": plan.no-pot`}},
		"many at once": {edit("90 g", "2 cupz\",\"colour\":\"red"), []string{
			`steps[0].items[1].colour: plan.unknown-key`}},
		"two lines for two faults": {strings.Replace(edit("90 g", "-1 g"), `"name":"Rice"`, `"name":""`, 1), []string{
			`name: "": plan.text: 1, 80`, `steps[0].items[1].amount: "-1 g"`}},
		"no JSON":       {"{", []string{"plan: plan.not-json"}},
		"a list":        {"[]", []string{"plan: []: plan.object"}},
		"more behind":   {small + "{}", []string{"plan: plan.text-follows"}},
		"a huge number": {edit(`"diameter_mm":200`, `"diameter_mm":1e999`), []string{"plan: plan.not-json"}},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, err := Read([]byte(c.document))
			require.Error(t, err)
			for _, want := range c.want {
				require.Contains(t, err.Error(), want)
			}
		})
	}
}

func TestSizeIsBounded(t *testing.T) {
	_, err := Read([]byte(`{"notes":"` + strings.Repeat("x", MaxBytes) + `"}`))
	require.ErrorIs(t, err, ErrTooLong)
	steps := strings.Repeat(`{"do":"rest","minutes":1},`, 201)
	_, err = Read([]byte(strings.Replace(small, `"steps":[`, `"steps":[`+steps, 1)))
	require.ErrorContains(t, err, "steps: plan.entries: 203, 1, 200")
}

func TestPartsAreFollowed(t *testing.T) {
	document := func(steps string) []byte {
		return []byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":100},
		"side":{"shape":"straight","diameter_mm":160,"height_mm":90}},"steps":[` + steps + `]}`)
	}
	soak := `{"do":"soak","name":"grain","items":[{"material":"rice-short","amount":"90 g"}],"minutes":30},`
	milk := `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}%s]}`
	cases := map[string]struct{ steps, fault string }{
		"a soaked part":    {soak + fmt.Sprintf(milk, `,{"part":"grain"}`), ""},
		"a part by halves": {soak + fmt.Sprintf(milk, `,{"part":"grain","share":0.5}`) + "," + fmt.Sprintf(milk, `,{"part":"grain"}`), ""},
		"a part used twice": {soak + fmt.Sprintf(milk, `,{"part":"grain"}`) + "," + fmt.Sprintf(milk, `,{"part":"grain"}`),
			"plan.part-gone"},
		"a part made twice":    {soak + soak + fmt.Sprintf(milk, `,{"part":"grain"}`), "plan.part-twice"},
		"poured from itself":   {fmt.Sprintf(milk, "") + `,{"do":"add","items":[{"pot":"main"}]}`, "plan.pot-into-itself"},
		"poured from an empty": {fmt.Sprintf(milk, "") + `,{"do":"add","items":[{"pot":"side"}]}`, "plan.empty-here"},
		"all poured away": {fmt.Sprintf(milk, "") + `,{"do":"add","pot":"side","items":[{"pot":"main"}]}`,
			"plan.nothing-served"},
		"finger above nothing": {soak + `{"do":"soak","name":"x","items":[{"part":"grain"}],"in":{"material":"water","above_mm":20},
			"minutes":5}`, "plan.above-pot"},
		"finger of rice": {`{"do":"add","items":[{"material":"rice-short","above_mm":20}]}`, "plan.above-liquid"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, err := Read(document(c.steps))
			if c.fault == "" {
				require.NoError(t, err)
				return
			}
			require.ErrorContains(t, err, c.fault)
		})
	}
}

// TestRulesAgreeWithTheSchema changes the reference plans at random and asks
// both the rules here and the normative schema.
func TestRulesAgreeWithTheSchema(t *testing.T) {
	schema, err := jsonschema.NewCompiler().Compile("../../docs/plan.schema.json")
	require.NoError(t, err)
	files := caseFiles(t)
	names := []string{}
	for name := range files {
		names = append(names, name)
	}
	values := []any{nil, true, false, 0.0, -1.0, 1.0, 2.5, 300.0, 1e6, "", "x", "medium", "1 cup", []any{}, map[string]any{}, []any{"main"}}
	extra := []string{"note", "minutes", "pct", "flame", "flame_pct", "lid", "share", "of", "colour", "until", "pot", "part"}
	rapid.Check(t, func(t *rapid.T) {
		var tree any
		require.NoError(t, json.Unmarshal(files[rapid.SampledFrom(names).Draw(t, "file")], &tree))
		for range rapid.IntRange(0, 3).Draw(t, "changes") {
			change(t, tree, values, extra)
		}
		data, err := json.Marshal(tree)
		require.NoError(t, err)
		var again any
		require.NoError(t, json.Unmarshal(data, &again))
		c := &checker{}
		documentRule(c, "", again)
		problem := schema.Validate(tree)
		if (problem == nil) != (len(c.faults) == 0) {
			t.Fatalf("schema says %v, rules say %v, of %s", problem, c.faults, data)
		}
	})
}

// change walks to a random place and removes, replaces or adds there.
func change(t *rapid.T, tree any, values []any, extra []string) {
	for {
		switch at := tree.(type) {
		case map[string]any:
			keys := sortedKeys(at)
			if len(keys) == 0 {
				return
			}
			key := rapid.SampledFrom(keys).Draw(t, "key")
			switch rapid.IntRange(0, 5).Draw(t, "what") {
			case 0:
				delete(at, key)
				return
			case 1:
				at[key] = rapid.SampledFrom(values).Draw(t, "value")
				return
			case 2:
				at[rapid.SampledFrom(extra).Draw(t, "new key")] = rapid.SampledFrom(values).Draw(t, "value")
				return
			}
			tree = at[key]
		case []any:
			if len(at) == 0 {
				return
			}
			tree = at[rapid.IntRange(0, len(at)-1).Draw(t, "place")]
		default:
			return
		}
	}
}

func TestScale(t *testing.T) {
	p, err := Read([]byte(small))
	require.NoError(t, err)
	p.Scale(10)
	require.Equal(t, 10, p.Serves)
	require.Equal(t, "2.5 l", p.Steps[0].Items[0].Amount)
	require.Equal(t, "225 g", p.Steps[0].Items[1].Amount)
}

func TestMoveStepKeepsReferences(t *testing.T) {
	p, err := Read([]byte(strings.Replace(small, `{"do":"heat","flame":"medium","until":{"boil":true}}`,
		`{"do":"heat","flame":"medium","until":{"boil":true}},
		{"do":"heat","flame":"low","until":{"remaining_pct":80,"of_step":1}},
		{"do":"add","items":[{"material":"sugar-white","amount":"50 g"}]}`, 1)))
	require.NoError(t, err)
	require.Equal(t, 3, p.SugarStep())
	require.True(t, p.MoveStep(3, 1))
	require.Equal(t, Add, p.Steps[1].Do)
	require.Equal(t, 2, *p.Steps[3].Until.OfStep, "it still means the boil")
	require.False(t, p.MoveStep(9, 0))
	require.True(t, p.RemoveItem(1, 0), "with its last item the addition goes")
	require.Len(t, p.Steps, 3)
	require.Equal(t, 1, *p.Steps[2].Until.OfStep)
}

func TestServeAs(t *testing.T) {
	p, err := Read([]byte(small))
	require.NoError(t, err)
	p.ServeAs(Chilled)
	require.Equal(t, Chill, p.Steps[len(p.Steps)-1].Do)
	p.ServeAs(Chilled)
	require.Len(t, p.Steps, 5, "once is enough")
	require.Equal(t, Portion, p.Steps[3].Do, "bowls cool sooner than a pot")
	p.ServeAs(Hot)
	require.Len(t, p.Steps, 3, "it is still ladled out")
}

func TestOwnMaterials(t *testing.T) {
	with := func(material string) []byte {
		return []byte(strings.Replace(strings.Replace(small, `"steps"`, `"materials":[`+material+`],"steps"`, 1), "rice-short", "rice-hill", 1))
	}
	p, err := Read(with(`{"slug":"rice-hill","name":"Hill rice","behaviour":"grain","water":12,"starch":78,"bulk_g_per_ml":0.8,
		"kinetics":{"cook_min_98c":30}}`))
	require.NoError(t, err)
	hill, ok := p.Pantry().Material("rice-hill")
	require.True(t, ok)
	require.InDelta(t, 100, float64(hill.Sum()), 1e-9, "what the label leaves out counts as other solids")
	_, err = Read(with(`{"slug":"rice-hill","name":"Hill rice","behaviour":"grain","water":60,"starch":78,"bulk_g_per_ml":0.8,
		"kinetics":{"cook_min_98c":30}}`))
	require.ErrorContains(t, err, "materials[0]: pantry.sum")
	_, err = Read(with(`{"slug":"rice-hill","name":"Hill rice","behaviour":"grain","water":12,"starch":78,"bulk_g_per_ml":0.8}`))
	require.ErrorContains(t, err, "pantry.kinetics")
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(small))
	for _, data := range caseFiles(f) {
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := Read(data)
		if err != nil {
			return
		}
		written, err := p.JSON()
		require.NoError(t, err)
		again, err := Read(written)
		require.NoError(t, err, "what was read can be written and read")
		rewritten, err := again.JSON()
		require.NoError(t, err)
		require.JSONEq(t, string(written), string(rewritten))
	})
}

func TestADocumentOfAnotherEdition(t *testing.T) {
	_, err := Read([]byte(strings.Replace(small, Format, formatName+"12", 1)))
	require.ErrorIs(t, err, ErrLater)
	var faults measure.Faults
	require.ErrorAs(t, err, &faults)
	require.Equal(t, "format", faults[0].Field)

	before := upgrades
	defer func() { upgrades = before }()
	upgrades = append(upgrades, func(o map[string]any) { o["note"] = "as of old" })
	old := map[string]any{"format": Format}
	require.NoError(t, upgrade(old))
	require.Equal(t, map[string]any{"format": formatName + "2", "note": "as of old"}, old)
	young := map[string]any{"format": formatName + "2"}
	require.NoError(t, upgrade(young))
	require.NotContains(t, young, "note")
}

func TestNoPlanTakesForEver(t *testing.T) {
	long := func(n int) string {
		return strings.Replace(small, `"steps":[`, `"steps":[`+
			strings.Repeat(`{"do":"soak","name":"x","items":[{"material":"rice-short","amount":"9 g"}],"minutes":10000},`, n), 1)
	}
	_, err := Read([]byte(long(2)))
	require.NotContains(t, fmt.Sprint(err), "two weeks")
	_, err = Read([]byte(long(3)))
	require.ErrorContains(t, err, "steps[2]")
	require.ErrorContains(t, err, "plan.too-long-cook")
}
