package picture

import (
	"kirdu/core/pot"
	"kirdu/words"
)

// A Spoon shows a grade of thickness: what a spoon does in it.
type Spoon struct {
	Grade int
	Word  string
	Says  string
	Body  string // the outline of what lies on the spoon, or hangs from it, as a path
	Drops []Dot  // what falls
}

// spoons are drawn on 96 by 64 px: the bowl of the spoon is an arc from 20,28 to 76,28.
var spoons = [...]struct {
	body  string
	drops []Dot
}{
	{"M24 29 Q48 44 72 29 Z", []Dot{{X: 30, Y: 44}, {X: 34, Y: 54}, {X: 28, Y: 60}, {X: 38, Y: 48}}},
	{"M22 29 Q48 46 74 29 Z M29 38 L32 38 L31 62 L29 62 Z", nil},
	{"M21 29 Q48 49 75 29 Q48 42 21 29 Z M44 46 L49 46 L47 58 Z", []Dot{{X: 47, Y: 61}}},
	{"M21 27 Q48 22 75 27 Q48 48 21 27 Z M27 36 L40 41 L38 62 L30 62 Z", nil},
	{"M20 28 Q30 18 48 18 Q66 18 76 28 Q48 46 20 28 Z", nil},
	{"M20 28 Q32 10 48 9 Q64 10 76 28 Q48 46 20 28 Z", nil},
	{"M20 28 Q30 16 38 6 Q44 14 48 8 Q56 2 60 12 Q70 18 76 28 Q48 46 20 28 Z", nil},
	{"M26 28 L28 6 L68 6 L70 28 Z", nil},
}

// Spoons are the eight grades.
func Spoons(say words.Printer) (list []Spoon) {
	for i, word := range pot.ThicknessWords() {
		one := spoons[i]
		list = append(list, Spoon{Grade: i + 1, Word: word, Says: say.SpoonSign(i + 1), Body: one.body, Drops: one.drops})
	}
	return list
}
