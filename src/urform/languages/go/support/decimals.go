package PACKAGE

import (
	"fmt"
	"math/big"
	"strings"
)

// Decimal is an exact decimal number, with up to twenty digits before the point and eighteen behind it. Those that are equal
// are equal by ==; the zero value is 0.
type Decimal struct {
	text string // without zeros at its end; empty for 0
}

// ParseDecimal reads a number such as 12.5, and no other form: no exponent, no sign but a minus.
func ParseDecimal(text string) (Decimal, error) {
	whole, fraction, isBroken := strings.Cut(strings.TrimPrefix(text, "-"), ".")
	isWhole := areDigits(whole, 20) && (whole == "0" || whole[0] != '0')
	if !isWhole || isBroken && !areDigits(fraction, 18) {
		return Decimal{}, fmt.Errorf("%q is no decimal number", text)
	}
	if isBroken {
		text = strings.TrimRight(strings.TrimRight(text, "0"), ".")
	}
	if text == "0" || text == "-0" {
		text = ""
	}
	return Decimal{text}, nil
}

func areDigits(text string, most int) bool {
	return text != "" && len(text) <= most && strings.Trim(text, "0123456789") == ""
}

// Compare returns a negative number for a smaller number than the other, a positive one for a larger number, and else 0.
func (d Decimal) Compare(other Decimal) int {
	if d.Sign() != other.Sign() {
		return d.Sign() - other.Sign()
	}
	whole, fraction, _ := strings.Cut(strings.TrimPrefix(d.text, "-"), ".")
	others, otherFraction, _ := strings.Cut(strings.TrimPrefix(other.text, "-"), ".")
	order := len(whole) - len(others)
	if order == 0 {
		order = strings.Compare(whole+fraction, others+otherFraction)
	}
	return order * d.Sign()
}

// Sign returns -1, 0 or 1.
func (d Decimal) Sign() int {
	switch {
	case d.text == "":
		return 0
	case d.text[0] == '-':
		return -1
	}
	return 1
}

// Rat returns the number for calculations.
func (d Decimal) Rat() *big.Rat {
	number, _ := new(big.Rat).SetString(d.String())
	return number
}

// String returns the number as ParseDecimal reads it.
func (d Decimal) String() string {
	if d.text == "" {
		return "0"
	}
	return d.text
}
