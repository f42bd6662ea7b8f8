package app

import (
	"context"
	"errors"
	"sync/atomic"
	"time"

	"kirdu/store"
)

// A watch over the data file: its daily copies, and whether it is sound.
type keeping struct {
	copied  atomic.Pointer[Copied]
	damaged atomic.Bool
}

// Copied is how the last daily copy went.
type Copied struct {
	Path    string // of the copy, or of the folder where it failed
	At      time.Time
	Trouble error // nil if it went well
}

// LastCopy returns how the last daily copy went, nil before the first.
func (k *Kitchen) LastCopy() *Copied { return k.keeping.copied.Load() }

// Damaged reports whether the data file was found damaged.
func (k *Kitchen) Damaged() bool { return k.keeping.damaged.Load() }

// lookEvery is how often it is looked whether a copy of the day is there.
const lookEvery = time.Hour

// Keep checks the data file once and makes a copy of it each day, in a folder, until the context ends. What goes
// wrong is told on the settings page and in the log, and stops nothing.
func (k *Kitchen) Keep(ctx context.Context, folder string) {
	if err := k.Store.Sound(ctx); errors.Is(err, store.ErrBroken) {
		k.keeping.damaged.Store(true)
		k.Log.Error("the data file is damaged: put a backup in its place", "error", err)
	}
	look := time.NewTicker(lookEvery)
	defer look.Stop()
	for {
		k.CopyToday(ctx, folder)
		select {
		case <-ctx.Done():
			return
		case <-look.C:
		}
	}
}

// CopyToday makes the copy of the day, unless the household wants none or the data file is damaged: a bad copy
// must not push a good one out.
func (k *Kitchen) CopyToday(ctx context.Context, folder string) {
	preferences, err := k.Preferences(ctx)
	if err != nil || preferences.Value(copiesSetting) == copiesOff || k.Damaged() {
		return
	}
	done := Copied{Path: folder, At: k.Now()}
	path, err := k.Store.DailyCopy(ctx, folder, k.Now().In(k.Zone))
	switch {
	case ctx.Err() != nil:
		return
	case errors.Is(err, store.ErrBroken):
		k.keeping.damaged.Store(true)
		fallthrough
	case err != nil:
		done.Trouble = err
		k.Log.Error("no daily copy", "folder", folder, "error", err)
	default:
		done.Path = path
	}
	k.keeping.copied.Store(&done)
}
