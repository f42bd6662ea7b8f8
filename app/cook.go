package app

import (
	"context"
	"slices"
	"sync"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/store"
)

// Begin puts a pudding on the stove, with the line of steps it goes along.
func (k *Kitchen) Begin(ctx context.Context, c store.Cook) error {
	c.Line = learn.LineOf(c.Plan)
	return k.Store.StartCook(ctx, c)
}

// Tell stores what a cook at the stove tells, with what it does to the marks to
// come; the end of a batch is stored with what it teaches. Every device that looks
// at the cook hears of it. Errors: cook.ErrUndone for taking back what was never
// told, store.ErrNotFound.
func (k *Kitchen) Tell(ctx context.Context, c store.Cook, e cook.Event) error {
	undone := func(told cook.Event) bool { return told.ID == e.Part && told.Kind != cook.Finished }
	if e.Kind == cook.Undone && !slices.ContainsFunc(c.Events, undone) {
		return cook.ErrUndone
	}
	e = learn.Tell(c.Log(), e)
	var err error
	if e.Kind == cook.Finished && !c.Rehearsal {
		ended := c
		ended.Events = append(slices.Clone(c.Events), e)
		err = k.Store.Finish(ctx, c.ID, e, lessonOf(ended), k.Now())
		k.learnt.forget()
	} else {
		err = k.Store.AppendEvent(ctx, c.ID, e, k.Now())
	}
	if err == nil {
		k.audience.tell(c.ID)
	}
	if err == nil && e.Kind == cook.Tared {
		state := c.State()
		err = k.weighPot(ctx, state.Plan.Pots[state.PotOf(e)].Name, e.Mass)
	}
	return err
}

// weighPot notes what a pot of the kitchen weighs empty that nobody knew.
func (k *Kitchen) weighPot(ctx context.Context, name string, empty measure.Gram) error {
	pots, err := k.Store.Pots(ctx)
	if err != nil {
		return err
	}
	for _, pot := range pots {
		if pot.Name == name && name != "" && pot.MassG == nil {
			pot.MassG = &empty
			return k.Store.ChangePot(ctx, pot)
		}
	}
	return nil
}

// Judge stores how a batch ate, with its tags and what it teaches now.
func (k *Kitchen) Judge(ctx context.Context, c store.Cook, v store.Verdict, tags []string) error {
	c.Verdict = &v
	err := k.Store.Judge(ctx, c.ID, v, tags, lessonOf(c), k.Now())
	k.learnt.forget()
	return err
}

// workLines gives cooks of an older program their line, and their events what
// they do to the marks.
func (k *Kitchen) workLines(ctx context.Context) error {
	const atOnce = 50
	for {
		list, err := k.Store.Unworked(ctx, atOnce)
		if err != nil || len(list) == 0 {
			return err
		}
		for _, c := range list {
			log := learn.LogOf(c.Plan, c.BegunAt, c.Events)
			for i := range log.Events {
				if e := &log.Events[i]; e.Marks == nil && (e.Kind.IsDeviation() || e.Kind == cook.Undone) {
					e.Marks = map[int]measure.Gram{}
				}
			}
			if err := k.Store.SaveWorked(ctx, c.ID, log); err != nil {
				return err
			}
		}
	}
}

// Join lets a device hear when something is told of a cook: several changes at
// once are one. ok is false when too many listen; leave ends it.
func (k *Kitchen) Join(cookID string) (changed <-chan struct{}, leave func(), ok bool) {
	heard, ok := k.audience.join(cookID)
	return heard, func() { k.audience.leave(cookID, heard) }, ok
}

// An audience are the devices that look at each cook. Its zero value is empty.
type audience struct {
	mutex sync.Mutex
	of    map[string]map[chan struct{}]bool
	count int
}

// mostListeners is more than a household has devices; beyond it the pages still
// load anew by themselves.
const mostListeners = 200

func (a *audience) join(cook string) (changed chan struct{}, ok bool) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	if a.count >= mostListeners {
		return nil, false
	}
	if a.of == nil {
		a.of = map[string]map[chan struct{}]bool{}
	}
	if a.of[cook] == nil {
		a.of[cook] = map[chan struct{}]bool{}
	}
	changed = make(chan struct{}, 1)
	a.of[cook][changed] = true
	a.count++
	return changed, true
}

func (a *audience) leave(cook string, changed chan struct{}) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	if !a.of[cook][changed] {
		return
	}
	delete(a.of[cook], changed)
	if len(a.of[cook]) == 0 {
		delete(a.of, cook)
	}
	a.count--
}

// tell lets every device of a cook know.
func (a *audience) tell(cook string) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	for changed := range a.of[cook] {
		select {
		case changed <- struct{}{}:
		default: // it has yet to hear of the change before
		}
	}
}
