package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"
)

// A Kind of thing that is stored as a document.
type Kind string

// The kinds.
const (
	APudding  Kind = "pudding"
	ABatch    Kind = "batch" // finished or on the stove
	AMaterial Kind = "material"
)

// An Unreadable is stored and cannot be understood by this program: it was written
// by a later one, or by a hand. Lists leave it out, and it keeps its row.
type Unreadable struct {
	Kind Kind
	ID   string
	Name string    // "" if even that is not known
	At   time.Time // when it was saved or begun; zero: not known
	Err  error
}

func (u *Unreadable) Error() string {
	return fmt.Sprintf("the stored %s %s cannot be read: %v", u.Kind, u.ID, u.Err)
}

func (u *Unreadable) Unwrap() error { return u.Err }

// readable collects the rows that can be read, and sets the others aside.
func readable[T any](rows *sql.Rows, err error, scan func(scanner) (T, error)) (list []T, aside []*Unreadable, _ error) {
	type either struct {
		one T
		bad *Unreadable
	}
	both, err := all(rows, err, func(row scanner) (e either, err error) {
		if e.one, err = scan(row); errors.As(err, &e.bad) {
			return e, nil
		}
		return e, err
	})
	for _, e := range both {
		if e.bad != nil {
			aside = append(aside, e.bad)
		} else {
			list = append(list, e.one)
		}
	}
	return list, aside, err
}

// stored says what of the tables belongs to a thing of a kind: its own row first.
var stored = map[Kind][]struct{ table, key string }{
	APudding: {{"pudding", "id"}, {"plan_version", "pudding_id"}},
	ABatch: {{"cook", "id"}, {"cook_event", "cook_id"}, {"reading", "cook_id"}, {"verdict", "cook_id"}, {"tag", "cook_id"},
		{"lesson", "cook_id"}},
	AMaterial: {{"own_material", "slug"}},
}

// Raw returns the rows of a thing as JSON, without understanding them: an object of
// tables, each a list of rows. Error: ErrNotFound.
func (s *Store) Raw(ctx context.Context, kind Kind, id string) ([]byte, error) {
	tables := map[string][]map[string]any{}
	for i, part := range stored[kind] {
		rows, err := s.db.QueryContext(ctx, `SELECT * FROM `+part.table+` WHERE `+part.key+` = ?`, id)
		if err != nil {
			return nil, err
		}
		columns, err := rows.Columns()
		if err != nil {
			return nil, errors.Join(err, rows.Close())
		}
		list, err := all(rows, nil, func(row scanner) (map[string]any, error) {
			cells, err := scanCells(row, len(columns))
			one := map[string]any{}
			for k, name := range columns {
				if k < len(cells) {
					one[name] = cells[k]
				}
			}
			return one, err
		})
		if err != nil {
			return nil, err
		}
		if i == 0 && len(list) == 0 {
			return nil, ErrNotFound
		}
		tables[part.table] = list
	}
	if len(tables) == 0 {
		return nil, ErrNotFound
	}
	return json.MarshalIndent(tables, "", " ")
}

// RemoveUnreadable takes a thing that cannot be read out of the lists; it stays in
// the data file as any that is removed. Error: ErrNotFound, also for a thing that
// can be read.
func (s *Store) RemoveUnreadable(ctx context.Context, kind Kind, id string, at time.Time) error {
	if _, err := s.Unreadable(ctx, kind, id); err != nil {
		return err
	}
	switch kind {
	case APudding:
		return s.RemovePudding(ctx, id, at)
	case AMaterial:
		return s.RemoveOwnMaterial(ctx, id, at)
	default:
		return changed(s.exec(ctx, `UPDATE cook SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
	}
}

// RestoreBatch brings a batch back that was removed. Error: ErrNotFound.
func (s *Store) RestoreBatch(ctx context.Context, id string) error {
	return changed(s.exec(ctx, `UPDATE cook SET removed_at = NULL WHERE id = ?`, id))
}

// Unreadable returns what is wrong with a thing. Error: ErrNotFound when it is not
// there, or can be read.
func (s *Store) Unreadable(ctx context.Context, kind Kind, id string) (*Unreadable, error) {
	var err error
	switch kind {
	case APudding:
		_, err = s.Pudding(ctx, id)
	case ABatch:
		_, err = s.Cook(ctx, id)
	case AMaterial:
		var aside []*Unreadable
		if _, aside, err = s.ownMaterials(ctx); err == nil {
			if i := slices.IndexFunc(aside, func(u *Unreadable) bool { return u.ID == id }); i >= 0 {
				return aside[i], nil
			}
		}
	}
	if bad, ok := errors.AsType[*Unreadable](err); ok {
		return bad, nil
	}
	if err == nil {
		err = ErrNotFound
	}
	return nil, err
}
