package frame

// A Field is a labelled input as the partial "field" draws it.
type Field struct {
	Name, Label, Value, Fault string

	Mode string // of the keyboard on a phone: decimal, numeric; "" for text
	Most int    // characters, 0 for any number
	List string // id of a list of proposals, "" for none
	Hint string // stands in the empty field
}

// field is the function of the templates: a field of a form by its name, with what
// was typed and what is wrong with it.
func field(typed, faults map[string]string, name, label, mode string) Field {
	return Field{Name: name, Label: label, Value: typed[name], Fault: faults[name], Mode: mode}
}

// UpTo bounds the characters of a text.
func (f Field) UpTo(most int) Field {
	f.Most, f.Mode = most, ""
	return f
}

// From proposes what stands in a list of the page.
func (f Field) From(list string) Field {
	f.List, f.Mode = list, ""
	return f
}

// Empty says what an empty field means.
func (f Field) Empty(hint string) Field {
	f.Hint = hint
	return f
}

// A Select is a labelled choice as the partial "select" draws it.
type Select struct {
	Name, Label, Value, Fault string

	First   string // what the empty choice says, "" for none
	Options any    // a list of things with Value and Label, and Chosen where Value does not choose
	ByValue bool
}

// choice is the function of the templates for a choice whose options say which one
// is chosen.
func choice(faults map[string]string, name, label string, options any) Select {
	return Select{Name: name, Label: label, Fault: faults[name], Options: options}
}

// At chooses the option of a value.
func (s Select) At(value string) Select {
	s.Value, s.ByValue = value, true
	return s
}

// Or puts an empty choice before the others.
func (s Select) Or(first string) Select {
	s.First = first
	return s
}
