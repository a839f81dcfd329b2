"""What the tests share: expected refusals, untyped values, threads."""

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from queue import Queue
from threading import Barrier, Thread
from typing import Any, TypeVar

import pytest

from PACKAGE import CreationError, LimitError

T = TypeVar("T")


def untyped(value: object) -> Any:
    """A value that a type checker would not let through."""
    return value


@contextmanager
def refused(expected: CreationError, said: str | None = None) -> Iterator[None]:
    """What happens within is refused for just this reason, and perhaps in these words."""
    with pytest.raises(CreationError) as caught:
        yield
    found = caught.value
    assert (type(found), reason(found)) == (type(expected), reason(expected))
    assert said is None or str(found) == said


def reason(error: CreationError) -> object:
    """The data of an error, without the value that was found: its message tells that."""
    if isinstance(error, LimitError):
        return (error.owner, error.field, error.limit, error.bound)
    return error.args


def together(ask: Callable[[], T], threads: int) -> list[T]:
    """What as many threads get that ask at the same moment."""
    barrier = Barrier(threads)
    got: list[T] = []

    def run() -> None:
        barrier.wait()
        got.append(ask())

    running = [Thread(target=run) for _ in range(threads)]
    for thread in running:
        thread.start()
    for thread in running:
        thread.join()
    assert len(got) == threads
    return got


@contextmanager
def beside(ask: Callable[[], object]) -> Iterator[None]:
    """A thread that asks while the rest goes on, and has ended afterwards."""
    thread = Thread(target=ask, daemon=True)
    thread.start()
    yield
    thread.join(10)


def within(seconds: float, ask: Callable[[], T]) -> T:
    """What is asked for, if it comes in time; queue.Empty if it does not."""
    got: Queue[T] = Queue()
    Thread(target=lambda: got.put(ask()), daemon=True).start()
    return got.get(timeout=seconds)


def until(holds: Callable[[], bool], seconds: float = 5.0) -> None:
    """Wait for something, but not for ever."""
    end = time.monotonic() + seconds
    while not holds() and time.monotonic() < end:
        time.sleep(0.001)
