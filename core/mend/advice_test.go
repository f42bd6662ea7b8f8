package mend_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/watch"
)

func pudding(t *testing.T, height int, steps string) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(fmt.Sprintf(`{"format":"kirdu-plan/1","name":"x",
	"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":%d}},"steps":[%s]}`, height, steps)))
	require.NoError(t, err)
	return p
}

// TestRules has for each rule a plan that sets it off and one that nearly does.
func TestRules(t *testing.T) {
	milk := `{"do":"add","items":[{"material":"milk-whole","amount":"%s"},{"material":"rice-short","amount":"90 g"}]}`
	boil := `,{"do":"heat","flame":"high","until":{"boil":true,"max_minutes":%s}}`
	simmer := `,{"do":"heat","flame":"medium-low","until":{"minutes":%s}}`
	cases := map[string]struct {
		rule     watch.ID
		severity forecast.Severity
		step     int
		triggers *plan.Plan
		nearly   *plan.Plan
	}{
		"never reached": {"never-reached", forecast.Stop, 1,
			pudding(t, 120, fmt.Sprintf(milk+boil, "1 l", "5")), pudding(t, 120, fmt.Sprintf(milk+boil+simmer, "1 l", "9", "45"))},
		"foam too high": {"boil-over", forecast.Warning, 1,
			pudding(t, 45, fmt.Sprintf(milk+boil+simmer, "1 l", "60", "45")), pudding(t, 50, fmt.Sprintf(milk+boil+simmer, "1 l", "60", "45"))},
		"boils over": {"boil-over", forecast.Stop, 1,
			pudding(t, 36, fmt.Sprintf(milk+boil+simmer, "1 l", "60", "45")), nil},
		"too full": {"too-full", forecast.Stop, 0,
			pudding(t, 30, fmt.Sprintf(milk+boil, "1 l", "60")), pudding(t, 33, fmt.Sprintf(milk+boil, "1 l", "60"))},
		"raw grain": {"undercooked-grain", forecast.Warning, 2,
			pudding(t, 120, fmt.Sprintf(milk+boil+simmer, "1 l", "60", "18")), pudding(t, 120, fmt.Sprintf(milk+boil+simmer, "1 l", "60", "40"))},
		"boiled dry": {"boiled-dry", forecast.Stop, 1,
			pudding(t, 120, fmt.Sprintf(milk, "400 ml")+`,{"do":"heat","flame":"high","until":{"minutes":40}}`),
			pudding(t, 120, fmt.Sprintf(milk, "400 ml")+`,{"do":"heat","flame":"high","until":{"minutes":8}}`)},
	}
	of := func(p *plan.Plan, rule watch.ID) *mend.Found {
		for _, f := range look(p, forecast.Options{NominalOnly: true}).Findings {
			if f.Rule == rule {
				return &f
			}
		}
		return nil
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			found := of(c.triggers, c.rule)
			require.NotNil(t, found)
			require.Equal(t, c.severity, found.Severity)
			require.Equal(t, c.step, found.Step)
			text := said(c.triggers, *found)
			require.Len(t, text.Evidence, 2, "the number and its threshold")
			require.True(t, strings.HasSuffix(text.Message, ".") && strings.HasSuffix(text.Fix, "."), "sentences")
			if c.nearly != nil {
				require.Nil(t, of(c.nearly, c.rule))
			}
		})
	}
}

func TestToastingIsNotBoilingDry(t *testing.T) {
	p := pudding(t, 120, `{"do":"add","items":[{"material":"rice-short","amount":"150 g"},{"material":"ghee","amount":"20 g"}]},
	{"do":"heat","flame":"medium","until":{"minutes":3}},{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}],"temp_c":80},
	{"do":"heat","flame":"medium","until":{"minutes":20}}`)
	for _, f := range look(p, forecast.Options{NominalOnly: true}).Findings {
		require.NotEqual(t, watch.ID("boiled-dry"), f.Rule)
	}
}

func TestFortyLitresInATwoLitrePot(t *testing.T) {
	p := pudding(t, 55, `{"do":"add","items":[{"material":"milk-whole","amount":"40 l"}]},{"do":"heat","flame":"high","until":{"boil":true}}`)
	f := look(p, forecast.Options{})
	require.Equal(t, watch.ID("too-full"), f.Findings[0].Rule)
	require.Contains(t, said(p, f.Findings[0]).Message, "The pot holds 2.1 l, and 40.1 l are to go in.")
}

func TestWorstComesFirst(t *testing.T) {
	p := pudding(t, 36, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}}`)
	findings := look(p, forecast.Options{}).Findings
	require.GreaterOrEqual(t, len(findings), 2)
	require.Equal(t, forecast.Stop, findings[0].Severity)
	require.Equal(t, forecast.Warning, findings[len(findings)-1].Severity)
}
