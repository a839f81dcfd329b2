"""A drawing in the language of Graphviz (DOT): boxes are tables, read from left to right."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator, Mapping
from html import escape as escaped

from urform.diagram.drawing import (
    Drawing,
    FamilyBox,
    FieldRow,
    Line,
    MakerBox,
    OperationRow,
    ProductBox,
    Relation,
)
from urform.diagram.signs import OPTIONAL, REQUIRED
from urform.diagram.themes import LIGHT, Theme

_FONT = "Helvetica,Arial,sans-serif"
_DOC = 96  # characters of a line of the doc below the picture

# How a line looks; it is drawn from the owner to what it holds, and the sign stands at the owner.
_LOOKS: Mapping[Relation, Mapping[str, str]] = {
    Relation.OWNS: {"dir": "both", "arrowtail": "diamond", "arrowhead": "none"},
    Relation.LISTS: {"dir": "both", "arrowtail": "odiamond", "arrowhead": "none", "style": "dashed"},
    Relation.SHARES: {"dir": "both", "arrowtail": "odiamond", "arrowhead": "none"},
    Relation.VARIANT: {"dir": "back", "arrowtail": "empty"},
    Relation.MAKES: {"arrowhead": "vee", "style": "dashed"},
}
_SIGNS: Mapping[Relation, str] = {
    Relation.OWNS: "◆──",
    Relation.LISTS: "◇╌╌",
    Relation.SHARES: "◇──",
    Relation.VARIANT: "◁──",
    Relation.MAKES: "╌╌>",
}


def dot_text(drawing: Drawing, theme: Theme = LIGHT) -> str:
    """The drawing as DOT, with a legend of what occurs in it. Declared text stays text."""
    return "\n".join(_Dot(drawing, theme).lines()) + "\n"


class _Dot:
    def __init__(self, drawing: Drawing, theme: Theme) -> None:
        self._drawing = drawing
        self._theme = theme

    def lines(self) -> Iterator[str]:
        theme = self._theme
        yield f"digraph {_quoted(f'{self._drawing.name}, drawn by Urform')} {{"
        yield f"  graph [{_attributes(self._graph())}, label=<{self._legend()}>]"
        yield f'  node [shape=plain, fontname="{_FONT}", fontsize=11, fontcolor="{theme.ink}"]'
        yield "  edge [arrowsize=0.8, penwidth=1.2]"
        for maker in self._drawing.makers:
            yield self._node(f"maker of {maker.product}", self._maker(maker), f"makes {maker.product}")
        for family in self._drawing.families:
            yield self._node(family.name, self._family(family), family.doc)
        for product in self._drawing.products:
            yield self._node(product.name, self._product(product), product.doc)
        yield from map(self._line, self._drawing.lines)
        yield "}"

    def _graph(self) -> Mapping[str, str]:
        return {
            "rankdir": "LR",
            "bgcolor": self._theme.paper,
            "fontname": _FONT,
            "fontsize": "11",
            "fontcolor": self._theme.ink,
            "labelloc": "b",
            "labeljust": "l",
            "nodesep": "0.3",
            "ranksep": "0.7",
            "pad": "0.25",
            "pack": "20",
            "packmode": "graph",
        }

    def _node(self, name: str, label: str, doc: str) -> str:
        return f"  {_quoted(name)} [tooltip={_quoted(doc or name)}, label=<{label}>]"

    def _line(self, line: Line) -> str:
        theme = self._theme
        colours = {
            Relation.OWNS: theme.owns,
            Relation.LISTS: theme.shares,
            Relation.SHARES: theme.shares,
            Relation.VARIANT: theme.edge,
            Relation.MAKES: theme.makes,
        }
        begin = f"{_quoted(line.begin)}:{_quoted(f'row {line.row}' if line.row else 'name')}:e"
        tooltip = f"{line.begin}.{line.row}: {line.end}" if line.row else f"{line.begin}: {line.end}"
        looks = {**_LOOKS[line.relation], "color": colours[line.relation], "tooltip": tooltip}
        return f'  {begin} -> {_quoted(line.end)}:"name":w [{_attributes(looks)}]'

    def _table(self, rows: list[str]) -> str:
        body = "".join(f"<tr>{row}</tr>" if row != "<hr/>" else row for row in rows)
        return (
            f'<table border="1" cellborder="0" cellspacing="0" cellpadding="4" color="{self._theme.edge}" '
            f'bgcolor="{self._theme.box}">{body}</table>'
        )

    def _head(self, title: str, colour: str, span: int, small: str = "", *, italic: bool = False) -> str:
        name = f"<b>{escape(title)}</b>"
        name = f"<i>{name}</i>" if italic else name
        beside = f"  {self._faint(small, 9)}" if small else ""
        return f'<td port="name" colspan="{span}" bgcolor="{colour}">{name}{beside}</td>'

    def _faint(self, text: str, size: int = 11) -> str:
        return f'<font color="{self._theme.faint}" point-size="{size}">{escape(text)}</font>' if text else ""

    def _product(self, box: ProductBox) -> str:
        small = ", ".join([*(["abstract"] if box.abstract else []), *box.tags])
        rows = [self._head(box.name, self._theme.product, 3, small, italic=box.abstract)]
        if box.fields:
            rows += ["<hr/>", *map(self._field, box.fields)]
        if box.operations:
            rows += ["<hr/>", *map(self._operation, box.operations)]
        return self._table(rows)

    def _field(self, row: FieldRow) -> str:
        if row.required:
            name = f"{REQUIRED} {escape(row.name)}"
            type_ = escape(row.type)
        else:
            name, type_ = self._faint(f"{OPTIONAL} {row.name}"), self._faint(row.type)
        return (
            f'<td align="left">{name}</td><td align="left">{type_}</td>'
            f'<td align="left" port="row {row.name}">{self._faint(row.note) or " "}</td>'
        )

    def _operation(self, row: OperationRow) -> str:
        called = f"{row.name}({', '.join(row.takes)})"
        text = f"{called}: {row.returns}" if row.returns else called
        return f'<td align="left" colspan="3">{self._faint(text)}</td>'

    def _maker(self, box: MakerBox) -> str:
        rows: list[str] = []
        for way in box.ways:
            port = ' port="name"' if not rows else ""
            rows += ["<hr/>"] if rows else []
            rows.append(
                f'<td{port} align="left" bgcolor="{self._theme.maker}"><b>{escape(way.title)}</b></td>'
            )
            rows += [f'<td align="left">{self._faint(detail)}</td>' for detail in way.details]
        return self._table(rows)

    def _family(self, box: FamilyBox) -> str:
        span = len(box.members) + 1
        rows = [self._head(box.name, self._theme.family, span, "family"), "<hr/>"]
        rows.append("<td></td>" + "".join(f"<td><b>{escape(name)}</b></td>" for name in box.members))
        for role in box.roles:
            cells = [f'<td align="left">{escape(role.name)}: {escape(role.type)}</td>']
            for number, part in enumerate(role.parts, 1):
                port = f' port="row {role.name}"' if number == len(role.parts) else ""
                cells.append(f"<td{port}>{self._faint(part)}</td>")
            rows.append("".join(cells))
        rows += [
            "<hr/>",
            *(f'<td align="left" colspan="{span}">{self._faint(note)}</td>' for note in box.notes),
        ]
        return self._table(rows)

    def _legend(self) -> str:
        drawing = self._drawing
        lines = [" ", f"<b>{escape(drawing.name)}</b>", *map(escape, textwrap.wrap(drawing.doc, _DOC)), ""]
        signs = {True: f"{REQUIRED} mandatory", False: f"{OPTIONAL} optional"}
        told = [signs[required] for required in drawing.needs]
        told += [f"{_SIGNS[relation]} {relation.value}" for relation in drawing.relations]
        lines.append(self._faint("     ".join(told), 10))
        return "".join(f'{line}<br align="left"/>' for line in lines)


def escape(text: str) -> str:
    """Text within a label, where a backslash would begin an escape too."""
    return escaped(text).replace("\\", "\\\\")


def _attributes(values: Mapping[str, str]) -> str:
    return ", ".join(f"{name}={_quoted(value)}" for name, value in values.items())


def _quoted(text: str) -> str:
    """A quoted name or value of DOT: a backslash would begin an escape, of which nothing here means any."""
    backslashes = text.replace("\\", "\\\\")
    return '"' + backslashes.replace('"', '\\"') + '"'
