package PACKAGE

import "maps"

// kept returns what f makes of the value; none stays none, for the build to refuse.
func kept[T comparable](value T, f func(T) T) T {
	var none T
	if value == none {
		return none
	}
	return f(value)
}

// keptAll returns a slice of what f makes of each value, none staying none; it is never nil.
func keptAll[T comparable](values []T, f func(T) T) []T {
	own := make([]T, len(values))
	for i, value := range values {
		own[i] = kept(value, f)
	}
	return own
}

// keptValues returns a map of what f makes of each value, none staying none; it is never nil.
func keptValues[K, T comparable](values map[K]T, f func(T) T) map[K]T {
	own := make(map[K]T, len(values))
	for key, value := range values {
		own[key] = kept(value, f)
	}
	return own
}

// owned returns a slice of the same values that is never nil.
func owned[T any](values []T) []T { return append(make([]T, 0, len(values)), values...) }

// ownedMap returns a map of the same entries that is never nil.
func ownedMap[K comparable, T any](values map[K]T) map[K]T {
	own := make(map[K]T, len(values))
	maps.Copy(own, values)
	return own
}
