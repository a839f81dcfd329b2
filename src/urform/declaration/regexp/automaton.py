"""The automaton of a pattern: deterministic, as small as it can be, with one meaning in every target.

Built in the usual way: states for the expression, of which several may hold at once (Thompson, 1968), sets of them as the
states of one that is always in one (Rabin and Scott, 1959), and those merged that no text tells apart (Hopcroft, 1971).
Characters are taken in kinds: all those that no part of the pattern tells apart are one kind.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator, Sequence
from functools import cache

from urform.dataclasses import dataclass
from urform.declaration.regexp.syntax import (
    LAST,
    BadPattern,
    Either,
    Expression,
    InOrder,
    OneOf,
    Ranges,
    Repeated,
    parse,
)

MOST_CELLS = 8000  # states times kinds of characters, and beginnings of ranges: what a Java method can fill an array with
MOST_POSITIONS = 20_000  # of the expression, its repetitions written out
REFUSED = 0  # the state that no text leaves again
BEGIN = 1


@dataclass(frozen=True, slots=True)
class Automaton:
    """`starts` are the first code points of ranges, `kinds` what kind of character each range has; `moves[state][kind]` is
    the next state. State 0 refuses whatever comes, state 1 is the first."""

    starts: tuple[int, ...]
    kinds: tuple[int, ...]
    moves: tuple[tuple[int, ...], ...]
    ends: frozenset[int]  # the states in which a text may end

    def accepts(self, text: str) -> bool:
        """Whether the whole text is one that the pattern is about."""
        state = BEGIN
        for char in text:
            state = self.moves[state][self.kind(ord(char))]
        return state in self.ends

    def kind(self, point: int) -> int:
        """The kind of a character."""
        return self.kinds[bisect_right(self.starts, point) - 1]

    @property
    def cells(self) -> int:
        """How large its tables are."""
        return max(len(self.moves) * len(self.moves[0]), len(self.starts))


@cache
def automaton(pattern: str) -> Automaton:
    """The automaton of an I-Regexp. Raises BadPattern, also where it would be too large."""
    expression = parse(pattern)
    if _size(expression) > MOST_POSITIONS:
        raise _too_large(pattern)
    starts, kinds, kinds_of = _kinds(expression)
    nfa = _Positions(kinds_of)
    begin, end = nfa.add(expression)
    moves, ends = _determined(nfa, begin, end, max(kinds) + 1, pattern)
    result = _smallest(starts, kinds, moves, ends)
    if result.cells > MOST_CELLS:
        raise _too_large(pattern)
    return result


def _too_large(pattern: str) -> BadPattern:
    why = "it needs a larger table than a program should carry: repeat less, or less of it within each other"
    return BadPattern(why, 0, len(pattern))


def _size(expression: Expression) -> int:
    """How many positions the expression has when repetitions are written out."""
    match expression:
        case OneOf():
            return 2
        case InOrder(parts):
            return 1 + sum(map(_size, parts))
        case Either(branches):
            return 2 + sum(map(_size, branches))
        case Repeated(part, least, most):
            return 2 + (_size(part) + 2) * max(least if most is None else most, 1)


def _kinds(expression: Expression) -> tuple[tuple[int, ...], tuple[int, ...], dict[Ranges, frozenset[int]]]:
    """The ranges of characters, the kind of each, and the kinds that each set of the expression has."""
    sets = list(dict.fromkeys(_sets(expression)))
    edges: dict[int, set[int]] = {0: set()}  # where sets begin or end
    for number, ranges in enumerate(sets):
        for first, last in ranges:
            edges.setdefault(first, set()).add(number)
            edges.setdefault(last + 1, set()).add(number)
    starts: list[int] = []
    kinds: list[int] = []
    number_of = {frozenset[int](): 0}
    inside: set[int] = set()
    for point in sorted(edges):
        inside ^= edges[point]
        kind = number_of.setdefault(frozenset(inside), len(number_of))
        if point <= LAST and (not kinds or kinds[-1] != kind):
            starts.append(point)
            kinds.append(kind)
    of_sets = {
        ranges: frozenset(kind for within, kind in number_of.items() if number in within)
        for number, ranges in enumerate(sets)
    }
    return tuple(starts), tuple(kinds), of_sets


def _sets(expression: Expression) -> Iterator[Ranges]:
    match expression:
        case OneOf(ranges):
            yield ranges
        case InOrder(parts) | Either(parts):
            for part in parts:
                yield from _sets(part)
        case Repeated(part):
            yield from _sets(part)


class _Positions:
    """The automaton that may be in several states at once: steps without a character, and steps with one of some kinds."""

    def __init__(self, kinds_of: dict[Ranges, frozenset[int]]) -> None:
        self._kinds_of = kinds_of
        self.free: list[list[int]] = []
        self.steps: list[tuple[frozenset[int], int] | None] = []

    def _new(self) -> int:
        self.free.append([])
        self.steps.append(None)
        return len(self.free) - 1

    def add(self, expression: Expression) -> tuple[int, int]:
        """Adds an expression; where it begins and where it ends."""
        match expression:
            case OneOf(ranges):
                begin, end = self._new(), self._new()
                self.steps[begin] = (self._kinds_of[ranges], end)
                return begin, end
            case InOrder(parts):
                return self._in_order(parts)
            case Either(branches):
                begin, end = self._new(), self._new()
                for branch in branches:
                    first, last = self.add(branch)
                    self.free[begin].append(first)
                    self.free[last].append(end)
                return begin, end
            case Repeated(part, least, most):
                return self._repeated(part, least, most)

    def _in_order(self, parts: Iterable[Expression]) -> tuple[int, int]:
        begin = end = self._new()
        for part in parts:
            first, last = self.add(part)
            self.free[end].append(first)
            end = last
        return begin, end

    def _repeated(self, part: Expression, least: int, most: int | None) -> tuple[int, int]:
        begin, end = self._in_order([part] * least)
        if most is None:
            first, last = self.add(part)
            around = self._new()
            self.free[end].append(around)
            self.free[around].append(first)
            self.free[last].append(around)
            return begin, around
        out = self._new()
        for _ in range(most - least):
            self.free[end].append(out)
            first, last = self.add(part)
            self.free[end].append(first)
            end = last
        self.free[end].append(out)
        return begin, out

    def closed(self, states: Iterable[int]) -> frozenset[int]:
        """The states that hold when some do."""
        seen, waiting = set(states), list(states)
        while waiting:
            for free in self.free[waiting.pop()]:
                if free not in seen:
                    seen.add(free)
                    waiting.append(free)
        return frozenset(seen)


Moves = list[list[int]]


def _determined(nfa: _Positions, begin: int, end: int, kinds: int, pattern: str) -> tuple[Moves, set[int]]:
    """The states that sets of positions are, numbered as they are met; 0 is that of no position."""
    first = nfa.closed([begin])
    numbers = {frozenset[int](): REFUSED, first: BEGIN}
    moves: Moves = [[REFUSED] * kinds]
    waiting = [first]
    for states in waiting:  # grows
        reached: list[set[int]] = [set() for _ in range(kinds)]
        for step in (nfa.steps[state] for state in states):
            for kind in step[0] if step is not None else ():
                reached[kind].add(step[1])  # type: ignore[index]
        row = []
        for ends in reached:
            following = nfa.closed(ends)
            if following not in numbers:
                numbers[following] = len(numbers)
                waiting.append(following)
            row.append(numbers[following])
        moves.append(row)
        if len(moves) > MOST_CELLS:
            raise _too_large(pattern)
    return moves, {number for states, number in numbers.items() if end in states}


def _smallest(starts: Sequence[int], kinds: Sequence[int], moves: Moves, ends: set[int]) -> Automaton:
    """Merges what no text tells apart: states by what follows, then kinds of characters by where they lead."""
    group = _groups(moves, ends)
    order = {group[REFUSED]: REFUSED}
    if group[BEGIN] == group[REFUSED]:  # no text at all
        return Automaton((0,), (0,), ((0,), (0,)), frozenset())
    for state in range(BEGIN, len(moves)):
        order.setdefault(group[state], len(order))
    rows: Moves = [[] for _ in order]
    for state, row in enumerate(moves):
        rows[order[group[state]]] = [order[group[to]] for to in row]
    return _with_fewer_kinds(starts, kinds, rows, frozenset(order[group[state]] for state in ends))


def _groups(moves: Moves, ends: set[int]) -> list[int]:
    """The group of each state: two are in one if the same texts lead from them to an end."""
    before: list[list[list[int]]] = [[[] for _ in moves] for _ in moves[0]]
    for state, row in enumerate(moves):
        for kind, to in enumerate(row):
            before[kind][to].append(state)
    members = [group for group in (set(range(len(moves))) - ends, set(ends)) if group]
    group_of = [0] * len(moves)
    for number, group in enumerate(members):
        for state in group:
            group_of[state] = number
    waiting = list(range(len(members)))
    while waiting:
        splitter = list(members[waiting.pop()])
        for sources in before:
            touched: dict[int, list[int]] = {}
            for state in (source for to in splitter for source in sources[to]):
                touched.setdefault(group_of[state], []).append(state)
            for number, inside in touched.items():
                if len(inside) < len(members[number]):
                    _split(members, group_of, number, inside, waiting)
    return group_of


def _split(
    members: list[set[int]], group_of: list[int], number: int, inside: list[int], waiting: list[int]
) -> None:
    """Moves the smaller part of a group to a new one, by which others may have to be split in turn."""
    part = set(inside)
    members[number] -= part
    if len(part) > len(members[number]):
        part, members[number] = members[number], part
    members.append(part)
    for state in part:
        group_of[state] = len(members) - 1
    waiting.append(len(members) - 1)


def _with_fewer_kinds(
    starts: Sequence[int], kinds: Sequence[int], rows: Moves, ends: frozenset[int]
) -> Automaton:
    columns = list(zip(*rows, strict=True))
    numbers: dict[tuple[int, ...], int] = {}
    merged = [numbers.setdefault(column, len(numbers)) for column in columns]
    kept = [(start, merged[kind]) for start, kind in zip(starts, kinds, strict=True)]
    ranges = [each for at, each in enumerate(kept) if at == 0 or kept[at - 1][1] != each[1]]
    moves = tuple(zip(*numbers, strict=True))
    return Automaton(tuple(s for s, _ in ranges), tuple(k for _, k in ranges), moves, ends)
