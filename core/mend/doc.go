// Package mend holds the edits of a plan: for each rule of watch what a cook would
// try, the smallest change first. An edit is offered only where a forecast shows that
// what the rule saw is gone and nothing else is worse.
package mend
