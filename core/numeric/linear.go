package numeric

import (
	"gonum.org/v1/gonum/floats"
	"gonum.org/v1/gonum/mat"
)

// LeastNorm returns the shortest x that meets J (x - x0) = r, x = J'(J J')⁻¹(J x0 + r)
// (the pseudo-inverse; Golub and Van Loan, Matrix Computations, 5.5.4). J has a
// row for each of r and a column for each of x0. Damping, 0 or more, on the diagonal
// of J J' keeps a row that hardly moves from asking for the moon. The status is Met,
// or Singular where no x moves a row.
func LeastNorm(jacobian [][]float64, x0, r []float64, damping float64) (x []float64, status Status) {
	j := dense(jacobian)
	rows, columns := j.Dims()
	if rows == 0 || columns == 0 {
		return nil, Singular
	}
	var square mat.Dense
	square.Mul(j, j.T())
	for i := range rows {
		square.Set(i, i, square.At(i, i)+damping)
	}
	right := mat.NewVecDense(rows, nil)
	right.MulVec(j, mat.NewVecDense(columns, x0))
	right.AddVec(right, mat.NewVecDense(rows, r))
	y, status := solve(&square, right)
	if status != Met {
		return nil, status
	}
	var found mat.VecDense
	found.MulVec(j.T(), y)
	return found.RawVector().Data, Met
}

// Marquardt returns the step dx of the method of Levenberg and Marquardt,
// (J'J + damping diag(J'J) + floor I) dx = -J'r (Nocedal and Wright, Numerical
// Optimization, 10.3). The floor, above 0, leaves a column that moves nothing where
// it is.
func Marquardt(jacobian [][]float64, r []float64, damping, floor float64) (step []float64, status Status) {
	j := dense(jacobian)
	rows, columns := j.Dims()
	if rows == 0 || columns == 0 {
		return nil, Singular
	}
	var square mat.Dense
	square.Mul(j.T(), j)
	for k := range columns {
		square.Set(k, k, square.At(k, k)*(1+damping)+floor)
	}
	right := mat.NewVecDense(columns, nil)
	right.MulVec(j.T(), mat.NewVecDense(rows, r))
	right.ScaleVec(-1, right)
	x, status := solve(&square, right)
	if status != Met {
		return nil, status
	}
	return x.RawVector().Data, Met
}

// Norm returns the Euclidean length of a vector.
func Norm(r []float64) float64 { return floats.Norm(r, 2) }

// solve solves a square system; a badly conditioned one counts as solved, one
// without a solution does not.
func solve(a *mat.Dense, b *mat.VecDense) (*mat.VecDense, Status) {
	var lu mat.LU
	lu.Factorize(a)
	var x mat.VecDense
	if err := lu.SolveVecTo(&x, false, b); err != nil {
		if _, shaky := err.(mat.Condition); !shaky || lu.Det() == 0 {
			return nil, Singular
		}
	}
	return &x, Met
}

func dense(rows [][]float64) *mat.Dense {
	if len(rows) == 0 || len(rows[0]) == 0 {
		return &mat.Dense{}
	}
	m := mat.NewDense(len(rows), len(rows[0]), nil)
	for i, row := range rows {
		m.SetRow(i, row)
	}
	return m
}
