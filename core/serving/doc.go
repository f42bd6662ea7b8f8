// Package serving says what becomes of a pudding between pot and bowl: standing,
// cooling in time, portions, warming again.
package serving
