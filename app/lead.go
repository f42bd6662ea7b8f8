package app

import (
	"context"
	"slices"
	"strings"

	"kirdu/core/lead"
)

// When a cook is led by the hand at the stove.
const (
	leadSetting = "lead"
	leadFirst   = "first" // until a batch is in the logbook
	leadAlways  = "always"
	leadNever   = "never"
	knownLeads  = "lead-known" // lessons that need not be said again, parted by blanks
)

// Leads reports whether the household is led by the hand at the stove now, and what it knows already.
func (k *Kitchen) Leads(ctx context.Context, when string) (led bool, known []lead.Lesson, err error) {
	switch when {
	case leadNever:
		return false, nil, nil
	case leadFirst:
		cooked, err := k.Store.LatestLines(ctx, 1)
		if err != nil || len(cooked) > 0 {
			return false, nil, err
		}
	}
	text, err := k.Store.Setting(ctx, knownLeads)
	for _, one := range strings.Fields(text) {
		known = append(known, lead.Lesson(one))
	}
	return err == nil, known, err
}

// Know notes that a lesson need not be said again. ok is false for what is no lesson.
func (k *Kitchen) Know(ctx context.Context, lesson lead.Lesson) (ok bool, err error) {
	if !slices.Contains(lead.Lessons(), lesson) {
		return false, nil
	}
	text, err := k.Store.Setting(ctx, knownLeads)
	if err != nil || slices.Contains(strings.Fields(text), string(lesson)) {
		return true, err
	}
	return true, k.Store.SetSetting(ctx, knownLeads, strings.TrimSpace(text+" "+string(lesson)))
}

// Lead sets whether the household is led by the hand: through every pudding from the beginning, or not at all.
func (k *Kitchen) Lead(ctx context.Context, always bool) error {
	set := map[string]string{leadSetting: leadNever}
	if always {
		set = map[string]string{leadSetting: leadAlways, knownLeads: ""}
	}
	return k.Store.SetSettings(ctx, set)
}
