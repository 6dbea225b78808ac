package knowledge

// Derived findings are read off others: the bad spot against the good one, and now against then where something was done
// in between. They are never asked and weigh beside what they come from only as far as it does not say the same.
var derivedFindings = []Finding{
	{ID: "moisture-against-healthy", Station: "derived", Kind: OneOf, Values: IDs("drier same wetter"),
		Label: "Moisture against the healthy spot"},
	{ID: "answer-to-water", Station: "derived", Kind: OneOf, Values: IDs("better none"), Label: "Answer to watering"},
	{ID: "answer-to-iron", Station: "derived", Kind: OneOf, Values: IDs("better none"), Label: "Answer to iron"},
	{ID: "answer-to-nitrogen", Station: "derived", Kind: OneOf, Values: IDs("better none"), Label: "Answer to feeding"},
	{ID: "answer-to-insecticide", Station: "derived", Kind: OneOf, Values: IDs("better none"), Label: "Answer to the insecticide"},
	{ID: "answer-to-fungicide", Station: "derived", Kind: OneOf, Values: IDs("better none"), Label: "Answer to the fungicide"},
}

// DerivedFindings returns what is read off other findings.
func DerivedFindings() []Finding { return derivedFindings }
