package numeric

// A Status says why a search or a fit ended.
type Status int

// Why it ended.
const (
	Met      Status = iota // what was looked for was found
	Narrowed               // the bracket is as narrow as was asked
	AtLow                  // nothing in the bracket is above: what is looked for lies at its lower end, or below
	AtHigh                 // all of it is: at its upper end, or beyond
	Spent                  // the rounds are used up
	Singular               // the system has no solution
)

// String names a status.
func (s Status) String() string {
	return [...]string{"met", "narrowed", "at low", "at high", "spent", "singular"}[s]
}
