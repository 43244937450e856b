package norm

import "math"

func lbeta(a, b float64) float64 {
	x, _ := math.Lgamma(a)
	y, _ := math.Lgamma(b)
	z, _ := math.Lgamma(a + b)
	return x + y - z
}

// rates are the rates of slips that are thought of, each a quarter above the one before.
var rates = func() (list []float64) {
	for r := leastSlips; r < mostSlips; r *= 1.25 {
		list = append(list, r)
	}
	return list
}()

// oneLog is the log likelihood of k of n screens departing from one habit by slips at about the
// rate eps (beta-binomial, without the binomial coefficient).
func oneLog(k, n, eps float64) float64 {
	a := max(0.05, eps*slipSpread/(1-eps))
	return lbeta(k+a, n-k+slipSpread) - lbeta(a, slipSpread)
}

// twoLog is the same where k of n screens follow the smaller of two habits, whose share is
// anywhere from lowSecond to highSecond.
func twoLog(k, n float64) float64 {
	var two [gridSteps]float64
	m := math.Inf(-1)
	for i := range two {
		q := lowSecond + (highSecond-lowSecond)*(float64(i)+0.5)/gridSteps
		two[i] = k*math.Log(q) + (n-k)*math.Log(1-q) - math.Log(gridSteps)
		m = max(m, two[i])
	}
	sum := 0.0
	for _, t := range two {
		sum += math.Exp(t - m)
	}
	return m + math.Log(sum)
}

// odds are the log odds of slips from one habit against two habits, which have one habit this
// often beforehand.
func odds(k, n, eps, one float64) float64 {
	return oneLog(k, n, eps) - twoLog(k, n) + math.Log(one/(1-one))
}

// softplus is the logarithm of 1 + eˣ, for any x.
func softplus(x float64) float64 { return max(x, 0) + math.Log1p(math.Exp(-math.Abs(x))) }

func sigmoid(x float64) float64 { return 1 / (1 + math.Exp(-x)) }

// slipped is how likely it is that hit of m screens of one context departing are slips at the
// rate eps, and not a habit of that context; own is how likely a context has a habit of its own.
func slipped(hit, m, eps, own float64) float64 {
	slip := math.Exp(-lbeta(hit+1, m-hit+1)-math.Log(m+1)) * math.Pow(eps, hit) * math.Pow(1-eps, m-hit)
	return slip / (slip + own/(m+1))
}

// Chance is how likely it is that k of n screens depart from one habit by slips, and not by a
// second habit, where nothing is known of the workspace.
func Chance(k, n int) float64 { return sigmoid(odds(float64(k), float64(n), usualSlips, oneHabit)) }
