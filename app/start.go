package app

import "context"

// Started is the setting that notes that the start was gone through or skipped.
const Started = "started"

// WantsStart reports whether a kitchen is empty and was never led through.
func (k *Kitchen) WantsStart(ctx context.Context) (bool, error) {
	done, err := k.Store.Setting(ctx, Started)
	if err != nil || done != "" {
		return false, err
	}
	pots, err := k.Store.Pots(ctx)
	if err != nil || len(pots) > 0 {
		return false, err
	}
	puddings, err := k.Store.CountPuddings(ctx)
	return puddings == 0, err
}
