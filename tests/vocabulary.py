"""The names, texts and numbers that declarations are drawn from: those that are hard to write above all."""

from __future__ import annotations

from random import Random
from string import ascii_lowercase, digits

# Words of the targets, names that generated code would like to have, and names that Port Varrow has.
MEMBERS = (
    "station draught length side remarks legs crew tags pulses code period range class type func self value key equals hash "
    "hash_code get_class to_string clone copy build like made error check list map set string text integer t is result err "
    "options of find none some null nil true_north int float bool object record final static public new delete this super "
    "return yield lambda import package go select chan defer len cap make append print id super_class not_null items keys "
    "values get put asked unregister register known made_at reused with create instance period_1 x y_2 "
).split()
TYPES = (
    "Mark Buoy Beacon Lantern Berth Hull Light List Map Set String Object Class Error Exception Test Optional Record Options "
    "Builder Pool Registry Kind Creator Maker Values Witness Check Checks Integer Long Double Boolean Text Iterable Thread "
    "Enum Any Type Self None True Override Deprecated Stream Func Chan Strings Fmt Sync HTTPMark X Y2 MarkError BuoyOptions"
).split()
AWKWARD = (
    '*/ */ """',
    "''' \"\"\"",
    "// # -- <!-- ]]>",
    "${code} {code} {{ code }} {% if %} «name»",
    "%% for x in y",
    "¦ ¦¦",
    "\x00\x01\x02\x03\x07\x1b[31m",
    "\\u0041 \\u000a \\n \\x41 \\N{BULLET} \\",
    "%s %d %(name)s %n {0} {!r}",
    "</script><b>&amp;",
    "{@code x} @param x @Override",
    '"); panic("x"); ("',
    '"; import os; os.abort() #',
    "'; DROP",
    "\r\n\r\n",
    "\u2028\u2029\x85\x0b\x0c",
    "\u202e\u2066 rtl \u2069",
    "🛟👨‍👩‍👧é́",
    "\ufeff\ufffe\uffff\U0010ffff",
    "`tick` ``two``",
    "$(rm) $HOME ~",
    "  lead and trail  ",
    "\t",
)
CONDITION_WORDS = ("and", "or", "not", "blank", "size", "present", "true", "false", "a", "b")
ENDS = (
    *('"' * times for times in (1, 2, 3, 4)),
    *("'" * times for times in (1, 3)),
    *("\\" * times for times in (1, 2, 3)),
    '\\"',
    '\\\\"',
    *("*/ */ -- {@ #} {@code ` ``` %} }} -> \n \r".split(" ")),
)


def a_character(chance: Random) -> str:
    """One of all code points that are no surrogates; every other one is plain."""
    if chance.random() < 0.5:
        return chr(chance.randrange(0x20, 0x7F))
    found = chance.choice((chance.randrange(0x110000 - 0x800), chance.randrange(0x3000)))
    return chr(found + 0x800 if found >= 0xD800 else found)


def a_text(chance: Random) -> str:
    """A text that may be anything, an awkward one, several of them, or one with an awkward end."""
    match chance.randrange(4):
        case 0:
            return chance.choice(AWKWARD)
        case 1:
            return "".join(a_character(chance) for _ in range(chance.randint(0, 12)))
        case 2:
            return "A mark " * chance.randint(0, 1) + chance.choice(ENDS)
    return "".join(chance.choice((*AWKWARD, "a", "A mark.", "word ")) for _ in range(chance.randint(0, 4)))


def a_word(chance: Random) -> str:
    """A lower_snake name."""
    parts = [chance.choice(ascii_lowercase) + _letters(chance, 0, 6)]
    return "_".join(parts + [_letters(chance, 1, 5) for _ in range(chance.randint(0, 2))])


def _letters(chance: Random, least: int, most: int) -> str:
    return "".join(chance.choice(ascii_lowercase + digits) for _ in range(chance.randint(least, most)))


def an_integer(chance: Random) -> int:
    """A small one, or any that a double holds."""
    return chance.choice((chance.randint(-20, 20), chance.randint(-(2**53) + 1, 2**53 - 1)))


def a_real(chance: Random) -> float:
    """A plain one, or one at the edges of what a double holds."""
    return chance.choice(
        (
            chance.randint(-50, 50) / 4,
            chance.choice((0.0, -0.0, 1e300, -1e300, 5e-324, 0.1, 1 / 3, 2.0**53, 7, -3)),
        )
    )


BLANK = " \t\n\x0b\x0c\r"


def folded(name: str) -> str:
    """Names of one scope differ in this: stricter than the format asks for."""
    return name.replace("_", "").lower()
