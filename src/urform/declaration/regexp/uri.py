"""What a URI is, as a pattern: the grammar of RFC 3986, appendix A, with a scheme and with or without a fragment."""

from __future__ import annotations

_ESCAPED = "%[0-9A-Fa-f]{2}"
_NAME = f"([A-Za-z0-9._~!$&'()*+,;=-]|{_ESCAPED})"  # unreserved, sub-delims, pct-encoded
_USER = f"([A-Za-z0-9._~!$&'()*+,;=:-]|{_ESCAPED})"
_CHAR = f"([A-Za-z0-9._~!$&'()*+,;=:@-]|{_ESCAPED})"  # pchar
_REST = f"([A-Za-z0-9._~!$&'()*+,;=:@/?-]|{_ESCAPED})*"  # of a query, and of a fragment

_OCTET = "([0-9]|[1-9][0-9]|1[0-9]{2}|2[0-4][0-9]|25[0-5])"
_IPV4 = rf"{_OCTET}(\.{_OCTET}){{3}}"
_H16 = "[0-9A-Fa-f]{1,4}"
_LS32 = f"({_H16}:{_H16}|{_IPV4})"
_IPV6 = "|".join(
    (
        f"({_H16}:){{6}}{_LS32}",
        f"::({_H16}:){{5}}{_LS32}",
        f"({_H16})?::({_H16}:){{4}}{_LS32}",
        *(f"(({_H16}:){{0,{n}}}{_H16})?::({_H16}:){{{4 - n}}}{_LS32}" for n in (1, 2, 3)),
        f"(({_H16}:){{0,4}}{_H16})?::{_LS32}",
        f"(({_H16}:){{0,5}}{_H16})?::{_H16}",
        f"(({_H16}:){{0,6}}{_H16})?::",
    )
)
_FUTURE = r"[vV][0-9A-Fa-f]+\.[A-Za-z0-9._~!$&'()*+,;=:-]+"
_HOST = rf"(\[({_IPV6}|{_FUTURE})\]|{_NAME}*)"
_AUTHORITY = f"({_USER}*@)?{_HOST}(:[0-9]*)?"
_PATH = f"{_CHAR}+(/{_CHAR}*)*"

URI = f"[A-Za-z][A-Za-z0-9+.-]*:(//{_AUTHORITY}(/{_CHAR}*)*|/({_PATH})?|({_PATH})?)(\\?{_REST})?(#{_REST})?"
