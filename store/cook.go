package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"kirdu/core/cook"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Cook is a pudding on the stove, or one that was.
type Cook struct {
	ID        string
	PuddingID string
	Plan      *plan.Plan // as it was when the cook began
	Line      []int      // the steps in the order they are come to; nil: not worked out yet
	BegunAt   time.Time
	Zone      string
	Events    []cook.Event
	Verdict   *Verdict // nil until it is judged
	Tags      []string // of one that is loaded by itself, or with all

	GatheringID string  // "" for none
	Rehearsal   bool    // simulated, and not in the book
	Speed       float64 // of a rehearsal's clock, 1 to 120; 0 stands for 1
	Task        string  // of a rehearsal: one of rehearse.Tasks
}

// Now returns the moment on the cook's own clock, which runs faster than the
// kitchen's while it is rehearsed.
func (c Cook) Now(kitchen time.Time) time.Time {
	if c.Speed <= 1 {
		return kitchen
	}
	return c.BegunAt.Add(time.Duration(float64(kitchen.Sub(c.BegunAt)) * c.Speed))
}

// Log returns what is kept of the cook as the core knows it.
func (c Cook) Log() cook.Log {
	return cook.Log{Plan: c.Plan, Line: c.Line, Begun: c.BegunAt, Events: c.Events}
}

// State returns the fold of the cook's events.
func (c Cook) State() cook.State { return c.Log().Fold() }

// A Verdict is how a batch ate. Empty fields were not said.
type Verdict struct {
	Eaten     string // hot, warm, room, chilled
	Thickness int    // grade 1 to 8
	Sweetness string // one of SweetnessVerdicts
	Note      string

	Thicker string // how thick it is wanted the next time: one of ThicknessWishes, "" if not said
	Softer  string // how soft its grain: one of SoftnessWishes, "" if not said

	NextThickness int    // the next day, grade 1 to 8
	NextNote      string // the next day
}

// ThicknessWishes and SoftnessWishes list how a pudding may be wanted the next time: less, as it was, more.
func ThicknessWishes() []string { return []string{"thinner", "just right", "thicker"} }
func SoftnessWishes() []string  { return []string{"firmer", "just right", "softer"} }

// SweetnessVerdicts lists what can be said of the sweetness.
func SweetnessVerdicts() []string {
	return []string{"far from sweet enough", "not sweet enough", "just right", "too sweet", "far too sweet"}
}

