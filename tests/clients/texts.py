"""Texts that are to have a form: ill-formed, endless, and just beside it. Run where they are generated."""

import re

import pytest
from PACKAGE import Fixed, LimitError, MarkCall
from PACKAGE.text_patterns import LIGHT_NAME_PATTERN

SITE = "https://port-varrow.example/"


class Shouted(str):
    """A text of another class, which is one."""


def is_name(text: str) -> bool:
    try:
        return Fixed(name=text).name == text
    except LimitError as error:
        assert error.limit == "pattern"
        return False


def test_each_character_counts_once() -> None:
    for text in ("ABC\n", "ABC\0", "\uff21\uff22\uff23", "abc", ""):
        with pytest.raises(LimitError, match=re.escape('a text that matches "[A-Z]{3}" is wanted')):
            MarkCall(sign=text, position_of_uri=SITE)
    assert MarkCall(sign=Shouted("ABC"), position_of_uri=SITE).sign == "ABC"
    assert is_name("\u00c4" + "\N{RING BUOY}" * 20)
    assert not is_name("\u00c4" + "\N{RING BUOY}" * 21)


def test_half_a_character_is_none() -> None:
    assert not is_name("A\ud83d")


def test_a_long_text_is_looked_at_once() -> None:
    assert not is_name("A" + "a" * 10_000_000)


def test_what_is_kept_of_characters_does_not_grow() -> None:
    for point in range(0x1000, 0x9000):
        assert LIGHT_NAME_PATTERN.accepts("A" + chr(point))
    assert max(map(len, LIGHT_NAME_PATTERN._steps)) == 256
