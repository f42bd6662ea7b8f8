package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
)

// A Sheet is all that is kept of one kind of thing: its columns, and one row a
// thing. A cell is nil, a string, an int64, a float64 or []byte.
type Sheet struct {
	Name    string
	Columns []Column
	Rows    [][]any
}

// A Column of a sheet.
type Column struct {
	Name string
	Type string // TEXT, INTEGER, REAL, BLOB
	Null bool   // a cell may be nil
}

// At returns where a column stands, -1 if there is none of that name.
func (s *Sheet) At(column string) int {
	return slices.IndexFunc(s.Columns, func(c Column) bool { return c.Name == column })
}

// A kept is how one table goes into an archive and out of one.
type kept struct {
	name   string
	key    []string
	order  string
	parent string // the table that its rows belong to; their column is link
	link   string
	leave  []string // columns that have no meaning elsewhere
	where  string
	log    bool // its rows are never changed
}

// secretSettings is how the names of settings begin that stay on their machine.
const secretSettings = "passphrase"

// archived are the tables of an archive, parents before children. Sessions, the
// passphrase and the tokens of gadgets are secrets of one machine and stay there.
var archived = []kept{
	{name: "setting", key: []string{"name"}, where: "name NOT LIKE '" + secretSettings + "%'"},
	{name: "pot", key: []string{"id"}},
	{name: "burner", key: []string{"id"}},
	{name: "water_test", key: []string{"id"}, parent: "burner", link: "burner_id"},
	{name: "measuring", key: []string{"id"}},
	{name: "own_material", key: []string{"slug"}},
	{name: "at_hand", key: []string{"slug"}},
	{name: "bought", key: []string{"slug"}},
	{name: "pudding", key: []string{"id"}},
	{name: "plan_version", key: []string{"pudding_id", "version"}, parent: "pudding", link: "pudding_id"},
	{name: "buying", key: []string{"pudding_id"}, parent: "pudding", link: "pudding_id"},
	{name: "gathering", key: []string{"id"}},
	{name: "gathering_pudding", key: []string{"gathering_id", "pudding_id"}, parent: "gathering", link: "gathering_id"},
	{name: "cook", key: []string{"id"}},
	{name: "cook_event", key: []string{"id"}, order: "sequence", parent: "cook", link: "cook_id", leave: []string{"sequence"}, log: true},
	{name: "reading", key: []string{"cook_id", "kind", "at", "value", "mark", "stored_at"}, order: "rowid", parent: "cook",
		link: "cook_id", log: true},
	{name: "verdict", key: []string{"cook_id"}, parent: "cook", link: "cook_id"},
	{name: "photo", key: []string{"cook_id"}, parent: "cook", link: "cook_id"},
	{name: "tag", key: []string{"cook_id", "name"}, parent: "cook", link: "cook_id"},
	{name: "lesson", key: []string{"cook_id"}, parent: "cook", link: "cook_id"},
	{name: "forgotten", key: []string{"about", "name"}},
}

type querier interface {
	QueryContext(ctx context.Context, query string, arguments ...any) (*sql.Rows, error)
}

// columns returns those of a table that an archive holds.
func (k kept) columns(ctx context.Context, q querier) ([]Column, error) {
	rows, err := q.QueryContext(ctx, `SELECT name, type, "notnull", pk FROM pragma_table_info(?)`, k.name)
	list, err := all(rows, err, func(row scanner) (Column, error) {
		var c Column
		var notNull, key int
		err := row.Scan(&c.Name, &c.Type, &notNull, &key)
		c.Null = notNull == 0 && key == 0
		return c, err
	})
	return slices.DeleteFunc(list, func(c Column) bool { return slices.Contains(k.leave, c.Name) }), err
}

// Sheets returns everything that an archive holds, as it was at one moment.
func (s *Store) Sheets(ctx context.Context) (sheets []Sheet, err error) {
	var unwatched *Witness // it only reads
	err = s.inTx(context.WithValue(ctx, witnessKey{}, unwatched), func(tx *sql.Tx) error {
		for _, k := range archived {
			sheet := Sheet{Name: k.name}
			if sheet.Columns, err = k.columns(ctx, tx); err != nil {
				return err
			}
			order, where := k.order, ""
			if order == "" {
				order = strings.Join(k.key, ", ")
			}
			if k.where != "" {
				where = " WHERE " + k.where
			}
			rows, err := tx.QueryContext(ctx, `SELECT `+names(sheet.Columns)+` FROM `+k.name+where+` ORDER BY `+order)
			if sheet.Rows, err = all(rows, err, func(row scanner) ([]any, error) { return scanCells(row, len(sheet.Columns)) }); err != nil {
				return fmt.Errorf("read %s: %w", k.name, err)
			}
			sheets = append(sheets, sheet)
		}
		return nil
	})
	return sheets, err
}

