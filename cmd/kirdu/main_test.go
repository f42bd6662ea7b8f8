package main

import (
	"bytes"
	"context"
	"crypto/tls"
	"crypto/x509"
	"encoding/json"
	"errors"
	"flag"
	"io"
	"kirdu/app"
	"kirdu/certs"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "write the golden files anew")

// command runs the program with arguments and returns what it prints.
func command(t *testing.T, ctx context.Context, stdin string, arguments ...string) (out, errOut string, err error) {
	t.Helper()
	var stdout, stderr bytes.Buffer
	root := rootCommand()
	root.SetArgs(arguments)
	root.SetIn(strings.NewReader(stdin))
	root.SetOut(&stdout)
	root.SetErr(&stderr)
	err = root.ExecuteContext(ctx)
	return stdout.String(), stderr.String(), err
}

const example = "testdata/milk-short-grain-reduced"

// TestGoldenForecast keeps the printed forecast as it is: keys, order, digits.
// The curve is left out of the file for its length.
func TestGoldenForecast(t *testing.T) {
	out, errOut, err := command(t, t.Context(), "", "forecast", example+".kirdu.json")
	require.NoError(t, err)
	require.Empty(t, errOut)
	var document map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &document))
	require.Len(t, document["curve"], 7)
	delete(document, "curve")
	got, err := json.MarshalIndent(document, "", " ")
	require.NoError(t, err)
	if *update {
		require.NoError(t, os.WriteFile(example+".golden.json", append(got, '\n'), 0o644))
	}
	want, err := os.ReadFile(example + ".golden.json")
	require.NoError(t, err)
	require.JSONEq(t, string(want), string(got))
}

func TestForecastFromStandardInput(t *testing.T) {
	data, err := os.ReadFile(example + ".kirdu.json")
	require.NoError(t, err)
	fromFile, _, err := command(t, t.Context(), "", "forecast", example+".kirdu.json")
	require.NoError(t, err)
	fromInput, _, err := command(t, t.Context(), string(data), "forecast", "-")
	require.NoError(t, err)
	require.Equal(t, fromFile, fromInput)
}

func TestFaultyPlanPrintsOneLineEach(t *testing.T) {
	data, err := os.ReadFile(example + ".kirdu.json")
	require.NoError(t, err)
	faulty := strings.NewReplacer("110 g", "2 cupz", `"medium"`, `"mild"`).Replace(string(data))
	out, errOut, err := command(t, t.Context(), faulty, "forecast", "-")
	code, ok := errors.AsType[exitError](err)
	require.True(t, ok)
	require.Equal(t, 2, code.code)
	require.Empty(t, out)
	require.Len(t, strings.Split(strings.TrimSpace(errOut), "\n"), 2)
	require.Contains(t, errOut, `steps[0].items[1].amount: "2 cupz": unknown unit "cupz"`)
	_, _, err = command(t, t.Context(), "", "forecast", "no-such-file.json")
	require.ErrorIs(t, err, os.ErrNotExist)
	_, errOut, err = command(t, t.Context(), strings.Repeat(" ", 70_000), "forecast", "-")
	require.Error(t, err)
	require.Contains(t, errOut, "larger than 64 KiB")
}

func TestPortThatIsTaken(t *testing.T) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer listener.Close()
	_, _, err = command(t, t.Context(), "", "demo", "--addr", listener.Addr().String())
	require.ErrorContains(t, err, "is in use by another program")
	require.ErrorContains(t, err, "--addr")
}

func TestNetworkNeedsAPassphrase(t *testing.T) {
	data := filepath.Join(t.TempDir(), "kitchen.sqlite")
	_, _, err := command(t, t.Context(), "", "serve", "--data", data, "--addr", "0.0.0.0:0")
	require.ErrorIs(t, err, errNoPassphrase)
	_, _, err = command(t, t.Context(), "short\n", "passphrase", "--data", data)
	require.Error(t, err)
	_, _, err = command(t, t.Context(), "lantern supper\n", "passphrase", "--data", data)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(t.Context(), 300*time.Millisecond)
	defer cancel()
	out, _, err := command(t, ctx, "", "serve", "--data", data, "--addr", "127.0.0.1:0")
	require.NoError(t, err, "it ends quietly when it is told to")
	require.Contains(t, out, "Kirdu is at http://127.0.0.1:")
	require.Contains(t, out, data)
}

