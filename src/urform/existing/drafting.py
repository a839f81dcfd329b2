"""From found types to a draft: names, types as the format writes them, kinds as variants."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from urform.declaration.shape import LOWER_SNAKE
from urform.declaration.types import TOLD
from urform.existing.draft import Draft, DraftChoice, DraftField, DraftProduct
from urform.existing.found import (
    LIST,
    MAP,
    NAMED,
    NOTHING,
    SET,
    WORDS,
    Found,
    FoundField,
    FoundType,
    Type,
)
from urform.existing.losses import Loss
from urform.existing.naming import Names, lower_snake, upper_camel

LONGEST_DOC = 300  # code points
# Names of types that say little without their owner's.
_SAY_LITTLE = frozenset(
    "action class config data default entry field format group info item items key kind level list map meta metadata mode "
    "name object option options other params properties record result scope set settings spec state status style text "
    "thing type value values version".split()
)
_COMPARED = ("text", "integer", WORDS)  # what a set has, and a map is read by


def draft_of(found: Found, name: str, sources: Sequence[str]) -> Draft:
    """A draft of all found types. It may not be valid yet: see `fitting`."""
    return _Drafter(found, name, sources).draft()


class _Drafter:
    def __init__(self, found: Found, name: str, sources: Sequence[str]) -> None:
        self._found = found
        self._names = Names()
        self._draft = Draft(
            lower_snake(name) or "adopted",
            list(sources),
            records=found.from_records,
            kind_field=_kind_field(found),
            is_open=found.is_open,
        )
        self._types = {each.id: each for each in found.types}
        self._choices: dict[tuple[str, ...], str] = {}
        self._named: dict[str, str] = {}
        self._bases = [each for each in found.types if each.kinds and self._tells_kinds(each)]

    def _tells_kinds(self, base: FoundType) -> bool:
        """Records tell their kind in one way, all of a declaration."""
        return not self._found.from_records or base.tag_field == self._draft.kind_field

    def draft(self) -> Draft:
        """The whole draft, in the order of the source."""
        base_of = {kind: base for base in self._bases for kind in base.kinds}
        kept = [each for each in self._found.types if not each.kinds or each in self._bases]
        for each in kept:  # those first that have names of their own
            if not each.within:
                self._named[each.id] = self._names.free(upper_camel(each.name))
        for each in kept:
            if each.within:
                self._named[each.id] = self._name_within(each.name, self._named.get(each.within, ""))
        products = {each.id: self._product(each, base_of.get(each.id)) for each in kept}
        for base in self._bases:
            variants = [products[kind] for kind in base.kinds]
            for variant in variants:
                variant.mutable = False  # as its base is
            products[base.id].variants = variants
            _hoist(products[base.id])
            products[base.id].has_factory = self._makes_by_key(products[base.id])
        self._draft.products = [product for id_, product in products.items() if id_ not in base_of]
        return self._draft

    def _makes_by_key(self, base: DraftProduct) -> bool:
        """A factory by key takes the fields of the base alone, unless there are records."""
        return self._draft.records or not any(
            field.required for variant in base.variants for field in variant.carried
        )

    def _name_within(self, name: str, owner: str) -> str:
        """A name for what has none: that of where it stands, with its owner's where that alone says little."""
        own = upper_camel(name)
        if own.lower() not in _SAY_LITTLE and self._names.take(own):
            return own
        return self._names.free(upper_camel(f"{owner} {own}"))

    # --- products and fields ---

    def _product(self, found: FoundType, base: FoundType | None) -> DraftProduct:
        product = DraftProduct(
            found.id,
            self._named[found.id],
            found.spot,
            doc=_short(found.doc),
            losses=list(found.losses),
            mutable=found.mutable,
        )
        product.key = found.tag if base is not None else ""
        names = Names()
        for each in found.fields:
            if base is None or each.name != base.tag_field:
                product.fields.append(self._field(each, product, names))
        return product

    def _field(self, found: FoundField, product: DraftProduct, names: Names) -> DraftField:
        field = DraftField(found.name, found.spot, lower_snake(found.name), required=found.required)
        field.doc = _short(found.doc)
        field.losses = [*found.losses, *found.type.losses]
        if not LOWER_SNAKE.fullmatch(field.name):
            field.leave_out(Loss("name", f"no name can be made of {found.name!r}"))
        elif not names.take(field.name):
            field.leave_out(Loss("name", f"{field.name} stands for another field already"))
        else:
            self._fill(field, found, product.name)
        return field

    def _fill(self, field: DraftField, found: FoundField, owner: str) -> None:
        field.type = self._written(found.type, field, owner)
        if not field.type:
            return
        if field.name != found.name and self._found.from_records:
            field.options["as"] = found.name
        if found.type.or_null:
            field.required = False
            field.losses.append(Loss("null", "null, told from what is absent"))
        for default in found.default:
            self._default(field, found.type, default)

    def _default(self, field: DraftField, type_: Type, default: object) -> None:
        if field.required or default in ([], {}):
            if field.required:
                field.losses.append(Loss("default", f"default {default} of what is required"))
            return
        value = self._value(type_, field.type, default)
        if value is None:
            field.losses.append(Loss("default", f"default {default}"))
        else:
            field.options["default"] = value

    def _value(self, type_: Type, written: str, value: object) -> object:
        """A default as the format writes it; None where it has no such form."""
        if type_.kind in (LIST, SET) and type_.of is not None and isinstance(value, list):
            inner = written.partition("<")[2][:-1]
            values = [self._value(type_.of, inner, each) for each in value]
            return None if None in values else values
        if type_.kind == WORDS and isinstance(value, str):
            if written == "text":
                return value if value in type_.words else None
            choice = next(each for each in self._draft.choices if each.name == written)
            return next((word for word, as_ in choice.words if (as_ or word) == value), None)
        fits = {
            "text": isinstance(value, str),
            "uri": isinstance(value, str),
            **dict.fromkeys(map(str, TOLD), isinstance(value, str)),
            "boolean": isinstance(value, bool),
            "integer": isinstance(value, int | float) and not isinstance(value, bool) and value == int(value),
            "real": isinstance(value, int | float) and not isinstance(value, bool),
        }
        if not fits.get(type_.kind, False):
            return None
        return int(str(value).partition(".")[0]) if type_.kind == "integer" else value

    # --- types ---

    def _written(self, type_: Type, field: DraftField, owner: str) -> str:
        """A type as the format writes it, its limits among the options of the field; empty where there is none."""
        if type_.kind == NOTHING:
            return ""
        if type_.kind in (LIST, SET, MAP):
            return self._collection(type_, field, owner)
        field.options |= type_.limits
        if type_.kind == WORDS:
            return self._words(type_, field.options, owner)
        if type_.kind == NAMED:
            return self._product_name(type_, field)
        return type_.kind

    def _product_name(self, type_: Type, field: DraftField) -> str:
        if type_.name in self._named:
            return self._named[type_.name]
        told = self._types[type_.name].tag_field
        field.losses.append(
            Loss("union", f"objects told apart by {told!r}, where others are by {self._draft.kind_field!r}")
        )
        return ""

    def _collection(self, type_: Type, field: DraftField, owner: str) -> str:
        element = type_.of
        assert element is not None, "a collection is of something"
        inner = DraftField(field.found, field.spot)
        written = self._written(replace(element, losses=()), inner, owner)
        field.losses.extend((*inner.losses, *element.losses))
        if not written:
            return ""
        if inner.options:
            of_scalar = element.kind not in (LIST, SET, MAP, NAMED)
            if of_scalar:
                field.options["each"] = inner.options
            else:
                field.losses.append(Loss("limit", "limits of what is in a list in a list"))
        field.options |= type_.limits
        kind = type_.kind
        if kind == SET and element.kind not in _COMPARED:
            field.losses.append(Loss("unique", "no two elements alike"))
            kind = LIST
        return f"map<text to {written}>" if kind == MAP else f"{kind}<{written}>"

    def _words(self, type_: Type, options: dict[str, object], owner: str) -> str:
        """A choice where the words can be told apart as names, else a text that is one of them."""
        words = [(lower_snake(word), word) for word in type_.words]
        names = Names()
        if len(words) < 2 or not all(
            LOWER_SNAKE.fullmatch(word) and 0 < len(as_) <= 80 and as_.isprintable() and names.take(word)
            for word, as_ in words
        ):
            options["one_of"] = list(type_.words)
            return "text"
        if type_.words not in self._choices:
            choice = DraftChoice(
                self._name_within(type_.name, owner),
                [(word, as_ if as_ != word else "") for word, as_ in words],
                _short(type_.doc),
            )
            self._choices[type_.words] = choice.name
            self._draft.choices.append(choice)
        return self._choices[type_.words]


def _kind_field(found: Found) -> str:
    """Where most kinds are told."""
    counts = Counter(each.tag_field for each in found.types for _ in each.kinds)
    return counts.most_common(1)[0][0] if counts else "kind"


def _hoist(base: DraftProduct) -> None:
    """Fields that all variants have alike become those of the base."""
    first, *others = base.variants
    for field in list(first.carried):
        twins = [next((each for each in other.carried if _alike(each, field)), None) for other in others]
        if all(twins):
            base.fields.append(field)
            for variant, twin in zip(base.variants, (field, *twins), strict=True):
                variant.fields.remove(twin)  # type: ignore[arg-type]


def _alike(one: DraftField, other: DraftField) -> bool:
    return (one.name, one.type, one.required, one.options) == (
        other.name,
        other.type,
        other.required,
        other.options,
    )


def _short(doc: str) -> str:
    """A documentation text in one paragraph, cut at the end of a sentence where it is long."""
    text = " ".join(doc.split())
    if len(text) <= LONGEST_DOC:
        return text
    cut = text[:LONGEST_DOC]
    end = max(cut.rfind(". "), cut.rfind("! "), cut.rfind("? "))
    return cut[: end + 1] if end > 0 else cut.rpartition(" ")[0] + " …"
