package gadgets

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
	"kirdu/device"
	"kirdu/store"
	"kirdu/web/page"
)

// An intake judges readings and makes of them, every few minutes, what a cook
// would have told: a weight, a temperature.
type intake struct {
	app  *page.App
	tell func(cook string)

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

func newIntake(app *page.App, tell func(string)) *intake {
	return &intake{app: app, tell: tell, pots: map[string]*watched{}}
}

// watch returns the judge of a cook, with what came before.
func (in *intake) watch(ctx context.Context, k store.Cook) (*watched, error) {
	in.mutex.Lock()
	defer in.mutex.Unlock()
	real := in.app.Now()
	for id, w := range in.pots {
		if id != k.ID && real.Sub(w.seen) > watchedFor {
			delete(in.pots, id)
		}
	}
	if w := in.pots[k.ID]; w != nil {
		w.seen = real
		return w, nil
	}
	const before = 3 * time.Minute
	now := k.Now(real)
	stored, err := in.app.Store.Readings(ctx, k.ID, now.Add(-before))
	if err != nil {
		return nil, err
	}
	w := &watched{told: map[device.Kind]time.Time{}, seen: real, judge: device.Judge{Begun: k.BegunAt}, standIn: device.NewStandIn(k.ID, now)}
	for _, r := range stored {
		w.judge.Recent = append(w.judge.Recent, device.Judged{Reading: device.Reading{At: r.At, Kind: device.Kind(r.Kind), Value: r.Value}, Mark: device.Mark(r.Mark)})
	}
	for _, e := range k.Events {
		switch e.Kind {
		case cook.Weighed:
			w.told[device.Scale] = e.At
		case cook.Probed:
			w.told[device.Probe] = e.At
		}
	}
	in.pots[k.ID] = w
	return w, nil
}

// A taken message is what became of it.
type taken struct {
	judged []device.Judged
	events []cook.Event
}

// take judges the readings of a cook; withPot says that its scale bears the pot.
// Nothing is stored yet.
func (in *intake) take(k store.Cook, w *watched, list []device.Reading, withPot bool) taken {
	now := k.Now(in.app.Now())
	state := k.State()
	pot := 0.0
	if empty, weighed := state.Plan.Pots[state.Plan.Served()[0]].Mass(); withPot && weighed {
		pot = float64(empty)
	}
	// Only a reading that has none before it is held against the forecast.
	course := sync.OnceValue(func() *forecast.Curve { return &learn.Follow(&state, now).Forecast.Curve })
	_, lit := state.Zero()
	w.judge.Pot = pot
	w.judge.Expected = func(kind device.Kind, at time.Time) (float64, bool) {
		if !lit {
			return 0, false
		}
		curve := course()
		values := curve.MassG
		if kind == device.Probe {
			values = curve.TempC
		}
		return learn.Interpolate(curve.Minute, values, float64(state.Minute(at))), true
	}
	t := taken{judged: w.judge.Judge(list, now)}
	if !lit || !state.Open() || state.Done() {
		return t
	}
	for _, kind := range []device.Kind{device.Scale, device.Probe} {
		if now.Sub(w.told[kind]) < tellEvery {
			continue
		}
		r, settled := w.judge.Settled(kind, now)
		if !settled || r.At.Before(state.Spans[state.Step].Begin) {
			continue
		}
		e := cook.Event{ID: uuid.NewSHA1(uuid.NameSpaceOID, []byte(k.ID+string(kind)+r.At.Format(time.RFC3339Nano))).String(), Kind: cook.Weighed, At: r.At, Mass: measure.Gram(math.Round(r.Value))}
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

// keep stores what was taken and tells the devices that look at it.
func (in *intake) keep(ctx context.Context, byCook map[string]taken) error {
	readings := map[string][]store.Reading{}
	for id, t := range byCook {
		for _, r := range t.judged {
			if r.Mark != device.Doubled {
				readings[id] = append(readings[id], store.Reading{Kind: string(r.Kind), At: r.At, Value: r.Value, Mark: string(r.Mark)})
			}
		}
	}
	now := in.app.Now()
	if err := in.app.Store.KeepReadings(ctx, readings, now); err != nil {
		return err
	}
	for id, t := range byCook {
		for _, e := range t.events {
			if err := in.app.Store.AppendEvent(ctx, id, e, now); err != nil {
				return err
			}
		}
		if len(t.events) > 0 {
			in.tell(id)
		}
	}
	return nil
}

// rehearse reads the stand-ins of every rehearsal on the stove until the program
// ends.
func (in *intake) rehearse(every time.Duration) {
	beat := time.NewTicker(every)
	defer beat.Stop()
	for {
		select {
		case <-in.app.Ending:
			return
		case <-beat.C:
			if err := in.rehearsals(context.Background()); err != nil {
				in.app.Log.Error("rehearsals", "error", err)
			}
		}
	}
}

// rehearsals reads the stand-ins once.
func (in *intake) rehearsals(ctx context.Context) error {
	cooks, err := in.app.Store.Rehearsals(ctx)
	if err != nil {
		return err
	}
	byCook := map[string]taken{}
	for _, k := range cooks {
		state := k.State()
		zero, lit := state.Zero()
		if !lit || state.Done() {
			continue
		}
		w, err := in.watch(ctx, k)
		if err != nil {
			return err
		}
		now := k.Now(in.app.Now())
		pot, _ := state.Plan.Pots[state.Plan.Served()[0]].Mass()
		w.mutex.Lock()
		if list := w.standIn.Readings(state.Replay(now), zero, pot, now); len(list) > 0 {
			byCook[k.ID] = in.take(k, w, list, true)
		}
		w.mutex.Unlock()
	}
	if len(byCook) == 0 {
		return nil
	}
	return in.keep(ctx, byCook)
}
