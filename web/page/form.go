package page

import (
	"net/http"
	"strconv"
	"strings"
	"unicode"

	"github.com/gin-gonic/gin"
	"github.com/gin-gonic/gin/binding"
)

// Bind reads a posted form into a struct of strings. When it cannot be read the
// answer is given and Bind returns false.
func (a *App) Bind(c *gin.Context, form any) bool {
	if err := c.ShouldBindWith(form, binding.FormPost); err != nil {
		a.Stop(c, http.StatusBadRequest, "The form could not be read.", "Go back and send it again.")
		return false
	}
	return true
}

// Number reads a plain decimal number as it is typed: spaces may part the
// thousands, a sign may stand before it. It takes no exponents, hexadecimals or
// infinities, which strconv would.
func Number(text string) (float64, bool) {
	text = strings.Map(func(r rune) rune {
		if unicode.IsSpace(r) {
			return -1
		}
		return r
	}, text)
	if strings.Trim(strings.TrimPrefix(text, "-"), "0123456789.") != "" {
		return 0, false
	}
	x, err := strconv.ParseFloat(text, 64)
	return x, err == nil
}
