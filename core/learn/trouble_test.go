package learn_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/core/rescue"
)

const onStove = `{"format":"kirdu-plan/1","name":"Evening rice","serves":4,"serve":"warm",
"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":130}},
"steps":[
{"do":"soak","name":"grain","items":[{"material":"rice-short","amount":"90 g"}],"minutes":20},
{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"add","items":[{"part":"grain"}]},
{"do":"heat","flame":"medium","until":{"remaining_pct":70}},
{"do":"add","items":[{"material":"sugar-white","amount":"120 g"},{"material":"cardamom","amount":"1 g"}]},
{"do":"heat","flame":"low","until":{"minutes":5}}]}`

// TestRepairsGoIntoTheCook takes each repair that a rescue offers, at three points
// of a cook: the cook takes it, and its own forecast then says what was promised.
func TestRepairsGoIntoTheCook(t *testing.T) {
	p, err := plan.Read([]byte(onStove))
	require.NoError(t, err)
	minute := func(m float64) time.Time { return lit.Add(time.Duration(m * float64(time.Minute))) }
	log := []cook.Event{{Kind: cook.Began, Step: 0, At: minute(-25)}, {Kind: cook.Next, Step: 0, At: minute(-2)},
		{Kind: cook.Next, Step: 1, At: minute(0)},
		{Kind: cook.Next, Step: 2, At: minute(12)}, {Kind: cook.Next, Step: 3, At: minute(13)}, {Kind: cook.Weighed, Mass: 1180, At: minute(20)},
		{Kind: cook.Next, Step: 4, At: minute(38)}, {Kind: cook.Next, Step: 5, At: minute(39)}, {Kind: cook.Next, Step: 6, At: minute(44)}}
	taken := 0
	for _, point := range []struct {
		events int
		minute float64
	}{{6, 25}, {8, 41}, {9, 45}} {
		events := log[:point.events]
		now := minute(point.minute)
		state := learn.LogOf(p, minute(-30), events).Fold()
		trouble, err := learn.TroubleOf(&state, now)
		require.NoError(t, err)
		thick, thin := 2.2, 5.0
		for _, symptom := range rescue.Symptoms() {
			one := trouble
			switch symptom {
			case rescue.TooThick:
				one.Wanted = &thick
			case rescue.TooThin:
				one.Wanted = &thin
			case rescue.TooSweet:
				one.Sweet = 0.2
			case rescue.NotSweet:
				one.Sweet = -0.2
			}
			r, err := rescue.Rescue(one, symptom)
			require.NoError(t, err)
			for _, repair := range r.Repairs {
				e := cook.Event{ID: "m", Kind: cook.Mended, At: now, Mend: learn.MendOf(symptom, &repair)}
				require.NoError(t, state.Check(e), "%s: %s at %.0f", symptom, repair.Key, point.minute)
				mended := learn.LogOf(p, minute(-30), append(append([]cook.Event{}, events...), e)).Fold()
				live := learn.Follow(&mended, now)
				served := rescue.Served(symptom, p, live.Forecast)
				require.InDelta(t, repair.After.Grade.Value, served, 0.25, "%s: %s at %.0f", symptom, repair.Key, point.minute)
				require.InDelta(t, repair.After.Sweet.Value, live.Forecast.Sweetness.Pct.Value, 0.4, "%s: %s at %.0f", symptom, repair.Key,
					point.minute)
				if len(repair.Steps) > 0 {
					require.True(t, mended.IsStray(mended.Step), "the repair is what is to be done now")
				}
				// Gone through step by step, each as long as it was to last, it comes out so.
				walked, at := append(append([]cook.Event{}, events...), e), now
				for n := 0; !mended.Done() && n < 40; n++ {
					for _, job := range mended.Unready() {
						walked = append(walked, cook.Event{Kind: cook.Next, At: at, Step: mended.IDs[job]})
					}
					l := learn.Follow(&mended, at)
					one := l.Forecast.Steps[mended.Step]
					at = at.Add(time.Duration(max(0.2, one.EndMin-one.StartMin) * float64(time.Minute)))
					walked = append(walked, cook.Event{Kind: cook.Next, At: at, Step: mended.ID()})
					mended = learn.LogOf(p, minute(-30), walked).Fold()
				}
				require.True(t, mended.Done(), "%s: %s at %.0f", symptom, repair.Key, point.minute)
				live = learn.Follow(&mended, at)
				require.InDelta(t, repair.After.Grade.Value, rescue.Served(symptom, p, live.Forecast), 0.5, "%s: %s at %.0f, done", symptom,
					repair.Key, point.minute)
				require.InDelta(t, repair.After.Sweet.Value, live.Forecast.Sweetness.Pct.Value, 0.8, "%s: %s at %.0f, done", symptom, repair.Key,
					point.minute)
				undone := learn.LogOf(p, minute(-30), append(append([]cook.Event{}, events...), e,
					cook.Event{ID: "u", Kind: cook.Undone, Part: "m", At: now})).Fold()
				require.Equal(t, len(state.Plan.Steps), len(undone.Plan.Steps), "taken back")
				taken++
			}
		}
	}
	require.Greater(t, taken, 20)
	t.Logf("%d repairs taken", taken)

	state := learn.LogOf(p, minute(-30), log[:2]).Fold()
	_, err = learn.TroubleOf(&state, minute(-1))
	require.ErrorIs(t, err, cook.ErrCook, "nothing is in the pot yet")
	state = learn.LogOf(p, minute(-30), log[:6]).Fold()
	for _, bad := range []*cook.Mend{nil, {Leaves: -1}, {Leaves: 9}, {Sugar: 3}, {Lost: plan.Loss{Share: 1.5}},
		{Steps: make([]plan.Step, 30)}, {Steps: []plan.Step{{Do: "sing"}}}} {
		require.Error(t, state.Check(cook.Event{Kind: cook.Mended, At: minute(25), Mend: bad}))
	}
}

