package plan_test

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

const said = `{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120,"heavy":true,
	"uses":["stove","pressure"]}},"steps":[
	{"do":"add","items":[{"material":"water","amount":"700 ml"},{"material":"moong-split","amount":"120 g"},
		{"material":"salt","amount":"1 g","optional":true,"to_taste":true}],"manner":["slowly","whisking"],"sign":"the grains dance"},
	{"do":"pressure","whistles":1,"minutes":6,"flame":"low","sign":"the hiss goes quiet"},
	{"do":"heat","flame_w":420,"stir":"often","until":{"minutes":5},"note":"our burner"}]}`

// What the second edition lets a plan say is read, written again and computed.
func TestAdditions(t *testing.T) {
	p, err := plan.Read([]byte(said))
	require.NoError(t, err)
	again, err := p.JSON()
	require.NoError(t, err)
	var compact bytes.Buffer
	require.NoError(t, json.Compact(&compact, again))
	for _, text := range []string{`"sign":"the grains dance"`, `"manner":["slowly","whisking"]`, `"flame_w":420`, `"optional":true`,
		`"to_taste":true`,
		`"heavy":true`, `"uses":["stove","pressure"]`} {
		require.Contains(t, compact.String(), text)
	}
	require.True(t, p.Steps[0].GoesSlowly())
	require.True(t, p.Steps[2].Burns())
	require.InDelta(t, 420.0/990, p.FlameShare(&p.Steps[2]), 1e-9)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	require.InDelta(t, 420, *f.Steps[2].Watts, 1e-6)
	whistled := p.Clone()
	whistled.Steps[1].Minutes = nil
	require.Greater(t, f.Steps[1].EndMin, forecast.Run(whistled, forecast.Options{NominalOnly: true}).Steps[1].EndMin+4,
		"the minutes count from the first whistle")
	require.Equal(t, measure.Minute(7), forecast.Held(p, &p.Steps[1]))

	for path, document := range map[string]string{
		"steps[1].pot":      strings.Replace(said, `"uses":["stove","pressure"]`, `"uses":["stove"]`, 1),
		"steps[2]":          strings.Replace(said, `"flame_w":420`, `"flame_w":420,"flame":"low"`, 1),
		"steps[0].manner":   strings.Replace(said, `"whisking"`, `"singing"`, 1),
		"pots.main.uses[0]": strings.Replace(said, `["stove","pressure"]`, `["shelf"]`, 1),
		"steps[1].sign":     strings.Replace(said, "the hiss goes quiet", strings.Repeat("x", 121), 1),
	} {
		_, err := plan.Read([]byte(document))
		require.ErrorContains(t, err, path)
	}
}
