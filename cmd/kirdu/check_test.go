package main

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
)

// A server makes the copy of the day beside its data, and says so; check tells whether a file is whole.
func TestServeKeepsCopiesAndCheckTells(t *testing.T) {
	path := filepath.Join(t.TempDir(), "kitchen.sqlite")
	ctx, cancel := context.WithCancel(t.Context())
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		_, _, _ = command(t, ctx, "", "serve", "--data", path, "--addr", "127.0.0.1:0")
	}()
	require.Eventually(t, func() bool {
		copies, err := store.Copies(store.CopiesBeside(path))
		return err == nil && len(copies) == 1
	}, 20*time.Second, 50*time.Millisecond)
	cancel()
	<-ended
	copies, err := store.Copies(store.CopiesBeside(path))
	require.NoError(t, err)
	for _, file := range []string{path, copies[0]} {
		out, _, err := command(t, t.Context(), "", "check", file)
		require.NoError(t, err)
		require.Contains(t, out, "is whole")
	}
	require.NoError(t, os.WriteFile(path, []byte("no data at all"), 0o600))
	_, _, err = command(t, t.Context(), "", "check", "--data", path)
	require.ErrorIs(t, err, store.ErrBroken)
	require.ErrorContains(t, err, "kirdu restore")
	_, _, err = command(t, t.Context(), "", "check", path+".none")
	require.ErrorContains(t, err, "no data to check")
}
