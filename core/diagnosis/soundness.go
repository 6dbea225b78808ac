package diagnosis

import "hodos/core/knowledge"

// soundness is what a finding does to the empty set: in the sleep of the turf its colour tells nothing.
func (m *model) soundness(cf *knowledge.Table, v knowledge.Value) (sound, other float64) {
	s, ok := knowledge.SoundnessOf[cf.Finding.ID]
	if !ok || s.Awake && m.sleeps() {
		return 1, 1
	}
	return s.Factors(v)
}

// sleeps reports whether the lawn is in its winter.
func (m *model) sleeps() bool { return knowledge.Asleep(m.lawn) }
