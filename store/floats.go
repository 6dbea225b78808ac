package store

import (
	"database/sql/driver"
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Floats is a PostgreSQL real[]; nil is NULL, NaN stays NaN.
type Floats []float32

// Value writes the array's text form.
func (f Floats) Value() (driver.Value, error) {
	if f == nil {
		return nil, nil
	}
	var b strings.Builder
	b.WriteByte('{')
	for i, x := range f {
		if i > 0 {
			b.WriteByte(',')
		}
		if math.IsNaN(float64(x)) {
			b.WriteString("NaN")
		} else {
			b.WriteString(strconv.FormatFloat(float64(x), 'g', -1, 32))
		}
	}
	b.WriteByte('}')
	return b.String(), nil
}

// Scan reads the array's text form.
func (f *Floats) Scan(src any) error {
	var text string
	switch x := src.(type) {
	case nil:
		*f = nil
		return nil
	case string:
		text = x
	case []byte:
		text = string(x)
	default:
		return fmt.Errorf("store: %T is no real[]", src)
	}
	text = strings.TrimSuffix(strings.TrimPrefix(text, "{"), "}")
	*f = (*f)[:0]
	if text == "" {
		return nil
	}
	*f = make(Floats, 0, strings.Count(text, ",")+1)
	for text != "" {
		part, rest, _ := strings.Cut(text, ",")
		x, err := strconv.ParseFloat(part, 32)
		if err != nil {
			return fmt.Errorf("store: %q in a real[]", part)
		}
		*f, text = append(*f, float32(x)), rest
	}
	return nil
}
