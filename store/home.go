package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"strconv"
	"time"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A Measuring is what one measure of the kitchen was found to hold.
type Measuring struct {
	ID, Name, Unit string // the unit is ml or g
	Size           float64
	How            string // "weighed full of water: 231 g"
	TakenAt        time.Time
}

const measuringColumns = `id, name, unit, size, how, taken_at`

func scanMeasuring(row scanner) (Measuring, error) {
	var m Measuring
	var taken string
	if err := row.Scan(&m.ID, &m.Name, &m.Unit, &m.Size, &m.How, &taken); err != nil {
		return m, err
	}
	var err error
	m.TakenAt, err = parseStamp(taken)
	return m, err
}

// Measurings returns every measuring that was not taken back, by name, the
// latest of each first: that one is in force.
func (s *Store) Measurings(ctx context.Context) ([]Measuring, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT `+measuringColumns+` FROM measuring WHERE removed_at IS NULL ORDER BY name,
		unit, taken_at DESC, id DESC`)
	return all(rows, err, scanMeasuring)
}

const insertMeasuring = `INSERT INTO measuring (` + measuringColumns + `) VALUES (?, ?, ?, ?, ?, ?)`

// AddMeasuring stores a measuring; earlier ones of the same name stay.
func (s *Store) AddMeasuring(ctx context.Context, m Measuring) error {
	_, err := s.exec(ctx, insertMeasuring,
		m.ID, m.Name, m.Unit, m.Size, m.How, stamp(m.TakenAt))
	return err
}

// A Kept is a pudding whose plan is written anew when a measure changes.
type Kept struct {
	ID      string
	Version int
	Plan    *plan.Plan
}

// AddMeasuringKeeping stores what a measure was found to hold, and new versions of the
// puddings that keep their grams; all of it or nothing. Errors: ErrNotFound, ErrStale.
func (s *Store) AddMeasuringKeeping(ctx context.Context, m Measuring, kept []Kept, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, insertMeasuring, m.ID, m.Name, m.Unit, m.Size, m.How, stamp(m.TakenAt)); err != nil {
			return err
		}
		for _, one := range kept {
			if err := saveIn(ctx, tx, one.ID, one.Version, one.Version+1, one.Plan, at); err != nil {
				return err
			}
		}
		return nil
	})
}

// RemoveMeasuring takes a measuring back: the one before it is in force again.
func (s *Store) RemoveMeasuring(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE measuring SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
}

// RestoreMeasuring undoes RemoveMeasuring.
func (s *Store) RestoreMeasuring(ctx context.Context, id string) error {
	return changed(s.exec(ctx, `UPDATE measuring SET removed_at = NULL WHERE id = ?`, id))
}

// A WaterTest is the power that a flame of a burner was found to bring into
// the pot.
type WaterTest struct {
	ID, BurnerID  string
	Flame         vessel.Flame
	Power, SD     measure.Watt
	Before, After measure.Gram
	Minutes       measure.Minute
	Pot           string
	TestedAt      time.Time
}

const waterTestColumns = `id, burner_id, flame, power_w, sd_w, before_g, after_g, minutes, pot, tested_at`

func scanWaterTest(row scanner) (WaterTest, error) {
	var t WaterTest
	var tested string
	if err := row.Scan(&t.ID, &t.BurnerID, &t.Flame, &t.Power, &t.SD, &t.Before, &t.After, &t.Minutes, &t.Pot, &tested); err != nil {
		return t, err
	}
	var err error
	t.TestedAt, err = parseStamp(tested)
	return t, err
}

// WaterTests returns every test that was not taken back, by burner and flame,
// the latest of each first: that one is in force.
func (s *Store) WaterTests(ctx context.Context) ([]WaterTest, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT `+waterTestColumns+` FROM water_test WHERE removed_at IS NULL ORDER BY burner_id,
		flame, tested_at DESC, id DESC`)
	return all(rows, err, scanWaterTest)
}

