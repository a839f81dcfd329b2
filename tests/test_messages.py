"""What the errors of limits say: the words, and numbers as ECMAScript writes them."""

from __future__ import annotations

import json
import math
import random
import struct
import subprocess

import pytest

from urform.declaration.types import TEXT
from urform.plan.messages import message, shown
from urform.plan.model import Bound, Field

LATITUDE = Field("latitude", "Position", TEXT, required=True)


@pytest.mark.parametrize(
    ("limit", "bound", "value", "said"),
    [
        ("max", 90.0, 95.2, "Position.latitude is 95.2; at most 90.0 is allowed"),
        ("min", 1, 0, "Position.latitude is 0; at least 1 is allowed"),
        ("above", 0.0, -0.0, "Position.latitude is 0.0; more than 0.0 is wanted"),
        ("finite", None, math.inf, "Position.latitude is Infinity; a finite number is wanted"),
        ("one_of", ("a", 'b"'), "c", 'Position.latitude is "c"; one of "a", "b\\"" is wanted'),
        ("min_length", 2, 0, "Position.latitude has the length 0; at least 2 is allowed"),
        ("min_length", 2, "a", 'Position.latitude is "a"; a length of at least 2 is allowed'),
        ("each.choice", None, "no", 'an element of Position.latitude is "no"; a declared word is wanted'),
        ("key.choice", None, "no", 'a key of Position.latitude is "no"; a declared word is wanted'),
    ],
)
def test_messages(limit: str, bound: Bound, value: str | float, said: str) -> None:
    assert message(LATITUDE, limit, bound, value) == said


def test_a_secret_stands_in_no_message() -> None:
    secret = Field("code", "Locker", TEXT, required=True, secret=True)
    assert message(secret, "max_length", 4, "12345") == "Locker.code: a length of at most 4 is allowed"
    assert message(secret, "max_length", 4, 5) == "Locker.code has the length 5; at most 4 is allowed"


def test_texts_are_cut_and_stay_on_their_line() -> None:
    assert shown("🛟" * 80) == f'"{"🛟" * 80}"'
    assert shown("🛟" * 81) == f'"{"🛟" * 80}…"'
    assert shown('a\n\x00\x7f\x9f"\\') == '"a\\n\\u0000\\u007f\\u009f\\"\\\\"'


@pytest.mark.toolchain
def test_reals_are_written_as_in_ecmascript() -> None:
    chance = random.Random(7)
    reals = [0.1, 1e21, 1e-6, 1e-7, 123456789012345680000.0, 5e-324, 1.7976931348623157e308, -2.5, 2e23]
    reals += [struct.unpack("<d", chance.randbytes(8))[0] for _ in range(2000)]
    reals = [number for number in reals if math.isfinite(number)]
    script = f"console.log(JSON.stringify({json.dumps(reals)}.map(String)))"
    expected = json.loads(
        subprocess.run(["node", "-e", script], check=True, capture_output=True, text=True).stdout
    )
    whole = [text if "." in text or "e" in text else f"{text}.0" for text in expected]
    assert [shown(number) for number in reals] == whole
