"""The texts that an automaton accepts: one by one, how many there are, and those that another one does not."""

from __future__ import annotations

from collections.abc import Iterator
from string import ascii_letters, digits

from urform.declaration.regexp.automaton import BEGIN, REFUSED, Automaton
from urform.declaration.regexp.syntax import LAST, SURROGATES

# Which characters stand for their kind in texts: readable ones, and early among them those that trip up languages.
PREFERRED = f'a"\N{RING BUOY}\\{ascii_letters[1:]}{digits}-_.:/ '
FEW = 12  # characters that stand for one kind
FARTHEST = 100_000  # code points; nobody asks for texts that are longer


def both(one: Automaton, other: Automaton) -> Automaton:
    """Accepts what the one and the other accept."""
    return _joined(one, other, but_not=False)


def without(one: Automaton, other: Automaton) -> Automaton:
    """Accepts what the one accepts and the other does not."""
    return _joined(one, other, but_not=True)


def _joined(one: Automaton, other: Automaton, *, but_not: bool) -> Automaton:
    """Both at once, as pairs of states."""
    starts = tuple(sorted({*one.starts, *other.starts}))
    pairs = [(one.kind(start), other.kind(start)) for start in starts]
    kinds = {pair: number for number, pair in enumerate(dict.fromkeys(pairs))}
    numbers = {(REFUSED, REFUSED): REFUSED, (BEGIN, BEGIN): BEGIN}
    rows: list[tuple[int, ...]] = []
    for state, beside in _as_they_grow(numbers):
        row = []
        for kind, its in kinds:
            to = one.moves[state][kind]
            following = (to, other.moves[beside][its] if to != REFUSED else REFUSED)
            row.append(numbers.setdefault(following, len(numbers)))
        rows.append(tuple(row))
    ends = {
        number
        for (state, beside), number in numbers.items()
        if state in one.ends and (beside in other.ends) != but_not
    }
    return Automaton(starts, tuple(kinds[pair] for pair in pairs), tuple(rows), frozenset(ends))


def _as_they_grow(numbers: dict[tuple[int, int], int]) -> Iterator[tuple[int, int]]:
    """The keys of a dict, those too that are added meanwhile."""
    at = 0
    while at < len(numbers):
        yield from list(numbers)[at : (at := len(numbers))]


def texts(automaton: Automaton, fewest: int = 0, most: int | None = None) -> Iterator[str]:
    """Accepted texts of so many code points, the shortest first; each once, but not every one of long ranges."""
    chars = _Chars(automaton)
    leading = _Leading(automaton)
    for length in _lengths(leading, fewest, most):
        yield from _of_length(automaton, chars, leading, length)


def count(automaton: Automaton, fewest: int, most: int | None, plenty: int) -> int:
    """How many texts of so many code points are accepted, at most `plenty`; that too where lengths have hardly an end."""
    sizes = _sizes(automaton)
    leading = _Leading(automaton)
    ways = {BEGIN: 1}
    total, reached = 0, 0
    for length in _lengths(leading, fewest, most):
        while reached < length:
            ways, reached = _step(automaton, sizes, ways, plenty), reached + 1
        total += sum(number for state, number in ways.items() if state in automaton.ends)
        if total >= plenty or length > fewest + 2 * len(automaton.moves) + FEW:
            return plenty
    return total


def _step(automaton: Automaton, sizes: list[int], ways: dict[int, int], plenty: int) -> dict[int, int]:
    """In how many ways each state is reached with one character more."""
    following: dict[int, int] = {}
    for state, number in ways.items():
        for kind, to in enumerate(automaton.moves[state]):
            if to != REFUSED and sizes[kind]:
                following[to] = min(following.get(to, 0) + number * sizes[kind], plenty)
    return following


def _lengths(leading: _Leading, fewest: int, most: int | None) -> Iterator[int]:
    """The lengths of accepted texts. Where there are longer ones at all, the next is no more states away than there are."""
    last = fewest
    length = fewest
    while length <= FARTHEST and (most is None or length <= most) and length - last <= leading.patience:
        if BEGIN in leading.to_end(length):
            last = length
            yield length
        length += 1


class _Leading:
    """From which states an end is reached with exactly so many characters."""

    def __init__(self, automaton: Automaton) -> None:
        self._moves = automaton.moves
        self._sets = [automaton.ends]
        self.patience = len(automaton.moves)

    def to_end(self, length: int) -> frozenset[int]:
        while len(self._sets) <= length:
            ends = self._sets[-1]
            self._sets.append(frozenset(s for s, row in enumerate(self._moves) if not ends.isdisjoint(row)))
        return self._sets[length]


def _of_length(automaton: Automaton, chars: _Chars, leading: _Leading, length: int) -> Iterator[str]:
    """Texts of one length, the first characters changing last."""
    if length == 0:
        yield ""
        return
    way: list[str] = []
    waiting = [chars.towards(BEGIN, leading.to_end(length - 1))]
    while waiting:
        step = next(waiting[-1], None)
        if step is None:
            waiting.pop()
            del way[-1:]
            continue
        char, state = step
        way.append(char)
        if len(way) == length:
            yield "".join(way)
            way.pop()
        else:
            waiting.append(chars.towards(state, leading.to_end(length - len(way) - 1)))


class _Chars:
    """The characters that stand for the kinds of an automaton."""

    def __init__(self, automaton: Automaton) -> None:
        self._moves = automaton.moves
        self._kinds = [list(_some(automaton, kind)) for kind in range(len(automaton.moves[0]))]
        self._rank = {char: at for at, char in enumerate(PREFERRED)}

    def towards(self, state: int, goals: frozenset[int]) -> Iterator[tuple[str, int]]:
        """The characters that lead from a state to some others, and where."""
        steps = [
            (char, to)
            for kind, to in enumerate(self._moves[state])
            if to in goals and to != REFUSED
            for char in self._kinds[kind]
        ]
        return iter(sorted(steps, key=lambda step: (self._rank.get(step[0], len(PREFERRED)), step[0])))


def _some(automaton: Automaton, kind: int) -> Iterator[str]:
    """A few characters of a kind: those that are preferred, else the first ones, controls last."""
    preferred = [char for char in PREFERRED if automaton.kind(ord(char)) == kind][:FEW]
    if preferred:
        yield from preferred
        return
    points = [
        point
        for first, last in _ranges(automaton, kind)
        for point in range(first, min(last, first + 200) + 1)
    ]
    yield from map(
        chr, sorted(points, key=lambda point: (point < 0x20 or 0x7F <= point <= 0x9F, point))[:FEW]
    )


def _ranges(automaton: Automaton, kind: int) -> Iterator[tuple[int, int]]:
    """The ranges of a kind, without surrogates."""
    ends = [*(start - 1 for start in automaton.starts[1:]), LAST]
    low, high = SURROGATES
    for first, last, each in zip(automaton.starts, ends, automaton.kinds, strict=True):
        if each == kind:
            yield from (
                (a, b) for a, b in ((first, min(last, low - 1)), (max(first, high + 1), last)) if a <= b
            )


def _sizes(automaton: Automaton) -> list[int]:
    """How many characters each kind has."""
    return [
        sum(last - first + 1 for first, last in _ranges(automaton, kind))
        for kind in range(len(automaton.moves[0]))
    ]