// AddWaterTest stores a test, and what is forgotten because of it, nil for
// nothing. Error: ErrNotFound without such a burner.
func (s *Store) AddWaterTest(ctx context.Context, t WaterTest, gone *Forgotten) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		err := changed(tx.ExecContext(ctx, `INSERT INTO water_test (`+waterTestColumns+`)
			SELECT ?, id, ?, ?, ?, ?, ?, ?, ?, ? FROM burner WHERE id = ? AND removed_at IS NULL`,
			t.ID, t.Flame, t.Power, t.SD, t.Before, t.After, t.Minutes, t.Pot, stamp(t.TestedAt), t.BurnerID))
		if err != nil || gone == nil {
			return err
		}
		return forget(ctx, tx, *gone)
	})
}

// RemoveWaterTest takes a test back: the one before it is in force again.
func (s *Store) RemoveWaterTest(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE water_test SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
}

// OwnMaterials returns the kitchen's own materials and corrected figures.
func (s *Store) OwnMaterials(ctx context.Context) ([]plan.OwnMaterial, error) {
	list, _, err := s.ownMaterials(ctx)
	return list, err
}

// UnreadableMaterials returns the own materials that cannot be read; plans that use
// them have them still.
func (s *Store) UnreadableMaterials(ctx context.Context) ([]*Unreadable, error) {
	_, aside, err := s.ownMaterials(ctx)
	return aside, err
}

func (s *Store) ownMaterials(ctx context.Context) ([]plan.OwnMaterial, []*Unreadable, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT slug, document, changed_at FROM own_material WHERE removed_at IS NULL ORDER BY slug`)
	return readable(rows, err, func(row scanner) (plan.OwnMaterial, error) {
		var slug, document, changed string
		var m plan.OwnMaterial
		if err := row.Scan(&slug, &document, &changed); err != nil {
			return m, err
		}
		err := json.Unmarshal([]byte(document), &m)
		if err == nil {
			err = m.Check()
		}
		if err == nil {
			return m, nil
		}
		bad := &Unreadable{Kind: AMaterial, ID: slug, Name: m.Name, Err: err}
		bad.At, err = parseStamp(changed)
		if err != nil {
			return m, err
		}
		return m, bad
	})
}

// SaveOwnMaterial stores a material over one of the same slug.
func (s *Store) SaveOwnMaterial(ctx context.Context, m plan.OwnMaterial, at time.Time) error {
	document, err := json.Marshal(m)
	if err != nil {
		return err
	}
	_, err = s.exec(ctx, `INSERT INTO own_material (slug, document, changed_at) VALUES (?, ?, ?)
		ON CONFLICT (slug) DO UPDATE SET document = excluded.document, changed_at = excluded.changed_at, removed_at = NULL`,
		m.Slug, string(document), stamp(at))
	return err
}

// RemoveOwnMaterial takes an own material out; plans that use it keep it.
func (s *Store) RemoveOwnMaterial(ctx context.Context, slug string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE own_material SET removed_at = ? WHERE slug = ? AND removed_at IS NULL`, stamp(at), slug))
}

// RestoreOwnMaterial undoes RemoveOwnMaterial.
func (s *Store) RestoreOwnMaterial(ctx context.Context, slug string) error {
	return changed(s.exec(ctx, `UPDATE own_material SET removed_at = NULL WHERE slug = ?`, slug))
}

// Names of the settings of the room.
const (
	settingAmbient  = "ambient_c"
	settingHumidity = "humidity_pct"
	settingAltitude = "altitude_m"
	settingTap      = "tap_c"
	settingScale    = "scale_limit_g"
	settingOvens    = "ovens"
	settingFridge   = "fridge_l"
)

// Fittings are what a gathering shares besides pots and burners.
type Fittings struct {
	Ovens   int
	FridgeL float64 // room for puddings in the refrigerator, in litres
}

// Fittings returns those of the kitchen; usual stands where they were never set.
func (s *Store) Fittings(ctx context.Context, usual Fittings) (Fittings, error) {
	set, err := s.Settings(ctx)
	if err != nil {
		return usual, err
	}
	if text, there := set[settingOvens]; there {
		if usual.Ovens, err = strconv.Atoi(text); err != nil {
			return usual, fmt.Errorf("setting %s: %w", settingOvens, err)
		}
	}
	if text, there := set[settingFridge]; there {
		if usual.FridgeL, err = strconv.ParseFloat(text, 64); err != nil {
			return usual, fmt.Errorf("setting %s: %w", settingFridge, err)
		}
	}
	return usual, nil
}

