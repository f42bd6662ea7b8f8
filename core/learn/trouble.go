package learn

import (
	"time"

	"kirdu/core/cook"
	"kirdu/core/rescue"
)

// PatientOf returns a cook as it stands for a rescue: what was seen of it laid
// over its plan, and the step it is in the middle of parted. Errors: those of
// State.Cut.
func TroubleOf(s *cook.State, now time.Time) (rescue.Trouble, error) {
	cut, at, err := s.Cut(now)
	if err != nil {
		return rescue.Trouble{}, err
	}
	live := Follow(cut, now)
	return rescue.Trouble{Plan: live.Plan, Now: at, Options: live.Options}, nil
}
