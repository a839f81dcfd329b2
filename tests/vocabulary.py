"""The names, texts and numbers that declarations are drawn from: those that are hard to write above all."""

from __future__ import annotations

from hypothesis import strategies as st

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
CHARACTERS = st.characters(exclude_categories=["Cs"])
TEXTS = st.one_of(
    st.sampled_from(AWKWARD),
    st.text(CHARACTERS, max_size=12),
    st.lists(st.sampled_from([*AWKWARD, "a", "A mark.", "word "]), max_size=4).map("".join),
)
WORDS = st.from_regex(r"[a-z][a-z0-9]{0,6}(_[a-z0-9]{1,5}){0,2}", fullmatch=True)
INTEGERS = st.one_of(st.integers(-20, 20), st.integers(-(2**53) + 1, 2**53 - 1))
REALS = st.one_of(
    st.integers(-50, 50).map(lambda n: n / 4),
    st.sampled_from([0.0, -0.0, 1e300, -1e300, 5e-324, 0.1, 1 / 3, 2.0**53, 7, -3]),
)
BLANK = " \t\n\x0b\x0c\r"


def folded(name: str) -> str:
    """Names of one scope differ in this: stricter than the format asks for."""
    return name.replace("_", "").lower()
