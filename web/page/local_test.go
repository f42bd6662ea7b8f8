package page_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/web/page"
)

func TestTextsAreWrittenAsTheKitchenLikes(t *testing.T) {
	comma := page.Local{Numbers: "comma"}
	for text, want := range map[string]string{
		"thickness 3.4 (2.9 to 4.1)": "thickness 3,4 (2,9 to 4,1)", "1 250.5 g": "1 250,5 g", "It weighs 2.5.": "It weighs 2,5.",
		"v1.2.3 of a module": "v1.2.3 of a module", "http://127.0.0.1:8080": "http://127.0.0.1:8080", "no number": "no number", "at 17:30.": "at 17:30.",
	} {
		require.Equal(t, want, comma.Text(text))
	}
	both := page.Local{Heat: "cf"}
	for text, want := range map[string]string{
		"Cool to 21 °C": "Cool to 21 °C (70 °F)", "between 5 and 60 °C for long": "between 5 and 60 °C (41 and 140 °F) for long",
		"from 60 to 21 °C": "from 60 to 21 °C (140 to 70 °F)", "92 °C (198 °F)": "92 °C (198 °F)", "-5 °C": "-5 °C (23 °F)", "in °C": "in °C",
	} {
		require.Equal(t, want, both.Text(text))
	}
	month, iso := page.Local{Dates: "month"}, page.Local{Dates: "iso"}
	require.Equal(t, "made November 25, 2026, again Nov 3", month.Text("made 25 November 2026, again 3 Nov"))
	require.Equal(t, "made 2026-11-25, again 3 Nov", iso.Text("made 25 November 2026, again 3 Nov"))
	require.Equal(t, "12 Marbles", month.Text("12 Marbles"))
}

func TestOnlyTextsOfAPageAreWrittenSo(t *testing.T) {
	in := `<!doctype html><p title="1.5" data-x="2.5">1.5 &amp; 2<input value="3.5"></p><svg><path d="M1.5 2.5"/><text>4.5</text></svg><pre>1.5</pre><code>0.5</code><textarea>1.5</textarea><script>x = 1.5</script>`
	want := `<!doctype html><p title="1.5" data-x="2.5">1,5 &amp; 2<input value="3.5"></p><svg><path d="M1.5 2.5"/><text>4,5</text></svg><pre>1.5</pre><code>0.5</code><textarea>1.5</textarea><script>x = 1.5</script>`
	require.Equal(t, want, string(page.Local{Numbers: "comma"}.Page([]byte(in))))
	require.Equal(t, in, string(page.Local{}.Page([]byte(in))))
}

// FuzzPagesKeepTheirTags rewrites any page: the tags stay to the letter, and a page
// in its own way of writing stays as it is.
func FuzzPagesKeepTheirTags(f *testing.F) {
	f.Add(`<p title="1.5">1.5 g at 92 °C on 3 May 2026</p><script>a < 1.5</script><textarea>2.5</textarea>`)
	f.Add(`<!-- 1.5 --><svg><text>5 to 60 °C</text></svg> 1.2.3 <p>&lt;1.5&gt;`)
	f.Add("<p>\x00 1.5 <b 2.5>")
	tags := regexp.MustCompile(`<[a-zA-Z/][^<>]*>`)
	f.Fuzz(func(t *testing.T, text string) {
		require.Equal(t, text, string(page.Local{}.Page([]byte(text))))
		out := string(page.Local{Numbers: "comma", Dates: "month", Heat: "cf"}.Page([]byte(text)))
		if before, after := tags.FindAllString(text, -1), tags.FindAllString(out, -1); len(before) == len(after) {
			require.Equal(t, before, after)
		}
		require.GreaterOrEqual(t, len(out), len(strings.TrimSuffix(text, "\x00"))-1, "nothing is lost")
	})
}