// EmptySheets returns the kinds of things that an archive may hold, without rows.
func (s *Store) EmptySheets(ctx context.Context) (sheets []Sheet, err error) {
	for _, k := range archived {
		columns, err := k.columns(ctx, s.db)
		if err != nil {
			return nil, err
		}
		sheets = append(sheets, Sheet{Name: k.name, Columns: columns})
	}
	return sheets, nil
}

func names(columns []Column) string {
	list := make([]string, len(columns))
	for i, c := range columns {
		list[i] = c.Name
	}
	return strings.Join(list, ", ")
}

func scanCells(row scanner, count int) ([]any, error) {
	cells, into := make([]any, count), make([]any, count)
	for i := range cells {
		into[i] = &cells[i]
	}
	if err := row.Scan(into...); err != nil {
		return nil, err
	}
	for i := range cells {
		if blob, ok := cells[i].([]byte); ok {
			cells[i] = slices.Clone(blob)
		}
	}
	return cells, nil
}

// An Absorbed says what an import does, by kind of thing.
type Absorbed struct {
	Name             string
	New, Same, Other int      // Other: here already, and not the same
	Clashes          []string // names of some of these
}

// Faults of an import.
var (
	ErrRow   = measure.Code("store.row")
	ErrSheet = measure.Code("store.sheet")
	errDry   = errors.New("only looked at")
)

// A Choice is what becomes of things that are here already and are not the same.
type Choice string

// The choices.
const (
	KeepOurs   Choice = "ours"
	TakeTheirs Choice = "theirs"
)

// Absorb takes sheets over, all of them or nothing; dry only says what it would
// do. What is here already and the same stays; what is not the same is kept or
// replaced by choice. Events and readings are only ever added. Errors: ErrRow, with
// the sheet and the row, ErrSheet.
func (s *Store) Absorb(ctx context.Context, sheets []Sheet, choice Choice, dry bool) (report []Absorbed, err error) {
	byName := map[string]*Sheet{}
	for i := range sheets {
		if !slices.ContainsFunc(archived, func(k kept) bool { return k.name == sheets[i].Name }) {
			return nil, fmt.Errorf("%s: %w", sheets[i].Name, ErrSheet)
		}
		byName[sheets[i].Name] = &sheets[i]
	}
	err = s.inTx(ctx, func(tx *sql.Tx) error {
		left := map[string]map[string]bool{} // what is not touched, by table and key
		for _, k := range archived {
			left[k.name] = map[string]bool{}
			sheet := byName[k.name]
			if sheet == nil {
				continue
			}
			one, err := k.absorb(ctx, tx, sheet, choice, left)
			if err != nil {
				return err
			}
			report = append(report, one)
			if k.name == "cook_event" {
				if err := settleCooks(ctx, tx, byName); err != nil {
					return err
				}
			}
		}
		if dry {
			return errDry
		}
		return nil
	})
	if errors.Is(err, errDry) {
		err = nil
	}
	return report, err
}

// settleCooks says of the cooks of an archive whether they are finished as their logs say, which ours and theirs
// make together. Error: ErrRow for one that is finished in the archive and not by its log.
func settleCooks(ctx context.Context, tx *sql.Tx, sheets map[string]*Sheet) error {
	seen := map[string]bool{}
	for _, from := range []struct{ sheet, column string }{{"cook", "id"}, {"cook_event", "cook_id"}} {
		sheet := sheets[from.sheet]
		if sheet == nil || sheet.At(from.column) < 0 {
			continue
		}
		for n, row := range sheet.Rows {
			id, _ := row[sheet.At(from.column)].(string)
			if seen[id] {
				continue
			}
			seen[id] = true
			if _, err := tx.ExecContext(ctx, `UPDATE cook SET finished_at = (SELECT e.at FROM cook_event e
					WHERE e.cook_id = cook.id AND e.kind = 'finished' AND NOT EXISTS (SELECT 1 FROM cook_event u
						WHERE u.cook_id = e.cook_id AND u.kind = 'undone' AND u.part = e.id) ORDER BY e.sequence LIMIT 1)
				WHERE id = ?`, id); err != nil {
				return fmt.Errorf("%s, row %d: %w: its log does not say that it is finished: %w", from.sheet, n+1, ErrRow, err)
			}
		}
	}
	return nil
}

