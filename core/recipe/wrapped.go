package recipe

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// unwrapped joins the lines of a text that was broken to a width: "add the rice and simmer it for / 20 minutes". A text without
// such lines comes back as it is.
func unwrapped(text string) string {
	const (
		narrowest = 40 // letters of a line that was broken
		ragged    = 22 // that the widest may be wider
		enough    = 2
	)
	lines := strings.Split(text, "\n")
	widest, evidence := 0, 0
	for k := range lines[1:] {
		if goesOnBelow(lines[k], lines[k+1], narrowest) {
			evidence += 1 + boolInt(holdsOpen.MatchString(strings.TrimSpace(lines[k])) || goesOn.MatchString(lines[k+1]))
			widest = max(widest, utf8.RuneCountInString(strings.TrimSpace(lines[k])))
		}
	}
	if evidence < enough {
		return text
	}
	var out strings.Builder
	for k, line := range lines {
		out.WriteString(strings.TrimRight(line, " \t\r"))
		switch {
		case k+1 == len(lines):
		case goesOnBelow(line, lines[k+1], max(narrowest, widest-ragged)):
			out.WriteByte(' ')
			lines[k+1] = strings.TrimLeft(lines[k+1], " \t")
		default:
			out.WriteByte('\n')
		}
	}
	return out.String()
}

// holdsOpen is how a line ends that is not at its end.
var holdsOpen = regexp.MustCompile(`(?i)(?:\b(?:the|an?|and|or|of|in|into|to|for|with|until|till|about|over|on|at|from|by|add|then|it|` +
	`remaining|another|further|half|some|its|your|as|is|are|so|that|when|once)|,)$`)

// goesOn is how a line begins that is not at its beginning.
var goesOn = regexp.MustCompile(`^\s*(?:at|into|in|to|for|of|with|and|or|until|till|on|over|from|by|it|them|then|which|that|is|are)\b`)

// goesOnBelow reports whether a line, which is as long as it says, goes on with the one below it.
func goesOnBelow(line, below string, shortest int) bool {
	line, below = strings.TrimSpace(line), strings.TrimSpace(below)
	if utf8.RuneCountInString(line) < shortest || below == "" || strings.ContainsRune(".;:!?)", rune(line[len(line)-1])) {
		return false
	}
	begins, _ := utf8.DecodeRuneInString(below)
	figure := unicode.IsDigit(begins) && !leadingNumber.MatchString(below) || begins == '('
	unlisted := holdsOpen.MatchString(line) || !hasAmount(line) || timeFirst.MatchString(line) // the lines of a list begin with figures
	return unicode.IsLower(begins) || figure && unlisted
}