// Over TLS the household's authority is made beside the data, and a phone that trusts it is let in.
func TestServeOverTLS(t *testing.T) {
	data := filepath.Join(t.TempDir(), "kitchen.sqlite")
	ctx, cancel := context.WithCancel(t.Context())
	out := &lines{wanted: "Kirdu is at https://"}
	out.found.Add(1)
	ended := make(chan error, 1)
	go func() {
		root := rootCommand()
		root.SetArgs([]string{"serve", "--tls", "--data", data, "--addr", "127.0.0.1:0", "--host", "kitchen.local"})
		root.SetOut(out)
		root.SetErr(io.Discard)
		ended <- root.ExecuteContext(ctx)
	}()
	out.found.Wait()
	at := regexp.MustCompile(`https://127\.0\.0\.1:\d+`).FindString(out.text())
	steps := regexp.MustCompile(`http://127\.0\.0\.1:\d+/trust`).FindString(out.text())

	response, err := http.Get(steps)
	require.NoError(t, err)
	page, err := io.ReadAll(response.Body)
	require.NoError(t, response.Body.Close())
	require.NoError(t, err)
	require.Contains(t, string(page), at)
	fingerprint := regexp.MustCompile(`Fingerprint \(SHA-256\): (\S+)`).FindStringSubmatch(out.text())[1]
	require.Contains(t, string(page), fingerprint)
	response, err = http.Get(steps + "/kirdu-household.crt")
	require.NoError(t, err)
	der, err := io.ReadAll(response.Body)
	require.NoError(t, response.Body.Close())
	require.NoError(t, err)
	authority, err := x509.ParseCertificate(der)
	require.NoError(t, err)
	roots := x509.NewCertPool()
	roots.AddCert(authority)
	phone := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: roots}}}
	response, err = phone.Get(at + "/")
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	require.Equal(t, http.StatusOK, response.StatusCode)
	response, err = http.Get(strings.TrimSuffix(steps, "/trust") + "/puddings")
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	require.Equal(t, http.StatusNotFound, response.StatusCode, "nothing else is told in the clear")
	cancel()
	require.NoError(t, <-ended)
	_, _, err = command(t, t.Context(), "", "serve", "--tls", "--data", data, "--addr", "127.0.0.1:0", "--host", "kirdu.example.org")
	require.ErrorIs(t, err, certs.ErrName)
}

// lines is an output that says when something wanted is in it.
type lines struct {
	mutex  sync.Mutex
	all    strings.Builder
	wanted string
	found  sync.WaitGroup
	done   bool
}

func (l *lines) Write(p []byte) (int, error) {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	n, err := l.all.Write(p)
	if !l.done && strings.Contains(l.all.String(), l.wanted) {
		l.done = true
		l.found.Done()
	}
	return n, err
}

func (l *lines) text() string {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	return l.all.String()
}

func TestDataFile(t *testing.T) {
	t.Setenv("XDG_DATA_HOME", "/somewhere")
	path, err := app.DataFile("")
	require.NoError(t, err)
	require.Equal(t, "/somewhere/kirdu/kirdu.sqlite", path)
	path, err = app.DataFile("own.sqlite")
	require.NoError(t, err)
	require.Equal(t, "own.sqlite", path)
}

// TestForecastOfPressedCoconut: preparations are computed on the command line
// as anywhere, and a press says what it made.
func TestForecastOfPressedCoconut(t *testing.T) {
	const document = `{"format":"kirdu-plan/1","name":"coconut millet",
		"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},"steps":[
		{"do":"press","name":"coco","coconuts":2,"presses":[{"water_ml":0},{"water_ml":700}]},
		{"do":"soak","name":"millet","items":[{"material":"millet-barnyard","amount":"100 g"}],"minutes":30},
		{"do":"add","items":[{"part":"coco.2"},{"part":"millet"}]},
		{"do":"heat","flame":"medium","until":{"minutes":25}},
		{"do":"add","items":[{"part":"coco.1"}],"slowly":true}]}`
	out, errOut, err := command(t, t.Context(), document, "forecast", "-")
	require.NoError(t, err)
	require.Empty(t, errOut)
	var f struct {
		Steps []struct {
			MassG *float64 `json:"mass_g"`
		} `json:"steps"`
		Allergens []string `json:"allergens"`
		Balance   struct {
			Strained float64 `json:"strained_g"`
			Error    float64 `json:"error_g"`
		} `json:"mass_balance"`
	}
	require.NoError(t, json.Unmarshal([]byte(out), &f))
	require.InDelta(t, 280+755, *f.Steps[0].MassG, 60)
	require.Contains(t, f.Allergens, "coconut")
	require.Greater(t, f.Balance.Strained, 200.0)
	require.InDelta(t, 0, f.Balance.Error, 0.01)

	_, errOut, err = command(t, t.Context(), strings.Replace(document, `"coco.2"`, `"coco.3"`, 1), "forecast", "-")
	require.Error(t, err)
	require.Contains(t, errOut, `steps[2].items[0].part: "coco.3"`)
}

