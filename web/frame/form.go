package frame

import (
	"errors"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"kirdu/core/measure"
	"kirdu/words"
)

// Number reads a plain decimal number as it is typed: spaces may part the
// thousands, a sign may stand before it, and a comma for the point; with three
// digits behind it a comma could part thousands, and is not taken. It takes no
// exponents, hexadecimals or infinities, which strconv would.
func Number(text string) (float64, bool) {
	text = strings.Map(func(r rune) rune {
		if unicode.IsSpace(r) {
			return -1
		}
		return r
	}, text)
	if whole, part, comma := strings.Cut(text, ","); comma && len(part) != 3 && !strings.ContainsAny(part, ",.") &&
		!strings.Contains(whole, ".") {
		text = whole + "." + part
	}
	if strings.Trim(strings.TrimPrefix(text, "-"), "0123456789.") != "" {
		return 0, false
	}
	x, err := strconv.ParseFloat(text, 64)
	return x, err == nil
}

// ReadForm reads a posted form into fields, with what stands in those that were not
// sent. The error answers a form that cannot be read.
func ReadForm(c *gin.Context, standard map[string]string) (*Fields, error) {
	if err := c.Request.ParseForm(); err != nil {
		if _, large := errors.AsType[*http.MaxBytesError](err); large {
			return nil, Stop(http.StatusRequestEntityTooLarge, "That is more than this form takes.", "Send less of it; nothing of it was taken.")
		}
		return nil, Stop(http.StatusBadRequest, "The form could not be read.", "Go back and send it again.")
	}
	return NewFields(c.Request.PostForm, standard), nil
}

// Fields reads the values of a form, each within its bounds, and collects what
// is wrong with them.
type Fields struct {
	Typed  url.Values
	faults measure.Faults
}

// NewFields reads typed values; those that are missing are taken from the
// standard ones.
func NewFields(typed url.Values, standard map[string]string) *Fields {
	all := url.Values{}
	for name, value := range standard {
		all.Set(name, value)
	}
	for name, values := range typed {
		all[name] = make([]string, len(values))
		for i, value := range values {
			all[name][i] = sayable(value)
		}
	}
	return &Fields{Typed: all}
}

// sayable is a text without what no keyboard types: control characters but for line breaks and tabs.
func sayable(text string) string {
	return strings.Map(func(c rune) rune {
		if unicode.IsControl(c) && c != '\n' && c != '\r' && c != '\t' {
			return -1
		}
		return c
	}, strings.ToValidUTF8(text, ""))
}

// Text returns a value without the spaces around it, nor what takes no room; "" for one of nothing else.
func (f *Fields) Text(name string) string {
	return strings.TrimFunc(f.Typed.Get(name), func(c rune) bool {
		return unicode.IsSpace(c) || unicode.IsControl(c) || unicode.Is(unicode.Cf, c)
	})
}

// Number returns a number from low to high; otherwise it notes a fault that
// names both and an example.
func (f *Fields) Number(name string, low, high float64, example string) float64 {
	x, ok := Number(f.Text(name))
	if !ok || !(x >= low && x <= high) {
		f.Fault(name, measure.Code("form.within").With(low, high, example))
		return 0
	}
	return x
}

// Within is Number for what another package bounds.
func (f *Fields) Within(name string, b measure.Bound, example string) float64 {
	x, ok := Number(f.Text(name))
	if !ok || !b.Holds(x) {
		f.Fault(name, measure.Code("form.bound").With(b.Error(), example))
		return 0
	}
	return x
}

// Optional is Number for a field that may be left empty; given is false then.
func (f *Fields) Optional(name string, low, high float64, example string) (x float64, given bool) {
	if f.Text(name) == "" {
		return 0, false
	}
	return f.Number(name, low, high, example), true
}

// Name returns a text of so many characters at most, and at least one.
func (f *Fields) Name(name string, most int) string {
	text := f.Text(name)
	if n := utf8.RuneCountInString(text); n < 1 || n > most || strings.ContainsAny(text, "\r\n\t") {
		f.Fault(name, measure.Code("form.name").With(most))
	}
	return text
}

// Fault notes what is wrong with a field.
func (f *Fields) Fault(name string, err error) {
	shown := ""
	if value := f.Text(name); value != "" {
		shown = strconv.Quote(shorten(value))
	}
	f.faults = append(f.faults, &measure.FieldError{Field: name, Value: shown, Err: err})
}

// FaultsOf notes what is wrong with several fields; an error of another kind it gives back.
func (f *Fields) FaultsOf(err error) error {
	faults, ok := errors.AsType[measure.Faults](err)
	for _, one := range faults {
		f.Fault(one.Field, one.Err)
	}
	if ok {
		return nil
	}
	return err
}

// shorten keeps what a message repeats of a long value.
func shorten(text string) string {
	const most = 40
	if runes := []rune(text); len(runes) > most {
		return string(runes[:most]) + "…"
	}
	return text
}

// Err returns the faults, nil if there are none.
func (f *Fields) Err() error { return f.faults.Err() }

// Faults returns what is wrong by field, said as the household has it.
func (f *Fields) Faults(say words.Printer) map[string]string { return FieldFaults(say, f.Err()) }

// Values returns the first value of each field, for a form that is shown again.
func (f *Fields) Values() map[string]string {
	values := map[string]string{}
	for name := range f.Typed {
		values[name] = f.Typed.Get(name)
	}
	return values
}
