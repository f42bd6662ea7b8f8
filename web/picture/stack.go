package picture

import (
	"slices"
	"strings"

	"kirdu/core/pantry"
	"kirdu/words"
)

// A Stack is a bar made of what a thing is made of, in true proportion.
type Stack struct {
	Title  string // beside the bar, "" for none
	Pieces []StackPiece
	Text   string
	Low    bool // a thin bar without words under it
}

// Width and Height of the picture of a stack, and where its bar begins.
const (
	stackWidth  = 640.0
	stackHeight = 46.0
	stackBar    = 24.0
	stackLow    = 40.0
)

// Width returns the width of the picture.
func (Stack) Width() Px { return stackWidth }

// Height returns its height.
func (s Stack) Height() Px {
	if s.Low {
		return stackLow
	}
	return stackHeight
}

// Bar returns the height of the bar.
func (s Stack) Bar() Px {
	if s.Low {
		return stackLow
	}
	return stackBar
}

// LabelY is where the words under the bar stand.
func (Stack) LabelY() Px { return stackBar + 15 }

// A StackPiece is one part of a stack.
type StackPiece struct {
	X, Width Px
	Kind     string // water, fat, protein, sugar, starch, fibre, other
	Label    string // "" where it is too narrow
}

// Middle is where the label of a piece stands.
func (p StackPiece) Middle() Px { return p.X + p.Width/2 }

// An Ingredient is one part of what a stack shows.
type Ingredient struct {
	Kind, Name string
	Amount     float64
}

// NewStack draws parts in proportion to full; parts of nothing are left out.
func NewStack(say words.Printer, title string, parts []Ingredient, full float64, unit string) Stack {
	s := Stack{Title: title}
	const labelled, perLetter = 34.0, 6.6 // px that a label needs at least, and for each letter
	at := Px(0)
	var said []string
	for _, p := range parts {
		if !(p.Amount > 0) || !(full > 0) {
			continue
		}
		piece := StackPiece{X: at, Width: Px(p.Amount / full * stackWidth), Kind: p.Kind}
		text := say.Sprintf("%s %.3g %s", p.Name, p.Amount, unit)
		if float64(piece.Width) >= max(labelled, perLetter*float64(len(text))) {
			piece.Label = text
		} else if float64(piece.Width) >= perLetter*float64(len(p.Name)) {
			piece.Label = p.Name
		}
		said = append(said, text)
		s.Pieces = append(s.Pieces, piece)
		at += piece.Width
	}
	s.Text = strings.Trim(title+": "+strings.Join(said, ", "), ": ")
	return s
}

// WithoutWords returns the stack as a thin bar.
func (s Stack) WithoutWords() Stack {
	s.Low = true
	s.Pieces = slices.Clone(s.Pieces)
	for i := range s.Pieces {
		s.Pieces[i].Label = ""
	}
	return s
}

// Parts lists what 100 g of a material hold, grouped as a cook knows them.
func Parts(m *pantry.Material) []Ingredient {
	sugars := m.Lactose + m.Sucrose + m.Glucose + m.Fructose
	return []Ingredient{
		{"water", "water", float64(m.Water)}, {"fat", "fat", float64(m.Fat)}, {"protein", "protein", float64(m.Protein)},
		{"sugar", "sugars", float64(sugars)}, {"starch", "starch", float64(m.Starch)}, {"fibre", "fibre", float64(m.Fibre)},
		{"other", "other", float64(m.Ash + m.Other)},
	}
}
