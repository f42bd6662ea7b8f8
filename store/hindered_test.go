package store_test

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/vessel"
	"kirdu/store"
)

// TestWhatHinders fills the data file up, makes it read-only and damages it, and asks what is behind the error.
func TestWhatHinders(t *testing.T) {
	path := filepath.Join(t.TempDir(), "kirdu.sqlite")
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	s.DB().SetMaxOpenConns(1)
	save := func() error {
		_, err := s.DB().ExecContext(t.Context(), `INSERT INTO much VALUES (zeroblob(1000000))`)
		return err
	}
	limit := func(pragma string) {
		_, err := s.DB().ExecContext(t.Context(), pragma)
		require.NoError(t, err)
	}
	limit(`CREATE TABLE much (x)`)
	require.NoError(t, save())
	limit(`PRAGMA max_page_count = 1`) // as many as there are
	require.ErrorIs(t, store.Hindered(save()), store.ErrFull)
	limit(`PRAGMA max_page_count = 1000000`)
	limit(`PRAGMA query_only = 1`)
	require.ErrorIs(t, store.Hindered(save()), store.ErrReadOnly)
	limit(`PRAGMA query_only = 0`)
	require.NoError(t, save())
	_, err = s.DB().ExecContext(t.Context(), `VACUUM INTO '`+filepath.Join(t.TempDir(), "none", "x.sqlite")+`'`)
	require.ErrorIs(t, store.Hindered(err), store.ErrNoFile)

	other, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	defer other.Close()
	tx, err := other.DB().BeginTx(t.Context(), nil)
	require.NoError(t, err)
	limit(`PRAGMA busy_timeout = 20`)
	require.ErrorIs(t, store.Hindered(save()), store.ErrBusy)
	require.NoError(t, tx.Rollback())
	require.NoError(t, s.Close())

	require.ErrorIs(t, store.Hindered(&fs.PathError{Err: syscall.ENOSPC}), store.ErrFull)
	require.ErrorIs(t, store.Hindered(&fs.PathError{Err: syscall.EROFS}), store.ErrReadOnly)
	require.NoError(t, store.Hindered(errors.New("another")))
	require.NoError(t, store.Hindered(vessel.ErrShape))

	noise := filepath.Join(t.TempDir(), "noise.sqlite")
	require.NoError(t, os.WriteFile(noise, []byte("this has never been a data file of anything, however long it is"), 0o600))
	_, err = store.Open(t.Context(), noise)
	require.ErrorIs(t, err, store.ErrBroken)
}

// TestOnlyOneServes holds a data file twice.
func TestOnlyOneServes(t *testing.T) {
	path := filepath.Join(t.TempDir(), "new", "kirdu.sqlite")
	release, err := store.Hold(path, "process 7, since noon")
	require.NoError(t, err)
	_, err = store.Hold(path, "process 8")
	require.ErrorIs(t, err, store.ErrRunning)
	require.ErrorContains(t, err, "process 7, since noon")
	require.NoError(t, release())
	release, err = store.Hold(path, "process 8")
	require.NoError(t, err)
	require.NoError(t, release())
}
