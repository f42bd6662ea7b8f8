// Package plantest has the plans that tests begin with. Nothing but
// tests imports it.
package plantest

import (
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
)

// Steps of a pudding of rice in milk, as they stand in a plan file.
const (
	MilkAndRice = `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"},
		{"material":"salt","amount":"1 g"},{"material":"cardamom","amount":"4 pods"}]}`
	Boil      = `{"do":"heat","flame":"high","until":{"boil":true}}`
	UntilSoft = `{"do":"heat","flame":"medium","until":{"doneness":{"of":"rice-short","at":1.3}}}`
	Halved    = `{"do":"heat","flame":"medium","until":{"remaining_pct":70,"of_step":0}}`
	SugarIn   = `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`
	CoconutIn = `{"do":"add","items":[{"material":"coconut-milk-thick","amount":"200 ml"}],"slowly":true}`
)

// WithSteps reads a plan for six in a straight pot from its steps.
func WithSteps(t testing.TB, steps ...string) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"test","serves":6,
		"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},"steps":[` + strings.Join(steps, ",") + `]}`))
	require.NoError(t, err)
	return p
}

// Sample reads a pudding of the sample kitchen by the name of its file.
func Sample(t require.TestingT, name string) *plan.Plan { return read(t, "demo/plans", name) }

// Trials are the puddings of cooks, none of which any figure was fitted to, by the name of
// their files.
func Trials(t require.TestingT) map[string]*plan.Plan { return all(t, "plantest/trials") }

// References are the plans that the model is held to.
func References(t require.TestingT) map[string]*plan.Plan { return all(t, "core/forecast/testdata") }

func all(t require.TestingT, dir string) map[string]*plan.Plan {
	_, here, _, _ := runtime.Caller(0)
	files, err := filepath.Glob(filepath.Join(filepath.Dir(here), "..", dir, "*.kirdu.json"))
	require.NoError(t, err)
	require.NotEmpty(t, files)
	plans := map[string]*plan.Plan{}
	for _, file := range files {
		name := strings.TrimSuffix(filepath.Base(file), ".kirdu.json")
		plans[name] = read(t, dir, name)
	}
	return plans
}

func read(t require.TestingT, dir, name string) *plan.Plan {
	_, here, _, _ := runtime.Caller(0)
	data, err := os.ReadFile(filepath.Join(filepath.Dir(here), "..", dir, name+".kirdu.json"))
	require.NoError(t, err)
	p, err := plan.Read(data)
	require.NoError(t, err)
	return p
}

// Reread puts a changed plan through the reader: no edit may make what a file
// could not.
func Reread(t testing.TB, p *plan.Plan) *plan.Plan {
	t.Helper()
	again, err := plan.Reread(p)
	require.NoError(t, err)
	return again
}

// Verbs are the verbs of a plan's steps, one after the other.
func Verbs(p *plan.Plan) string {
	var all []string
	for i := range p.Steps {
		all = append(all, string(p.Steps[i].Do))
	}
	return strings.Join(all, " ")
}
