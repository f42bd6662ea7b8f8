// Package stock says what can be made of what is in the house, and what must be
// bought.
package stock
