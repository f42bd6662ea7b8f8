package learn

import (
	"math"
	"slices"
)

// What can be told of a grain and of a pearl, by the doneness in the middle of each
// answer. Source: the model, section 5.
var (
	GrainAnswers = []float64{0.3, 0.7, 1.1, 1.9} // hard, firm core, soft, very soft
	PearlAnswers = []float64{0.4, 0.8, 1.2}      // white heart, a white dot, clear
)

// feltSD is how sharply fingers tell one answer from the next: the standard
// deviation of the logarithm of the doneness. Source: our own judgement.
const feltSD = 0.2

// answered returns the logarithms of doneness between which an answer lies: half
// way, by their ratio, to the next on either side.
func answered(value float64) (low, high float64) {
	low, high = math.Inf(-1), math.Inf(1)
	for _, answers := range [][]float64{GrainAnswers, PearlAnswers} {
		k := slices.Index(answers, value)
		if k < 0 {
			continue
		}
		if k > 0 {
			low = (math.Log(answers[k-1]) + math.Log(value)) / 2
		}
		if k+1 < len(answers) {
			high = (math.Log(answers[k+1]) + math.Log(value)) / 2
		}
		return low, high
	}
	// A doneness of its own, as a file may have it.
	const width = 0.2
	x := math.Log(math.Max(value, 0.01))
	return x - width, x + width
}

// A softness is what is believed of the logarithm of the factor on a cooking time,
// on a grid: an answer says between what the doneness lies, so that repeating it
// does not make it sharper than it is.
type softness struct{ weights []float64 }

const (
	softWide = 0.9
	softStep = 0.02
)

func newSoftness() *softness {
	s := &softness{}
	for x := -softWide; x <= softWide+softStep/2; x += softStep {
		s.weights = append(s.weights, math.Exp(-square(x/cookPriorSD)/2))
	}
	return s
}

// see takes an answer where the model has a doneness: a factor of e^x makes of it
// the doneness times e^-x.
func (s *softness) see(model, value float64) {
	low, high := answered(value)
	const slip = 1e-5 // an answer may be a slip, but what fingers say counts more than the model
	for k := range s.weights {
		at := math.Log(model) - (-softWide + float64(k)*softStep)
		s.weights[k] *= slip + phi((high-at)/feltSD) - phi((low-at)/feltSD)
	}
}

// estimate returns mean and standard deviation.
func (s *softness) estimate() (mean, sd float64) {
	var sum, first, second float64
	for k, w := range s.weights {
		x := -softWide + float64(k)*softStep
		sum, first, second = sum+w, first+w*x, second+w*x*x
	}
	mean = first / sum
	return mean, math.Sqrt(math.Max(second/sum-mean*mean, 1e-6))
}

// phi is the distribution function of a standard normal variable.
func phi(x float64) float64 { return math.Erfc(-x/math.Sqrt2) / 2 }
