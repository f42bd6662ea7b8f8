package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"kirdu/core/design"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/exchange"
	"kirdu/store"
)

// A Serving is a pudding of a gathering in the size that is wanted.
type Serving struct {
	ID      string
	Plan    *plan.Plan
	OnStove string // its cook, "" if it is not on the stove
	Over    bool   // its cook is finished

	ServeAfter int // minutes after the gathering is served
}

// A Table is a timetable, and what it is worked out from.
type Table struct {
	Whole    *timetable.Gathering
	Options  timetable.Options
	Puddings []Serving
	kept     []timetable.Place // where puddings were kept, nil where that no longer holds
	Laid     *timetable.Timetable
	Slipped  bool // what cooks already has moved the rest

	Unreadable []*store.Unreadable // puddings that are left out
}

// storedPlace is a place as it is kept: by pudding, not by number.
type storedPlace struct {
	PuddingID string `json:"pudding_id"`
	timetable.Place
}

// LoadGathering reads a gathering with the kitchen's pots and burners, what of it cooks,
// and where its puddings were kept.
func (k *Kitchen) LoadGathering(ctx context.Context, g store.Gathering, now time.Time) (*Table, error) {
	shares, err := k.Store.Shares(ctx, g.ID)
	if err != nil {
		return nil, err
	}
	home, err := k.Home(ctx)
	if err != nil {
		return nil, err
	}
	pots, err := k.Store.Pots(ctx)
	if err != nil {
		return nil, err
	}
	cooks, err := k.Store.CooksOf(ctx, g.ID)
	if err != nil {
		return nil, err
	}
	fittings, err := k.Store.Fittings(ctx, store.Fittings{Ovens: timetable.DefaultOvens, FridgeL: timetable.DefaultFridgeL})
	if err != nil {
		return nil, err
	}
	w := &Table{Whole: &timetable.Gathering{Name: g.Name, Hands: g.Hands, Burners: map[string]timetable.Burner{},
		Pots: map[string]vessel.Pot{}, Ovens: fittings.Ovens, FridgeL: fittings.FridgeL}}
	burners, err := k.Store.Burners(ctx)
	if err != nil {
		return nil, err
	}
	kit := design.Kit{Burners: home.Burners}
	for _, b := range home.Burners {
		one := timetable.Burner{Burner: b}
		if at := slices.IndexFunc(burners, func(stored store.Burner) bool { return stored.Name == b.Name }); at >= 0 {
			one.MaxPotMM = burners[at].MaxPotMM
		}
		w.Whole.Burners[b.Name] = one
	}
	if len(home.Burners) == 0 {
		w.Whole.Burners["burner"] = timetable.Burner{Burner: vessel.DefaultBurner()}
	}
	for _, p := range pots {
		w.Whole.Pots[p.Name] = p.Pot
		kit.Pots = append(kit.Pots, p.Pot)
	}
	if left := measure.Minute(now.Sub(g.ServeAt).Minutes()); left < 0 {
		w.Options.NotBefore = &left
	}
	for _, share := range shares {
		p, err := k.Pudding(ctx, share.PuddingID)
		if bad, ok := errors.AsType[*store.Unreadable](err); ok {
			w.Unreadable = append(w.Unreadable, bad)
			continue
		}
		if err != nil {
			return nil, err
		}
		sized, err := k.forBowls(ctx, p.Plan, share.Bowls, kit)
		if err != nil {
			return nil, err
		}
		w.Puddings = append(w.Puddings, Serving{ID: share.PuddingID, Plan: sized, ServeAfter: share.ServeAfter})
		w.Whole.Puddings = append(w.Whole.Puddings, timetable.Pudding{Plan: sized, Serve: measure.Minute(share.ServeAfter)})
	}
	w.recall(g)
	if err := k.follow(ctx, w, g, cooks, now); err != nil {
		return nil, err
	}
	return w, nil
}

