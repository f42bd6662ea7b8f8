package app

import (
	"context"
	"errors"
	"sync"

	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/store"
)

// lessons keeps what was learnt until a batch is finished, judged or forgotten.
type lessons struct {
	mutex sync.Mutex
	known *learn.Learnt
}

// forget lets what was learnt be put together anew.
func (l *lessons) forget() {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	l.known = nil
}

// Learnt returns what the batches of this kitchen teach, put together from their
// lessons.
func (k *Kitchen) Learnt(ctx context.Context) (*learn.Learnt, error) {
	k.learnt.mutex.Lock()
	defer k.learnt.mutex.Unlock()
	if k.learnt.known != nil {
		return k.learnt.known, nil
	}
	list, err := k.Remembered(ctx)
	if err != nil {
		return nil, err
	}
	var batches [][]learn.Observation
	for _, l := range list {
		batches = append(batches, l.Observations)
	}
	known := learn.Combine(batches)
	k.learnt.known = &known
	return &known, nil
}

// Remembered returns the lessons as they count: without what was forgotten.
func (k *Kitchen) Remembered(ctx context.Context) ([]store.Lesson, error) {
	list, err := k.Store.Lessons(ctx)
	if err != nil {
		return nil, err
	}
	forgotten, err := k.Store.ForgottenThings(ctx)
	if err != nil {
		return nil, err
	}
	for i := range list {
		list[i].Observations = remembered(list[i], forgotten)
	}
	return list, nil
}

// lessonOf works out what a batch teaches.
func lessonOf(c store.Cook) store.Lesson {
	state := c.State()
	return store.Lesson{CookID: c.ID, Edition: forecast.Edition, Observations: learn.FromBatch(c.Plan, &state, c.Verdict.Learn())}
}

// teachUntaught works out the lessons of batches that have none, one of an older
// edition of the model, or one that cannot be read.
func (k *Kitchen) teachUntaught(ctx context.Context) error {
	const atOnce = 300 // as many as teach
	untaught, err := k.Store.Untaught(ctx, forecast.Edition, atOnce)
	if err != nil {
		return err
	}
	lessons, err := k.Store.Lessons(ctx)
	if err != nil {
		return err
	}
	for _, l := range lessons {
		if !l.Unreadable || l.Edition < forecast.Edition { // these are among the untaught
			continue
		}
		c, err := k.Store.Cook(ctx, l.CookID)
		if bad := (*store.Unreadable)(nil); errors.As(err, &bad) {
			continue
		}
		if err != nil {
			return err
		}
		untaught = append(untaught, c)
	}
	for _, c := range untaught {
		if err := k.Store.SaveLesson(ctx, c.ID, lessonOf(c), k.Now()); err != nil {
			return err
		}
	}
	if len(untaught) > 0 {
		k.learnt.forget()
	}
	return nil
}

// Forget lets what batches until now teach of a thing count no more.
func (k *Kitchen) Forget(ctx context.Context, of learn.Quantity, name string) error {
	defer k.learnt.forget()
	return k.Store.Forget(ctx, store.Forgotten{Quantity: of, Name: name, At: k.Now()})
}

// Remember undoes Forget.
func (k *Kitchen) Remember(ctx context.Context, of learn.Quantity, name string) error {
	defer k.learnt.forget()
	return k.Store.Remember(ctx, of, name)
}

// remembered leaves out what was forgotten since the batch. A power is known by its
// burner: with that, what it says of the pot goes, too.
func remembered(l store.Lesson, forgotten []store.Forgotten) (kept []learn.Observation) {
	for _, o := range l.Observations {
		gone := false
		for _, f := range forgotten {
			gone = gone || f.Quantity == o.Quantity && f.Name == o.Key && !l.FinishedAt.After(f.At)
		}
		if !gone {
			kept = append(kept, o)
		}
	}
	return kept
}

// AddWaterTest stores a water test of a burner. What batches said of that burner
// was held against a guess of its power, and counts no more.
func (k *Kitchen) AddWaterTest(ctx context.Context, burner string, t store.WaterTest) error {
	defer k.learnt.forget()
	return k.Store.AddWaterTest(ctx, t, &store.Forgotten{Quantity: learn.Power, Name: burner, At: k.Now()})
}
