package PACKAGE

import (
	"encoding/hex"
	"fmt"
	"strings"
)

// UUID is a UUID (RFC 9562): 128 bits, told as 32 hexadecimal digits in five groups.
type UUID [16]byte

// ParseUUID reads five groups of digits, in either case, with hyphens between them.
func ParseUUID(text string) (UUID, error) {
	var read UUID
	groups := strings.Split(text, "-")
	if len(groups) == 5 && len(text) == 36 && len(groups[0]) == 8 && len(groups[1]) == 4 && len(groups[2]) == 4 && len(groups[3]) == 4 {
		if n, err := hex.Decode(read[:], []byte(strings.Join(groups, ""))); err == nil && n == len(read) {
			return read, nil
		}
	}
	return UUID{}, fmt.Errorf("%q is no UUID", text)
}

// mustUUID reads what is known for a UUID.
func mustUUID(text string) UUID {
	read, err := ParseUUID(text)
	if err != nil {
		panic(err)
	}
	return read
}

// String returns the digits in lower case.
func (u UUID) String() string {
	return fmt.Sprintf("%x-%x-%x-%x-%x", u[:4], u[4:6], u[6:8], u[8:10], u[10:])
}
