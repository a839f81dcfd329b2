"""Methods of mutable products in Rust that change one element of what a field holds."""

from __future__ import annotations

from collections.abc import Iterator

from urform.declaration.types import TEXT, ChoiceType, Collection, ListOf, MapOf, SetOf, Type
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import beside
from urform.languages.rendering.changes import change_doc, of_the_whole
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import is_copied
from urform.languages.rust.members import Place, element_checks, plainly
from urform.plan.model import Change, Field, Limit, Product

View = dict[str, object]


def changes(context: Context, product: Product, field: Field) -> list[View]:
    """What templates show of each change of a field."""
    return [_view(context, product, change) for change in product.changes if change.field is field]


def texts(context: Context, product: Product, views: list[View], pub: str) -> list[str]:
    """The methods of the struct that holds the field."""
    return [context.templates.rendered("changes", product.name, c={**view, "pub": pub}) for view in views]


def change_fails(context: Context, change: Change) -> bool:
    """Whether a change returns a result."""
    field = change.field
    checked = change.brings and bool(list(_element_checks(context, field, "each")))
    return checked or any(True for _ in _beyond(change, "", ""))


def _view(context: Context, product: Product, change: Change) -> View:
    field, code = change.field, context.code
    assert isinstance(field.type, Collection)
    stored = f"self.{context.names.stored(field.name)}"
    item = beside(context.names.local(field.item or ""), ("at", "key", "self"))
    takes: list[tuple[str, str]] = []
    if change.is_placed:
        takes.append(("at", "usize"))
    if isinstance(field.type, MapOf):
        takes.append(("key", code.parameter(field.type.key)))
    if change.takes_element:
        takes.append((item, code.parameter(field.type.element, shared=code.shared(field))))
    refuses = change_fails(context, change)
    done, undone = _done(change, stored, item)
    tells = change.tells
    if refuses and tells:
        done, undone = f"Ok({done})", f"Ok({undone})"
    gives = "bool" if tells else "()" if refuses else ""
    return {
        "name": change_name(context.plan, product, change, str),
        "change": f"{product.name} {change.way} {field.name}",
        "doc": change_doc(change, third=True),
        "refuses": refuses,
        "panics": change.is_placed,
        "parameters": "".join(f", {name}: {type_}" for name, type_ in takes),
        "types": f"({', '.join(type_ for _, type_ in takes)})",
        "passed": ", ".join(name for name, _ in takes),
        "result": f" -> Creation<{gives}>" if refuses else f" -> {gives}" if gives else "",
        "each": list(_element_checks(context, field, item)) if change.brings else [],
        "refusals": [{"breaks": breaks, "error": error} for breaks, error in _beyond(change, stored, item)],
        "done": done if tells else f"{done};",
        "undone": undone if tells else f"{undone};",
        "early": f"{_done(change, stored, item)[0]};",
        "ends": "Ok(())" if refuses and not tells else "",
    }


def _error(field: Field, limit: Limit, found: object) -> str:
    bound = "Bound::None" if limit.bound is True else limit.bound
    return f'outside("{field.owner}", "{field.name}", "{limit.name}", {bound}, {found})'


def _element_checks(context: Context, field: Field, item: str) -> Iterator[str]:
    assert isinstance(field.type, Collection)
    element = field.type.element
    return element_checks(context, field, Place(item, element != TEXT, string=False))


def _looked_up(type_: Type, name: str) -> str:
    """A key or an element of a set as it is looked up; texts are borrowed already."""
    return f"&{name}" if is_copied(type_) else name


def _beyond(change: Change, stored: str, item: str) -> Iterator[tuple[str, str]]:
    """The conditions under which a limit of the whole would be broken then, each with its error."""
    for limit in of_the_whole(change):
        if limit.name == "unique":
            yield _is_there(change, stored, item), _error(change.field, limit, _told(change.field, item))
            continue
        assert isinstance(limit.bound, int)
        if limit.name == "min_length" and change.brings:  # the first of several that there have to be
            yield f"{stored}.is_empty()", _error(change.field, limit, 1)
            continue
        breaks = _breaks_length(change, limit, stored, item)
        if breaks:
            found = limit.bound + (1 if change.brings else -1)
            yield breaks, _error(change.field, limit, found)


def _is_there(change: Change, stored: str, item: str) -> str:
    """Whether a list has an element already, at another place than the one that it is put in."""
    there = f"{stored}.iter().any(|each| each == {item})"
    if is_copied(_element(change.field)):
        there = f"{stored}.contains(&{item})"
    return f"{stored}[at] != {item} && {there}" if change.is_placed else there


def _told(field: Field, item: str) -> str:
    if field.secret:
        return "Found::None"
    return f"{item}.as_str()" if isinstance(_element(field), ChoiceType) else item


def _element(field: Field) -> Type:
    assert isinstance(field.type, Collection)
    return field.type.element


def _breaks_length(change: Change, limit: Limit, stored: str, item: str) -> str:
    """The condition under which there would be too many or too few; empty where there are never."""
    type_, bound = change.field.type, limit.bound
    assert isinstance(bound, int)
    if not change.brings:
        sign = "==" if limit.unless_empty else "<="
        beyond = f"{stored}.len() {sign} {bound}" if bound > 0 else ""
    else:  # one that is filled to 0 or 1 is what clippy would have us ask
        empty = f"{stored}.is_empty()"
        beyond = {0: empty, 1: f"!{empty}"}.get(bound, f"{stored}.len() >= {bound}")
    if not beyond or isinstance(type_, ListOf):
        return beyond
    sign = "!" if change.brings else ""
    if isinstance(type_, MapOf):
        return f"{beyond} && {sign}{stored}.contains_key({_looked_up(type_.key, 'key')})"
    assert isinstance(type_, SetOf)
    return f"{beyond} && {sign}{stored}.contains({_looked_up(type_.element, item)})"


def _done(change: Change, stored: str, item: str) -> tuple[str, str]:
    """The change, and what does nothing of the same type."""
    type_ = change.field.type
    assert isinstance(type_, Collection)
    kept = plainly(change.field, f"{item}.to_owned()" if type_.element == TEXT else item)
    match type_, change.way:
        case ListOf(), "add":
            return f"{stored}.push({kept})", f"let _ = {item}"
        case ListOf(), "put":
            return f"{stored}[at] = {kept}", f"let _ = (at, {item})"
        case ListOf(), _:
            return f"{stored}.remove(at)", "let _ = at"
        case MapOf(key), "put":
            own = "key.to_owned()" if key == TEXT else "key"
            return f"{stored}.insert({own}, {kept})", f"let _ = (key, {item})"
        case MapOf(key), _:
            sought = _looked_up(key, "key")
            return f"{stored}.remove({sought}).is_some()", f"{stored}.contains_key({sought})"
        case SetOf(), "add":
            return f"{stored}.insert({kept})", f"let _ = {item}"
    sought = _looked_up(type_.element, item)
    return f"{stored}.remove({sought})", f"{stored}.contains({sought})"
