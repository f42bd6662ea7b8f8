package store

import (
	"errors"
	"fmt"
	"io/fs"
	"kirdu/core/measure"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// What keeps the data from being written that is no fault of the program.
var (
	ErrFull     = measure.Code("store.full")
	ErrReadOnly = measure.Code("store.read-only")
	ErrBusy     = measure.Code("store.busy")
	ErrNoFile   = measure.Code("store.no-file")
	ErrDisk     = measure.Code("store.disk")
)

// Hindered returns which of ErrFull, ErrReadOnly, ErrBusy, ErrNoFile, ErrDisk and ErrBroken is behind an error, nil if none is.
func Hindered(err error) error {
	for _, known := range []error{ErrFull, ErrReadOnly, ErrBusy, ErrNoFile, ErrDisk, ErrBroken} {
		if errors.Is(err, known) {
			return known
		}
	}
	switch {
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return ErrFull
	case errors.Is(err, syscall.EROFS), errors.Is(err, fs.ErrPermission):
		return ErrReadOnly
	}
	fault, ok := errors.AsType[*sqlite.Error](err)
	if !ok {
		return nil
	}
	const primary = 0xff // the low byte; the others say more of it
	switch fault.Code() & primary {
	case sqlite3.SQLITE_FULL:
		return ErrFull
	case sqlite3.SQLITE_READONLY, sqlite3.SQLITE_PERM:
		return ErrReadOnly
	case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
		return ErrBusy
	case sqlite3.SQLITE_IOERR:
		return ErrDisk
	case sqlite3.SQLITE_CANTOPEN:
		return ErrNoFile
	case sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB:
		return ErrBroken
	}
	return nil
}

// hindered puts what is behind an error before it.
func hindered(err error) error {
	if known := Hindered(err); known != nil && !errors.Is(err, known) {
		return fmt.Errorf("%w (%w)", known, err)
	}
	return err
}
