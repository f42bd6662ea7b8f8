package app

import (
	"context"
	"math"
	"sync"
	"time"

	"github.com/google/uuid"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/device"
	"kirdu/store"
)

// An intake keeps the judges of the cooks that gadgets watch. Its zero value is
// empty.
type intake struct {
	mutex sync.Mutex
	pots  map[string]*watched // by cook
}

// A watched cook has its judge and when it was last told of each kind.
type watched struct {
	mutex   sync.Mutex
	judge   device.Judge
	told    map[device.Kind]time.Time
	standIn *device.StandIn
	seen    time.Time // on the kitchen's clock
}

// How often a settled reading is told to the cook's log, on its clock, and how
// long a cook is watched after the last reading.
const (
	tellEvery  = 3 * time.Minute
	watchedFor = time.Hour
)

// watch returns the judge of a cook, with what came before.
func (k *Kitchen) watch(ctx context.Context, c store.Cook) (*watched, error) {
	in := &k.intake
	in.mutex.Lock()
	defer in.mutex.Unlock()
	if in.pots == nil {
		in.pots = map[string]*watched{}
	}
	real := k.Now()
	for id, w := range in.pots {
		if id != c.ID && real.Sub(w.seen) > watchedFor {
			delete(in.pots, id)
		}
	}
	if w := in.pots[c.ID]; w != nil {
		w.seen = real
		return w, nil
	}
	const before = 3 * time.Minute
	now := c.Now(real)
	stored, err := k.Store.Readings(ctx, c.ID, now.Add(-before))
	if err != nil {
		return nil, err
	}
	w := &watched{told: map[device.Kind]time.Time{}, seen: real, judge: device.Judge{Begun: c.BegunAt}, standIn: device.NewStandIn(c.ID, now)}
	w.standIn.Power = FlameOf(c)
	for _, r := range stored {
		w.judge.Recent = append(w.judge.Recent, device.Judged{Sample: device.Sample{At: r.At, Kind: device.Kind(r.Kind), Value: r.Value},
			Mark: device.Mark(r.Mark)})
	}
	for _, e := range c.Events {
		switch e.Kind {
		case cook.Weighed:
			w.told[device.Scale] = e.At
		case cook.Probed:
			w.told[device.Probe] = e.At
		}
	}
	in.pots[c.ID] = w
	return w, nil
}

// A taken message is what became of it.
type taken struct {
	judged []device.Judged
	events []cook.Event
}

// heard is what of it is stored: a reading that came twice is stored once.
func (t taken) heard() store.Heard {
	h := store.Heard{Events: t.events}
	for _, r := range t.judged {
		if r.Mark != device.Doubled {
			h.Readings = append(h.Readings, store.Reading{Kind: string(r.Kind), At: r.At, Value: r.Value, Mark: string(r.Mark)})
		}
	}
	return h
}

// take judges the readings of a cook and makes of them, every few minutes, what a
// cook would have told: a weight, a temperature. withPot says that the scale bears
// the pot. Nothing is stored yet.
func (k *Kitchen) take(c store.Cook, w *watched, list []device.Sample, withPot bool) taken {
	now := c.Now(k.Now())
	state := c.State()
	name := state.Pot() // what stands on the scale is what the cook is about
	empty, weighed := state.Plan.Pots[name].Mass()
	pot, unknown := 0.0, withPot && !weighed
	if withPot && weighed {
		pot = float64(empty)
	}
	only, _ := state.Only(name)
	// Only a reading that has none before it is held against the forecast.
	course := sync.OnceValue(func() *forecast.Curve { return &learn.FollowPot(only, now).Forecast.Curve })
	zero, lit := only.Zero()
	w.judge.Pot = pot
	w.judge.Expected = func(kind device.Kind, at time.Time) (float64, bool) {
		if !lit || unknown && kind == device.Scale {
			return 0, false
		}
		curve := course()
		values := curve.MassG
		if kind == device.Probe {
			values = curve.TempC
		}
		return numeric.Interpolate(curve.Minute, values, at.Sub(zero).Minutes()), true
	}
	t := taken{judged: w.judge.Judge(list, now)}
	if !lit || !state.Open() || state.Done() {
		return t
	}
	for _, kind := range []device.Kind{device.Scale, device.Probe} {
		if now.Sub(w.told[kind]) < tellEvery || unknown && kind == device.Scale {
			continue // of a pot that was never weighed nobody knows what is in it
		}
		r, settled := w.judge.Settled(kind, now)
		if !settled || r.At.Before(state.Spans[state.Step].Begin) {
			continue
		}
		e := cook.Event{ID: uuid.NewSHA1(uuid.NameSpaceOID, []byte(c.ID+string(kind)+r.At.Format(time.RFC3339Nano))).String(),
			Kind: cook.Weighed, At: r.At, Mass: measure.Gram(math.Round(r.Value)), Pot: name}
		if kind == device.Probe {
			const tenth = 10
			e.Kind, e.Mass, e.Value = cook.Probed, 0, math.Round(r.Value*tenth)/tenth
		}
		if state.Check(e) == nil {
			w.told[kind] = now
			t.events = append(t.events, e)
		}
	}
	return t
}

