"""Methods of mutable products in Go that change one element of what a field holds."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from urform.declaration.types import ChoiceType, Collection, ListOf, MapOf, SetOf
from urform.languages.go.context import Context
from urform.languages.go.refusals import key_test, level, refusals
from urform.languages.go.views import joined
from urform.languages.naming.changes import change_name
from urform.languages.naming.names import beside, pascal
from urform.languages.rendering.changes import change_doc, of_the_whole
from urform.plan.model import Change, Product

LOCALS = ("at", "held", "key", "there")


def changes(context: Context, product: Product, receiver: str) -> Iterator[str]:
    """The methods of a product, with their comments."""
    for change in product.changes:
        view = _view(context, product, change, receiver)
        yield context.templates.rendered("changes", product.name, c=view).rstrip("\n")


def signature(context: Context, product: Product, change: Change) -> str:
    """`AddLeg(leg *Leg) error`, as an interface has it too."""
    field, code = change.field, context.code
    assert isinstance(field.type, Collection)
    takes = []
    if change.is_placed:
        takes.append(("at", "int"))
    if isinstance(field.type, MapOf):
        takes.append(("key", code.type(field.type.key)))
    if change.takes_element:
        takes.append((_item(context, product, change), code.type(field.type.element)))
    gives = ["bool"] if change.tells else []
    gives += ["error"] if change_fails(context, change) else []
    returns = f" ({', '.join(gives)})" if len(gives) > 1 else "".join(f" {each}" for each in gives)
    return f"{_name(context, product, change)}({joined(takes)}){returns}"


def said(context: Context, product: Product, change: Change) -> str:
    """What a method does, in a sentence that begins with its name."""
    done = change_doc(change, third=True, beyond="It panics if there is no such place.")
    return f"{_name(context, product, change)} {done[0].lower()}{done[1:]}"


def change_fails(context: Context, change: Change) -> bool:
    """Whether a change returns an error."""
    return bool(of_the_whole(change)) or (
        change.brings and bool(list(_element_tests(context, change, "each")))
    )


def _name(context: Context, product: Product, change: Change) -> str:
    return change_name(context.plan, product, change, pascal)


def _item(context: Context, product: Product, change: Change) -> str:
    """The parameter that is an element; it hides neither the receiver nor another local."""
    return beside(context.names.local(change.field.item or ""), (*LOCALS, context.letter(product)))


def _element_tests(context: Context, change: Change, item: str) -> Iterator[str]:
    """The lines that refuse an element, and what is in it."""
    field = change.field
    assert isinstance(field.type, Collection)
    tests = list(context.code.element_tests(field, field.type, item))
    if isinstance(field.type, MapOf) and isinstance(field.type.key, ChoiceType):
        tests.insert(0, key_test(field, "key"))
    yield from refusals(tests, "")
    yield from level(context, field, field.type.element, item, f"{item}In", "")


def _view(context: Context, product: Product, change: Change, receiver: str) -> dict[str, object]:
    field, code = change.field, context.code
    assert isinstance(field.type, Collection)
    item = _item(context, product, change)
    slot = f"{receiver.partition(' ')[0]}.{context.names.stored(field.name)}"
    fails = change_fails(context, change)
    counted = replace(field, limits=of_the_whole(change), type=ListOf(field.type.element))
    sized = [  # a set is held as a list without duplicates
        *code.tests(counted, "held"),
        *code.later_tests(counted, "held"),
    ]
    kept = code.own_value(field.type.element, item)
    begin, then = _after(change, slot, kept)
    begin_as_given, then_as_given = _after(change, slot, item)
    return {
        "doc": said(context, product, change),
        "receiver": receiver,
        "signature": signature(context, product, change),
        "field": field.name,
        "calls": f"{receiver.rpartition('*')[2]}.{signature(context, product, change)}",
        "change": f"{product.name} {change.way} {field.name}",
        "refused": list(_element_tests(context, change, item)) if change.brings else [],
        "asked": list(_asked(change, slot, item, fails)),
        "begin": begin,
        "then": then,
        "begin_as_given": begin_as_given,
        "then_as_given": then_as_given,
        "sized": list(refusals(sized, "false" if change.tells else "")),
        "slot": slot,
        "gives": ", ".join([*(["true"] if change.tells else []), *(["nil"] if fails else [])]),
    }


def _asked(change: Change, slot: str, item: str, fails: bool) -> Iterator[str]:
    """What is removed by value or key is looked up first."""
    if not change.tells:
        return
    is_map = isinstance(change.field.type, MapOf)
    if is_map:
        yield f"if _, there := {slot}[key]; !there {{"
    else:
        yield f"at, there := slices.BinarySearch({slot}, {item})"
        yield "if !there {"
    yield f"\treturn false{', nil' if fails else ''}"
    yield "}"


def _after(change: Change, slot: str, one: str) -> tuple[str, str]:
    """What is held then: an expression, and a statement that changes it."""
    match change.field.type, change.way:
        case ListOf(), "add":
            return f"append(slices.Clip({slot}), {one})", ""
        case ListOf(), "put":
            return f"slices.Clone({slot})", f"held[at] = {one}"
        case MapOf(), "put":
            return f"maps.Clone({slot})", f"held[key] = {one}"
        case MapOf(), _:
            return f"maps.Clone({slot})", "delete(held, key)"
        case SetOf(), "add":
            return f"sortedSet(append(slices.Clip({slot}), {one}))", ""
    return f"slices.Delete(slices.Clone({slot}), at, at+1)", ""
