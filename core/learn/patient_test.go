package learn_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/advice"
	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
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
	log := []cook.Event{{Kind: cook.Began, Step: 0, At: minute(-25)}, {Kind: cook.Next, Step: 0, At: minute(-2)}, {Kind: cook.Next, Step: 1, At: minute(0)},
		{Kind: cook.Next, Step: 2, At: minute(12)}, {Kind: cook.Next, Step: 3, At: minute(13)}, {Kind: cook.Weighed, Mass: 1180, At: minute(20)},
		{Kind: cook.Next, Step: 4, At: minute(38)}, {Kind: cook.Next, Step: 5, At: minute(39)}, {Kind: cook.Next, Step: 6, At: minute(44)}}
	taken := 0
	for _, point := range []struct {
		events int
		minute float64
	}{{6, 25}, {8, 41}, {9, 45}} {
		events := log[:point.events]
		now := minute(point.minute)
		state := cook.Fold(p, minute(-30), events)
		patient, err := learn.PatientOf(&state, now)
		require.NoError(t, err)
		thick, thin := 2.2, 5.0
		for _, symptom := range advice.Symptoms() {
			one := patient
			switch symptom {
			case advice.TooThick:
				one.Wanted = &thick
			case advice.TooThin:
				one.Wanted = &thin
			case advice.TooSweet:
				one.Sweet = 0.2
			case advice.NotSweet:
				one.Sweet = -0.2
			}
			r, err := advice.Rescue(one, symptom)
			require.NoError(t, err)
			for _, repair := range r.Repairs {
				e := cook.Event{ID: "m", Kind: cook.Mended, At: now, Mend: cook.MendOf(symptom, &repair)}
				require.NoError(t, state.Check(e), "%s: %s at %.0f", symptom, repair.Key, point.minute)
				mended := cook.Fold(p, minute(-30), append(append([]cook.Event{}, events...), e))
				live := learn.Follow(&mended, now)
				served := advice.Served(symptom, p, live.Forecast)
				require.InDelta(t, repair.After.Grade.Value, served, 0.25, "%s: %s at %.0f", symptom, repair.Key, point.minute)
				require.InDelta(t, repair.After.Sweet.Value, live.Forecast.Sweetness.Pct.Value, 0.4, "%s: %s at %.0f", symptom, repair.Key, point.minute)
				if len(repair.Steps) > 0 {
					require.Equal(t, repair.Steps[0].Do, mended.Present().Do, "the repair is what is to be done now")
				}
				undone := cook.Fold(p, minute(-30), append(append([]cook.Event{}, events...), e, cook.Event{ID: "u", Kind: cook.Undone, Part: "m", At: now}))
				require.Equal(t, len(state.Plan.Steps), len(undone.Plan.Steps), "taken back")
				taken++
			}
		}
	}
	require.Greater(t, taken, 20)
	t.Logf("%d repairs taken", taken)

	state := cook.Fold(p, minute(-30), log[:2])
	_, err = learn.PatientOf(&state, minute(-1))
	require.ErrorIs(t, err, cook.ErrCook, "nothing is in the pot yet")
	state = cook.Fold(p, minute(-30), log[:6])
	for _, bad := range []*cook.Mend{nil, {Leaves: -1}, {Leaves: 9}, {Sugar: 3}, {Lost: plan.Loss{Share: 1.5}}, {Steps: make([]plan.Step, 30)}, {Steps: []plan.Step{{Do: "sing"}}}} {
		require.Error(t, state.Check(cook.Event{Kind: cook.Mended, At: minute(25), Mend: bad}))
	}
}