const coconut = `{"format":"kirdu-plan/1","name":"Millet, coconut","serves":4,"serve":"warm",
"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":130}},
"steps":[
{"do":"add","items":[{"material":"coconut-milk-thin","amount":"800 g"},{"material":"millet-barnyard","amount":"80 g"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"heat","flame":"medium-low","until":{"minutes":14}},
{"do":"add","items":[{"material":"palm-sugar","amount":"90 g"},{"material":"coconut-milk-thick","amount":"150 g"}]},
{"do":"heat","flame":"medium","until":{"minutes":6}}]}`

// TestABinderIsMadeBesideThePot splits coconut milk: what is cooked in a small pan
// goes on beside, the pot waits off the flame, and the step that needs it says so.
func TestABinderIsMadeBesideThePot(t *testing.T) {
	p, err := plan.Read([]byte(coconut))
	require.NoError(t, err)
	minute := func(m float64) time.Time { return lit.Add(time.Duration(m * float64(time.Minute))) }
	events := []cook.Event{{Kind: cook.Next, Step: 0, At: minute(0)}, {Kind: cook.Next, Step: 1, At: minute(8)},
		{Kind: cook.Next, Step: 2, At: minute(22)}, {Kind: cook.Next, Step: 3, At: minute(23)}}
	state := learn.LogOf(p, minute(-3), events).Fold()
	trouble, err := learn.TroubleOf(&state, minute(26))
	require.NoError(t, err)
	r, err := rescue.Rescue(trouble, rescue.SplitCoconut)
	require.NoError(t, err)
	require.NotEmpty(t, r.Repairs)
	e := cook.Event{ID: "m", Kind: cook.Mended, At: minute(26), Mend: learn.MendOf(rescue.SplitCoconut, &r.Repairs[0])}
	require.NoError(t, state.Check(e))
	events = append(events, e)
	mended := learn.LogOf(p, minute(-3), events).Fold()
	require.NotEmpty(t, mended.Beside(), "the small pan")
	waited := false
	for at := minute(27); !mended.Done(); at = at.Add(2 * time.Minute) {
		if unready := mended.Unready(); len(unready) > 0 {
			waited = true
			for _, job := range unready {
				events = append(events, cook.Event{Kind: cook.Next, At: at, Step: mended.IDs[job]})
			}
		}
		events = append(events, cook.Event{Kind: cook.Next, At: at, Step: mended.ID()})
		mended = learn.LogOf(p, minute(-3), events).Fold()
		require.Less(t, len(events), 40)
	}
	require.True(t, waited, "the binder goes in when it is ready")
	live := learn.Follow(&mended, minute(60))
	require.Less(t, float64(live.Celsius), 86.0, "it was not boiled again")
	require.InDelta(t, r.Repairs[0].After.Grade.Value, rescue.Served(rescue.SplitCoconut, p, live.Forecast), 0.6)
}