// worksFor names what a timetable is worked out for: with another pudding, burner
// or time it is another.
func (w *Table) worksFor(g store.Gathering) string {
	parts := []string{g.ServeAt.UTC().Format(time.RFC3339), fmt.Sprint(g.Hands)}
	for _, p := range w.Puddings {
		data, err := p.Plan.JSON()
		if err != nil {
			return ""
		}
		parts = append(parts, p.ID, digest(data), fmt.Sprint(p.ServeAfter))
	}
	burners, err := json.Marshal(w.Whole.Burners)
	if err != nil {
		return ""
	}
	return strings.Join(append(parts, digest(burners), fmt.Sprintf("%d ovens %g l", w.Whole.Ovens, w.Whole.FridgeL)), " ")
}

func digest(data []byte) string {
	sum := sha256.Sum256(data)
	const enough = 12
	return hex.EncodeToString(sum[:enough])
}

// recall takes over where puddings were kept, if that was worked out for the same.
func (w *Table) recall(g store.Gathering) {
	var list []storedPlace
	if json.Unmarshal(g.Places, &list) != nil {
		return
	}
	for _, one := range list {
		one.Pudding = slices.IndexFunc(w.Puddings, func(p Serving) bool { return p.ID == one.PuddingID })
		if one.Pudding >= 0 {
			w.kept = append(w.kept, one.Place)
		}
	}
	w.Options.Keep = w.kept
	for _, place := range w.kept {
		if place.Locked {
			w.Options.Fixed = append(w.Options.Fixed, place)
		}
	}
	if g.PlacesFor != w.worksFor(g) || len(w.kept) < len(w.Puddings) {
		w.kept = nil
	}
}

// follow fixes what cooks already where it is, with the time it will take by what
// is known at the stove.
func (k *Kitchen) follow(ctx context.Context, w *Table, g store.Gathering, cooks []store.Cook, now time.Time) error {
	for _, c := range cooks {
		i := slices.IndexFunc(w.Puddings, func(p Serving) bool { return p.ID == c.PuddingID })
		if i < 0 {
			continue
		}
		state := c.State()
		if w.Puddings[i].Over = !state.Finished.IsZero(); !w.Puddings[i].Over {
			w.Puddings[i].OnStove = c.ID
		}
		zero, lit := state.Zero()
		at := slices.IndexFunc(w.Options.Keep, func(p timetable.Place) bool { return p.Pudding == i })
		if !lit || at < 0 {
			continue
		}
		place := w.Options.Keep[at]
		if _, there := w.Whole.Burners[place.Burner]; !there {
			continue // it was taken out of the kitchen meanwhile
		}
		place.Begun, place.Locked, place.Slips = true, false, nil
		place.Start = measure.Minute(zero.Sub(g.ServeAt).Minutes())
		moment := now
		if w.Puddings[i].Over {
			moment = state.Finished
		}
		live, err := k.Follow(ctx, c, &state, Moment(c, moment))
		if err != nil {
			return err
		}
		takes := live.Forecast.Time.TotalMin.Value
		if w.Puddings[i].Over {
			takes = float64(live.Now)
		}
		place.Slips = []timetable.Slip{{At: measure.Minute(moment.Sub(zero).Minutes()),
			By: measure.Minute(takes) - timetable.Takes(w.Whole, place)}}
		w.Options.Fixed = append(slices.DeleteFunc(w.Options.Fixed, func(p timetable.Place) bool { return p.Pudding == i }), place)
	}
	return nil
}

// Timetable is the timetable as it stands: as it was kept, unless what cooks already
// has slipped; then the rest moves as little as it can.
func (k *Kitchen) Timetable(ctx context.Context, g store.Gathering, now time.Time) (*Table, error) {
	w, err := k.LoadGathering(ctx, g, now)
	if err != nil {
		return nil, err
	}
	cooks := slices.ContainsFunc(w.Options.Fixed, func(p timetable.Place) bool { return p.Begun })
	if w.kept != nil && !cooks {
		w.Laid = timetable.Lay(w.Whole, w.kept)
		return w, nil
	}
	w.Laid = timetable.Solve(w.Whole, w.Options)
	w.Slipped = w.kept != nil && w.Laid.Cost.Moved >= 1
	if w.kept == nil && !cooks {
		// Whoever looks next sees the same, and at once. Looking needs no room on the disk.
		if err := k.KeepTimetable(ctx, g, w, w.Laid); store.Hindered(err) == nil {
			return w, err
		}
	}
	return w, nil
}