// TestBalance asks for a thicker and sweeter pudding with the rice locked, and
// for what cannot be.
func TestBalance(t *testing.T) {
	out, errOut, err := command(t, t.Context(), "", "balance", example+".kirdu.json", "--set", "thickness=4", "--set", "sweet=12.5",
		"--lock", "rice-short")
	require.NoError(t, err)
	require.Empty(t, errOut)
	var b struct {
		Plan    json.RawMessage                        `json:"plan"`
		Changes []struct{ Path, From, To, Why string } `json:"changes"`
		Reached map[string]float64                     `json:"reached"`
		Missed  []any                                  `json:"missed"`
	}
	require.NoError(t, json.Unmarshal([]byte(out), &b))
	require.InDelta(t, 4, b.Reached["thickness"], 0.1)
	require.InDelta(t, 12.5, b.Reached["sweet"], 0.2)
	require.NotNil(t, b.Missed, "an empty list, not null")
	require.NotEmpty(t, b.Changes)
	for _, c := range b.Changes {
		require.NotContains(t, c.Why, "rice")
	}
	// What it prints as the plan is a plan: it can be forecast.
	again, _, err := command(t, t.Context(), string(b.Plan), "forecast", "-")
	require.NoError(t, err)
	require.Contains(t, again, "kirdu-forecast/1")
	twice, _, err := command(t, t.Context(), "", "balance", example+".kirdu.json", "--set", "thickness=4", "--set", "sweet=12.5", "--lock",
		"rice-short")
	require.NoError(t, err)
	require.Equal(t, out, twice)

	for _, wrong := range [][]string{{"--set", "thickness=9"}, {"--set", "salty=3"}, {"--set", "bowls=2.5"}, {"--set", "sweet=NaN"},
		{"--set", "sweet=12", "--lock", "rice-shrot"}, {}} {
		out, errOut, err = command(t, t.Context(), "", append([]string{"balance", example + ".kirdu.json"}, wrong...)...)
		var code exitError
		require.ErrorAs(t, err, &code)
		require.Equal(t, faultsCode, code.code)
		require.Empty(t, out)
		require.Contains(t, errOut, "--")
	}
}

func TestTimetable(t *testing.T) {
	plan, err := os.ReadFile(example + ".kirdu.json")
	require.NoError(t, err)
	gathering := `{"format":"kirdu-gathering/1","name":"supper","serve_at":"2026-11-28T19:30:00+01:00","hands":2,
		"burners":{"front":{"power_w":2200},"back":{"power_w":1800}},"pots":{},"puddings":[{"plan":` + string(plan) + `},{"plan":` +
		string(plan) + `}]}`
	out, errOut, err := command(t, t.Context(), gathering, "timetable", "-")
	require.NoError(t, err, errOut)
	var table struct {
		Tasks    []map[string]any `json:"tasks"`
		Late     []any            `json:"late"`
		StartsAt time.Time        `json:"starts_at"`
	}
	require.NoError(t, json.Unmarshal([]byte(out), &table))
	require.Len(t, table.Tasks, 10)
	require.NotNil(t, table.Late)
	require.Empty(t, table.Late)
	require.True(t, table.StartsAt.Before(time.Date(2026, 11, 28, 18, 0, 0, 0, time.UTC)))

	out, errOut, err = command(t, t.Context(), strings.Replace(gathering, `"hands":2`, `"hands":0`, 1), "timetable", "-")
	require.Error(t, err)
	require.Empty(t, out)
	require.Contains(t, errOut, "hands: ")
}

func TestSchemaAndVersionArePrinted(t *testing.T) {
	out, _, err := command(t, t.Context(), "", "schema")
	require.NoError(t, err)
	require.True(t, json.Valid([]byte(out)))
	require.Contains(t, out, "kirdu-plan/1")
	out, said, err := command(t, t.Context(), "", "words")
	require.NoError(t, err)
	require.Contains(t, out, "Bring it to the boil")
	require.Contains(t, said, " 0 to be looked at")
	for _, ask := range []string{"version", "--version"} {
		out, _, err = command(t, t.Context(), "", ask)
		require.NoError(t, err)
		require.Regexp(t, `^kirdu \S.*go1\.\d+`, out)
	}
}

func TestLogFlags(t *testing.T) {
	for _, bad := range [][]string{{"--log-level", "loud"}, {"--log-format", "xml"}} {
		_, _, err := command(t, t.Context(), "", append(bad, "version")...)
		require.ErrorContains(t, err, bad[0])
	}
}
