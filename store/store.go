// Package store keeps the kitchen's data in one SQLite file.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"kirdu/core/measure"
	"net/url"
	"os"
	"path/filepath"
	"sync/atomic"
	"time"

	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver named "sqlite"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Faults that callers test for.
var (
	ErrNotFound = measure.Code("store.not-found")
	ErrStale    = measure.Code("store.stale")
)

// A Store is the open data file.
type Store struct {
	db    *database
	watch *sql.DB // one connection that never writes: it sees the commits of all others
}

// Pragmas go into the data source name, so that every connection has them. A
// commit is on the disk when it returns.
const pragmas = "_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(1)" +
	"&_pragma=busy_timeout(5000)&_txlock=immediate"

// Open opens the data file, makes it and its folder if there is none, and
// brings it up to the present form. Errors: ErrBeside, ErrNewer, and what Hindered knows.
func Open(ctx context.Context, path string) (*Store, error) {
	const ownerOnly = 0o700
	if err := os.MkdirAll(filepath.Dir(path), ownerOnly); err != nil {
		return nil, hindered(fmt.Errorf("make the data folder: %w", err))
	}
	if err := ready(path); err != nil {
		return nil, hindered(err)
	}
	name := (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: pragmas}).String()
	db, err := sql.Open("sqlite", name)
	if err != nil {
		return nil, fmt.Errorf("open %s: %w", path, err)
	}
	const connections = 4 // readers beside the one writer
	db.SetMaxOpenConns(connections)
	if err := knows(ctx, db); err != nil {
		db.Close()
		return nil, hindered(fmt.Errorf("open %s: %w", path, err))
	}
	if err := migrate(ctx, db); err != nil {
		db.Close()
		return nil, hindered(fmt.Errorf("open %s: %w", path, err))
	}
	watch, err := sql.Open("sqlite", name)
	if err != nil {
		db.Close()
		return nil, fmt.Errorf("open %s: %w", path, err)
	}
	watch.SetMaxOpenConns(1)
	return &Store{&database{DB: db}, watch}, nil
}

// Version is another number after each commit, whoever made it. Source: SQLite's documentation, PRAGMA
// data_version.
func (s *Store) Version(ctx context.Context) (version int64, err error) {
	err = s.watch.QueryRowContext(ctx, `PRAGMA data_version`).Scan(&version)
	return version, err
}

func migrate(ctx context.Context, db *sql.DB) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, files)
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrate: %w", err)
	}
	return nil
}

// Close closes the data file.
func (s *Store) Close() error { return errors.Join(s.watch.Close(), s.db.Close()) }

// DB returns the database for the session store, the one part of the program
// that brings its own SQL.
func (s *Store) DB() *sql.DB { return s.db.DB }

// inTx runs a function in a transaction and commits it if it returns nil.
func (s *Store) inTx(ctx context.Context, do func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback() // after a commit it does nothing
	if err := do(tx); err != nil {
		return err
	}
	if err := tx.Commit(); err != nil {
		return err
	}
	committed(ctx)
	return nil
}

// exec runs one statement that changes something.
func (s *Store) exec(ctx context.Context, query string, arguments ...any) (sql.Result, error) {
	result, err := s.db.ExecContext(ctx, query, arguments...)
	if err == nil {
		if n, err := result.RowsAffected(); err == nil && n > 0 {
			committed(ctx)
		}
	}
	return result, err
}

type witnessKey struct{}

// A Witness knows whether something was stored in its context, so that the answer
// to a failure afterwards can say so.
type Witness struct{ stored atomic.Bool }

// Stored reports whether something was.
func (w *Witness) Stored() bool { return w != nil && w.stored.Load() }

// WithWitness returns a context in which changes are witnessed.
func WithWitness(ctx context.Context) context.Context {
	return context.WithValue(ctx, witnessKey{}, &Witness{})
}

// WitnessOf returns the witness of a context, nil if there is none.
func WitnessOf(ctx context.Context) *Witness {
	w, _ := ctx.Value(witnessKey{}).(*Witness)
	return w
}

func committed(ctx context.Context) {
	if w := WitnessOf(ctx); w != nil {
		w.stored.Store(true)
	}
}

// scanner is a row, or the present one of rows.
type scanner interface{ Scan(into ...any) error }

// all scans every row with one function.
func all[T any](rows *sql.Rows, err error, scan func(scanner) (T, error)) ([]T, error) {
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var list []T
	for rows.Next() {
		one, err := scan(rows)
		if err != nil {
			return nil, err
		}
		list = append(list, one)
	}
	return list, rows.Err()
}

// oneRow turns the absence of a row into ErrNotFound.
func oneRow[T any](one T, err error) (T, error) {
	if errors.Is(err, sql.ErrNoRows) {
		return one, ErrNotFound
	}
	return one, err
}

// changed turns a change of no row into ErrNotFound.
func changed(result sql.Result, err error) error {
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, ErrNotFound)
	}
	return nil
}

// Times are stored as text in UTC, in a form that sorts.
const timeForm = "2006-01-02T15:04:05.000000000Z"

func stamp(t time.Time) string { return t.UTC().Format(timeForm) }

func parseStamp(text string) (time.Time, error) { return time.Parse(timeForm, text) }

// Setting returns a setting, "" if it was never set.
func (s *Store) Setting(ctx context.Context, name string) (string, error) {
	var value string
	err := s.db.QueryRowContext(ctx, `SELECT value FROM setting WHERE name = ?`, name).Scan(&value)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return value, err
}

// Settings returns every setting but secrets, by name.
func (s *Store) Settings(ctx context.Context) (map[string]string, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT name, value FROM setting WHERE name NOT LIKE ?`, secretSettings+"%")
	list, err := all(rows, err, func(row scanner) ([2]string, error) {
		var pair [2]string
		err := row.Scan(&pair[0], &pair[1])
		return pair, err
	})
	set := map[string]string{}
	for _, pair := range list {
		set[pair[0]] = pair[1]
	}
	return set, err
}

// SetSetting stores a setting.
func (s *Store) SetSetting(ctx context.Context, name, value string) error {
	return s.SetSettings(ctx, map[string]string{name: value})
}

// SetSecret stores what opens the kitchen, and ends every session that the old one opened.
func (s *Store) SetSecret(ctx context.Context, name, value string) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM sessions`); err != nil {
			return err
		}
		return setSetting(ctx, tx, name, value)
	})
}

func setSetting(ctx context.Context, tx *sql.Tx, name, value string) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO setting (name, value) VALUES (?, ?)
		ON CONFLICT (name) DO UPDATE SET value = excluded.value`, name, value)
	return err
}

// SetSettings stores some settings, all of them or nothing.
func (s *Store) SetSettings(ctx context.Context, values map[string]string) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		for name, value := range values {
			if err := setSetting(ctx, tx, name, value); err != nil {
				return err
			}
		}
		return nil
	})
}
