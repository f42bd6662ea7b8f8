package page

import (
	"context"
	"sync"

	"kirdu/core/learn"
	"kirdu/store"
)

// lessons keeps what was learnt until a batch is finished, judged or forgotten.
type lessons struct {
	mutex sync.Mutex
	known *learn.Learnt
}

// Learnt returns what the batches of this kitchen teach. Those that were finished
// or judged since are worked out first.
func (a *App) Learnt(ctx context.Context) (*learn.Learnt, error) {
	a.learnt.mutex.Lock()
	defer a.learnt.mutex.Unlock()
	if a.learnt.known != nil {
		return a.learnt.known, nil
	}
	const atOnce = 40 // of a book that comes from elsewhere
	untaught, err := a.Store.Untaught(ctx, atOnce)
	if err != nil {
		return nil, err
	}
	for _, k := range untaught {
		state := k.State()
		if err := a.Store.SaveLesson(ctx, k.ID, learn.FromBatch(k.Plan, &state, k.Verdict.Learn()), a.Now()); err != nil {
			return nil, err
		}
	}
	list, err := a.Store.Lessons(ctx)
	if err != nil {
		return nil, err
	}
	forgotten, err := a.Store.ForgottenThings(ctx)
	if err != nil {
		return nil, err
	}
	var batches [][]learn.Observation
	for _, l := range list {
		batches = append(batches, remembered(l, forgotten))
	}
	known := learn.Combine(batches)
	a.learnt.known = &known
	return &known, nil
}

// remembered leaves out what was forgotten since the batch. A power is known by its
// burner: with that, what it says of the pot goes, too.
func remembered(l store.Lesson, forgotten []store.Forgotten) (kept []learn.Observation) {
	for _, o := range l.Observations {
		gone := false
		for _, f := range forgotten {
			gone = gone || f.Of == o.Of && f.Name == o.Key && !l.FinishedAt.After(f.At)
		}
		if !gone {
			kept = append(kept, o)
		}
	}
	return kept
}

// LearnAnew lets what was learnt be worked out anew when it is asked for next;
// cookID names a batch whose own lesson has changed, "" for none.
func (a *App) LearnAnew(ctx context.Context, cookID string) error {
	if cookID != "" {
		if err := a.Store.DropLesson(ctx, cookID); err != nil {
			return err
		}
	}
	a.learnt.mutex.Lock()
	defer a.learnt.mutex.Unlock()
	a.learnt.known = nil
	return nil
}