// StartCook puts a pudding on the stove.
func (s *Store) StartCook(ctx context.Context, c Cook) error {
	document, err := c.Plan.JSON()
	if err != nil {
		return err
	}
	line, err := json.Marshal(c.Line)
	if err != nil {
		return err
	}
	_, err = s.exec(ctx, `INSERT INTO cook (id, pudding_id, document, line, begun_at, zone, speed, rehearsal, gathering_id, task)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		c.ID, c.PuddingID, string(document), sql.Null[string]{V: string(line), Valid: c.Line != nil}, stamp(c.BegunAt), c.Zone,
		max(c.Speed, 1), c.Rehearsal,
		sql.Null[string]{V: c.GatheringID, Valid: c.GatheringID != ""}, c.Task)
	return err
}

// ErrElsewhere is given for an event whose id another cook has: it is of that.
var ErrElsewhere = measure.Code("store.elsewhere")

// AppendEvent stores an event. An event that is stored already is not stored
// again: a device may send it twice. Errors: ErrNotFound for no such cook, ErrElsewhere.
func (s *Store) AppendEvent(ctx context.Context, cookID string, e cook.Event, storedAt time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error { return appendEvent(ctx, tx, cookID, e, storedAt) })
}

// Finish stores the event that ends a cook together with what the batch teaches.
func (s *Store) Finish(ctx context.Context, cookID string, e cook.Event, l Lesson, storedAt time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		if err := appendEvent(ctx, tx, cookID, e, storedAt); err != nil {
			return err
		}
		return saveLesson(ctx, tx, cookID, l, storedAt)
	})
}

func appendEvent(ctx context.Context, tx *sql.Tx, cookID string, e cook.Event, storedAt time.Time) error {
	var mend, marks, lasted []byte
	var err error
	if e.Mend != nil {
		if mend, err = json.Marshal(e.Mend); err != nil {
			return err
		}
	}
	if e.Marks != nil {
		if marks, err = json.Marshal(e.Marks); err != nil {
			return err
		}
	}
	if e.Lasted != nil {
		if lasted, err = json.Marshal(e.Lasted); err != nil {
			return err
		}
	}
	var known int
	if err := tx.QueryRowContext(ctx, `SELECT count(*) FROM cook WHERE id = ?`, cookID).Scan(&known); err != nil {
		return err
	}
	if known == 0 {
		return ErrNotFound
	}
	var elsewhere int
	const others = `SELECT count(*) FROM cook_event WHERE id = ? AND cook_id <> ?`
	if err := tx.QueryRowContext(ctx, others, e.ID, cookID).Scan(&elsewhere); err != nil {
		return err
	}
	if elsewhere > 0 {
		return ErrElsewhere
	}
	if _, err := tx.ExecContext(ctx, `INSERT INTO cook_event (id, cook_id, kind, at, step, mass_g, depth_mm, part, value, material, item,
		mend, marks, pot, lasted, stored_at)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`,
		e.ID, cookID, e.Kind, stamp(e.At), e.Step, e.Mass, e.MM, e.Part, e.Value, e.Material, e.Item, string(mend),
		sql.Null[string]{V: string(marks), Valid: marks != nil}, e.Pot, sql.Null[string]{V: string(lasted), Valid: lasted != nil},
		stamp(storedAt)); err != nil {
		return err
	}
	if e.Kind == cook.Finished {
		_, err := tx.ExecContext(ctx, `UPDATE cook SET finished_at = ? WHERE id = ? AND finished_at IS NULL`, stamp(e.At), cookID)
		return err
	}
	return nil
}

// Unworked returns so many of the cooks that an older program wrote: they have no
// line yet.
func (s *Store) Unworked(ctx context.Context, most int) ([]Cook, error) {
	return s.cooks(ctx, cookQuery+` WHERE cook.line IS NULL ORDER BY cook.begun_at DESC LIMIT ?`, most)
}

// SaveWorked stores the line of a cook that had none, and what its events do to
// the marks to come.
func (s *Store) SaveWorked(ctx context.Context, cookID string, log cook.Log) error {
	line, err := json.Marshal(log.Line)
	if err != nil {
		return err
	}
	return s.inTx(ctx, func(tx *sql.Tx) error {
		if err := changed(tx.ExecContext(ctx, `UPDATE cook SET line = ? WHERE id = ? AND line IS NULL`, string(line), cookID)); err != nil {
			return err
		}
		for _, e := range log.Events {
			if e.Marks == nil {
				continue
			}
			marks, err := json.Marshal(e.Marks)
			if err != nil {
				return err
			}
			if _, err := tx.ExecContext(ctx, `UPDATE cook_event SET marks = ? WHERE id = ? AND marks IS NULL`, string(marks), e.ID); err != nil {
				return err
			}
		}
		return nil
	})
}

const cookQuery = `SELECT cook.id, cook.pudding_id, cook.document, cook.line, cook.begun_at, cook.zone, cook.speed, cook.rehearsal,
	cook.task, cook.name,
	verdict.eaten, verdict.thickness, verdict.sweetness, verdict.note, verdict.next_thickness, verdict.next_note, verdict.thicker,
	verdict.softer
	FROM cook LEFT JOIN verdict ON verdict.cook_id = cook.id`

func scanCook(row scanner) (Cook, error) {
	var c Cook
	var document, begun, name string
	var line, eaten, sweetness, note, nextNote, thicker, softer sql.Null[string]
	var thickness, nextThickness sql.Null[int]
	if err := row.Scan(&c.ID, &c.PuddingID, &document, &line, &begun, &c.Zone, &c.Speed, &c.Rehearsal, &c.Task, &name,
		&eaten, &thickness, &sweetness, &note, &nextThickness, &nextNote, &thicker, &softer); err != nil {
		return c, err
	}
	var err error
	if c.BegunAt, err = parseStamp(begun); err != nil {
		return c, err
	}
	bad := &Unreadable{Kind: ABatch, ID: c.ID, Name: name, At: c.BegunAt}
	if c.Plan, bad.Err = plan.Read([]byte(document)); bad.Err != nil {
		return c, bad
	}
	if line.Valid {
		if bad.Err = json.Unmarshal([]byte(line.V), &c.Line); bad.Err != nil {
			return c, bad
		}
	}
	if eaten.Valid {
		c.Verdict = &Verdict{Eaten: eaten.V, Thickness: thickness.V, Sweetness: sweetness.V, Note: note.V, NextThickness: nextThickness.V,
			NextNote: nextNote.V, Thicker: thicker.V, Softer: softer.V}
	}
	return c, nil
}

// Cook returns one cook with its events. Error: ErrNotFound.
func (s *Store) Cook(ctx context.Context, id string) (Cook, error) {
	c, err := oneRow(scanCook(s.db.QueryRowContext(ctx, cookQuery+` WHERE cook.id = ?`, id)))
	if err != nil {
		return c, err
	}
	if c.Events, err = s.events(ctx, id); err != nil {
		return c, err
	}
	c.Tags, err = s.tagsOf(ctx, id)
	return c, err
}

// A BookFilter says which batches of the book are wanted.
type BookFilter struct {
	Words   string // in the name or the note
	Verdict string // a sweetness verdict; Unjudged for none at all; "" for any
	Tag     string // "" for any
}

// Unjudged is the filter for batches that have no verdict yet.
const Unjudged = "not judged yet"

// SearchBook returns so many of the batches in the book that a filter lets through,
// the latest first, behind those that are skipped.
func (s *Store) SearchBook(ctx context.Context, f BookFilter, most, skip int) ([]BookLine, error) {
	from, where := `cook INDEXED BY cook_book`, ` WHERE cook.finished_at IS NOT NULL AND cook.rehearsal = 0 AND cook.removed_at IS NULL`
	var arguments []any
	if f.Words != "" {
		phrase, few, err := s.isRare(ctx, f.Words)
		if err != nil {
			return nil, err
		}
		if few { // what is found is put in order
			from = `(SELECT rowid AS number FROM book_words WHERE book_words MATCH ?) CROSS JOIN book_entry USING (number)
				CROSS JOIN cook ON cook.id = book_entry.cook_id`
			arguments = append(arguments, phrase)
		} else { // going through the book in its order soon meets as many as are shown
			where += ` AND (cook.name LIKE ? ESCAPE '\' OR EXISTS (SELECT 1 FROM verdict WHERE verdict.cook_id = cook.id
				AND (verdict.note LIKE ? ESCAPE '\' OR verdict.next_note LIKE ? ESCAPE '\')))`
			like := "%" + strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(f.Words) + "%"
			arguments = append(arguments, like, like, like)
		}
	}
	inner := `SELECT cook.rowid FROM ` + from + where
	switch f.Verdict {
	case "":
	case Unjudged:
		inner += ` AND cook.rowid NOT IN (SELECT judged.rowid FROM verdict JOIN cook AS judged ON judged.id = verdict.cook_id)`
	default:
		inner += ` AND cook.rowid IN (SELECT judged.rowid FROM verdict JOIN cook AS judged ON judged.id = verdict.cook_id
			WHERE verdict.sweetness = ?)`
		arguments = append(arguments, f.Verdict)
	}
	if f.Tag != "" {
		inner += ` AND cook.rowid IN (SELECT tagged.rowid FROM tag JOIN cook AS tagged ON tagged.id = tag.cook_id WHERE tag.name = ?)`
		arguments = append(arguments, f.Tag)
	}
	// Found in the index of the book alone, in its order; only what is shown is read whole.
	return s.lines(ctx, ` WHERE cook.rowid IN (`+inner+` ORDER BY cook.begun_at DESC LIMIT ? OFFSET ?) ORDER BY cook.begun_at DESC`,
		append(arguments, most, skip)...)
}

// indexed is how many letters the index of the book's words needs, rare how many batches have a word that is.
const (
	indexed = 3
	rare    = 500
)

// isRare looks words up in the index of the book: phrase asks for them there.
func (s *Store) isRare(ctx context.Context, words string) (phrase string, rarely bool, err error) {
	if utf8.RuneCountInString(words) < indexed {
		return "", false, nil
	}
	phrase = `"` + strings.ReplaceAll(words, `"`, `""`) + `"`
	n := 0
	err = s.db.QueryRowContext(ctx, `SELECT count(*) FROM (SELECT 1 FROM book_words WHERE book_words MATCH ? LIMIT ?)`, phrase,
		rare+1).Scan(&n)
	return phrase, n <= rare, err
}

// Rehearsals returns those that are on the stove.
func (s *Store) Rehearsals(ctx context.Context) ([]Cook, error) {
	return s.cooks(ctx, cookQuery+` WHERE cook.removed_at IS NULL AND cook.finished_at IS NULL AND cook.rehearsal = 1
		ORDER BY cook.begun_at DESC LIMIT ?`, mostRehearsed)
}

// OnStove returns the cooks that are not finished, the latest begun first.
func (s *Store) OnStove(ctx context.Context) ([]Cook, error) {
	return s.cooks(ctx, cookQuery+` WHERE cook.removed_at IS NULL AND cook.finished_at IS NULL ORDER BY cook.begun_at DESC LIMIT ?`,
		mostOnStove)
}

// Book returns so many of the finished cooks, the latest first; rehearsals are
// not in it.
func (s *Store) Book(ctx context.Context, most int) ([]Cook, error) {
	return s.cooks(ctx, cookQuery+` WHERE cook.finished_at IS NOT NULL AND cook.rehearsal = 0 AND cook.removed_at IS NULL
		ORDER BY cook.begun_at DESC LIMIT ?`, most)
}

// mostRehearsed bounds what is simulated at once.
const mostRehearsed = 60

// mostOnStove bounds what is listed: each that is there can be reached.
const mostOnStove = 200

// cooks leaves out those that cannot be read: the book and the bar of every page
// still name them.
func (s *Store) cooks(ctx context.Context, query string, arguments ...any) ([]Cook, error) {
	rows, err := s.db.QueryContext(ctx, query, arguments...)
	found, _, err := readable(rows, err, scanCook)
	if err != nil {
		return nil, err
	}
	list := found[:0]
	for _, c := range found {
		var bad *Unreadable
		if c.Events, err = s.events(ctx, c.ID); errors.As(err, &bad) {
			continue
		}
		if err != nil {
			return nil, err
		}
		list = append(list, c)
	}
	return list, nil
}

// A Cooking names a pudding on the stove.
type Cooking struct{ ID, Name string }

// Cooking returns what is on the stove by name only: every page shows it.
func (s *Store) Cooking(ctx context.Context) ([]Cooking, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT id, document ->> '$.name' FROM cook
		WHERE removed_at IS NULL AND finished_at IS NULL ORDER BY begun_at DESC LIMIT ?`, mostOnStove)
	return all(rows, err, func(row scanner) (Cooking, error) {
		var c Cooking
		err := row.Scan(&c.ID, &c.Name)
		return c, err
	})
}

func (s *Store) events(ctx context.Context, cookID string) ([]cook.Event, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT id, kind, at, step, mass_g, depth_mm, part, value, material, item, mend, marks,
		pot, lasted FROM cook_event
		WHERE cook_id = ? ORDER BY sequence`, cookID)
	list, err := all(rows, err, func(row scanner) (cook.Event, error) {
		var e cook.Event
		var at, mend string
		var marks, lasted sql.Null[string]
		err := row.Scan(&e.ID, &e.Kind, &at, &e.Step, &e.Mass, &e.MM, &e.Part, &e.Value, &e.Material, &e.Item, &mend, &marks,
			&e.Pot, &lasted)
		if err != nil {
			return e, err
		}
		if mend != "" {
			if err := json.Unmarshal([]byte(mend), &e.Mend); err != nil {
				return e, &Unreadable{Kind: ABatch, ID: cookID, Err: fmt.Errorf("the repair of event %s: %w", e.ID, err)}
			}
		}
		if marks.Valid {
			if err := json.Unmarshal([]byte(marks.V), &e.Marks); err != nil {
				return e, &Unreadable{Kind: ABatch, ID: cookID, Err: fmt.Errorf("the marks of event %s: %w", e.ID, err)}
			}
		}
		if lasted.Valid {
			if err := json.Unmarshal([]byte(lasted.V), &e.Lasted); err != nil {
				return e, &Unreadable{Kind: ABatch, ID: cookID, Err: fmt.Errorf("how long it took, of event %s: %w", e.ID, err)}
			}
		}
		e.At, err = parseStamp(at)
		return e, err
	})
	// What cannot have been told is passed over: it stays in the log, and takes no page down.
	return slices.DeleteFunc(list, func(e cook.Event) bool { return e.Plausible() != nil }), err
}

