package full

import (
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/plantest"
	"kirdu/store"
	"kirdu/words"
)

func staysUntouched(t require.TestingT, p *plan.Plan, name string) {
	want, err := p.JSON()
	require.NoError(t, err)
	v := newAround(words.Printer{}, store.Pudding{Plan: p}, equipment{}, nil, nil)
	around, err := applyAround(words.Printer{}, p, aroundFormOf(v), equipment{})
	require.NoError(t, err, name)
	around, err = plan.Reread(around)
	require.NoError(t, err, name)
	got, err := around.JSON()
	require.NoError(t, err)
	require.Equal(t, string(want), string(got), name)
	for at := range p.Steps {
		v := newView(words.Printer{}, store.Pudding{Plan: p}, at, plan.Home{}, equipment{}, nil, nil)
		for _, f := range v.Fields {
			if f.Kind == "choice" {
				require.True(t, slices.ContainsFunc(f.Options, func(o option) bool { return o.Chosen }), "%s: %s has a choice", name, f.Name)
			}
		}
		changed, err := apply(p, at, formOf(v), plan.Home{}, equipment{})
		require.NoError(t, err, "%s step %d", name, at)
		changed, err = plan.Reread(changed)
		require.NoError(t, err, "%s step %d", name, at)
		got, err := changed.JSON()
		require.NoError(t, err)
		require.Equal(t, string(want), string(got), "%s step %d", name, at)
	}
}

// Saving an untouched step changes nothing, whatever the plan.
func TestAnUntouchedStepStays(t *testing.T) {
	var names []string
	for _, pattern := range []string{"../../../core/forecast/testdata/*.kirdu.json", "../../../core/mend/testdata/named/*.kirdu.json",
		"../../../demo/plans/*.kirdu.json"} {
		found, err := filepath.Glob(pattern)
		require.NoError(t, err)
		names = append(names, found...)
	}
	trials, err := filepath.Glob("../../../plantest/trials/*.kirdu.json")
	require.NoError(t, err)
	names = append(names, trials...)
	require.Greater(t, len(names), 70)
	for _, name := range names {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		p, err := plan.Read(data)
		require.NoError(t, err)
		staysUntouched(t, p, name)
	}
	for _, w := range plan.Ways() {
		finishes := []string{""}
		for _, f := range w.Finishes {
			finishes = append(finishes, f.Name)
		}
		for k, finish := range finishes {
			choice, err := w.Check(plan.WayChoice{Bowls: 6 + k, Finish: finish, Burner: vessel.DefaultBurner()})
			require.NoError(t, err)
			p, err := w.Start(choice)
			require.NoError(t, err)
			staysUntouched(t, p, w.Name+" "+finish)
		}
	}
}