// SetFittings stores them.
func (s *Store) SetFittings(ctx context.Context, f Fittings) error {
	return s.SetSettings(ctx, map[string]string{settingOvens: strconv.Itoa(f.Ovens),
		settingFridge: strconv.FormatFloat(f.FridgeL, 'f', -1, 64)})
}

// Room returns the air and the tap of the kitchen, nil if they were never set.
func (s *Store) Room(ctx context.Context) (*plan.Kitchen, error) {
	values := map[string]float64{}
	for _, name := range []string{settingAmbient, settingHumidity, settingAltitude, settingTap, settingScale} {
		text, err := s.Setting(ctx, name)
		if err != nil {
			return nil, err
		}
		if text == "" {
			return nil, nil
		}
		if values[name], err = strconv.ParseFloat(text, 64); err != nil {
			return nil, fmt.Errorf("setting %s: %w", name, err)
		}
	}
	return &plan.Kitchen{
		AmbientC: measure.Celsius(values[settingAmbient]), HumidityPct: values[settingHumidity], AltitudeM: values[settingAltitude],
		TapC: measure.Celsius(values[settingTap]), ScaleLimitG: measure.Gram(values[settingScale]),
	}, nil
}

// SetRoom stores them, all or none.
func (s *Store) SetRoom(ctx context.Context, k plan.Kitchen) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		for name, value := range map[string]float64{
			settingAmbient: float64(k.AmbientC), settingHumidity: k.HumidityPct, settingAltitude: k.AltitudeM,
			settingTap: float64(k.TapC), settingScale: float64(k.ScaleLimitG),
		} {
			if _, err := tx.ExecContext(ctx, `INSERT INTO setting (name, value) VALUES (?, ?)
				ON CONFLICT (name) DO UPDATE SET value = excluded.value`, name, strconv.FormatFloat(value, 'f', -1, 64)); err != nil {
				return err
			}
		}
		return nil
	})
}

// Home returns what the kitchen has found out about itself: measures, water
// tests, own materials and the room.
func (s *Store) Home(ctx context.Context) (plan.Home, error) {
	home := plan.Home{Measures: measure.Measures{}}
	measurings, err := s.Measurings(ctx)
	if err != nil {
		return home, err
	}
	for _, m := range measurings {
		key := plan.KeyOf(m.Name, m.Unit)
		if _, later := home.Measures[key]; !later {
			home.Measures[key] = m.Size
		}
	}
	burners, err := s.Burners(ctx)
	if err != nil {
		return home, err
	}
	for _, b := range burners {
		home.Burners = append(home.Burners, b.Burner)
	}
	pots, err := s.Pots(ctx)
	if err != nil {
		return home, err
	}
	for _, p := range pots {
		home.Pots = append(home.Pots, p.Pot)
	}
	if home.Materials, err = s.OwnMaterials(ctx); err != nil {
		return home, err
	}
	if home.Kitchen, err = s.Room(ctx); err != nil {
		return home, err
	}
	units, err := s.Setting(ctx, SettingUnits)
	home.US = units == UnitsUS
	return home, err
}

// SettingUnits is the name of the setting of the units that are shown, and
// UnitsUS its value for US units beside the metric ones.
const (
	SettingUnits = "units"
	UnitsUS      = "us"
)

// AtHand returns what is in the house; a mass is not valid where nobody counts.
func (s *Store) AtHand(ctx context.Context) (map[string]sql.Null[measure.Gram], error) {
	type entry struct {
		slug string
		mass sql.Null[measure.Gram]
	}
	rows, err := s.db.QueryContext(ctx, `SELECT slug, mass_g FROM at_hand ORDER BY slug`)
	entries, err := all(rows, err, func(row scanner) (entry, error) {
		var e entry
		err := row.Scan(&e.slug, &e.mass)
		return e, err
	})
	at := map[string]sql.Null[measure.Gram]{}
	for _, e := range entries {
		at[e.slug] = e.mass
	}
	return at, err
}

