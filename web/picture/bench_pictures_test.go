package picture_test

import (
	"bytes"
	"html/template"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/pantry"
	"kirdu/web/picture"
	"kirdu/words"
)

func render(t *testing.T, name string, data any) string {
	t.Helper()
	set := template.Must(template.New("x").ParseFS(picture.Templates(), "*.html"))
	var b bytes.Buffer
	require.NoError(t, set.ExecuteTemplate(&b, name, data))
	return b.String()
}

// The pieces of a stack follow each other and are as wide as what they show.
func TestStackIsTrueToScale(t *testing.T) {
	for _, m := range pantry.Standard().All() {
		s := picture.NewStack(words.Printer{}, "", picture.Parts(m), 100, "g")
		at, total := picture.Px(0), 0.0
		for _, piece := range s.Pieces {
			require.InDelta(t, float64(at), float64(piece.X), 1e-6, m.Slug)
			at += piece.Width
			total += float64(piece.Width)
		}
		require.InDelta(t, float64(m.Sum()), 100*total/float64(s.Width()), 0.01, m.Slug)
		require.NotEmpty(t, s.Text, m.Slug)
	}
	milk, _ := pantry.Standard().Material("milk-whole")
	s := picture.NewStack(words.Printer{}, "Milk", picture.Parts(milk), 100, "g")
	require.Contains(t, s.Text, "water 87.7 g")
	svg := render(t, "stack", s)
	require.Contains(t, svg, `role="img"`)
	require.Equal(t, 5, strings.Count(svg, "<rect"))
	low := s.WithoutWords()
	require.NotContains(t, render(t, "stack", low), "<text")
	require.Contains(t, svg, "<text", "the other keeps its words")
	require.Empty(t, picture.NewStack(words.Printer{}, "", picture.Parts(milk), 0, "g").Pieces)
}

func TestJarsAreFilledTrueToScale(t *testing.T) {
	j := picture.NewJars([]picture.Filled{{Name: "First press", Figure: "280 ml", Volume: 280, Fat: 0.3},
		{Name: "Second press", Volume: 560}, {Name: "cup", Volume: 140, Size: 280}})
	require.Len(t, j.Jars, 3)
	require.InDelta(t, 2, float64(j.Jars[1].Fill()/j.Jars[0].Fill()), 1e-9)
	require.InDelta(t, 0.3, float64(j.Jars[0].CreamHeight()/j.Jars[0].Fill()), 1e-9)
	require.InDelta(t, 0.5, float64((j.Jars[2].Base-j.Jars[2].Level)/(j.Jars[2].Base-j.Jars[2].Top)), 1e-9)
	require.Contains(t, j.Text, "First press 280 ml")
	require.Equal(t, 3, strings.Count(render(t, "jars", j), "jar-wall"))
	require.NotContains(t, render(t, "jars", picture.NewJars(nil)), "<svg", "nothing to show")
}

// Whatever is filled in, nothing is drawn outside its jar.
func TestJarsStayInside(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var fillings []picture.Filled
		for range rapid.IntRange(1, 12).Draw(t, "jars") {
			fillings = append(fillings, picture.Filled{Name: "x", Volume: rapid.Float64Range(0, 1e6).Draw(t, "volume"),
				Fat: rapid.Float64Range(-1, 2).Draw(t, "fat")})
		}
		j := picture.NewJars(fillings)
		require.LessOrEqual(t, len(j.Jars), 8)
		for _, one := range j.Jars {
			require.GreaterOrEqual(t, float64(one.Level), float64(one.Top)-1e-6)
			require.LessOrEqual(t, float64(one.Level), float64(one.Base)+1e-6)
			require.LessOrEqual(t, float64(one.Cream), float64(one.Base)+1e-6)
			require.LessOrEqual(t, float64(one.Right()), float64(j.Width))
		}
	})
}
