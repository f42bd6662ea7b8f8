package words

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"strconv"
	"strings"

	"kirdu/core/design"
	"kirdu/core/measure"
)

// Fault says what is wrong: the sentence of a fact (measure.Code, measure.Fault) with what it names, behind its
// place and the value that was given where it has them (measure.FieldError), several a line each (measure.Faults).
// What wraps a fact keeps its own words around the sentence; an error without a fact says itself.
func (w Printer) Fault(err error) string {
	switch fault := err.(type) {
	case nil:
		return ""
	case *design.Cannot:
		return w.KitchenCannot(fault)
	case measure.Faults:
		lines := make([]string, len(fault))
		for i, one := range fault {
			lines[i] = w.Fault(one)
		}
		return strings.Join(lines, "\n")
	case *measure.FieldError:
		parts := []string{fault.Field, fault.Value, w.Fault(fault.Err)}
		return strings.Join(nonEmpty(parts), ": ")
	case *measure.Fault:
		things := make([]any, len(fault.Things))
		for i, thing := range fault.Things {
			things[i] = w.thing(thing)
		}
		return w.text("fault."+string(fault.Code), things...)
	case measure.Code:
		return w.text("fault." + string(fault))
	}
	text := err.Error()
	for _, inner := range wrapped(err) {
		text = strings.Replace(text, inner.Error(), w.Fault(inner), 1)
	}
	return text
}

// thing writes what a fault names: numbers to a thousandth and as the household has them, lists as a choice, several
// faults beside each other.
func (w Printer) thing(thing any) string {
	switch one := thing.(type) {
	case error:
		return strings.ReplaceAll(w.Fault(one), "\n", "; ")
	case []string:
		if len(one) > 2 {
			return strings.Join(one, ", ")
		}
		return strings.Join(one, " or ")
	case string:
		return one
	}
	if x := reflect.ValueOf(thing); x.CanFloat() {
		return w.decimal(strconv.FormatFloat(math.Round(1000*x.Float())/1000, 'f', -1, 64))
	}
	return fmt.Sprint(thing)
}

// wrapped returns the errors that an error wraps.
func wrapped(err error) []error {
	if one := errors.Unwrap(err); one != nil {
		return []error{one}
	}
	if many, ok := err.(interface{ Unwrap() []error }); ok {
		return many.Unwrap()
	}
	return nil
}

func nonEmpty(texts []string) (some []string) {
	for _, text := range texts {
		if text != "" {
			some = append(some, text)
		}
	}
	return some
}
