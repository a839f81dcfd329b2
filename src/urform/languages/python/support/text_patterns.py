"""The forms of texts, as tables: a text is looked at once, character by character, and means the same in every language."""

from bisect import bisect_right
from collections.abc import Sequence
from typing import Any, Final

from .errors import LimitError

# Where the characters of a state lead, and under "" whether a text may end there.
Steps = dict[str, Any]
MOST_KEPT: Final = 256  # characters of a state; others are looked up each time


class TextPattern:
    """What texts look like: `moves` leads from state to state by the kind of the next character.

    `starts` are the first code points of ranges, `kinds` the kind that each has. State 0 refuses everything, state 1 is
    the first.
    """

    def __init__(
        self,
        limit: str,
        bound: str | None,
        starts: Sequence[int],
        kinds: Sequence[int],
        moves: Sequence[Sequence[int]],
        ends: Sequence[int],
    ) -> None:
        self.limit, self.bound = limit, bound
        self.starts, self.kinds, self.moves = starts, kinds, moves
        self._steps: list[Steps] = [{"": at in ends} for at in range(len(moves))]
        self._first = self._steps[1]

    def accepts(self, text: str) -> bool:
        """Whether the whole text has the form."""
        step = self._first
        try:
            for char in text:
                step = step[char]
        except KeyError:
            return self._looked_up(text)
        is_end: bool = step[""]
        return is_end

    def _looked_up(self, text: str) -> bool:
        """The same by the tables, keeping what is found there for the next time."""
        state = 1
        for char in text:
            step = self._steps[state]
            kind = self.kinds[bisect_right(self.starts, ord(char)) - 1]
            state = self.moves[state][kind]
            if state == 0:
                return False
            if len(step) < MOST_KEPT:
                step[char] = self._steps[state]
        is_end: bool = self._steps[state][""]
        return is_end

    def check(
        self,
        owner: str,
        field: str,
        value: str,
        *,
        within: str = "",
        secret: bool = False,
    ) -> str:
        """A text of the form. A secret one stands in no error."""
        if not self.accepts(value):
            told = None if secret else value
            raise LimitError(owner, field, within + self.limit, self.bound, told)
        return value


# fmt: off
