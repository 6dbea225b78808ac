package diagnosis

import (
	"hodos/core/knowledge"
)

// settle notes which causes are settled by their own reading.
func (m *model) settle(known map[string]knowledge.Value) {
	m.settled = make([]bool, len(m.active))
	for id, v := range known {
		f, ok := knowledge.FindingByID(id)
		if !ok {
			continue
		}
		own := knowledge.Owner(id, m.meant(f, v))
		for k, ci := range m.active {
			m.settled[k] = m.settled[k] || ci == own
		}
	}
}
