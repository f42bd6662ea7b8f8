package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"runtime"
	"runtime/debug"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"kirdu/core/cook"
	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/store"
)

// A reckoner keeps what was computed by what it was computed of, so that nothing is computed again that did not
// change. Who asks for the same at once waits for one computation; what nobody waits for any more is not begun.
// What takes long has a lane of its own, so that one large plan keeps no other page waiting. What it returns is
// shared, and for reading only. Its zero value is ready.
type reckoner struct {
	once    sync.Once
	known   *lru.Cache[string, any]
	flight  singleflight.Group
	quick   chan struct{}
	slow    chan struct{}
	mutex   sync.Mutex
	waiting map[string]int
}

// mostReckoned bounds what is kept: a forecast has some 20 kB.
const mostReckoned = 512

var errNobody = errors.New("nobody waits for it any more")

func (r *reckoner) start() {
	r.once.Do(func() {
		r.known, _ = lru.New[string, any](mostReckoned) // it fails for no size only
		r.quick, r.slow = make(chan struct{}, runtime.GOMAXPROCS(0)), make(chan struct{}, 1)
		r.waiting = map[string]int{}
	})
}

func (r *reckoner) waits(key string, more int) (left int) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	if r.waiting[key] += more; r.waiting[key] == 0 {
		delete(r.waiting, key)
		return 0
	}
	return r.waiting[key]
}

// reckon returns what work comes to for a key. Error: that of a context that is over before, or what work panicked
// with.
func reckon[T any](ctx context.Context, r *reckoner, key string, slow bool, work func() T) (result T, err error) {
	r.start()
	if known, ok := r.known.Get(key); ok {
		return known.(T), nil
	}
	lane := r.quick
	if slow {
		lane = r.slow
	}
	r.waits(key, 1)
	defer r.waits(key, -1)
	for {
		done := r.flight.DoChan(key, func() (made any, err error) {
			lane <- struct{}{}
			defer func() {
				<-lane
				if cause := recover(); cause != nil { // it runs beside every request: nobody else would catch it
					err = fmt.Errorf("compute: %v\n%s", cause, debug.Stack())
				}
			}()
			if r.waits(key, 0) == 0 {
				return nil, errNobody
			}
			made = work()
			r.known.Add(key, made)
			return made, nil
		})
		select {
		case <-ctx.Done():
			return result, ctx.Err()
		case one := <-done:
			switch {
			case one.Err == nil:
				return one.Val.(T), nil
			case !errors.Is(one.Err, errNobody):
				return result, one.Err
			} // it was given up just before this one came
		}
	}
}

// planKey is a digest of all that a forecast of a plan depends on.
func planKey(kind string, p *plan.Plan) (key string, ok bool) {
	data, err := p.JSON()
	return fmt.Sprint(kind, p.InUS(), digest(data)), err == nil
}

// Forecast is forecast.Run with all ranges, computed once for each plan.
func (k *Kitchen) Forecast(ctx context.Context, p *plan.Plan) (*forecast.Forecast, error) {
	key, ok := planKey("forecast", p)
	if !ok {
		return forecast.Run(p, forecast.Options{}), nil
	}
	return reckon(ctx, &k.reckoner, key, false, func() *forecast.Forecast { return forecast.Run(p, forecast.Options{}) })
}

// largeWork is the work of a forecast from which on its mends are looked for beside the others. Source: our own
// judgement; the puddings of the sample kitchen have 150 to 620.
const largeWork = 4000

// Mended is mend.Forecast, computed once for each plan.
func (k *Kitchen) Mended(ctx context.Context, p *plan.Plan) (*forecast.Forecast, []mend.Found, error) {
	f, err := k.Forecast(ctx, p)
	if err != nil {
		return nil, nil, err
	}
	key, ok := planKey("mended", p)
	if !ok {
		return f, mend.Findings(p, f), nil
	}
	found, err := reckon(ctx, &k.reckoner, key, f.Work > largeWork, func() []mend.Found { return mend.Findings(p, f) })
	return f, found, err
}

