package clearance

// opens are the actions that go into the ground; sows those that sow or plant.
var (
	opens = map[string]bool{"core-aerate": true, "slit-seed": true, "scarify": true, "renovate": true, "install-drain": true,
		"improve-drainage": true, "replace-soil": true, "plug-or-sprig": true, "level-surface": true, "fix-irrigation": true}
	sows = map[string]bool{
		"overseed":        true,
		"slit-seed":       true,
		"interseed":       true,
		"winter-overseed": true,
		"plug-or-sprig":   true,
		"resod":           true,
	}
)

// OpensGround reports whether an action goes into the ground: lines are located before it.
func OpensGround(action string) bool { return opens[action] }

// Seeds reports whether an action sows or plants.
func Seeds(action string) bool { return sows[action] }
