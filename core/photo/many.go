package photo

import "math"

// Of is the cover of a zone by several pictures of it: their mean, and its error at 95 %. One picture tells of its own spot alone: its
// error takes in how much spots differ on a lawn of that cover (judgement: as a share of what cover can differ by).
func Of(list []Measured) (cover, err float64) {
	if len(list) == 0 {
		return 0, 1
	}
	n := float64(len(list))
	limits := 0.0
	for _, m := range list {
		cover += m.Cover / n
		limits += m.Error / n
	}
	between := oneSpot * math.Sqrt(cover*(1-cover))
	if len(list) > 1 {
		sum := 0.0
		for _, m := range list {
			sum += (m.Cover - cover) * (m.Cover - cover)
		}
		between = student(len(list)-1) * math.Sqrt(sum/(n-1)/n)
	}
	return cover, math.Min(1, math.Hypot(limits, between))
}

// oneSpot is how far one spot lies from the mean of its lawn in 95 of 100 cases, of the most that it could (judgement).
const oneSpot = .5

// students are the two-sided 95 % points of Student's t by degrees of freedom, from 1 on.
var students = []float64{12.71, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228}

func student(freedom int) float64 {
	if freedom > len(students) {
		return 2.1 // of more, near enough
	}
	return students[freedom-1]
}