// forBowls is design.ForBowls, computed once for each plan, size and kitchen.
func (k *Kitchen) forBowls(ctx context.Context, p *plan.Plan, bowls int, kit design.Kit) (*plan.Plan, error) {
	key, ok := planKey("bowls", p)
	if !ok {
		return design.ForBowls(p, bowls, kit), nil
	}
	sized, err := reckon(ctx, &k.reckoner, fmt.Sprintf("%s|%d|%+v", key, bowls, kit), false, func() *plan.Plan {
		return design.ForBowls(p, bowls, kit)
	})
	if err != nil {
		return nil, err
	}
	return sized.Clone(), nil // who asks changes it
}

// Balance is design.Balance, computed once for each plan and aims, beside what is quick.
func (k *Kitchen) Balance(ctx context.Context, p *plan.Plan, aims design.Aims, locked []string) (design.Balanced, error) {
	return balancing(ctx, k, "balance", p, aims, locked, func() design.Balanced { return design.Balance(p, aims, locked) })
}

// Roads is design.Roads, computed once for each plan and aims, beside what is quick.
func (k *Kitchen) Roads(ctx context.Context, p *plan.Plan, aims design.Aims, locked []string) (map[design.Road]design.Balanced, error) {
	return balancing(ctx, k, "roads", p, aims, locked, func() map[design.Road]design.Balanced { return design.Roads(p, aims, locked) })
}

func balancing[T any](ctx context.Context, k *Kitchen, kind string, p *plan.Plan, aims design.Aims, locked []string, work func() T) (T,
	error) {
	key, ok := planKey(kind, p)
	wanted, err := json.Marshal(aims)
	if !ok || err != nil {
		return work(), nil
	}
	return reckon(ctx, &k.reckoner, fmt.Sprintf("%s%s%q", key, wanted, locked), true, work)
}

// halfMinute is how long what is known of a live cook holds: nothing in a pot changes faster.
const halfMinute = 30 * time.Second

// Moment is the time at which a cook is followed: now to the half minute, and not before the last thing that was
// told. The half minutes of each cook have their own beginning, so that not all are followed anew at once.
func Moment(c store.Cook, now time.Time) time.Time {
	own := fnv.New32a()
	own.Write([]byte(c.ID))
	shift := time.Duration(own.Sum32()) % halfMinute
	at := now.Add(-shift).Truncate(halfMinute).Add(shift)
	if at.Before(c.BegunAt) {
		at = c.BegunAt
	}
	for _, e := range c.Events {
		if e.At.After(at) {
			at = e.At
		}
	}
	if at.After(now) {
		return now
	}
	return at
}

// Follow is learn.Follow at a Moment, computed once for each event and half minute. Where the state is not that of
// the whole log, of says of what it is.
func (k *Kitchen) Follow(ctx context.Context, c store.Cook, s *cook.State, at time.Time, of ...string) (learn.Live, error) {
	return reckon(ctx, &k.reckoner, followKey("follow", c, at, of), false, func() learn.Live { return learn.Follow(s, at) })
}

// FollowPot is Follow for one pot by itself: what State.Only returns of it.
func (k *Kitchen) FollowPot(ctx context.Context, c store.Cook, only *cook.State, at time.Time, of ...string) (learn.Live, error) {
	return reckon(ctx, &k.reckoner, followKey("pot", c, at, of), false, func() learn.Live { return learn.FollowPot(only, at) })
}

func followKey(kind string, c store.Cook, at time.Time, of []string) string {
	last := ""
	if n := len(c.Events); n > 0 {
		last = c.Events[n-1].ID
	}
	key, _ := planKey(kind, c.Plan) // an archive may bring another plan to the same cook
	return fmt.Sprintf("%s|%s|%q|%d|%s|%d", key, c.ID, of, len(c.Events), last, at.UnixNano())
}
