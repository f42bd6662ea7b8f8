package store_test

import (
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/vessel"
	"kirdu/store"
)

// A backup is taken while the kitchen writes, checked, and put back.
func TestBackupUnderLoadAndRestore(t *testing.T) {
	ctx := context.Background()
	folder := t.TempDir()
	path := filepath.Join(folder, "kirdu.sqlite")
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	pot := func() error {
		return s.AddPot(ctx, store.Pot{ID: uuid.NewString(), Pot: vessel.Pot{Name: "pot", Shape: vessel.Straight, DiameterMM: 200,
			HeightMM: 100}}, time.Now())
	}
	require.NoError(t, pot())
	stop := make(chan struct{})
	var group sync.WaitGroup
	group.Go(func() {
		for {
			select {
			case <-stop:
				return
			default:
				_ = pot()
			}
		}
	})
	backup := filepath.Join(folder, "copy.sqlite")
	require.NoError(t, s.Backup(ctx, backup))
	require.ErrorIs(t, s.Backup(ctx, backup), store.ErrThere, "nothing is written over")
	close(stop)
	group.Wait()
	atEnd, err := s.Pots(ctx)
	require.NoError(t, err)

	_, err = store.Restore(ctx, backup, path, time.Now())
	require.ErrorIs(t, err, store.ErrRunning)
	require.NoError(t, s.Close())
	kept, err := store.Restore(ctx, backup, path, time.Now())
	require.NoError(t, err)
	count := func(path string) int {
		s, err := store.Open(ctx, path)
		require.NoError(t, err)
		defer s.Close()
		pots, err := s.Pots(ctx)
		require.NoError(t, err)
		return len(pots)
	}
	require.LessOrEqual(t, count(path), len(atEnd))
	require.Positive(t, count(path))
	require.Len(t, atEnd, count(kept), "what was there is kept, with all that was in its log")

	for name, bytes := range map[string][]byte{"empty": {},
		"words": []byte("This is no data file, though it is long enough to be one of some kind."), "cut": cut(t, backup)} {
		broken := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(broken, bytes, 0o600))
		before := count(path)
		_, err := store.Restore(ctx, broken, path, time.Now())
		require.ErrorIs(t, err, store.ErrBroken, name)
		require.Equal(t, before, count(path))
	}
	_, err = store.Restore(ctx, filepath.Join(folder, "nowhere"), path, time.Now())
	require.Error(t, err)
}

// cut is the first half of a file.
func cut(t *testing.T, path string) []byte {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	return data[:len(data)/2]
}

// The data and its backups are their owner's alone; a newer program's data is not opened; beside
// what is left of one no empty kitchen is begun; a backup that fails leaves nothing.
func TestTheFilesOfTheData(t *testing.T) {
	ctx := context.Background()
	folder := t.TempDir()
	path := filepath.Join(folder, "kirdu.sqlite")
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	copied := filepath.Join(folder, "copy.sqlite")
	require.NoError(t, s.Backup(ctx, copied))
	for _, name := range []string{path, copied} {
		info, err := os.Stat(name)
		require.NoError(t, err)
		require.Equal(t, os.FileMode(0o600), info.Mode().Perm(), name)
	}
	gone, cancel := context.WithCancel(ctx)
	cancel()
	half := filepath.Join(folder, "half.sqlite")
	require.Error(t, s.Backup(gone, half))
	require.NoFileExists(t, half)

	_, err = s.DB().ExecContext(ctx, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, 1)`)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	_, err = store.Open(ctx, path)
	require.ErrorIs(t, err, store.ErrNewer)

	kept, err := store.Restore(ctx, copied, path, time.Now())
	require.NoError(t, err)
	require.FileExists(t, kept)
	require.NoError(t, os.Remove(path))
	_, err = store.Open(ctx, path)
	require.ErrorIs(t, err, store.ErrBeside)
	require.ErrorContains(t, err, kept)
	require.NoFileExists(t, path)
}
