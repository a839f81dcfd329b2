"""What the tests of records share."""

from collections.abc import Iterator
from contextlib import contextmanager

import pytest

from PACKAGE.records import RecordError


@contextmanager
def refused_record(problems: list[str]) -> Iterator[None]:
    """What happens within is refused for just these reasons, in these words."""
    with pytest.raises(RecordError) as caught:
        yield
    assert list(map(str, caught.value.problems)) == problems
