package measure

import (
	"fmt"
	"strings"
)

// A FieldError reports a value that the cook can correct.
type FieldError struct {
	Field string // where: "steps[3].amount" in a plan, "height" in a form
	Value string // what was typed, quoted as JSON would have it; may be empty
	Err   error  // what is wrong with it; Unwrap returns it
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
