"""What is known of each type whose values are told by texts of one form: a row a type, each in a module of its own.

Everything else that a declaration, a plan or a schema says of such a type is taken from its row.
"""

from __future__ import annotations

from collections.abc import Mapping

from urform.declaration.told_kinds.dates import DATE
from urform.declaration.told_kinds.decimals import DECIMAL
from urform.declaration.told_kinds.durations import DURATION
from urform.declaration.told_kinds.instants import INSTANT
from urform.declaration.told_kinds.kind import Kind
from urform.declaration.told_kinds.times import TIME
from urform.declaration.told_kinds.uuids import UUID

KINDS: Mapping[str, Kind] = {
    "uuid": UUID,
    "date": DATE,
    "time": TIME,
    "instant": INSTANT,
    "duration": DURATION,
    "decimal": DECIMAL,
}
