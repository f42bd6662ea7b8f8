package cook

import (
	"slices"
	"time"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Mend is a repair that the cook has chosen, with the steps that were computed
// when it was: they stay the same however the computation grows.
type Mend struct {
	Symptom string         `json:"symptom"`
	Title   string         `json:"title"`
	Steps   []plan.Step    `json:"steps"`
	Leaves  int            `json:"leaves,omitempty"`  // steps that were to come and are left out
	Shift   measure.Gram   `json:"shift_g,omitempty"` // by so much the marks that are masses move
	Sugar   float64        `json:"sugar,omitempty"`   // factor on the sweeteners to come, 0 for as they are
	Lost    plan.Loss      `json:"lost,omitzero"`
	Marks   []measure.Gram `json:"marks_g,omitempty"` // of the steps to come, in order; 0 for those without
}

// ErrMend reports a repair that does not fit the cook as it stands.
var ErrMend = measure.Code("cook.mend")

// mostMendSteps is more than any repair has; mostMarks is how many steps a plan
// may have.
const (
	mostMendSteps = 20
	mostMarks     = 200
)

// Cut returns the cook parted at a moment: the step it is in the middle of is one
// step that is done and one that is to come. at is the index of what comes next.
// Errors: ErrCook before the flame, ErrClosed while nothing can go in.
func (s *State) Cut(now time.Time) (cut *State, at int, err error) {
	if !s.lit() {
		return nil, 0, ErrCook
	}
	cut = s.clone()
	at, err = cut.here(now)
	return cut, at, err
}

// mended puts the steps of a repair before what is to come.
func (s *State) mended(e Event) error {
	m := e.Mend
	if m == nil || len(m.Steps) > mostMendSteps || len(m.Marks) > mostMarks || m.Leaves < 0 || !s.Finished.IsZero() || !s.lit() {
		return ErrMend
	}
	if !(m.Sugar >= 0 && m.Sugar <= 1) || !(m.Lost.Share >= 0 && m.Lost.Share < 1) {
		return ErrMend
	}
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	if !s.Done() && s.main(s.Step) {
		s.Spans[s.Step] = Span{} // it goes on when the repair is done
	}
	for range m.Leaves {
		if at >= len(s.Plan.Steps) || !s.main(at) || !s.Spans[at].Begin.IsZero() {
			return ErrMend
		}
		if err := s.remove(at, nil); err != nil {
			return err
		}
	}
	if m.Sugar > 0 {
		s.Plan.ScaleSweetenersFrom(at, m.Sugar)
	}
	s.lose(at, m.Lost)
	for k := len(m.Steps) - 1; k >= 0; k-- {
		step := m.Steps[k]
		s.Plan.EnsurePot(step.PotName())
		if s.inLine(&step) {
			s.strays[s.insert(at, s.at, step, Span{})] = true
		} else {
			s.strays[s.beside(at, step)] = true
		}
	}
	if !s.Done() {
		s.Step = s.index(s.line[s.at])
		s.Spans[s.Step].Begin = e.At
	}
	return nil
}

// inLine reports whether a step of a repair is one of the pot, or takes from it;
// what is made in another pan for it goes on beside.
func (s *State) inLine(step *plan.Step) bool {
	served := s.Plan.Served()[0]
	return !step.Do.IsPreparation() && step.PotName() == served || slices.ContainsFunc(step.Items,
		func(item plan.Item) bool { return item.Pot == served })
}

// beside puts a job at an index.
func (s *State) beside(index int, step plan.Step) (id int) {
	id = slices.Max(s.IDs) + 1
	s.Plan.InsertStep(index, step)
	s.IDs = slices.Insert(s.IDs, index, id)
	s.Spans = slices.Insert(s.Spans, index, Span{})
	return id
}

// lose takes a loss out of what is in, and out of what was weighed before it; a
// dip into what is no longer there tells nothing.
func (s *State) lose(at int, lost plan.Loss) {
	if lost.Share == 0 {
		return
	}
	factor := 1 - measure.Ratio(float64(s.Plan.Holds(at, lost.Of)), float64(s.Plan.Holds(at, "")))*lost.Share
	s.Plan.Lose(at, lost)
	kept := make([]Measurement, 0, len(s.Readings))
	for _, r := range s.Readings {
		if r.Mass > 0 {
			r.Mass *= measure.Gram(factor)
			kept = append(kept, r)
		}
	}
	s.Readings = kept
}
