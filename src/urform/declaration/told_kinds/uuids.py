"""UUIDs of every variant, as RFC 9562 writes them."""

from __future__ import annotations

import re
import uuid

from urform.declaration.told_kinds.kind import Kind

_UUID_PATTERN = (
    "[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}"  # RFC 9562, section 4
)


def _uuid(text: str) -> str | None:
    return text.lower() if re.fullmatch(_UUID_PATTERN, text) else None


UUID = Kind(
    article="a",
    spoken="UUID",
    wanted="a UUID such as 6ba7b810-9dad-11d1-80b4-00c04fd430c8",
    pattern=_UUID_PATTERN,
    form="uuid",
    canonical=_uuid,
    order=lambda text: int(text.replace("-", ""), 16),
    at=lambda place: str(uuid.UUID(int=place)),
    first="00000000-0000-0000-0000-000000000000",
    last="ffffffff-ffff-ffff-ffff-ffffffffffff",
    usual=(
        "6ba7b810-9dad-11d1-80b4-00c04fd430c8",
        "00112233-4455-6677-8899-aabbccddeeff",
        "01939f5e-1a2b-7c3d-8e4f-0123456789ab",
    ),
    neutral="00000000-0000-0000-0000-000000000000",
    none=(
        "1-1-1-1-1",
        "6ba7b810-9dad-11d1-80b4-00c04fd430c",
        "6ba7b810-9dad-11d1-80b4-00c04fd430c8a",
        "6ba7b8109dad11d180b400c04fd430c8",
        "{6ba7b810-9dad-11d1-80b4-00c04fd430c8}",
        "urn:uuid:6ba7b810-9dad-11d1-80b4-00c04fd430c8",
        "6ba7b810-9dad-11d1-80b4-00c04fd430cg",
        "6ba7b81-09dad-11d1-80b4-00c04fd430c8",
        "6ba7b810-9dad-11d1-80b400c04-fd430c8",
        "6ba7b810--9dad-11d1-80b4-00c04fd430c",
        "+ba7b810-9dad-11d1-80b4-00c04fd430c8",
        "6ba7b810-9dad-11d1-80b4-00c04fd430c8\n",
        " 6ba7b810-9dad-11d1-80b4-00c04fd430c8",
        "6ba7b810-9dad-11d1-80b4-00c04fd430c\N{ARABIC-INDIC DIGIT ONE}",
        "",
    ),
    otherwise=str.upper,
)
