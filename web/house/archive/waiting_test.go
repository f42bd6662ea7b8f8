package archive

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// What was looked at and never taken over goes by itself: after a while, for newer ones, and at the next start.
func TestUploadsDoNotStay(t *testing.T) {
	t.Setenv("TMPDIR", t.TempDir())
	file := func(name string, age time.Duration) string {
		path := filepath.Join(os.TempDir(), name)
		require.NoError(t, os.WriteFile(path, []byte("x"), 0o600))
		then := time.Now().Add(-age)
		require.NoError(t, os.Chtimes(path, then, then))
		return path
	}
	old, fresh, other := file("kirdu-import-1.zip", time.Hour), file("kirdu-import-2.zip", time.Minute), file("other.zip", time.Hour)
	u := newUploads(longestWait)
	require.NoFileExists(t, old)
	require.FileExists(t, fresh)
	require.FileExists(t, other)

	var tokens, paths []string
	for _, name := range []string{"a", "b", "c", "d", "e"} {
		paths = append(paths, file(name, 0))
		tokens = append(tokens, u.keep(paths[len(paths)-1]))
	}
	require.NoFileExists(t, paths[0], "the fifth is one too many")
	_, ok := u.take(tokens[0])
	require.False(t, ok)
	path, ok := u.take(tokens[2])
	require.True(t, ok)
	require.Equal(t, paths[2], path)
	require.FileExists(t, path, "who took it removes it")
	_, ok = u.take(tokens[2])
	require.False(t, ok, "once")

	short := newUploads(time.Millisecond)
	gone := file("f", 0)
	token := short.keep(gone)
	require.Eventually(t, func() bool { _, err := os.Stat(gone); return os.IsNotExist(err) }, 5*time.Second, time.Millisecond)
	_, ok = short.take(token)
	require.False(t, ok)
}
