package PACKAGE_test

import (
	"errors"
	"fmt"
	"reflect"
	"sync"
	"testing"
	"time"
)

// succeeds stops the test at an error.
func succeeds(t *testing.T, err error) {
	t.Helper()
	if err != nil {
		t.Fatalf("got error %v, want no error", err)
	}
}

// refuses reports any error but the one that is wanted, and one that says something else.
func refuses(t *testing.T, err, want error, said ...string) {
	t.Helper()
	if !reflect.DeepEqual(withoutValue(err), want) {
		t.Errorf("got error %v, want %v", err, want)
	} else if len(said) > 0 && err.Error() != said[0] {
		t.Errorf("the error says %q, want %q", err.Error(), said[0])
	}
}

// withoutValue returns an error without the value that was found, which its words tell.
func withoutValue(err error) error {
	v := reflect.ValueOf(err)
	if v.Kind() != reflect.Pointer || v.Elem().Kind() != reflect.Struct || !v.Elem().FieldByName("Value").IsValid() {
		return err
	}
	bare := reflect.New(v.Elem().Type())
	bare.Elem().Set(v.Elem())
	bare.Elem().FieldByName("Value").SetZero()
	return bare.Interface().(error)
}

// is reports a value that is not the one that is wanted.
func is[T any](t *testing.T, what string, got, want T) {
	t.Helper()
	if !alike(reflect.ValueOf(&got).Elem(), reflect.ValueOf(&want).Elem()) {
		t.Errorf("%s: got %+v, want %+v", what, got, want)
	}
}

// alike is like reflect.DeepEqual, but what is nil is as good as what is empty.
func alike(a, b reflect.Value) bool {
	if a.Type() != b.Type() {
		return false
	}
	switch a.Kind() {
	case reflect.Pointer, reflect.Interface:
		if a.IsNil() || b.IsNil() {
			return a.IsNil() && b.IsNil()
		}
		return alike(a.Elem(), b.Elem())
	case reflect.Struct:
		for i := range a.NumField() {
			if !alike(a.Field(i), b.Field(i)) {
				return false
			}
		}
		return true
	case reflect.Slice:
		for i := 0; i < a.Len() && i < b.Len(); i++ {
			if !alike(a.Index(i), b.Index(i)) {
				return false
			}
		}
		return a.Len() == b.Len()
	case reflect.Map:
		for _, key := range a.MapKeys() {
			if other := b.MapIndex(key); !other.IsValid() || !alike(a.MapIndex(key), other) {
				return false
			}
		}
		return a.Len() == b.Len()
	}
	return a.Equal(b)
}

// isGiven is like is, for a value that may be absent.
func isGiven[T any](t *testing.T, what string, got T, ok bool, want T) {
	t.Helper()
	if !ok {
		t.Errorf("%s: got none, want %+v", what, want)
		return
	}
	is(t, what, got, want)
}

// anyOf returns a value of the map.
func anyOf[K comparable, T any](m map[K]T) (value T) {
	for _, value = range m {
		return value
	}
	return value
}

// disturb gives each of the empty slices or maps in a list an element, which clear would leave empty.
func disturb[T any](values []T) {
	for i := range values {
		value := reflect.ValueOf(&values[i]).Elem()
		if value.Kind() == reflect.Map {
			value.Set(reflect.MakeMap(value.Type()))
			value.SetMapIndex(reflect.Zero(value.Type().Key()), reflect.Zero(value.Type().Elem()))
		} else {
			value.Set(reflect.MakeSlice(value.Type(), 1, 1))
		}
	}
}

// repeated returns a slice of n times the value.
func repeated[T any](value T, n int) []T {
	values := make([]T, n)
	for i := range values {
		values[i] = value
	}
	return values
}

// unfailing is for declared values, which have passed their limits.
func unfailing[T any](value T, err error) T {
	if err != nil {
		panic(err)
	}
	return value
}

// as returns the value as one of the type, and stops the test when it is none.
func as[T any](t *testing.T, value any) T {
	t.Helper()
	own, ok := value.(T)
	if !ok {
		t.Fatalf("got a %T, want a %T", value, own)
	}
	return own
}

// isA reports a value of another type, or nil.
func isA[T any](t *testing.T, value any) {
	t.Helper()
	if own, ok := value.(*T); !ok {
		t.Errorf("got a %T, want a %T", value, own)
	} else if own == nil {
		t.Errorf("got nil, want a %T", own)
	}
}

// typesOf returns the names of the types of values.
func typesOf(values []any) []string {
	names := make([]string, 0, len(values))
	for _, value := range values {
		names = append(names, fmt.Sprintf("%T", value))
	}
	return names
}

// until waits for something, but not for ever.
func until(most time.Duration, holds func() bool) {
	for end := time.Now().Add(most); !holds() && time.Now().Before(end); {
		time.Sleep(time.Millisecond)
	}
}

// within returns what is asked for, if it comes in time.
func within[T any](most time.Duration, ask func() (T, error)) (T, error) {
	type answer struct {
		value T
		err   error
	}
	got := make(chan answer, 1)
	go func() {
		value, err := ask()
		got <- answer{value, err}
	}()
	select {
	case came := <-got:
		return came.value, came.err
	case <-time.After(most):
		var none T
		return none, errors.New("no answer in time")
	}
}

// together returns what as many goroutines get that ask at the same moment.
func together[T any](goroutines int, ask func() T) []T {
	got := make([]T, goroutines)
	start := make(chan struct{})
	var all sync.WaitGroup
	for i := range got {
		all.Add(1)
		go func() {
			defer all.Done()
			<-start
			got[i] = ask()
		}()
	}
	close(start)
	all.Wait()
	return got
}