func (k kept) absorb(ctx context.Context, tx *sql.Tx, sheet *Sheet, choice Choice, left map[string]map[string]bool) (Absorbed, error) {
	done := Absorbed{Name: k.name}
	columns, err := k.columns(ctx, tx)
	if err != nil {
		return done, err
	}
	if !slices.Equal(columns, sheet.Columns) {
		return done, fmt.Errorf("%s: its columns are not those of this Kirdu: %w", k.name, ErrRow)
	}
	keys := make([]int, len(k.key))
	conditions := make([]string, len(k.key))
	for i, name := range k.key {
		keys[i] = sheet.At(name)
		conditions[i] = name + " IS ?"
	}
	marks := strings.TrimSuffix(strings.Repeat("?, ", len(columns)), ", ")
	find := `SELECT ` + names(columns) + ` FROM ` + k.name + ` WHERE ` + strings.Join(conditions, " AND ")
	insert := `INSERT INTO ` + k.name + ` (` + names(columns) + `) VALUES (` + marks + `)`
	var sets []string
	for _, c := range columns {
		// When a cook was finished is what its log says, see settleCooks.
		if !slices.Contains(k.key, c.Name) && !(k.name == "cook" && c.Name == "finished_at") {
			sets = append(sets, c.Name+" = excluded."+c.Name)
		}
	}
	replace := insert
	if len(sets) > 0 && !k.log {
		replace += ` ON CONFLICT (` + strings.Join(k.key, ", ") + `) DO UPDATE SET ` + strings.Join(sets, ", ")
	}
	for n, row := range sheet.Rows {
		fault := func(err error) error {
			return fmt.Errorf("%s, row %d: %w: %w", k.name, n+1, ErrRow, err)
		}
		if err := k.check(sheet, row); err != nil {
			return done, fault(err)
		}
		key := make([]any, len(keys))
		for i, at := range keys {
			key[i] = row[at]
		}
		name := fmt.Sprint(key...)
		if k.parent != "" && left[k.parent][fmt.Sprint(row[sheet.At(k.link)])] {
			continue // it belongs to something that stays as it is here
		}
		rows, err := tx.QueryContext(ctx, find, key...)
		there, err := all(rows, err, func(r scanner) ([]any, error) { return scanCells(r, len(columns)) })
		if err != nil {
			return done, fault(err)
		}
		switch {
		case len(there) == 0:
			done.New++
			if _, err := tx.ExecContext(ctx, insert, row...); err != nil {
				return done, fault(err)
			}
		case same(there[0], row):
			done.Same++
		case k.log:
			return done, fault(errors.New("it is here already and says something else; what was told at the stove is never changed"))
		default:
			done.Other++
			const shown = 12
			if len(done.Clashes) < shown {
				done.Clashes = append(done.Clashes, sheet.title(row, name))
			}
			if choice != TakeTheirs {
				left[k.name][name] = true
				continue
			}
			if _, err := tx.ExecContext(ctx, replace, row...); err != nil {
				return done, fault(err)
			}
		}
	}
	return done, nil
}

// title says a row to people.
func (s *Sheet) title(row []any, key string) string {
	if at := s.At("name"); at >= 0 {
		if text, ok := row[at].(string); ok {
			return text
		}
	}
	return key
}

func same(a, b []any) bool {
	for i := range a {
		x, blob := a[i].([]byte)
		if blob {
			y, ok := b[i].([]byte)
			if !ok || !slices.Equal(x, y) {
				return false
			}
		} else if a[i] != b[i] {
			return false
		}
	}
	return true
}

// holds reports whether a value is of the kind of a column.
func (c Column) holds(value any) bool {
	switch value.(type) {
	case string:
		return c.Type == "TEXT"
	case int64:
		return c.Type == "INTEGER"
	case float64:
		return c.Type == "REAL"
	case []byte:
		return c.Type == "BLOB"
	}
	return false
}

// check holds what the database cannot: documents that can be read, moments that
// are moments, numbers that are finite.
func (k kept) check(sheet *Sheet, row []any) error {
	if len(row) != len(sheet.Columns) {
		return errors.New("it has not as many cells as there are columns")
	}
	cells := map[string]any{}
	for i, c := range sheet.Columns {
		cells[c.Name] = row[i]
		text, isText := row[i].(string)
		number, isReal := row[i].(float64)
		switch {
		case row[i] == nil && !c.Null:
			return fmt.Errorf("%s is missing", c.Name)
		case row[i] != nil && !c.holds(row[i]):
			return fmt.Errorf("%s is not of its kind", c.Name)
		case isReal && (math.IsNaN(number) || math.IsInf(number, 0)):
			return fmt.Errorf("%s is no number", c.Name)
		case isText && (c.Name == "at" || strings.HasSuffix(c.Name, "_at")):
			if _, err := parseStamp(text); err != nil {
				return fmt.Errorf("%s is no moment such as 2026-11-25T18:30:00.000000000Z", c.Name)
			}
		}
	}
	document, _ := cells["document"].(string)
	switch k.name {
	case "setting":
		name, _ := cells["name"].(string)
		value, _ := cells["value"].(string)
		if strings.HasPrefix(name, secretSettings) {
			return errors.New("a passphrase is never taken over")
		}
		return checkSetting(name, value)
	case "pot":
		return potOf(cells).Check()
	case "burner":
		return burnerOf(cells).Check()
	case "plan_version", "cook":
		if _, err := plan.Read([]byte(document)); err != nil {
			return fmt.Errorf("its plan: %w", err)
		}
		if line, there := cells["line"].(string); there {
			return json.Unmarshal([]byte(line), new([]int))
		}
	case "own_material":
		var m plan.OwnMaterial
		if err := json.Unmarshal([]byte(document), &m); err != nil {
			return err
		}
		return m.Check()
	case "lesson":
		return checkLesson(cells["observations"])
	case "reading":
		if value, there := cells["value"].(float64); there && math.Abs(value) > mostReading {
			return fmt.Errorf("value is more than %g", mostReading)
		}
	case "cook_event":
		return checkEvent(cells)
	}
	return nil
}

