package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// KeptCopies is how many daily copies are kept.
const KeptCopies = 7

// copyName is how a daily copy is called; nothing else in its folder is touched.
const copyName, copyEnd, copyDay = "kirdu-copy-", ".sqlite", "2006-01-02"

// DailyCopy writes a checked copy of the data for a day into a folder, unless there is one, and takes away those
// beyond the latest seven. It returns the copy's path.
func (s *Store) DailyCopy(ctx context.Context, folder string, day time.Time) (path string, err error) {
	const ownerOnly = 0o700
	if err := os.MkdirAll(folder, ownerOnly); err != nil {
		return "", fmt.Errorf("make the folder of copies: %w", err)
	}
	path = filepath.Join(folder, copyName+day.Format(copyDay)+copyEnd)
	if _, err := os.Lstat(path); err == nil {
		return path, nil
	}
	// Under another name until it is whole: what is called a copy is one.
	making := path + ".making"
	if err := os.Remove(making); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return "", err
	}
	if err := s.Backup(ctx, making); err != nil {
		return "", err
	}
	if err := os.Rename(making, path); err != nil {
		return "", errors.Join(err, os.Remove(making))
	}
	return path, rotate(folder)
}

// rotate takes away the copies beyond the latest.
func rotate(folder string) error {
	copies, err := Copies(folder)
	if err != nil {
		return err
	}
	for len(copies) > KeptCopies {
		if err := os.Remove(copies[0]); err != nil {
			return err
		}
		copies = copies[1:]
	}
	return nil
}

// Copies lists the daily copies in a folder, the oldest first.
func Copies(folder string) (list []string, err error) {
	entries, err := os.ReadDir(folder)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	for _, entry := range entries {
		day, isCopy := strings.CutPrefix(strings.TrimSuffix(entry.Name(), copyEnd), copyName)
		if _, err := time.Parse(copyDay, day); isCopy && err == nil && strings.HasSuffix(entry.Name(), copyEnd) {
			list = append(list, filepath.Join(folder, entry.Name()))
		}
	}
	slices.Sort(list)
	return list, err
}

// CopiesBeside is the folder of daily copies of a data file, where no other is named.
func CopiesBeside(path string) string { return strings.TrimSuffix(path, ".sqlite") + "-copies" }

// Sound checks the open data file, quickly: pages, indexes, links. Error: ErrBroken.
func (s *Store) Sound(ctx context.Context) error {
	var said string
	if err := s.db.QueryRowContext(ctx, `PRAGMA quick_check(1)`).Scan(&said); err != nil {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		return fmt.Errorf("%w: %w", ErrBroken, err)
	}
	if said != "ok" {
		return fmt.Errorf("%w: %s", ErrBroken, said)
	}
	return nil
}

// Verify checks a data file that no program has open, from end to end. Errors: ErrBroken, ErrNewer, ErrRunning.
func Verify(ctx context.Context, path string) error {
	if log, err := os.Stat(path + "-wal"); err == nil && log.Size() > 0 {
		return fmt.Errorf("%s: %w", path, ErrRunning)
	}
	return verify(ctx, path)
}
