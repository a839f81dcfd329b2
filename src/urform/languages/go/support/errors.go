// DOC
package PACKAGE

import (
	"fmt"
	"strings"
)

// CreationError is what all errors of this package are: errors.As finds any of them.
type CreationError interface {
	error
	// CreationOwner returns the product, family or choice that was asked for or that declares the limit.
	CreationOwner() string
}

// MissingError reports required fields that were not given.
type MissingError struct {
	Owner  string
	Fields []string // in the order of the declaration
}

func (e *MissingError) Error() string {
	return fmt.Sprintf("%s: missing %s", e.Owner, strings.Join(e.Fields, ", "))
}

// CreationOwner returns Owner.
func (e *MissingError) CreationOwner() string { return e.Owner }

// LimitError reports a value outside a declared limit.
type LimitError struct {
	Owner, Field string
	Limit        string // the limit's name, such as "min"
	Bound        any    // the limit's value, nil where it has none
}

func (e *LimitError) Error() string {
	if e.Bound == nil {
		return fmt.Sprintf("%s.%s: breaks %s", e.Owner, e.Field, e.Limit)
	}
	return fmt.Sprintf("%s.%s: breaks %s %v", e.Owner, e.Field, e.Limit, e.Bound)
}

// CreationOwner returns Owner.
func (e *LimitError) CreationOwner() string { return e.Owner }

// UnknownKeyError reports a key that names nothing.
type UnknownKeyError struct {
	Owner, Key string
	Known      []string // sorted
}

func (e *UnknownKeyError) Error() string {
	return fmt.Sprintf("%s: unknown key %q, known: %s", e.Owner, e.Key, strings.Join(e.Known, ", "))
}

// CreationOwner returns Owner.
func (e *UnknownKeyError) CreationOwner() string { return e.Owner }

// DuplicateKeyError reports a key that is taken.
type DuplicateKeyError struct {
	Owner, Key string
}

func (e *DuplicateKeyError) Error() string {
	return fmt.Sprintf("%s: key %q is taken", e.Owner, e.Key)
}

// CreationOwner returns Owner.
func (e *DuplicateKeyError) CreationOwner() string { return e.Owner }

// RefusedError reports values for which no product is made.
type RefusedError struct {
	Owner, Reason string
}

func (e *RefusedError) Error() string {
	return fmt.Sprintf("%s: refused, %s", e.Owner, e.Reason)
}

// CreationOwner returns Owner.
func (e *RefusedError) CreationOwner() string { return e.Owner }
