"""What holds products, and helpers, which a library has as far as its code needs them: `values.hpp` and its source."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Set
from dataclasses import replace

from urform.declaration.types import DATE, DURATION, INSTANT
from urform.languages.cpp.context import Context
from urform.languages.cpp.views import HERE, NOT_CODE
from urform.languages.rendering.pieces import Dialect, Piece, kept, needed, pieces_of
from urform.languages.rendering.templates import support_file
from urform.languages.target import File
from urform.plan.told_types import told_types

NAME = "values"
DIALECT = Dialect(
    re.compile(
        r"^(?:class|struct) (\w+)|^(?:\[\[nodiscard\]\] )?(?:inline |EXPORTED |const )?[\w:]+(?:<[^()\n]*>)?[ &*]+(\w+)\(",
        re.MULTILINE,
    ),
    re.compile(r"(?<![.>\w])(?:detail::)?(\w+)(?=[({<])|(?:detail::)(\w+)"),
    NOT_CODE,
)
# What each header of the standard library is included for.
INCLUDED = {
    "chrono": "chrono",
    "concepts": "derived_from",
    "cstddef": "size_t",
    "cstdint": "u?int\\d+_t",
    "functional": "hash",
    "map": "map",
    "memory": "unique_ptr|shared_ptr|make_unique|make_shared",
    "optional": "optional|nullopt",
    "ostream": "ostream",
    "set": "set",
    "stdexcept": "invalid_argument",
    "string": "string",
    "string_view": "string_view",
    "type_traits": "is_\\w+_v",
    "utility": "move|forward|pair",
    "vector": "vector",
}
_OPENED, _INNER, _CLOSED = (
    "namespace NAMESPACE {\n\n",
    "\n\nnamespace detail {\n\n",
    "\n\n} // namespace detail\n} //",
)
_SOURCE = re.compile(r"namespace NAMESPACE::detail \{\n\n(.*)\n\n\} // namespace", re.DOTALL)


def needed_by(used: Iterable[str], *, kinds: bool, dates: bool) -> frozenset[str]:
    """The helpers that code uses, and what these need; where there are `kinds`, clients hold them in an `Owned`."""
    outer, inner = _declared(dates=dates)
    return needed((*outer, *inner, *_defined()), {*used, *(["Owned"] if kinds else [])})


def helper_files(context: Context, names: Set[str]) -> Iterator[File]:
    """The header with these helpers, and its source if one of them is compiled by itself."""
    outer, inner = _declared(dates=DATE in told_types(context.plan))
    blocks = [
        kept(outer, names),
        _enclosed("namespace detail {", kept(inner, names), "} // namespace detail"),
    ]
    code = "\n".join(block for block in blocks if block)
    if not code:
        return
    includes = [f"#include <{name}>\n" for name in _included(code)]
    whole = _enclosed("namespace NAMESPACE {", code, "} // namespace NAMESPACE")
    if "hash_of" in names:
        whole = "\n".join([whole, *(text for holder, text in _hashes() if holder in names)])
    own = ["export"] if "EXPORTED" in code else []
    if INSTANT in told_types(context.plan):  # what shows and hashes one stands before all that may ask it
        own.append("instant")
    if DURATION in told_types(context.plan):
        own.append("duration")
    included = ["".join(f'#include "FOLDER/{name}.hpp"\n' for name in sorted(own)), "".join(includes)]
    first = "#pragma once\n\n" + "".join(f"{block}\n" for block in included if block)
    yield File(f"include/{context.folder}/{NAME}.hpp", context.header + context.named(first + whole))
    if source := kept(_defined(), names):
        more = [*(["charconv"] if "std::to_chars" in source else []), *_included(source, without=code)]
        includes_of_source = "".join(f"#include <{name}>\n" for name in sorted(more)) + ("\n" if more else "")
        whole = _enclosed("namespace NAMESPACE::detail {", source, "} // namespace NAMESPACE::detail")
        text = f'#include "FOLDER/{NAME}.hpp"\n\n{includes_of_source}{whole}'
        yield File(f"src/{NAME}.cpp", context.header + context.named(text))


def _included(code: str, without: str = "") -> list[str]:
    """The headers of the standard library that code needs, less those that other code includes."""
    patterns = {name: rf"\bstd::(?:{of})\b" for name, of in INCLUDED.items()}
    return [name for name, of in patterns.items() if re.search(of, code) and not re.search(of, without)]


def _enclosed(begin: str, code: str, end: str) -> str:
    return f"{begin}\n\n{code}\n{end}\n" if code else ""


def _declared(*, dates: bool) -> tuple[tuple[Piece, ...], tuple[Piece, ...]]:
    """What stands in the namespace, and what stands in the one within; what is about dates before all that may ask it."""
    of_dates = pieces_of(support_file(HERE / "support", "dates.hpp"), DIALECT) if dates else ()
    body = support_file(HERE / "support", f"{NAME}.hpp").partition(_OPENED)[2]
    outer, _, rest = body.partition(_INNER)
    first, *others = pieces_of(rest.partition(_CLOSED)[0], DIALECT)
    return pieces_of(outer, DIALECT), (*of_dates, replace(first, before="\n\n"), *others)


def _hashes() -> Iterator[tuple[str, str]]:
    """What stands after the namespace: how a holder is hashed."""
    after = support_file(HERE / "support", f"{NAME}.hpp").partition(f"{_CLOSED[2:]} namespace NAMESPACE\n\n")[
        2
    ]
    for text in after.rstrip("\n").split("\n\n"):
        yield re.findall(r"std::hash<NAMESPACE::(\w+)<", text)[0], f"{text}\n"


def _defined() -> tuple[Piece, ...]:
    match = _SOURCE.search(support_file(HERE / "support", f"{NAME}.cpp"))
    assert match is not None
    return pieces_of(match[1], DIALECT)
