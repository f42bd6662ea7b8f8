package store

import (
	"context"
	"database/sql"
	"time"
)

// A Gathering joins puddings for one table.
type Gathering struct {
	ID, Name string
	ServeAt  time.Time
	Guests   int
	Hands    int // people who cook

	Places    []byte // JSON: where its puddings are in the timetable
	PlacesFor string // what that was worked out for
}

// A Share is a pudding of a gathering and how many bowls of it.
type Share struct {
	PuddingID  string
	Bowls      int
	ServeAfter int // minutes after the gathering is served
}

const gatheringColumns = `id, name, serve_at, guests, hands`

const gatheringQuery = `SELECT ` + gatheringColumns + `, places, places_for FROM gathering`

func scanGathering(row scanner) (Gathering, error) {
	var g Gathering
	var serve string
	if err := row.Scan(&g.ID, &g.Name, &serve, &g.Guests, &g.Hands, &g.Places, &g.PlacesFor); err != nil {
		return g, err
	}
	var err error
	if g.ServeAt, err = parseStamp(serve); string(g.Places) == "[]" {
		g.Places = nil
	}
	return g, err
}

// Gatherings returns all, the latest to be served first.
func (s *Store) Gatherings(ctx context.Context) ([]Gathering, error) {
	rows, err := s.db.QueryContext(ctx, gatheringQuery+` WHERE removed_at IS NULL ORDER BY serve_at DESC, id`)
	return all(rows, err, scanGathering)
}

// Gathering returns one. Error: ErrNotFound.
func (s *Store) Gathering(ctx context.Context, id string) (Gathering, error) {
	return oneRow(scanGathering(s.db.QueryRowContext(ctx, gatheringQuery+` WHERE id = ? AND removed_at IS NULL`, id)))
}

// SaveGathering stores a new gathering, or what was changed of one.
func (s *Store) SaveGathering(ctx context.Context, g Gathering, at time.Time) error {
	_, err := s.exec(ctx, `INSERT INTO gathering (`+gatheringColumns+`, created_at) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET name = excluded.name, serve_at = excluded.serve_at, guests = excluded.guests, hands = excluded.hands`,
		g.ID, g.Name, stamp(g.ServeAt), g.Guests, g.Hands, stamp(at))
	return err
}

// SavePlaces keeps where the puddings of a gathering are in its timetable. Error:
// ErrNotFound.
func (s *Store) SavePlaces(ctx context.Context, id string, places []byte, worked string) error {
	return changed(s.exec(ctx, `UPDATE gathering SET places = ?, places_for = ? WHERE id = ?`, string(places), worked, id))
}

// CooksOf returns the cooks of a gathering, on the stove or not, the earliest first.
func (s *Store) CooksOf(ctx context.Context, gatheringID string) ([]Cook, error) {
	return s.cooks(ctx, cookQuery+` WHERE cook.gathering_id = ? ORDER BY cook.begun_at LIMIT 50`, gatheringID)
}

// RemoveGathering takes one away; its puddings stay. Error: ErrNotFound.
func (s *Store) RemoveGathering(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE gathering SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
}

// RestoreGathering undoes RemoveGathering.
func (s *Store) RestoreGathering(ctx context.Context, id string) error {
	return changed(s.exec(ctx, `UPDATE gathering SET removed_at = NULL WHERE id = ?`, id))
}

// Shares returns the puddings of a gathering that are still on the shelf, as they
// were added.
func (s *Store) Shares(ctx context.Context, gatheringID string) ([]Share, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT pudding_id, bowls, serve_after FROM gathering_pudding JOIN pudding ON pudding.id = pudding_id
		WHERE gathering_id = ? AND pudding.removed_at IS NULL ORDER BY added_at, pudding_id`, gatheringID)
	return all(rows, err, func(row scanner) (Share, error) {
		var one Share
		err := row.Scan(&one.PuddingID, &one.Bowls, &one.ServeAfter)
		return one, err
	})
}

// SetShare puts so many bowls of a pudding on the table of a gathering.
func (s *Store) SetShare(ctx context.Context, gatheringID string, share Share, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		var there int
		if _, err := oneRow(there, tx.QueryRowContext(ctx, `SELECT 1 FROM pudding, gathering
			WHERE pudding.id = ? AND pudding.removed_at IS NULL AND gathering.id = ? AND gathering.removed_at IS NULL`, share.PuddingID,
			gatheringID).Scan(&there)); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO gathering_pudding
			(gathering_id, pudding_id, bowls, serve_after, added_at) VALUES (?, ?, ?, ?, ?)
			ON CONFLICT (gathering_id, pudding_id) DO UPDATE SET bowls = excluded.bowls, serve_after = excluded.serve_after`, gatheringID,
			share.PuddingID, share.Bowls, share.ServeAfter, stamp(at))
		return err
	})
}

// DropShare takes a pudding off the table of a gathering. Error: ErrNotFound.
func (s *Store) DropShare(ctx context.Context, gatheringID, puddingID string) error {
	return changed(s.exec(ctx, `DELETE FROM gathering_pudding WHERE gathering_id = ? AND pudding_id = ?`, gatheringID, puddingID))
}
