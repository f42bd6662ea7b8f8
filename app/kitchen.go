// Package app is what is done in an opened kitchen, whoever asks: a screen, a
// command, a gadget.
package app

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"runtime"
	"sync"
	"time"

	"github.com/google/uuid"

	"kirdu/core/plan"
	"kirdu/store"
)

// A Kitchen is the data of a household, and the clock that it goes by.
type Kitchen struct {
	Store *store.Store
	Now   func() time.Time
	Zone  *time.Location
	Log   *slog.Logger
	Demo  bool // a throwaway sample kitchen
	Login bool // a passphrase is asked for: it can be reached from the network

	audience  audience
	unpacking sync.Mutex
	intake    intake
	learnt    lessons
	reckoner  reckoner
	laid      sync.Map // the latest laid of each gathering that is still to come
	keeping   keeping
}

// Open opens a data file, made if there is none, and works out what an older
// program left open. The caller closes its Store.
func Open(ctx context.Context, path string, log *slog.Logger) (*Kitchen, error) {
	s, err := store.Open(ctx, path)
	if err != nil {
		return nil, err
	}
	k := &Kitchen{Store: s, Now: time.Now, Zone: time.Local, Log: log}
	if err := k.CatchUp(ctx); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return k, nil
}

// CatchUp works out what is stored without: the lines of cooks and the lessons of
// batches that an older program, an older edition of the model or an archive
// brought; and what each pudding comes to by the present edition.
func (k *Kitchen) CatchUp(ctx context.Context) error {
	if err := k.workLines(ctx); err != nil {
		return err
	}
	if err := k.teachUntaught(ctx); err != nil {
		return err
	}
	return k.foresee(ctx)
}

// DataFile returns where a kitchen is kept: where it is told, or kirdu.sqlite in
// the data folder of the system.
func DataFile(given string) (string, error) {
	if given != "" {
		return given, nil
	}
	const name = "kirdu.sqlite"
	if folder := os.Getenv("XDG_DATA_HOME"); folder != "" {
		return filepath.Join(folder, "kirdu", name), nil
	}
	if runtime.GOOS == "linux" {
		home, err := os.UserHomeDir()
		if err != nil {
			return "", fmt.Errorf("find your data folder (or give --data): %w", err)
		}
		return filepath.Join(home, ".local", "share", "kirdu", name), nil
	}
	folder, err := os.UserConfigDir()
	if err != nil {
		return "", fmt.Errorf("find your data folder (or give --data): %w", err)
	}
	return filepath.Join(folder, "Kirdu", name), nil
}

// NewID returns a new identifier, sortable by time.
func NewID() string { return uuid.Must(uuid.NewV7()).String() }

type homeKey struct{}

// WithHome lets what a request asks of the kitchen's own figures be read once.
func WithHome(ctx context.Context) context.Context {
	return context.WithValue(ctx, homeKey{}, &plan.Home{})
}

// Home returns what the kitchen has found out about itself, for reading only.
func (k *Kitchen) Home(ctx context.Context) (plan.Home, error) {
	once, _ := ctx.Value(homeKey{}).(*plan.Home)
	if once != nil && once.Measures != nil {
		return *once, nil
	}
	home, err := k.Store.Home(ctx)
	if err == nil && once != nil {
		*once = home
	}
	return home, err
}

// lay lays over puddings what this kitchen has found out: its measures, water tests,
// own materials and air, and what its batches teach.
func (k *Kitchen) lay(ctx context.Context, puddings []store.Pudding) error {
	if len(puddings) == 0 {
		return nil
	}
	home, err := k.Home(ctx)
	if err != nil {
		return err
	}
	learnt, err := k.Learnt(ctx)
	if err != nil {
		return err
	}
	for i := range puddings {
		puddings[i].Plan = puddings[i].Plan.In(home)
		learnt.Into(puddings[i].Plan)
	}
	return nil
}

// Pudding returns a pudding as it is cooked in this kitchen. Error:
// store.ErrNotFound.
func (k *Kitchen) Pudding(ctx context.Context, id string) (store.Pudding, error) {
	pudding, err := k.Store.Pudding(ctx, id)
	if err != nil {
		return pudding, err
	}
	one := []store.Pudding{pudding}
	err = k.lay(ctx, one)
	return one[0], err
}

// Shelf returns so many of the puddings, the latest saved first, as they are cooked
// in this kitchen, and those among them that cannot be read.
func (k *Kitchen) Shelf(ctx context.Context, most int) ([]store.Pudding, []*store.Unreadable, error) {
	shelf, aside, err := k.Store.Shelf(ctx, most)
	if err != nil {
		return nil, nil, err
	}
	return shelf, aside, k.lay(ctx, shelf)
}

// Puddings returns so many of the shelf that can be read, the latest saved first, as
// they are cooked in this kitchen.
func (k *Kitchen) Puddings(ctx context.Context, most int) ([]store.Pudding, error) {
	shelf, _, err := k.Shelf(ctx, most)
	return shelf, err
}

// Planned returns the puddings that have a time to be on the table, the next
// first, as they are cooked in this kitchen.
func (k *Kitchen) Planned(ctx context.Context) ([]store.Pudding, error) {
	planned, err := k.Store.Planned(ctx)
	if err != nil {
		return nil, err
	}
	return planned, k.lay(ctx, planned)
}
