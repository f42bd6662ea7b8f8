package mend_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/mend"
	"kirdu/core/watch"
)

// The table of rules and the table of edits name the same: no typo loses a mend.
func TestTablesHoldEachOther(t *testing.T) {
	var wanted []watch.ID
	for _, rule := range watch.Rules() {
		if rule.Mends {
			wanted = append(wanted, rule.ID)
		}
	}
	require.ElementsMatch(t, wanted, mend.Rules())
	require.Len(t, wanted, 32)
}
