package diagnosis

import (
	"math"

	"hodos/core/knowledge"
)

// meant is a value as it is weighed on this lawn, held to what the finding can be.
func (m *model) meant(f *knowledge.Finding, v knowledge.Value) knowledge.Value {
	r, ok := m.relations[f.ID]
	if !ok || v.Number == nil {
		return v
	}
	return knowledge.NumberValue(math.Max(f.Min, math.Min(f.Max, r.To(*v.Number))))
}
