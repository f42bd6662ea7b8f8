package store_test

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
)

// A copy a day, whole and for the owner alone; seven are kept, and nothing else in the folder is touched.
func TestDailyCopies(t *testing.T) {
	path := filepath.Join(t.TempDir(), "kitchen.sqlite")
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	folder := store.CopiesBeside(path)
	require.NoError(t, os.MkdirAll(folder, 0o700))
	mine := filepath.Join(folder, "kirdu-copy-of-mine.sqlite")
	require.NoError(t, os.WriteFile(mine, []byte("x"), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "kirdu-copy-2026-11-01.sqlite.making"), []byte("half"), 0o600))
	day := time.Date(2026, 11, 1, 8, 0, 0, 0, time.UTC)
	for n := range 10 {
		made, err := s.DailyCopy(t.Context(), folder, day.AddDate(0, 0, n))
		require.NoError(t, err)
		again, err := s.DailyCopy(t.Context(), folder, day.AddDate(0, 0, n).Add(time.Hour))
		require.NoError(t, err)
		require.Equal(t, made, again, "one a day")
		require.NoError(t, store.Verify(t.Context(), made))
		state, err := os.Stat(made)
		require.NoError(t, err)
		require.Equal(t, os.FileMode(0o600), state.Mode().Perm())
	}
	copies, err := store.Copies(folder)
	require.NoError(t, err)
	require.Len(t, copies, store.KeptCopies)
	require.Equal(t, filepath.Join(folder, "kirdu-copy-2026-11-04.sqlite"), copies[0])
	require.FileExists(t, mine)
	require.NoError(t, s.Close())

	// Without the data file nothing empty is begun beside the copies.
	require.NoError(t, os.Remove(path))
	_, err = store.Open(t.Context(), path)
	require.ErrorIs(t, err, store.ErrBeside)
	require.Contains(t, err.Error(), "kirdu-copy-2026-11-10.sqlite")
}

// A damaged data file is found, by the quick look and by the whole one.
func TestDamageIsFound(t *testing.T) {
	path := filepath.Join(t.TempDir(), "kitchen.sqlite")
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	require.NoError(t, s.Sound(t.Context()))
	for n := range 300 {
		require.NoError(t, s.SetSetting(t.Context(), "x"+time.Duration(n).String(), "some words that fill a page"))
	}
	require.NoError(t, s.Close())
	require.NoError(t, store.Verify(t.Context(), path))
	file, err := os.OpenFile(path, os.O_RDWR, 0)
	require.NoError(t, err)
	state, err := file.Stat()
	require.NoError(t, err)
	const page = 4096
	for at := int64(2 * page); at < state.Size(); at += page { // the head of the file stays as it is
		_, err = file.WriteAt([]byte("\xff\xff\xff\xff\xff\xff\xff\xff damaged"), at)
		require.NoError(t, err)
	}
	require.NoError(t, file.Close())
	require.ErrorIs(t, store.Verify(t.Context(), path), store.ErrBroken)
	s, err = store.Open(t.Context(), path)
	if err == nil { // it may open, and is found out then
		require.ErrorIs(t, s.Sound(t.Context()), store.ErrBroken)
		require.NoError(t, s.Close())
	}
}
