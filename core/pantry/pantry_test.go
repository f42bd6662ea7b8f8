package pantry

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestTablesAreWhole(t *testing.T) {
	p, err := load()
	require.NoError(t, err)
	require.Len(t, p.All(), 134)
	for _, m := range p.All() {
		require.NoError(t, m.Check(), m.Slug)
		require.NotEmpty(t, m.SourceNote, m.Slug)
		cooks := m.Behaviour == Grain || m.Behaviour == Tissue
		require.Equal(t, cooks, m.Kinetics != nil, m.Slug)
	}
	milk, ok := p.Material("milk-whole")
	require.True(t, ok)
	require.InDelta(t, 87.7, float64(milk.Water), 1e-9)
	require.Equal(t, []string{"milk"}, milk.Allergens)
	flakes, _ := p.Material("coconut-flakes")
	require.Equal(t, []string{"coconut", "sulphite"}, flakes.Allergens)
}

func TestCheckRefuses(t *testing.T) {
	good := func() Material {
		return Material{Slug: "x", Behaviour: Liquid, Composition: Composition{Water: 90, Fat: 10}, Bulk: 1}
	}
	cases := map[string]struct {
		spoil func(*Material)
		want  error
	}{
		"more than 100 g":   {func(m *Material) { m.Starch = 20 }, ErrSum},
		"less than 100 g":   {func(m *Material) { m.Water = 50 }, ErrSum},
		"no density":        {func(m *Material) { m.Bulk = 0 }, ErrRange},
		"acid beyond acid":  {func(m *Material) { m.PH = 14 }, ErrRange},
		"unknown allergen":  {func(m *Material) { m.Allergens = []string{"dust"} }, ErrAllergen},
		"unknown behaviour": {func(m *Material) { m.Behaviour = "magic" }, ErrBehaviour},
		"grain, no figures": {func(m *Material) { m.Behaviour = Grain }, ErrKinetics},
		"grain that cooks in no time": {func(m *Material) {
			m.Behaviour, m.Kinetics = Grain, &Kinetics{}
		}, ErrRange},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			m := good()
			require.NoError(t, m.Check())
			c.spoil(&m)
			require.ErrorIs(t, m.Check(), c.want)
		})
	}
}

func TestOwnMaterialsRule(t *testing.T) {
	standard := Standard()
	own := &Material{Slug: "milk-whole", Name: "the neighbour's milk"}
	fresh := &Material{Slug: "rice-hill", Name: "hill rice"}
	joined := standard.With([]*Material{own, fresh})
	m, _ := joined.Material("milk-whole")
	require.Equal(t, own, m)
	require.Len(t, joined.All(), len(standard.All())+1)
	m, _ = standard.Material("milk-whole")
	require.NotEqual(t, own, m, "the standard pantry stays as it is")
}

func TestAlike(t *testing.T) {
	slugs := func(of string) []string {
		m, ok := Standard().Material(of)
		require.True(t, ok)
		var all []string
		for _, other := range Standard().Alike(m) {
			all = append(all, other.Slug)
		}
		return all
	}
	require.Contains(t, slugs("milk-whole"), "oat-milk")
	require.NotContains(t, slugs("milk-whole"), "milk-powder-whole", "it dissolves, it does not pour")
	require.Contains(t, slugs("rice-short"), "millet-little")
	require.NotContains(t, slugs("rice-short"), "moong-split")
	require.Equal(t, []string{"salt"}, slugs("salt"))
}

func TestShortName(t *testing.T) {
	for slug, want := range map[string]string{"rice-glutinous": "Glutinous white rice", "coconut-milk-tin": "Coconut milk",
		"salt": "Table salt"} {
		m, ok := Standard().Material(slug)
		require.True(t, ok)
		require.Equal(t, want, m.ShortName())
	}
}

func TestNearest(t *testing.T) {
	require.Equal(t, "rice-short", Standard().Nearest("rice-shrot"))
	require.Equal(t, "milk-whole", Standard().Nearest("milk-hole"))
	require.Empty(t, Standard().Nearest("zzz"))
}

func TestFindByAnyName(t *testing.T) {
	p := Standard()
	for typed, slug := range map[string]string{
		"sabudana": "sago-small", "Split Green Gram": "moong-split", "broken wheat": "wheat-broken-fine", "GUR": "jaggery",
		"lauki": "bottle-gourd",
		"khoya": "milk-solids", "rice-short": "rice-short", "Short-grain white rice": "rice-short", "cornflour": "cornstarch",
		" egg ": "egg-whole",
	} {
		m, ok := p.Find(typed)
		require.True(t, ok, typed)
		require.Equal(t, slug, m.Slug)
	}
	_, ok := p.Find("stardust")
	require.False(t, ok)
}

func TestSearch(t *testing.T) {
	p := Standard()
	slugs := func(text string) (all []string) {
		for _, m := range p.Search(text) {
			all = append(all, m.Slug)
		}
		return all
	}
	require.ElementsMatch(t, []string{"sago-small", "sago-large"}, slugs("sago"))
	require.ElementsMatch(t, []string{"bottle-gourd"}, slugs("dudhi"))
	require.Contains(t, slugs("treenut"), "cashew")
	require.Contains(t, slugs("coconut milk"), "coconut-milk-thin")
	require.NotContains(t, slugs("coconut milk"), "milk-whole")
	require.Len(t, slugs(""), len(p.All()))
	require.Empty(t, slugs("nothing such"))
}

// Another name leads to one material only, or the reader of lists could not
// tell them apart.
func TestAliasesAreUnique(t *testing.T) {
	owner := map[string]string{}
	for _, m := range Standard().All() {
		require.NotEmpty(t, m.Aliases, m.Slug)
		for _, alias := range m.Aliases {
			require.Equal(t, alias, strings.ToLower(strings.TrimSpace(alias)))
			if other, taken := owner[alias]; taken {
				require.Equal(t, m.Slug, other, "%q names two materials", alias)
			}
			owner[alias] = m.Slug
		}
	}
}

func TestSweetnessAndFrying(t *testing.T) {
	p := Standard()
	sweet := func(slug string) float64 { m, _ := p.Material(slug); return m.Sweetness() }
	require.InDelta(t, 1, sweet("sugar-white"), 0.002)
	require.InDelta(t, 0.7*0.358+1.2*0.409+0.009, sweet("honey"), 1e-9)
	require.Zero(t, sweet("salt"))
	raisin, _ := p.Material("raisin")
	cashew, _ := p.Material("cashew")
	require.Less(t, raisin.Frying.Burnt, cashew.Frying.Done, "raisins go in last")
}

func TestOtherNamesAreOthers(t *testing.T) {
	for _, m := range Standard().All() {
		for _, name := range m.OtherNames() {
			require.False(t, strings.EqualFold(name, m.ShortName()), m.Slug)
		}
	}
	m, ok := Standard().Material("ghee")
	require.True(t, ok)
	require.Contains(t, m.OtherNames(), "clarified butter")
}

// A search only reads the table, which many share: it writes nothing behind the names of a material.
func TestSearchWritesNothing(t *testing.T) {
	p := Standard()
	p.Search("milk")
	for _, m := range p.All() {
		for _, behind := range m.Aliases[len(m.Aliases):cap(m.Aliases)] {
			require.Empty(t, behind, m.Slug)
		}
	}
}
