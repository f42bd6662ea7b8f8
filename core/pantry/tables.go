package pantry

import (
	"embed"
	"encoding/csv"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"sync"

	"kirdu/core/measure"
)

//go:embed data/*.csv
var tables embed.FS

// Standard returns the embedded tables. They are part of the program, so a
// fault in them is a mistake of ours and panics; a test reads them too.
var Standard = sync.OnceValue(func() *Pantry {
	p, err := load()
	if err != nil {
		panic(err)
	}
	return p
})

// load reads the tables and checks every row and every reference between them.
func load() (*Pantry, error) {
	kinetics := map[string]*Kinetics{}
	if err := readTable("data/grains.csv", func(r row) error { return addGrain(kinetics, r) }); err != nil {
		return nil, err
	}
	if err := readTable("data/vegetables.csv", func(r row) error { return addTissue(kinetics, r) }); err != nil {
		return nil, err
	}
	p := &Pantry{bySlug: map[string]*Material{}}
	used := map[string]bool{}
	err := readTable("data/materials.csv", func(r row) error {
		m, err := material(r)
		if err != nil {
			return err
		}
		if p.bySlug[m.Slug] != nil {
			return errors.New("is there twice")
		}
		if m.Behaviour == Grain || m.Behaviour == Tissue {
			m.Kinetics = kinetics[m.Slug]
			used[m.Slug] = true
		}
		p.bySlug[m.Slug] = m
		p.slugs = append(p.slugs, m.Slug)
		return m.Check()
	})
	if err != nil {
		return nil, err
	}
	if err := readTable("data/garnish.csv", p.addFrying); err != nil {
		return nil, err
	}
	if err := readTable("data/aliases.csv", p.addAliases); err != nil {
		return nil, err
	}
	for slug := range kinetics {
		if !used[slug] {
			return nil, fmt.Errorf("kinetics of %q: no such grain or vegetable in materials.csv", slug)
		}
	}
	return p, nil
}

// A row is one line of a table by column name; the first fault in reading its
// numbers is kept.
type row struct {
	cells map[string]string
	err   *error
}

func (r row) text(column string) string { return r.cells[column] }

// number reads a cell; an empty one is 0.
func (r row) number(column string) float64 {
	cell := r.cells[column]
	if cell == "" {
		return 0
	}
	value, err := strconv.ParseFloat(cell, 64)
	if (err != nil || !(value >= 0 && value < 1e6)) && *r.err == nil {
		*r.err = fmt.Errorf("%s: %q is not a number from 0", column, cell)
	}
	return value
}

func (r row) flag(column string) bool { return r.cells[column] == "yes" }

func readTable(name string, add func(row) error) error {
	file, err := tables.Open(name)
	if err != nil {
		return err
	}
	defer file.Close()
	reader := csv.NewReader(file)
	lines, err := reader.ReadAll()
	if err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	if len(lines) < 2 {
		return fmt.Errorf("%s: is empty", name)
	}
	header := lines[0]
	for _, line := range lines[1:] {
		var numberFault error
		r := row{cells: map[string]string{}, err: &numberFault}
		for i, column := range header {
			r.cells[column] = line[i]
		}
		if err := errors.Join(add(r), numberFault); err != nil {
			return fmt.Errorf("%s: %s: %w", name, line[0], err)
		}
	}
	return nil
}

func addGrain(kinetics map[string]*Kinetics, r row) error {
	if !slices.Contains([]string{"yes", "no"}, r.text("acid_hardens")) {
		return errors.New("acid_hardens: yes or no")
	}
	kinetics[r.text("slug")] = &Kinetics{
		CookMinutes:  measure.Minute(r.number("cook_min_98c")),
		SoakedFactor: r.number("soaked_cook_factor"),
		SoakUptake:   r.number("soak_uptake_g_per_g"),
		SoakHalf:     measure.Minute(r.number("soak_half_min")),
		MaxUptake:    r.number("max_uptake_g_per_g"),
		UptakeRate:   r.number("uptake_rate"),
		ReleaseDone:  r.number("release_at_done"),
		ReleaseMax:   r.number("release_max"),
		StarchWeight: r.number("starch_weight"),
		SetWeight:    r.number("set_weight"),
		AcidHardens:  r.flag("acid_hardens"),
		WantedLow:    r.number("wanted_done_low"),
		WantedHigh:   r.number("wanted_done_high"),
	}
	return nil
}

// addFrying gives a material of the table its figures in hot fat.
func (p *Pantry) addFrying(r row) error {
	m, ok := p.bySlug[r.text("slug")]
	if !ok {
		return errors.New("no such material in materials.csv")
	}
	m.Frying = &Frying{
		Done: measure.Minute(r.number("done_min")), Burnt: measure.Minute(r.number("burnt_min")),
		Sign: r.text("sign"), Note: r.text("note"),
	}
	if !(m.Frying.Done > 0 && m.Frying.Done < m.Frying.Burnt) {
		return errors.New("done_min: above 0 and below burnt_min")
	}
	return nil
}

// addAliases gives a material of the table its other names.
func (p *Pantry) addAliases(r row) error {
	m, ok := p.bySlug[r.text("slug")]
	if !ok {
		return errors.New("no such material in materials.csv")
	}
	m.Aliases = append(m.Aliases, list(r.text("aliases"))...)
	m.Near = append(m.Near, list(r.text("near"))...)
	return nil
}

// tissueSetWeight is that of all tissue. Source: the model, section 5.
const tissueSetWeight = 0.3

func addTissue(kinetics map[string]*Kinetics, r row) error {
	kinetics[r.text("slug")] = &Kinetics{
		CookMinutes: measure.Minute(r.number("cook_min_98c")),
		KeptRaw:     r.number("water_kept_raw_g_per_g"),
		KeptDone:    r.number("water_kept_done_g_per_g"),
		SetWeight:   tissueSetWeight,
		WantedLow:   r.number("wanted_done_low"),
		WantedHigh:  r.number("wanted_done_high"),
	}
	return nil
}

func material(r row) (*Material, error) {
	gram := func(column string) measure.Gram { return measure.Gram(r.number(column)) }
	m := &Material{
		Slug: r.text("slug"), Name: r.text("name"), Kind: r.text("kind"),
		Behaviour:  Behaviour(r.text("behaviour")),
		Traits:     list(r.text("traits")),
		UsualState: State(r.text("usual_state")),
		Composition: Composition{
			Water: gram("water"), Fat: gram("fat"), Protein: gram("protein"),
			Lactose: gram("lactose"), Sucrose: gram("sucrose"), Glucose: gram("glucose"), Fructose: gram("fructose"),
			Starch: gram("starch"), Fibre: gram("fibre"), Ash: gram("ash"), Other: gram("other"),
			EnergyKcal: r.number("energy_kcal"), SodiumMg: r.number("sodium_mg"),
		},
		Bulk:       measure.GramPerMillilitre(r.number("bulk_g_per_ml")),
		Piece:      gram("piece_g"),
		PieceName:  r.text("piece_name"),
		PH:         r.number("ph"),
		Buffer:     r.number("buffer"),
		AcidNote:   r.text("acid_note"),
		Allergens:  list(r.text("allergens")),
		Gluten:     r.flag("gluten"),
		Vegan:      r.flag("vegan"),
		SourceNote: r.text("source_note"),
	}
	if m.SourceNote == "" {
		return nil, errors.New("has no source")
	}
	return m, nil
}