// Judge stores how a batch ate, its tags, and what it teaches now; a later word
// replaces the earlier. Error: ErrNotFound for a cook that is not there or not
// finished.
func (s *Store) Judge(ctx context.Context, cookID string, v Verdict, tags []string, l Lesson, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		err := changed(tx.ExecContext(ctx, `INSERT INTO verdict (cook_id, eaten, thickness, sweetness, note, next_thickness, next_note, thicker,
			softer, judged_at)
			SELECT id, ?, ?, ?, ?, ?, ?, ?, ?, ? FROM cook WHERE id = ? AND finished_at IS NOT NULL
			ON CONFLICT (cook_id) DO UPDATE SET eaten = excluded.eaten, thickness = excluded.thickness,
				sweetness = excluded.sweetness, note = excluded.note, next_thickness = excluded.next_thickness,
				next_note = excluded.next_note, thicker = excluded.thicker, softer = excluded.softer, judged_at = excluded.judged_at`,
			v.Eaten, v.Thickness, v.Sweetness, v.Note, v.NextThickness, v.NextNote, v.Thicker, v.Softer, stamp(at), cookID))
		if err != nil {
			return err
		}
		if err := setTags(ctx, tx, cookID, tags); err != nil {
			return err
		}
		return saveLesson(ctx, tx, cookID, l, at)
	})
}
