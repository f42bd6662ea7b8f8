package full

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"

	"github.com/gin-gonic/gin"

	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame"
)

// formOf is the form of a step as a browser sends it when nothing was touched.
func formOf(v view) url.Values {
	form := url.Values{}
	put := func(f field) {
		if f.Kind == "flag" {
			form.Set(f.Name+"_shown", "1")
			if f.Value == "true" {
				form.Set(f.Name, "true")
			}
			return
		}
		form.Set(f.Name, f.Value)
		if f.Kind == "choice" {
			chosen := ""
			for _, o := range f.Options {
				if o.Chosen {
					chosen = o.Value
				}
			}
			form.Set(f.Name, chosen)
		}
	}
	for _, f := range v.Fields {
		put(f)
	}
	for _, g := range append(slices.Clone(v.Items), v.Presses...) {
		for _, f := range append(slices.Clone(g.Fields), g.More...) {
			put(f)
		}
	}
	if len(v.Manner) > 0 {
		name := fmt.Sprintf("steps[%d].manner", v.Index)
		form.Set(name+"_shown", "1")
		for _, o := range v.Manner {
			if o.Chosen {
				form.Add(name, o.Value)
			}
		}
	}
	return form
}

// aroundFormOf is the same of what stands around the steps.
func aroundFormOf(v aroundView) url.Values {
	all := view{Fields: append(slices.Clone(v.Served), v.Notes...)}
	form := url.Values{}
	ticked := func(name string, options []option) {
		form.Set(name+"_shown", "1")
		for _, o := range options {
			if o.Chosen {
				form.Add(name, o.Value)
			}
		}
	}
	ticked("served_from", v.ServedFrom)
	ticked("eaters.allergic_to", v.Allergies)
	for _, pot := range v.Pots {
		all.Items = append(all.Items, pot.group)
		ticked(pot.Path+".uses", pot.Uses)
	}
	all.Items = append(all.Items, v.Burners...)
	for name, values := range formOf(all) {
		form[name] = values
	}
	return form
}

// untouched takes out of a form what is as it was when the form was made.
func untouched(typed, made url.Values) url.Values {
	changed := url.Values{}
	for name, values := range typed {
		if !slices.Equal(values, made[name]) {
			changed[name] = values
		}
	}
	for name := range made { // a tick that was taken away
		if shown := name + "_shown"; !typed.Has(name) && typed.Has(shown) {
			changed[shown] = typed[shown]
		}
	}
	return changed
}

// changedMeanwhile shows what was typed over what another device has saved meanwhile, and
// says what that changed; where the steps are others now, it says that the pudding was
// changed. Saving again takes what is typed.
func (s *Screen) changedMeanwhile(c *gin.Context, pudding store.Pudding, base, at int, typed url.Values) error {
	found, err := s.records.Versions(c.Request.Context(), pudding.ID, base+1, 1)
	if err != nil {
		return err
	}
	if len(found) == 0 || found[0].Version != base || found[0].Plan == nil || !sameSteps(found[0].Plan, pudding.Plan) {
		return store.ErrStale
	}
	home, err := s.kitchen.Home(c.Request.Context())
	if err != nil {
		return err
	}
	kit, err := s.equipment(c)
	if err != nil {
		return err
	}
	say, was := frame.Words(c), pudding
	was.Plan = found[0].Plan.In(home)
	if at < 0 {
		typed = untouched(typed, aroundFormOf(newAround(say, was, kit, nil, nil)))
	} else {
		typed = untouched(typed, formOf(newView(say, was, at, home, kit, nil, nil)))
	}
	faults := map[string]string{}
	for _, d := range say.Differences(was.Plan, pudding.Plan) {
		faults["meanwhile: "+d.What] = say.Sprintf("%s, then %s", orNothing(d.From), orNothing(d.To))
	}
	faults["another device"] = "changed this pudding meanwhile. What you typed is still here; save it again, and it counts."
	if at < 0 {
		return s.showAround(c, http.StatusConflict, pudding, typed, faults)
	}
	return s.show(c, http.StatusConflict, pudding, at, typed, faults)
}

func orNothing(text string) string {
	if text == "" {
		return "nothing"
	}
	return text
}

// sameSteps reports whether two plans have steps of the same verbs in the same order.
func sameSteps(a, b *plan.Plan) bool {
	return slices.EqualFunc(a.Steps, b.Steps, func(x, y plan.Step) bool { return x.Do == y.Do && len(x.Items) == len(y.Items) })
}
