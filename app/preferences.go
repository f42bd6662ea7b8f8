package app

import (
	"context"
	"maps"
	"slices"

	"kirdu/store"
	"kirdu/words"
)

// Preferences are how a household has things written and coloured.
type Preferences struct {
	words.Style
	Week  string // monday, sunday
	Theme string // auto, light, dark
	Lead  string // when a cook is led by the hand: leadFirst, leadAlways, leadNever
	set   map[string]string
}

// A Preference is a setting with the values it may have; the first is taken where
// none was set.
type Preference struct {
	Name   string
	Values []string
}

// copiesSetting says whether daily copies are kept.
const copiesSetting, copiesOff = "copies", "off"

// EveryPreference lists them, in the order in which they are asked.
func EveryPreference() []Preference {
	return []Preference{
		{store.SettingUnits, []string{"metric", store.UnitsUS}},
		{"numbers", []string{"point", "comma"}},
		{"dates", []string{"words", "month", "iso"}},
		{"heat", []string{"c", "cf"}},
		{"week", []string{"monday", "sunday"}},
		{"theme", []string{"auto", "light", "dark"}},
		{leadSetting, []string{leadFirst, leadAlways, leadNever}},
		{copiesSetting, []string{"week", copiesOff}},
	}
}

// Preferences returns those of the household.
func (k *Kitchen) Preferences(ctx context.Context) (Preferences, error) {
	settings, err := k.Store.Settings(ctx)
	if err != nil {
		return Preferences{}, err
	}
	p := Preferences{set: map[string]string{}}
	for _, one := range EveryPreference() {
		value := settings[one.Name]
		if !slices.Contains(one.Values, value) {
			value = one.Values[0]
		}
		p.set[one.Name] = value
	}
	p.Style = words.Style{Comma: p.set["numbers"] == "comma", Fahrenheit: p.set["heat"] == "cf" || p.set[store.SettingUnits] == store.UnitsUS}
	if dates := p.set["dates"]; dates != "words" {
		p.Dates = dates
	}
	p.Week, p.Theme, p.Lead = p.set["week"], p.set["theme"], p.set[leadSetting]
	return p, nil
}

// SetPreferences stores what was chosen. Who wants to be led through every pudding is told all hints again.
func (k *Kitchen) SetPreferences(ctx context.Context, chosen map[string]string) error {
	before, err := k.Preferences(ctx)
	if err != nil {
		return err
	}
	if chosen[leadSetting] == leadAlways && before.Lead != leadAlways {
		chosen = maps.Clone(chosen)
		chosen[knownLeads] = ""
	}
	return k.Store.SetSettings(ctx, chosen)
}

// Value returns what a preference is set to.
func (p Preferences) Value(name string) string { return p.set[name] }
