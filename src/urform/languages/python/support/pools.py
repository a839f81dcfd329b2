"""What pools count with."""

from itertools import count
from threading import Lock


class Tally:
    """Counts without a lock on the way: add() is one step of the interpreter.

    Reading takes a step too, and leaves out those that were reads.
    """

    __slots__ = ("_lock", "_reads", "add")

    def __init__(self) -> None:
        self.add = count().__next__
        self._lock = Lock()
        self._reads = 0

    def total(self) -> int:
        """How often add() was called."""
        with self._lock:
            total = self.add() - self._reads
            self._reads += 1
            return total
