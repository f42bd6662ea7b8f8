// Package recipe reads ingredients and recipes from anywhere and arranges them as a
// plan. No line is dropped: what is not understood becomes a question.
package recipe
