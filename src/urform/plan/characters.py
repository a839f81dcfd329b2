"""Which characters of a text are shown: the same ones whatever Unicode the running interpreter knows.

Ranges by the general categories of Unicode 15.1, instead of `unicodedata`, which differs from Python to Python; what is
not assigned there counts as shown.
"""

from __future__ import annotations

import re

JOINER = "\N{ZERO WIDTH JOINER}"  # holds emoji together
CONTROLS = r"\x00-\x1f\x7f-\x9f"  # Cc
FORMATS = (  # Cf: bidi overrides, joiners, tags …
    r"\xad\u0600-\u0605\u061c\u06dd\u070f\u0890\u0891\u08e2\u180e\u200b-\u200f\u202a-\u202e\u2060-\u206f\ufeff\ufff9-\ufffb"
    r"\U000110bd\U000110cd\U00013430-\U0001343f\U0001bca0-\U0001bca3\U0001d173-\U0001d17a\U000e0001\U000e0020-\U000e007f"
)
LINE_ENDS = r"\u2028\u2029"  # Zl, Zp
NO_CHARACTERS = (  # surrogates, private use, and what never is a character
    r"\ud800-\uf8ff\ufdd0-\ufdef\U000f0000-\U0010ffff"
    + "".join(f"\\U{plane:04x}fffe\\U{plane:04x}ffff" for plane in range(15))
)
BLANKS = r"\xa0\u1680\u2000-\u200a\u202f\u205f\u3000"  # Zs, save the space: they look like one

UNSEEN = re.compile(f"[{CONTROLS}{FORMATS}{LINE_ENDS}{NO_CHARACTERS}]")
_NOT_PLAIN = re.compile(f"[{CONTROLS}{FORMATS}{LINE_ENDS}{NO_CHARACTERS}{BLANKS}]")


def is_plain(char: str) -> bool:
    """Whether a character can stand in source code as it is, and a reader sees what it is."""
    return _NOT_PLAIN.match(char) is None
