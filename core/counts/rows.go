package counts

var protocols = []Protocol{
	{"grubs-per-m2", Pieces, []string{"square-30", "square-foot", "square-20", "cutter-108"}, 4, 8, 0, "At the edge of the damage, not in its dead middle. Cut three sides, 5 to 8 cm deep, fold back, break up the soil, count, fold back and water."},
	{"billbug-larvae-per-m2", Pieces, []string{"square-30", "square-foot", "square-20", "cutter-108"}, 4, 8, 0, "In the same squares: legless larvae in stems, crowns and the top of the soil."},
	{"leatherjackets-per-m2", Pieces, []string{"square-30", "square-foot", "square-20", "cutter-108"}, 4, 8, 0, "In the top 3 cm, at the edge of the damage: grey, legless, tough."},
	{"flush-caterpillars-per-m2", Pieces, []string{"frame-1m", "frame-yard", "frame-half"}, 2, 4, 600, "30 mL of dish soap in 8 L over the frame, at the edge of the damage. Count what comes up in ten minutes."},
	{"flush-mole-crickets-per-m2", Pieces, []string{"frame-1m", "frame-yard", "frame-half"}, 2, 4, 600, "30 mL of dish soap in 8 L over the frame, where the tunnels are fresh. Count what comes up in ten minutes."},
	{"float-chinch-per-m2", Pieces, []string{"can-15", "can-20", "can-10"}, 4, 8, 600, "A can open at both ends, pushed 5 cm into the edge of the damage and kept full of water. Count what floats in ten minutes."},
	{"crowns-alive-percent", Share, nil, 1, 3, 0, "Halve crowns from the worst part lengthwise: white and firm is alive, brown and dry or soft is dead."},
	{"water-drop-seconds", Drop, nil, 3, 3, 0, "On a cleaned, dry core, at 10, 20 and 30 mm: seconds until the drop is gone."},
}

var tools = []Tool{
	{"square-30", "30 × 30 cm", 900},
	{"square-foot", "1 ft square", 929.0304},
	{"square-20", "20 × 20 cm", 400},
	{"cutter-108", "cup cutter, 10.8 cm", 91.6},
	{"frame-1m", "1 m square", 10000},
	{"frame-yard", "1 yd square", 8361.2736},
	{"frame-half", "50 × 50 cm", 2500},
	{"can-15", "can, 15 cm", 176.7},
	{"can-20", "can, 20 cm", 314.2},
	{"can-10", "can, 10 cm", 78.5},
}
