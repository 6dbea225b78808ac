package remedy

import "slices"

// actions is the table of everything that can be done, in the order of the groups. Gates follow extension practice;
// thresholds without another source are judgement.
var actions = slices.Concat(waterActions, mowActions, feedActions, groundActions, reseedActions, protectActions, learnActions)
