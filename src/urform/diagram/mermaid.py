"""A drawing as a class diagram in Mermaid, for documents that draw such text themselves."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from urform.diagram.drawing import Drawing, FamilyBox, FieldRow, Line, MakerBox, ProductBox, Relation
from urform.diagram.signs import OPTIONAL, REQUIRED
from urform.prose import snake

_ARROWS: Mapping[Relation, str] = {
    Relation.OWNS: "*--",
    Relation.LISTS: "o..",
    Relation.SHARES: "o--",
    Relation.VARIANT: "<|--",
    Relation.MAKES: "..>",
}
_PLAIN = frozenset("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 .,:_-=!|?/→●○×…")


def mermaid_text(drawing: Drawing) -> str:
    """The drawing as Mermaid. Declared text stays text."""
    return "\n".join(_lines(drawing)) + "\n"


def _lines(drawing: Drawing) -> Iterator[str]:
    yield f"%% {drawing.name}, drawn by Urform"
    yield "classDiagram"
    yield "  direction LR"
    for maker in drawing.makers:
        title = " and ".join(way.title for way in maker.ways)
        yield from _class(_maker(maker.product), title, "maker", _ways(maker))
    for family in drawing.families:
        yield from _class(_id(family.name), family.name, "family", _roles(family))
    for product in drawing.products:
        kind = ", ".join([*(["abstract"] if product.abstract else []), *product.tags])
        yield from _class(_id(product.name), product.name, kind, _fields(product))
    names = {f"maker of {maker.product}": _maker(maker.product) for maker in drawing.makers}
    yield from (_line(line, names.get(line.begin, _id(line.begin))) for line in drawing.lines)


def _id(name: str) -> str:
    """A name of its own: a declared one could be a word of Mermaid."""
    return f"the_{snake(name)}"


def _maker(product: str) -> str:
    return f"maker_of_{snake(product)}"


def _class(name: str, title: str, kind: str, members: Iterable[str]) -> Iterator[str]:
    inside = [*([f"<<{_text(kind)}>>"] if kind else []), *members]
    label = f'["{_text(title)}"]'
    if not inside:
        yield f"  class {name}{label}"
        return
    yield f"  class {name}{label} {{"
    yield from (f"    {each}" for each in inside)
    yield "  }"


def _fields(box: ProductBox) -> Iterator[str]:
    yield from map(_field, box.fields)
    yield from (
        f"{each.name}({_text(', '.join(each.takes))}) {_type(each.returns)}".rstrip()
        for each in box.operations
    )


def _field(row: FieldRow) -> str:
    note = f" {_text(row.note)}" if row.note else ""
    return f"{REQUIRED if row.required else OPTIONAL} {row.name}: {_type(row.type)}{note}"


def _ways(box: MakerBox) -> Iterator[str]:
    yield from (_text(detail) for way in box.ways for detail in way.details)


def _roles(box: FamilyBox) -> Iterator[str]:
    for role in box.roles:
        yield f"{role.name}: {_type(role.type)}"
    for number, member in enumerate(box.members):
        yield _text(f"{member}: {', '.join(role.parts[number] for role in box.roles)}")
    yield from map(_text, box.notes)


def _line(line: Line, begin: str) -> str:
    said = {Relation.VARIANT: "", Relation.MAKES: f" : {line.row or 'makes'}"}
    return f"  {begin} {_ARROWS[line.relation]} {_id(line.end)}{said.get(line.relation, f' : {line.row}')}"


def _type(type_: str) -> str:
    """`list~Leg~`: a type with its elements as Mermaid has them."""
    return "~".join(map(_text, type_.replace("<", ">").split(">")))


def _text(text: str) -> str:
    """Text with the signs that mean something to Mermaid as entities."""
    return "".join(char if char in _PLAIN else f"#{ord(char)};" for char in text)