// mostReading is more than any scale or thermometer shows.
const mostReading = 1e6

// checkEvent holds a row of a log to what can have been told.
func checkEvent(cells map[string]any) error {
	text := func(name string) string { said, _ := cells[name].(string); return said }
	number := func(name string) float64 { x, _ := cells[name].(float64); return x }
	whole := func(name string) int {
		n, _ := cells[name].(int64)
		return int(min(max(n, math.MinInt32), math.MaxInt32))
	}
	at, err := parseStamp(text("at"))
	if err != nil {
		return err
	}
	e := cook.Event{ID: text("id"), Kind: cook.Kind(text("kind")), At: at, Step: whole("step"), Item: whole("item"),
		Mass: measure.Gram(number("mass_g")), MM: measure.Millimetre(number("depth_mm")), Part: text("part"), Value: number("value"),
		Material: text("material"), Pot: text("pot")}
	for _, document := range []struct {
		name string
		into any
	}{{"mend", &e.Mend}, {"marks", &e.Marks}, {"lasted", &e.Lasted}} {
		if said := text(document.name); said != "" {
			if err := json.Unmarshal([]byte(said), document.into); err != nil {
				return fmt.Errorf("%s: %w", document.name, err)
			}
		}
	}
	return e.Plausible()
}

// checkLesson holds what a batch taught to numbers that can be.
func checkLesson(cell any) error {
	text, _ := cell.(string)
	var list []learn.Observation
	if err := json.Unmarshal([]byte(text), &list); err != nil {
		return err
	}
	const most = 1000 // times, kelvins, minutes: no factor is so large
	for _, o := range list {
		if math.IsNaN(o.Mean) || math.Abs(o.Mean) > most || !(o.SD >= 0 && o.SD <= most) {
			return fmt.Errorf("what it teaches of %s is no number that can be", o.Quantity)
		}
	}
	return nil
}

// settingBounds are those of the settings that are numbers.
func settingBounds(name string) (b measure.Bound, numeric bool) {
	switch name {
	case settingOvens:
		return measure.Bound{High: timetable.MostOvens}, true
	case settingFridge:
		return measure.Bound{High: timetable.MostFridgeL}, true
	}
	b, numeric = plan.RoomBounds[name]
	return b, numeric
}

func checkSetting(name, value string) error {
	const longest = 200
	if len(name)+len(value) > longest {
		return errors.New("it is longer than any setting is")
	}
	bound, numeric := settingBounds(name)
	if !numeric {
		return nil
	}
	if x, err := strconv.ParseFloat(value, 64); err != nil || !bound.Holds(x) {
		return fmt.Errorf("%s: %w", name, bound.Error())
	}
	return nil
}

// potOf and burnerOf read a row as the kitchen knows it.
func potOf(cells map[string]any) vessel.Pot {
	number := func(name string) measure.Millimetre { x, _ := cells[name].(float64); return measure.Millimetre(x) }
	shape, _ := cells["shape"].(string)
	p := vessel.Pot{Shape: vessel.Shape(shape), DiameterMM: number("diameter_mm"), BottomMM: number("bottom_mm"), TopMM: number("top_mm"),
		LengthMM: number("length_mm"), WidthMM: number("width_mm"), HeightMM: number("height_mm")}
	if mass, weighed := cells["mass_g"].(float64); weighed {
		p.MassG = (*measure.Gram)(&mass)
	}
	uses, _ := cells["uses"].(string)
	p.Uses = usesOf(uses)
	return p
}

func burnerOf(cells map[string]any) vessel.Burner {
	kind, _ := cells["kind"].(string)
	power, _ := cells["power_w"].(float64)
	share, _ := cells["efficiency"].(float64)
	return vessel.Burner{Kind: kind, PowerW: measure.Watt(power), Efficiency: share}
}

// Documents are the columns that hold a document of their own, by sheet.
func Documents() map[string]string {
	return maps.Clone(documents)
}

var documents = map[string]string{"plan_version": "document", "cook": "document", "own_material": "document", "photo": "jpeg"}
