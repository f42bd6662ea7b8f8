package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"kirdu/core/measure"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// Faults of backups.
var (
	ErrThere   = measure.Code("store.there")
	ErrBroken  = measure.Code("store.broken")
	ErrNewer   = measure.Code("store.newer")
	ErrRunning = measure.Code("store.running")
	ErrBeside  = measure.Code("store.beside")
)

// Backup writes a consistent copy of the data into a new file, while the program
// may run, and checks it. Errors: ErrThere, ErrBroken.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Lstat(path); err == nil {
		return fmt.Errorf("%s: %w", path, ErrThere)
	}
	if err := create(path); err != nil { // an empty file may be written into
		return fmt.Errorf("write %s: %w", path, err)
	}
	if err := s.backup(ctx, path); err != nil {
		return errors.Join(err, os.Remove(path)) // half a backup is none
	}
	return nil
}

func (s *Store) backup(ctx context.Context, path string) error {
	if _, err := s.exec(ctx, `VACUUM INTO ?`, path); err != nil {
		return fmt.Errorf("write %s: %w", path, err)
	}
	if err := flush(path); err != nil {
		return err
	}
	return verify(ctx, path)
}

// create makes an empty file that nobody else reads.
func create(path string) error {
	const ownerOnly = 0o600
	file, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, ownerOnly)
	if err != nil {
		return err
	}
	return file.Close()
}

// ready looks at the place of a data file before it is opened: a new one is made for its owner
// alone, unless what is left of one stands beside it. Errors: ErrBeside.
func ready(path string) error {
	if _, err := os.Lstat(path); err == nil || !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	left, err := filepath.Glob(strings.TrimSuffix(path, ".sqlite") + "-before-*.sqlite")
	if err != nil {
		left = nil // a name that is a pattern: nothing is looked for
	}
	if _, err := os.Lstat(path + ".restoring"); err == nil {
		left = append(left, path+".restoring")
	}
	copies, err := Copies(CopiesBeside(path))
	if err != nil {
		return err
	}
	if left = append(left, copies...); len(left) > 0 {
		return fmt.Errorf("%s: %w: %s", path, ErrBeside, strings.Join(left, ", "))
	}
	return create(path)
}

// knows reports an error where a newer program has written a data file.
func knows(ctx context.Context, db *sql.DB) error {
	var tables, version int
	err := db.QueryRowContext(ctx, `SELECT count(*) FROM sqlite_master WHERE name = 'goose_db_version'`).Scan(&tables)
	if err != nil || tables == 0 {
		return err
	}
	if err := db.QueryRowContext(ctx, `SELECT max(version_id) FROM goose_db_version`).Scan(&version); err != nil {
		return err
	}
	if version > newest() {
		return ErrNewer
	}
	return nil
}

// flush puts a file onto the disk.
func flush(path string) error {
	file, err := os.OpenFile(path, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	defer file.Close()
	return file.Sync()
}

// verify opens a data file for reading only and checks it from end to end.
func verify(ctx context.Context, path string) error {
	name := (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: "mode=ro&immutable=1"}).String()
	db, err := sql.Open("sqlite", name)
	if err != nil {
		return err
	}
	defer db.Close()
	var sound string
	if err := db.QueryRowContext(ctx, `PRAGMA integrity_check(1)`).Scan(&sound); err != nil || sound != "ok" {
		return fmt.Errorf("%s: %w", path, ErrBroken)
	}
	var version int
	if err := db.QueryRowContext(ctx, `SELECT max(version_id) FROM goose_db_version`).Scan(&version); err != nil {
		return fmt.Errorf("%s: %w", path, ErrBroken)
	}
	if version > newest() {
		return fmt.Errorf("%s: %w", path, ErrNewer)
	}
	return nil
}

// newest is the number of the last migration that this program knows.
func newest() (last int) {
	files, _ := fs.Glob(migrations, "migrations/*.sql")
	for _, name := range files {
		var number int
		if _, err := fmt.Sscanf(filepath.Base(name), "%d_", &number); err == nil {
			last = max(last, number)
		}
	}
	return last
}

// Restore puts a backup in the place of a data file that no program has open. What
// was there is kept beside it, under a name that ends in the time. It returns that
// name, "" if there was nothing. Errors: ErrBroken, ErrNewer, ErrRunning; then
// nothing is changed.
func Restore(ctx context.Context, backup, path string, now time.Time) (kept string, err error) {
	if err := verify(ctx, backup); err != nil {
		return "", err
	}
	release, err := Hold(path, "a restore") // no program begins with it meanwhile
	if err != nil {
		return "", err
	}
	defer release()
	fresh := path + ".restoring"
	if err := copyFile(backup, fresh); err != nil {
		return "", err
	}
	defer os.Remove(fresh) // after the renaming there is none
	if err := verify(ctx, fresh); err != nil {
		return "", err
	}
	if _, err := os.Lstat(path); err == nil {
		if err := alone(ctx, path); err != nil {
			return "", err
		}
		kept = strings.TrimSuffix(path, ".sqlite") + "-before-" + now.UTC().Format("20060102-150405") + ".sqlite"
		if _, err := os.Lstat(kept); err == nil {
			return "", fmt.Errorf("%s: %w", kept, ErrThere)
		}
		// Under both names first: at no moment is there no data file.
		if err := os.Link(path, kept); err != nil {
			return "", err
		}
	}
	if err := os.Rename(fresh, path); err != nil {
		if kept != "" {
			err = errors.Join(err, os.Remove(kept))
		}
		return "", err
	}
	return kept, nil
}

func copyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	const ownerOnly = 0o600
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, ownerOnly)
	if err != nil {
		return err
	}
	if _, err = io.Copy(out, in); err == nil {
		err = out.Sync()
	}
	return errors.Join(err, out.Close())
}

// alone reports an error where another program has a data file open, and writes its
// log into it otherwise, so that the file alone is all of it.
func alone(ctx context.Context, path string) error {
	name := (&url.URL{Scheme: "file", Opaque: url.PathEscape(path),
		RawQuery: "_pragma=locking_mode(EXCLUSIVE)&_pragma=busy_timeout(300)"}).String()
	db, err := sql.Open("sqlite", name)
	if err != nil {
		return err
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	// In the exclusive mode a rollback journal can only be asked for by who is alone.
	var mode string
	if err := db.QueryRowContext(ctx, `PRAGMA journal_mode = DELETE`).Scan(&mode); err != nil || mode != "delete" {
		return fmt.Errorf("%s: %w%s", path, ErrRunning, holder(path))
	}
	return nil
}
