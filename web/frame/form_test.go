package frame_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/web/frame"
	"kirdu/words"
)

func TestNumber(t *testing.T) {
	for text, want := range map[string]float64{"12": 12, " 1 250.5 ": 1250.5, "1\u202f250": 1250, "-3": -3, "0": 0, "1,5": 1.5,
		"-0,25": -0.25, "12,3456": 12.3456} {
		x, ok := frame.Number(text)
		require.True(t, ok, text)
		require.InDelta(t, want, x, 1e-9)
	}
	for _, text := range []string{"", "-", "1e3", "0x10", "Inf", "NaN", "1,500", "1,5,5", "1.000,5", "12 g", "1.2.3", "∞", "١"} {
		_, ok := frame.Number(text)
		require.False(t, ok, text)
	}
}

func TestFieldFaults(t *testing.T) {
	faults := measure.Faults{
		{Field: "bowls", Err: measure.ErrNotPositive},
		{Field: "amount", Value: `"2 cupz"`, Err: measure.ErrUnknownUnit.With("cupz")},
		{Field: "amount", Err: measure.ErrNoNumber},
	}
	byField := frame.FieldFaults(words.Printer{}, faults)
	require.Len(t, byField, 2)
	require.Contains(t, byField["amount"], `"2 cupz": unknown unit "cupz"`)
	require.Contains(t, byField["amount"], "give a number and a unit", "two faults of one field stand together")
	require.Nil(t, frame.FieldFaults(words.Printer{}, measure.ErrNoPiece))
}

func TestFieldsKeepWhatWasTypedAndSayWhatIsWrong(t *testing.T) {
	f := frame.NewFields(url.Values{"a": {" 12.5 "}, "b": {"-3"}, "c": {"∞"}, "d": {"1e3"}, "name": {"  "},
		"long": {strings.Repeat("x", 99)}, "zero": {"0"}},
		map[string]string{"a": "1", "standard": "7", "empty": ""})
	require.InDelta(t, 12.5, f.Number("a", 0, 20, "5"), 0)
	require.InDelta(t, 7, f.Number("standard", 0, 20, "5"), 0)
	require.InDelta(t, 0, f.Number("zero", 0, 20, "5"), 0)
	x, given := f.Optional("empty", 0, 20, "5")
	require.False(t, given)
	require.Zero(t, x)
	require.NoError(t, f.Err())
	require.Nil(t, f.Faults(words.Printer{}))

	f.Number("b", 0, 20, "5")
	f.Number("c", 0, 20, "5")
	f.Number("d", 0, 2000, "5")
	f.Number("missing", 0, 20, "5")
	f.Name("name", 60)
	f.Name("long", 60)
	faults := f.Faults(words.Printer{})
	require.Len(t, faults, 6)
	require.Equal(t, `"-3": give a number from 0 to 20, such as 5`, faults["b"])
	require.Contains(t, faults["c"], "∞")
	require.Contains(t, faults["name"], "give a name of 1 to 60 characters")
	require.Contains(t, faults["long"], "…", "a long value is not repeated in full")
	require.Equal(t, "12.5", strings.TrimSpace(f.Values()["a"]))
	require.Equal(t, "-3", f.Values()["b"])
}

// Whatever is typed, a number is within its bounds or there is a fault.
func FuzzNumbersOfForms(f *testing.F) {
	for _, seed := range []string{"1", "-1", "1 000", "", "NaN", "Inf", "0x10", "1e9", ".", "-", "١٢", "1_0", "1,5"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, typed string) {
		fields := frame.NewFields(url.Values{"x": {typed}}, nil)
		x := fields.Number("x", 1, 100, "50")
		if fields.Err() == nil {
			require.True(t, x >= 1 && x <= 100)
		} else {
			require.Contains(t, fields.Faults(words.Printer{})["x"], "give a number from 1 to 100")
		}
	})
}
