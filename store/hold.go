package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/gofrs/flock"
)

// Hold keeps a data file for one program that serves it, who leaves a line about itself
// for whoever comes second. The system ends the hold with the program, however that ends;
// release ends it before. Errors: ErrRunning with that line, ErrReadOnly, ErrFull.
func Hold(path, who string) (release func() error, err error) {
	const ownerFolder, ownerFile = 0o700, 0o600
	if err := os.MkdirAll(filepath.Dir(path), ownerFolder); err != nil {
		return nil, hindered(fmt.Errorf("make the data folder: %w", err))
	}
	place := lockOf(path)
	lock := flock.New(place, flock.SetPermissions(ownerFile))
	held, err := lock.TryLock()
	if err != nil {
		return nil, hindered(fmt.Errorf("hold %s: %w", path, err))
	}
	if !held {
		return nil, fmt.Errorf("%s: %w%s", path, ErrRunning, holder(path))
	}
	if err := os.WriteFile(place, []byte(who+"\n"), ownerFile); err != nil {
		return nil, errors.Join(hindered(fmt.Errorf("hold %s: %w", path, err)), lock.Close())
	}
	return lock.Close, nil
}

// holder is what the program that holds a data file says of itself, in brackets; "" if none does.
func holder(path string) string {
	place := lockOf(path)
	said, err := os.ReadFile(place)
	line := strings.TrimSpace(string(said))
	if err != nil || line == "" {
		return ""
	}
	lock := flock.New(place)
	if free, err := lock.TryRLock(); free || err != nil { // it has ended
		_ = lock.Close()
		return ""
	}
	return " (" + line + ")"
}

func lockOf(path string) string { return path + ".lock" }