// keep stores what was taken, all of it or nothing, and tells the devices that
// look at it.
func (k *Kitchen) keep(ctx context.Context, byCook map[string]taken) error {
	heard := map[string]store.Heard{}
	for id, t := range byCook {
		heard[id] = t.heard()
	}
	if err := k.Store.KeepReadings(ctx, heard, k.Now()); err != nil {
		return err
	}
	for id, t := range byCook {
		if len(t.events) > 0 {
			k.audience.tell(id)
		}
	}
	return nil
}

// TakeReadings judges and stores the readings of a gadget for a cook, and returns
// what became of each.
func (k *Kitchen) TakeReadings(ctx context.Context, gadget store.Gadget, c store.Cook, list []device.Sample) ([]device.Judged, error) {
	w, err := k.watch(ctx, c)
	if err != nil {
		return nil, err
	}
	w.mutex.Lock()
	defer w.mutex.Unlock()
	t := k.take(c, w, list, gadget.WithPot)
	if err := k.keep(ctx, map[string]taken{c.ID: t}); err != nil {
		return nil, err
	}
	return t.judged, k.Store.HeardOf(ctx, gadget.ID, k.Now())
}

// CookHeard returns the cook that a gadget speaks of: the one it names, "" for the
// one begun last. Error: store.ErrNotFound if that is not on the stove.
func (k *Kitchen) CookHeard(ctx context.Context, id string) (store.Cook, error) {
	if id != "" {
		c, err := k.Store.Cook(ctx, id)
		if err == nil && !c.State().Finished.IsZero() {
			return c, store.ErrNotFound
		}
		return c, err
	}
	cooks, err := k.Store.OnStove(ctx)
	if err != nil {
		return store.Cook{}, err
	}
	for _, c := range cooks {
		if !c.Rehearsal {
			return c, nil
		}
	}
	return store.Cook{}, store.ErrNotFound
}

// Rehearse reads the simulated gadgets of every rehearsal on the stove, each beat,
// until the program ends.
func (k *Kitchen) Rehearse(beat time.Duration, ending <-chan struct{}) {
	ticks := time.NewTicker(beat)
	defer ticks.Stop()
	for {
		select {
		case <-ending:
			return
		case <-ticks.C:
			if err := k.rehearsals(context.Background()); err != nil {
				k.Log.Error("rehearsals", "error", err)
			}
		}
	}
}

// rehearsals reads the stand-ins once.
func (k *Kitchen) rehearsals(ctx context.Context) error {
	cooks, err := k.Store.Rehearsals(ctx)
	if err != nil {
		return err
	}
	byCook := map[string]taken{}
	for _, c := range cooks {
		state := c.State()
		only, _ := state.Only(state.Pot())
		zero, lit := only.Zero()
		if !lit || state.Done() {
			continue
		}
		w, err := k.watch(ctx, c)
		if err != nil {
			return err
		}
		now := c.Now(k.Now())
		pot, _ := state.Plan.Pots[state.Pot()].Mass()
		w.mutex.Lock()
		if list := w.standIn.Readings(learn.Replay(only, now), zero, pot, now); len(list) > 0 {
			byCook[c.ID] = k.take(c, w, list, true)
		}
		w.mutex.Unlock()
	}
	if len(byCook) == 0 {
		return nil
	}
	return k.keep(ctx, byCook)
}
