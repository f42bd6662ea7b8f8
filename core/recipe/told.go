package recipe

import (
	"slices"
	"strings"

	"kirdu/core/plan"
)

// ListOf gathers what a recipe needs from a method that tells it without a list: "boil a litre of milk with 80 g rice". What is
// named with an amount stands first, in its order; what is named without one is a line of its name. A text with fewer than two
// amounts of things that the pantry knows gives none.
func (r *Reader) ListOf(method string) (list []string) {
	const fewest = 2
	var named []string
	var phrases [][]string // by which what is listed is called
	for _, sentence := range Sentences(method) {
		words := tokens(clean(sentence))
		for k := 0; k < len(words); {
			s := scan{reader: r, line: &Line{}}
			q, rest, found := s.quantity(words[k:])
			amount := strings.Join(words[k:len(words)-len(rest)], " ")
			if name, end := r.nameAt(rest); found && name != "" && (q.unit != "" || s.hasPieces(strings.Fields(name))) {
				list = append(list, amount+" "+name)
				l := r.line(list[len(list)-1])
				phrases = append(phrases, r.namesOf(Given{Item: plan.Item{Material: l.Material}, Text: l.Text}))
				k = len(words) - len(rest) + end
				continue
			}
			if name, end := r.nameAt(words[k : k+1]); end > 0 {
				if longer, more := r.nameAt(words[k:min(k+r.longest, len(words))]); longer != "" {
					name, end = longer, more
				}
				named = append(named, name)
				k += end
				continue
			}
			k++
		}
	}
	if len(list) < fewest {
		return nil
	}
	for _, name := range named {
		phrase := strings.Join(plainWords(name), " ")
		known := func(names []string) bool { return slices.Contains(names, phrase) }
		if r.names[phrase] == "" || r.names[phrase] == "water" || slices.ContainsFunc(phrases, known) {
			continue
		}
		list = append(list, name)
		phrases = append(phrases, r.namesOf(Given{Item: plan.Item{Material: r.names[phrase]}, Text: name}))
	}
	return list
}

// nameAt finds the longest name of the pantry at the front of some words, behind what may stand between an amount and its name;
// end is how many words that takes.
func (r *Reader) nameAt(words []string) (name string, end int) {
	from := 0
	for from < len(words) {
		w := strings.ToLower(words[from])
		if w != "of" && w != "the" && w != "some" && !(describes[w] && doing[w] == "") || r.names[w] != "" {
			break
		}
		from++
	}
	for length := min(r.longest, len(words)-from); length > 0; length-- {
		said := words[from : from+length]
		if slices.ContainsFunc(said, func(w string) bool { return w == "," }) {
			continue
		}
		if phrase := strings.Join(plainWords(strings.Join(said, " ")), " "); r.names[phrase] != "" && doing[phrase] == "" {
			return strings.ToLower(strings.Trim(strings.Join(said, " "), ".")), from + length
		}
	}
	return "", 0
}
