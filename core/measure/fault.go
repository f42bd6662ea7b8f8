package measure

import (
	"fmt"
	"strings"
)

// A Code names a kind of fault: what is wrong, as a fact. Its sentence stands in the catalogue of words, under
// "fault." and the code. A code is "package.kind", such as "measure.no-number".
type Code string

func (c Code) Error() string { return string(c) }

// With returns the fault with what its sentence names, in the order in which the catalogue puts it in: numbers and
// quantities, texts as they were given, lists of texts, and faults.
func (c Code) With(things ...any) error { return &Fault{c, things} }

// A Fault is a code with what its sentence names. errors.Is finds the code, and the faults among the things.
type Fault struct {
	Code   Code
	Things []any
}

// Error is the fact without its sentence, as a log has it: "measure.within: 1, 20".
func (f *Fault) Error() string {
	things := make([]string, len(f.Things))
	for i, thing := range f.Things {
		things[i] = fmt.Sprint(thing)
	}
	return string(f.Code) + ": " + strings.Join(things, ", ")
}

// Unwrap returns the code, and the faults that the fault names.
func (f *Fault) Unwrap() []error {
	all := []error{f.Code}
	for _, thing := range f.Things {
		if err, ok := thing.(error); ok {
			all = append(all, err)
		}
	}
	return all
}

// A FieldError reports a value that the cook can correct.
type FieldError struct {
	Field string // where: "steps[3].amount" in a plan, "height" in a form; empty where there is one alone
	Value string // what was typed, quoted as JSON would have it; may be empty
	Err   error  // what is wrong with it, mostly a Code or a Fault; Unwrap returns it
}

func (e *FieldError) Error() string {
	if e.Value == "" {
		return fmt.Sprintf("%s: %v", e.Field, e.Err)
	}
	return fmt.Sprintf("%s: %s: %v", e.Field, e.Value, e.Err)
}

func (e *FieldError) Unwrap() error { return e.Err }

// Faults are all that is wrong with one document or form.
type Faults []*FieldError

// Error gives one line for each fault.
func (f Faults) Error() string {
	lines := make([]string, len(f))
	for i, fault := range f {
		lines[i] = fault.Error()
	}
	return strings.Join(lines, "\n")
}

// Unwrap returns the single faults for errors.Is and errors.As.
func (f Faults) Unwrap() []error {
	errs := make([]error, len(f))
	for i, fault := range f {
		errs[i] = fault
	}
	return errs
}

// Err returns the faults as an error, nil if there are none.
func (f Faults) Err() error {
	if len(f) == 0 {
		return nil
	}
	return f
}
