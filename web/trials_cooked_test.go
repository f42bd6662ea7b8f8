package web_test

import (
	"fmt"
	"math"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/plantest"
)

// TestTrialsAreCookedThrough cooks every pudding of the trials at the Stove, as a cook would: step by
// step in its time, jobs begun and left to themselves, one weigh-in, something more that goes in, the
// bowl. Nothing is refused, and at no step is anything shown that cannot be.
func TestTrialsAreCookedThrough(t *testing.T) {
	for name, p := range plantest.Trials(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			s := newSite(t, nil)
			at := s.begin(p)
			weighed, added := false, false
			for n := 0; ; n++ {
				require.Less(t, n, 120, "it comes to an end")
				k := s.cookAt(at)
				state := k.State()
				now := s.kitchen.Now()
				_, page := s.get(at)
				s.sensible(page, &state)
				if state.Done() {
					break
				}
				live := learn.Follow(&state, now)
				clock := learn.ClockOf(&state, &live, now)
				step, id := state.Present(), fmt.Sprint(state.ID())
				pot := state.Pot()
				only, _ := state.Only(pot)
				here := learn.FollowPot(only, now)
				switch {
				case step.Do.IsPreparation() && state.CanLeave() && float64(step.HandsOn()) < float64(step.FullMinutes())-1:
					s.wait(minutesOf(float64(step.HandsOn())))
					s.tell(at, "kind", "began", "step", id)
					continue
				case step.Do.IsPreparation():
					s.wait(minutesOf(float64(step.FullMinutes())))
				case step.Do.Descriptor().AtOnce:
					// A pot is begun when it is time, and what goes in is ready.
					until := clock.Zero.Sub(now)
					for _, job := range state.Unready() {
						until = max(until, clock.Jobs[job].End.Sub(now))
					}
					if _, lit := state.Zero(); until > 0 && (!lit || len(state.Unready()) > 0) && until < 24*time.Hour {
						s.wait(until)
					}
					s.wait(20 * time.Second)
				default:
					lasts := minutesOf(here.Forecast.Steps[only.Step].EndMin - here.Forecast.Steps[only.Step].StartMin)
					s.wait(lasts / 2)
					if lasts > 90*time.Second && lasts < 3*time.Hour && step.Do == plan.Heat && !weighed {
						then := learn.FollowPot(only, s.kitchen.Now())
						s.tell(at, "kind", "weighed", "mass", fmt.Sprintf("%.0f", 0.985*float64(then.Mass)), "pot", pot)
						weighed = true
					}
					if weighed && !added && state.Open() && step.Do == plan.Heat {
						s.tell(at, "kind", "added", "material", "water", "mass", "40")
						added = true
					}
					_, page = s.get(at)
					k = s.cookAt(at)
					state = k.State()
					s.sensible(page, &state)
					s.wait(lasts / 2)
					id = fmt.Sprint(state.ID())
				}
				s.tell(at, "kind", "next", "step", id)
			}
			require.True(t, weighed, "it was weighed")
			require.True(t, added, "something more went in")
			response, _ := s.post(at, map[string][]string{"id": {uuid.NewString()}, "kind": {"finished"}})
			require.Equal(t, http.StatusSeeOther, response.StatusCode)
			response, page := s.get(response.Header.Get("Location"))
			require.Equal(t, http.StatusOK, response.StatusCode)
			require.Empty(t, leftOut.FindString(page))
			k := s.cookAt(at)
			state := k.State()
			for _, o := range learn.FromBatch(k.Plan, &state, learn.Verdict{}) {
				if o.Quantity == learn.Power {
					require.Less(t, math.Abs(o.Mean), 0.6, "no burner gives so much or little")
				}
			}
		})
	}
}

var (
	shownMass    = regexp.MustCompile(`About ([\d\x{202f}]+)\x{a0}?\s?g in the pot`)
	shownCelsius = regexp.MustCompile(`· (\d+) °C ·`)
	shownDoubt   = regexp.MustCompile(`cannot be[^<]*`)
	leftOut      = regexp.MustCompile(`left out[^<]*`)
	shownLeft    = regexp.MustCompile(`data-left>(\d+)(?:–(\d+))?<`)
)

// sensible checks what the Stove shows.
func (s *site) sensible(page string, state *cook.State) {
	s.t.Helper()
	for _, found := range shownMass.FindAllStringSubmatch(page, -1) {
		mass := figure(strings.ReplaceAll(found[1], "\u202f", ""))
		require.Greater(s.t, mass, 5.0)
		require.Less(s.t, mass, 12000.0)
	}
	for _, found := range shownCelsius.FindAllStringSubmatch(page, -1) {
		require.LessOrEqual(s.t, figure(found[1]), 185.0)
	}
	if found := shownLeft.FindStringSubmatch(page); found != nil && !state.Done() && !state.Present().Do.IsPreparation() &&
		state.Present().Do == plan.Heat {
		require.Less(s.t, figure(found[1]), 150.0, "minutes to go at least")
	}
	require.Empty(s.t, shownDoubt.FindString(page), "nothing is doubted that was read off the forecast")
	require.NotContains(s.t, page, "NaN")
}

func figure(text string) float64 {
	var x float64
	if _, err := fmt.Sscan(text, &x); err != nil {
		return math.NaN()
	}
	return x
}

func minutesOf(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