// The same of plans that are drawn: every verb, with keys that no cook of ours uses.
func TestAnyUntouchedStepStays(t *testing.T) {
	steps := []string{
		`{"do":"add","items":[{"material":"milk-whole","amount":"1 l","optional":true}],"manner":["slowly","in-goes"],"sign":"it is in"}`,
		`{"do":"add","items":[{"material":"water","above_mm":25.5}],"temp_c":37.5,"topping":false}`,
		`{"do":"add","items":[{"material":"cashew","amount":"8 pieces","also":"10 g","state":"chopped","to_taste":true}],"topping":true}`,
		`{"do":"heat","flame":"simmer","lid":false,"stir":"none",
			"until":{"minutes":3.25,"doneness":{"of":"rice-short","at":1.05},"max_minutes":40}}`,
		`{"do":"heat","flame_pct":42.5,"until":{"boil":true,"minutes":12}}`,
		`{"do":"heat","flame_w":333,"until":{"temp_c":81.5},"note":"two lines\nof it"}`,
		`{"do":"heat","flame":"boil","lid":true,"until":{"remaining_pct":71.5,"of_step":3}}`,
		`{"do":"heat","flame":"off","until":{"thickness":3.4}}`,
		`{"do":"pressure","whistles":2,"minutes":4,"flame":"low","release":"quick"}`, `{"do":"mash","pct":33,"minutes":1}`, `{"do":"drain"}`,
		`{"do":"rest","minutes":12,"lid":true}`, `{"do":"cool","to_c":40,"where":"water-bath","lid":false}`, `{"do":"chill","hours":2.5}`,
		`{"do":"hold","minutes":20,"temp_c":66}`, `{"do":"bake","in":"microwave","power_w":600,"minutes":6,"stir_every_min":2}`,
		`{"do":"bake","oven_c":160,"minutes":45,"covered":true}`, `{"do":"portion","bowls":5}`,
		`{"do":"caramel","items":[{"material":"sugar-white","amount":"80 g"}],"until":"amber","flame":"medium"}`,
	}
	rapid.Check(t, func(t *rapid.T) {
		all := []string{`{"do":"soak","name":"p","items":[{"material":"sago-small","amount":"40 g"}],"minutes":90,"temp_c":30,
			"in":{"material":"water","amount":"200 ml"},"keep_liquid":true}`,
			`{"do":"press","name":"nut","coconuts":1.5,"presses":[{"water_ml":0},{"water_ml":300,"temp_c":45}]}`,
			`{"do":"fry","name":"g","items":[{"material":"cashew","amount":"20 g","minutes":2.5}],"fat":{"material":"ghee","amount":"1 tbsp"}}`,
			`{"do":"add","items":[{"part":"p","share":0.5},{"part":"nut.1"},{"material":"rice-short","amount":"3/4 cup"},
				{"material":"milk-whole","amount":"1 l"}]}`}
		for range rapid.IntRange(1, 8).Draw(t, "steps") {
			all = append(all, rapid.SampledFrom(steps).Draw(t, "step"))
		}
		p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x",
			"pots":{"main":{"shape":"straight","diameter_mm":260,"height_mm":200}},"steps":[` +
			strings.Join(all, ",") + `]}`))
		require.NoError(t, err)
		staysUntouched(t, p, strings.Join(all, ""))
	})
}

// No number or choice of the format is without a field: the schema is walked.
func TestEveryKeyHasAField(t *testing.T) {
	data, err := os.ReadFile("../../../docs/plan.schema.json")
	require.NoError(t, err)
	type object struct {
		Properties map[string]json.RawMessage
		OneOf      []object
		AnyOf      []object
	}
	var schema struct {
		Properties map[string]json.RawMessage
		Defs       map[string]struct {
			OneOf []object `json:"oneOf"`
		} `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(data, &schema))
	has := func(keys []key, path string, fits func(key) bool) bool {
		return slices.ContainsFunc(keys, func(k key) bool { return k.Path == path && fits(k) })
	}
	any := func(key) bool { return true }
	for _, step := range schema.Defs["step"].OneOf {
		var do struct{ Const string }
		require.NoError(t, json.Unmarshal(step.Properties["do"], &do))
		verb := plan.Verb(do.Const).Descriptor()
		fits := func(k key) bool { return k.fits(verb) }
		for name, raw := range step.Properties {
			var inner object
			_ = json.Unmarshal(raw, &inner) // what is no object has no keys of its own
			switch {
			case name == "do" || name == "items" || name == "presses" || name == "manner":
			case name == "fat" || name == "in" && verb.Verb == plan.Soak:
				require.True(t, has(stepKeys, name+".material", fits) && has(stepKeys, name+".part", fits), "%s of %s", name, verb.Verb)
			case name == "until" && verb.Verb == plan.Heat:
				require.NotEmpty(t, inner.Properties)
				for target := range inner.Properties {
					if target == "doneness" {
						target = "doneness.at"
					}
					require.True(t, has(stepKeys, "until."+target, fits), "until %s", target)
				}
			default:
				require.True(t, has(stepKeys, name, fits), "%s of %s", name, verb.Verb)
			}
		}
	}
	// The air of the room, cups, own materials and what was learnt have screens of their own.
	elsewhere := []string{"format", "steps", "kitchen", "measures", "materials", "calibration"}
	lists := []string{"served_from", "pots", "burner", "burners"} // are fields of their own on the page
	around := append(slices.Clone(servedKeys), noteKeys...)
	for name, raw := range schema.Properties {
		var inner object
		_ = json.Unmarshal(raw, &inner)
		switch {
		case slices.Contains(elsewhere, name) || slices.Contains(lists, name):
		case len(inner.Properties) > 0:
			for deeper := range inner.Properties {
				ticks := deeper == "allergic_to" || deeper == "doneness" // the latter stands at each part on the Workbench
				require.True(t, ticks || has(around, name+"."+deeper, any), "%s of %s", deeper, name)
			}
		default:
			require.True(t, has(around, name, any), "%s of the plan", name)
		}
	}
	for _, pot := range schema.Defs["pot"].OneOf {
		for name := range pot.Properties {
			require.True(t, name == "uses" || has(potKeys, name, any), "%s of a pot", name)
		}
	}
	for _, item := range schema.Defs["item"].OneOf {
		for name := range item.Properties {
			require.True(t, has(itemKeys, name, any), "%s of an item", name)
		}
	}
}

// What is typed is taken by any of its names, and what is wrong is told at its field.
func TestAStepIsChanged(t *testing.T) {
	p := plantest.Sample(t, "rice-pear-bay")
	form := formOf(newView(words.Printer{}, store.Pudding{Plan: p}, 0, plan.Home{}, equipment{}, nil, nil))
	form.Set("steps[0].items[3].material", "Jaggery")
	form.Set("steps[0].items[3].amount", "2 tbsp")
	form.Set("steps[0].items[2].remove", "1")
	form.Set("steps[0].temp_c", "12.5")
	form.Set("steps[0].sign", "the spoon stands")
	changed, err := apply(p, 0, form, plan.Home{}, equipment{})
	require.NoError(t, err)
	changed, err = plan.Reread(changed)
	require.NoError(t, err)
	step := changed.Steps[0]
	require.Len(t, step.Items, 3)
	require.Equal(t, "jaggery", step.Items[2].Material)
	require.InDelta(t, 12.5, float64(*step.TempC), 0)
	require.Equal(t, "the spoon stands", step.Sign)

	flame := formOf(newView(words.Printer{}, store.Pudding{Plan: p}, 2, plan.Home{}, equipment{}, nil, nil))
	flame.Set("steps[2].flame_pct", "35")
	lower, err := apply(p, 2, flame, plan.Home{}, equipment{})
	require.NoError(t, err)
	require.Empty(t, lower.Steps[2].Flame, "per cent take the place of the mark")
	require.InDelta(t, 35, *lower.Steps[2].FlamePct, 0)

	form.Set("steps[0].temp_c", "warm")
	_, err = apply(p, 0, form, plan.Home{}, equipment{})
	require.ErrorContains(t, err, "steps[0].temp_c")
}
