"""What the tests share: expected refusals, untyped values, threads."""

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from queue import Queue
from threading import Barrier, Thread
from typing import Any, TypeVar

import pytest

from PACKAGE import CreationError

T = TypeVar("T")


def untyped(value: object) -> Any:
    """A value that a type checker would not let through."""
    return value


@contextmanager
def refused(expected: CreationError) -> Iterator[None]:
    """What happens within is refused for just this reason."""
    with pytest.raises(CreationError) as caught:
        yield
    found = caught.value
    assert (type(found), str(found)) == (type(expected), str(expected))
    assert found.args == expected.args


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
