package PACKAGE

import "slices"

// textPattern is what texts look like, as tables: moves leads from state to state by the kind of the next character, and
// kinds has the kind of the characters from each of starts on. State 0 refuses everything, state 1 is the first.
type textPattern struct {
	starts []rune
	kinds  []int
	moves  [][]int
	ends   []int
}

// accepts reports whether the whole text has the form.
func (p *textPattern) accepts(text string) bool {
	state := 1
	for _, char := range text {
		state = p.moves[state][p.kind(char)]
	}
	_, isEnd := slices.BinarySearch(p.ends, state)
	return isEnd
}

func (p *textPattern) kind(char rune) int {
	at, isStart := slices.BinarySearch(p.starts, char)
	if !isStart {
		at--
	}
	return p.kinds[at]
}
