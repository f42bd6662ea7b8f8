package recipe

import (
	"slices"
	"strconv"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/recipe"
	"kirdu/web/frame"
	"kirdu/words"
)

// sentenceView is a sentence of the method beside what was made of it.
type sentenceView struct {
	Key    string
	Text   string
	Steps  []stepView
	Passed bool
	Kept   bool
	Aside  bool // the cook takes it out: it stays a note
	Number int
	Doubts []string
	Look   string // why it is looked at all the same

	As     string // what the cook has read in its place
	Fault  string
	Open   bool // the cook is asked to put it right
	Doings []doingView
	Doing  string // the one that is chosen; "" for none
}

// A stepView is what a sentence was read as.
type stepView struct {
	Title   string
	Figures string // what the title leaves out
}

// A stopView is where something of the list goes: by sentence, if one says it.
type stopView struct {
	Text, Key string
	Number    int
}

// trail says where a line of the list goes.
func trail(say words.Printer, stops []recipe.Stop) (list []stopView) {
	for _, s := range stops {
		one := stopView{Text: say.Stop(s)}
		if s.Sentence >= 0 {
			one.Key, one.Number = strconv.Itoa(s.Sentence), s.Sentence+1
		}
		list = append(list, one)
	}
	return list
}

type doingView struct {
	Value, Label string
}

// sentence shows one with what the cook said of it.
func (v *readView) sentence(say words.Printer, f *frame.Fields, k int, s recipe.Sentence) sentenceView {
	one := sentenceView{Key: strconv.Itoa(k), Number: k + 1, Text: s.Text, Passed: s.Passed, Kept: s.Kept, As: s.As}
	one.Aside = f.Text("aside"+one.Key) != "" && stillSaid(f, one.Key, s.Text)
	one.Fault = v.Faults["say"+one.Key]
	one.Open = one.Fault != "" || !s.Understood() && !one.Aside && !v.ByList
	if one.Fault != "" {
		one.Doing = f.Text("do" + one.Key)
	}
	for _, d := range s.Doubts {
		one.Doubts = append(one.Doubts, say.Doubt(d))
	}
	if len(one.Doubts) == 0 {
		one.Look = say.Looks(s.Looks)
	}
	for _, doing := range recipe.Doings() {
		one.Doings = append(one.Doings, doingView{string(doing), say.Doing(doing)})
	}
	if one.Fault != "" && one.As == "" {
		one.As = f.Text("say" + one.Key)
	}
	return one
}

// thingsOf are the names of what is on the list.
func thingsOf(given []recipe.Given, all *pantry.Pantry) (list []string) {
	for i := range given {
		if m, ok := all.Material(given[i].Item.Material); ok && !slices.Contains(list, recipe.NameOf(m)) {
			list = append(list, recipe.NameOf(m))
		}
	}
	return list
}

// longestCorrection is that of a few sentences, in letters.
const longestCorrection = 300

// corrections are what the cook said of the sentences of a method, by number. What was said of a sentence that
// stands elsewhere now is dropped.
func corrections(f *frame.Fields, given []recipe.Given, all *pantry.Pantry) map[int]recipe.Correction {
	list := map[int]recipe.Correction{}
	things := thingsOf(given, all)
	for k, text := range recipe.Sentences(f.Text("method")) {
		key := strconv.Itoa(k)
		if !stillSaid(f, key, text) {
			continue
		}
		one := recipe.Correction{Aside: f.Text("aside"+key) != "", As: f.Text("say" + key)}
		if len([]rune(one.As)) > longestCorrection {
			f.Fault("say"+key, measure.Code("recipe.correction").With(longestCorrection))
			one.As = ""
		}
		if doing := f.Text("do" + key); doing != "" {
			chosen := slices.DeleteFunc(slices.Clone(f.Typed["with"+key]), func(name string) bool { return !slices.Contains(things, name) })
			number, _ := frame.Number(f.Text("number" + key)) // none is out of the bounds of all that need one
			phrase, err := recipe.Phrase(recipe.Doing(doing), chosen, number)
			if err != nil {
				f.Fault("say"+key, err)
			} else {
				one.As = phrase
			}
		}
		if one != (recipe.Correction{}) {
			list[k] = one
		}
	}
	return list
}

// stillSaid reports whether a sentence is the one that the page showed when it was corrected.
func stillSaid(f *frame.Fields, key, text string) bool {
	was := f.Text("was" + key)
	return was == "" || was == text
}
