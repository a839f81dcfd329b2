"""Columns of characters that prettier counts otherwise than other formatters do; read off its `getStringWidth`.

It takes for marks without a column what Unicode calls nonspacing or enclosing, and gives a column to all that is not wide.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

from urform.languages.layout.engine import characters

_NONE = "2d7f"
_ONE = (
    "061c 09be 09d7 0b3e 0b57 0bbe 0bd7 0cc0 0cc2 0cc7-0cc8 0cca-0ccb 0cd5-0cd6 0d3e 0d4e 0d57 0dcf 0ddf "
    "1160-11ff 1715 1734 17a4 17d8 180e 1b35 1b3b 1b3d 1b43-1b44 1baa 1bf2-1bf3 200b-200f 2028-202e "
    "2060-206f a8fa a953 a9c0 d7b0-d7c6 d7cb-d7fb feff ff9e-ffa0 fff0-fffb 111c0 111c2-111c3 11235 1133e "
    "1134d 11357 113b8 113c2 113c5 113c7-113c9 113cf 113d1 114b0 114bd 115af 116b6 11930 1193d 1193f "
    "11941 11a84-11a89 11d46 11f02 11f41 13430-1343f 1bca0-1bca3 1d165-1d166 1d16d-1d17a e0000-e00ff "
    "e01f0-e0fff"
)
_TWO = (
    "261d 26f9 270c-270d 302e-302f 3164 16ff0-16ff1 18cd6-18cda 18d1f-18d20 18e00-19191 191a0-191d2 "
    "1b123-1b128 1b168 1f1ae 1f3cb-1f3cc 1f574-1f575 1f590 1f6d9 1f7da 1fa8b-1fa8d 1facc 1fadd 1faeb "
    "1faf9-1fafa"
)


@cache  # most declarations have no such character
def own_columns() -> Mapping[str, int]:
    """The columns of each such character."""
    return {
        char: columns for columns, ranges in enumerate((_NONE, _ONE, _TWO)) for char in characters(ranges)
    }