// NextTasks lists what must begin between two times and is not on the stove yet, as it
// was kept, the first first. It is laid out once for each minute in which nothing is stored, for reading only.
func (k *Kitchen) NextTasks(ctx context.Context, g store.Gathering, from, to time.Time) (*Table, []timetable.Task, error) {
	w, err := k.laidOut(ctx, g)
	if err != nil {
		return nil, nil, err
	}
	var tasks []timetable.Task
	for _, task := range w.Laid.Tasks {
		p := w.Puddings[task.Pudding]
		if at := exchange.Moment(g.ServeAt, task.Start); at.Before(from) || at.After(to) || p.OnStove != "" || p.Over {
			continue
		}
		tasks = append(tasks, task)
	}
	return w, tasks, nil
}

// laid is a timetable as it was laid out at a minute, of what was stored then.
type laid struct {
	version int64
	minute  time.Time
	table   *Table
}

func (k *Kitchen) laidOut(ctx context.Context, g store.Gathering) (*Table, error) {
	now := k.Now()
	version, err := k.Store.Version(ctx)
	if err != nil {
		return nil, err
	}
	minute := now.Truncate(time.Minute)
	if known, ok := k.laid.Load(g.ID); ok {
		if one := known.(laid); one.version == version && one.minute.Equal(minute) {
			return one.table, nil
		}
	}
	w, err := k.LoadGathering(ctx, g, now)
	switch {
	case err != nil:
		return nil, err
	case w.kept == nil:
		return k.Timetable(ctx, g, now) // it is kept, and found so the next time
	}
	w.Laid = timetable.Lay(w.Whole, w.kept)
	k.laid.Range(func(id, known any) bool { // what is not asked for any more
		if !known.(laid).minute.Equal(minute) {
			k.laid.Delete(id)
		}
		return true
	})
	k.laid.Store(g.ID, laid{version, minute, w})
	return w, nil
}

// WorkOutTimetable works a timetable out and keeps it; anew forgets where puddings were.
func (k *Kitchen) WorkOutTimetable(ctx context.Context, id string, anew bool) error {
	g, err := k.Store.Gathering(ctx, id)
	if err != nil {
		return err
	}
	if anew {
		g.Places = nil
	}
	w, err := k.LoadGathering(ctx, g, k.Now())
	if err != nil {
		return err
	}
	if w.kept == nil {
		// Another gathering than before: what was put by hand stays, the rest is free.
		w.Options.Keep = nil
	}
	return k.KeepTimetable(ctx, g, w, timetable.Solve(w.Whole, w.Options))
}

// OnItsBurners is a pudding of a gathering as it is to be cooked: on the burners that its timetable gives it.
func (w *Table) OnItsBurners(pudding int) *plan.Plan {
	for _, place := range w.Options.Keep {
		if place.Pudding == pudding {
			return w.Whole.PlacedOn(place)
		}
	}
	return w.Puddings[pudding].Plan
}

// KeepTimetable stores where the puddings of a timetable are.
func (k *Kitchen) KeepTimetable(ctx context.Context, g store.Gathering, w *Table, t *timetable.Timetable) error {
	list := []storedPlace{}
	for _, place := range t.Places {
		place.Begun, place.Slips = false, nil // that is read from the stove each time
		list = append(list, storedPlace{w.Puddings[place.Pudding].ID, place})
	}
	data, err := json.Marshal(list)
	if err != nil {
		return err
	}
	return k.Store.SavePlaces(ctx, g.ID, data, w.worksFor(g))
}