// NoteAtHand stores that a material is in the house, with its mass if known.
func (s *Store) NoteAtHand(ctx context.Context, slug string, mass sql.Null[measure.Gram], at time.Time) error {
	_, err := s.exec(ctx, `INSERT INTO at_hand (slug, mass_g, noted_at) VALUES (?, ?, ?)
		ON CONFLICT (slug) DO UPDATE SET mass_g = excluded.mass_g, noted_at = excluded.noted_at`, slug, mass, stamp(at))
	return err
}

// UsedUp forgets that a material is in the house.
func (s *Store) UsedUp(ctx context.Context, slug string) error {
	return changed(s.exec(ctx, `DELETE FROM at_hand WHERE slug = ?`, slug))
}

// A Buy is a pudding that is bought for.
type Buy struct {
	PuddingID string
	Bowls     int
}

// Buying returns the puddings that are bought for, and the mass of each
// material that is in the basket.
func (s *Store) Buying(ctx context.Context) ([]Buy, map[string]measure.Gram, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT buying.pudding_id, buying.bowls FROM buying
		JOIN pudding ON pudding.id = buying.pudding_id WHERE pudding.removed_at IS NULL ORDER BY buying.added_at, buying.pudding_id`)
	list, err := all(rows, err, func(row scanner) (Buy, error) {
		var b Buy
		err := row.Scan(&b.PuddingID, &b.Bowls)
		return b, err
	})
	if err != nil {
		return nil, nil, err
	}
	type tick struct {
		slug string
		mass measure.Gram
	}
	rows, err = s.db.QueryContext(ctx, `SELECT slug, mass_g FROM bought`)
	ticks, err := all(rows, err, func(row scanner) (tick, error) {
		var t tick
		err := row.Scan(&t.slug, &t.mass)
		return t, err
	})
	bought := map[string]measure.Gram{}
	for _, t := range ticks {
		bought[t.slug] = t.mass
	}
	return list, bought, err
}

// BuyFor puts a pudding on the list, or changes its bowls.
func (s *Store) BuyFor(ctx context.Context, b Buy, at time.Time) error {
	return s.BuyForAll(ctx, []Buy{b}, at)
}

// BuyForAll does so for several: all of them or none.
func (s *Store) BuyForAll(ctx context.Context, buys []Buy, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		for _, b := range buys {
			if err := changed(tx.ExecContext(ctx, `INSERT INTO buying (pudding_id, bowls, added_at)
				SELECT id, ?, ? FROM pudding WHERE id = ? AND removed_at IS NULL
				ON CONFLICT (pudding_id) DO UPDATE SET bowls = excluded.bowls`, b.Bowls, stamp(at), b.PuddingID)); err != nil {
				return err
			}
		}
		return nil
	})
}

// NotBuyFor takes a pudding off the list.
func (s *Store) NotBuyFor(ctx context.Context, puddingID string) error {
	return changed(s.exec(ctx, `DELETE FROM buying WHERE pudding_id = ?`, puddingID))
}

// Tick notes that a mass of a material is in the basket; 0 g takes it out.
func (s *Store) Tick(ctx context.Context, slug string, mass measure.Gram, at time.Time) error {
	if mass <= 0 {
		_, err := s.exec(ctx, `DELETE FROM bought WHERE slug = ?`, slug)
		return err
	}
	_, err := s.exec(ctx, `INSERT INTO bought (slug, mass_g, ticked_at) VALUES (?, ?, ?)
		ON CONFLICT (slug) DO UPDATE SET mass_g = excluded.mass_g, ticked_at = excluded.ticked_at`, slug, mass, stamp(at))
	return err
}

// ServeAt sets when a pudding is to be on the table; the zero time takes it
// back.
func (s *Store) ServeAt(ctx context.Context, id string, at time.Time) error {
	var text sql.NullString
	if !at.IsZero() {
		text = sql.NullString{String: stamp(at), Valid: true}
	}
	return changed(s.exec(ctx, `UPDATE pudding SET serve_at = ? WHERE id = ? AND removed_at IS NULL`, text, id))
}
