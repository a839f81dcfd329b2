"""What pools count with, and what makes for one key at a time."""

from collections.abc import Generator, Hashable
from contextlib import contextmanager
from itertools import count
from threading import Lock, get_ident

from .errors import RefusedError


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


class _Making:
    """One product that is being made, and how many threads make it or wait for it."""

    __slots__ = ("lock", "maker", "threads")

    def __init__(self) -> None:
        self.lock = Lock()
        self.maker = 0  # the thread that makes it; 0 for none
        self.threads = 0


# Guards what is known of makings, of all pools: circles may lead through several.
_KNOWN = Lock()
_WAITING: dict[int, _Making] = {}  # by thread


class Makings:
    """Makes for one key at a time; other keys do not wait, and a circle of makers is refused."""

    def __init__(self, owner: str) -> None:
        self._owner = owner
        self._under_way: dict[Hashable, _Making] = {}

    @contextmanager
    def alone(self, key: Hashable) -> Generator[None, None, None]:
        """Holds the lock of one key. RefusedError where the thread that makes it waits for this one."""
        me = get_ident()
        with _KNOWN:
            making = self._under_way.setdefault(key, _Making())
            if _leads_to(me, making):
                reason = "its maker asks for the key that it makes"
                raise RefusedError(self._owner, reason)
            making.threads += 1
            _WAITING[me] = making
        try:
            making.lock.acquire()
        except BaseException:  # an interrupt
            self._leave(key, making)
            raise
        finally:
            with _KNOWN:
                _WAITING.pop(me, None)
        try:
            making.maker = me
            yield
        finally:
            making.maker = 0
            self._leave(key, making)
            making.lock.release()

    def _leave(self, key: Hashable, making: _Making) -> None:
        with _KNOWN:
            making.threads -= 1
            if making.threads == 0:
                del self._under_way[key]


def _leads_to(me: int, making: _Making) -> bool:
    """Whether the making thread is this one, or waits for it, directly or through others."""
    while making.maker:
        if making.maker == me:
            return True
        waited_for = _WAITING.get(making.maker)
        if waited_for is None:
            return False
        making = waited_for
    return False
