package norm

import "math"

// betaCDF is the regularised incomplete beta function I_x(a, b), by the continued
// fraction of Lentz's method (Press et al., Numerical Recipes, 3rd ed., §6.4).
func betaCDF(x, a, b float64) float64 {
	switch {
	case b <= 0: // all mass at one
		return 0
	case a <= 0:
		return 1
	case x <= 0:
		return 0
	case x >= 1:
		return 1
	}
	la, _ := math.Lgamma(a)
	lb, _ := math.Lgamma(b)
	lab, _ := math.Lgamma(a + b)
	front := math.Exp(lab - la - lb + a*math.Log(x) + b*math.Log(1-x))
	if x < (a+1)/(a+b+2) {
		return front * betaFraction(x, a, b) / a
	}
	return 1 - front*betaFraction(1-x, b, a)/b
}

func betaFraction(x, a, b float64) float64 {
	const tiny = 1e-300
	c, d := 1.0, 1-(a+b)*x/(a+1)
	if math.Abs(d) < tiny {
		d = tiny
	}
	d = 1 / d
	h := d
	for m := 1; m <= 300; m++ {
		f := float64(m)
		for _, num := range [2]float64{f * (b - f) * x / ((a + 2*f - 1) * (a + 2*f)), -(a + f) * (a + b + f) * x / ((a + 2*f) * (a + 2*f + 1))} {
			if d = 1 + num*d; math.Abs(d) < tiny {
				d = tiny
			}
			if c = 1 + num/c; math.Abs(c) < tiny {
				c = tiny
			}
			d = 1 / d
			h *= d * c
		}
		if math.Abs(d*c-1) < 1e-12 {
			break
		}
	}
	return h
}
