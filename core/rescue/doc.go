// Package rescue works out how a pudding that has gone wrong is mended, as steps with
// a promise: every amount is found by forecasts of the rest of the plan.
package rescue
