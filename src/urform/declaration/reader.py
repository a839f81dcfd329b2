"""From a checked document to the model. What does not fit was noted and left out before."""

from __future__ import annotations

from dataclasses import replace

from urform.declaration.catalogue import fields, products
from urform.declaration.catalogue import values as catalogue
from urform.declaration.document import Document, MappingNode, Node, ScalarNode, SequenceNode
from urform.declaration.elsewhere import VALUES
from urform.declaration.limits import NUMERIC
from urform.declaration.model import (
    LIMIT_NAMES,
    Bound,
    Builder,
    Choice,
    Choosing,
    Declaration,
    Factory,
    Family,
    Field,
    Filling,
    Flyweight,
    Given,
    Limit,
    Member,
    NamedValues,
    Operation,
    Parameter,
    Part,
    Product,
    Prototype,
    Records,
    Refusal,
    Role,
    Use,
    WrittenCondition,
)
from urform.declaration.place import START, Place
from urform.declaration.problems import Problems
from urform.declaration.regexp.automaton import automaton
from urform.declaration.regexp.syntax import BadPattern
from urform.declaration.told import read_told
from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    INTEGER,
    NOTHING,
    ORDERED,
    TEXT,
    TOLD,
    UNKNOWN,
    URI,
    Collection,
    Type,
    TypeReader,
    as_held,
    element_of,
)
from urform.prose import snake

UNREAD = "?"  # stands for a word that was wrong, so that nothing more is said about it


def text_of(node: Node | None, otherwise: str = "") -> str:
    """The text of a scalar."""
    return node.text if isinstance(node, ScalarNode) else otherwise


def flag_of(node: Node | None) -> bool:
    """Whether `true` stands there."""
    return isinstance(node, ScalarNode) and node.value is True


def get(node: Node | None, key: str) -> Node | None:
    """The node under a key of a mapping."""
    entry = node.entries.get(key) if isinstance(node, MappingNode) else None
    return entry[1] if entry is not None else None


def entries(node: Node | None) -> list[tuple[str, Place, Node]]:
    """Name, place of the name, and value of each entry of a mapping."""
    if not isinstance(node, MappingNode):
        return []
    return [(name, key.place, value) for name, (key, value) in node.entries.items()]


def items(node: Node | None) -> list[Node]:
    """The items of a sequence."""
    return node.items if isinstance(node, SequenceNode) else []


class ModelReader:
    """Builds the model of one document."""

    def __init__(self, document: Document, root: MappingNode, problems: Problems) -> None:
        self._document = document
        self._root = root
        self._problems = problems
        products = [name for name, _, _ in entries(get(root, "products"))]
        for _, _, node in entries(get(root, "products")):
            products += [name for name, _, _ in entries(get(node, "variants"))]
        choices = frozenset(name for name, _, _ in entries(get(root, "choices")))
        self._types = TypeReader(choices, frozenset(products), problems)

    def declaration(self) -> Declaration:
        """The whole model."""
        root = self._root
        name = get(root, "name")
        targets = entries(get(root, "targets"))
        return Declaration(
            name=text_of(name, "unnamed"),
            place=name.place if name is not None else START,
            document=self._document,
            doc=text_of(get(root, "doc")),
            targets={
                target: {option: (text_of(value), value.place) for option, _, value in entries(node)}
                for target, _, node in targets
            },
            target_places={target: place for target, place, _ in targets},
            option_places={
                target: {option: place for option, place, _ in entries(node)} for target, _, node in targets
            },
            records=_records(root),
            choices={
                name: self._choice(name, place, node) for name, place, node in entries(get(root, "choices"))
            },
            products=self._products(),
            families={
                name: self._family(name, place, node) for name, place, node in entries(get(root, "families"))
            },
        )

    def _choice(self, name: str, place: Place, node: Node) -> Choice:
        words = [(get(word, "word") or word, get(word, "as")) for word in items(get(node, "values"))]
        return Choice(
            name,
            place,
            tuple(_use(word) for word, _ in words),
            text_of(get(node, "doc")),
            {text_of(word): _use(called) for word, called in words if called is not None},
        )

    def _products(self) -> dict[str, Product]:
        products: dict[str, Product] = {}
        for name, place, node in entries(get(self._root, "products")):
            product = self._product(name, place, node)
            products[name] = product
            for variant in product.variants.values():
                products.setdefault(variant.name, variant)
        return products

    def _product(self, name: str, place: Place, node: Node) -> Product:
        mutable = flag_of(get(node, "mutable"))
        variants = {
            variant: self._variant(variant, spot, inner, name, mutable)
            for variant, spot, inner in entries(get(node, "variants"))
        }
        builder, prototype, flyweight = (get(node, key) for key in ("builder", "prototype", "flyweight"))
        return Product(
            name=name,
            place=place,
            doc=text_of(get(node, "doc")),
            called=_called(node),
            mutable=mutable,
            single=flag_of(get(node, "single")),
            single_place=_place(get(node, "single")),
            fields=self._fields(node),
            operations=self._operations(node),
            answers=_given(get(node, "answers")),
            variants=variants,
            factory=self._factory(get(node, "factory")),
            builder=_builder(builder, _key_place(node, "builder")) if builder is not None else None,
            prototype=Prototype(
                _key_place(node, "prototype") or prototype.place, _named_values(get(prototype, "exemplars"))
            )
            if prototype
            else None,
            flyweight=_flyweight(flyweight, _key_place(node, "flyweight")) if flyweight is not None else None,
        )

    def _variant(self, name: str, place: Place, node: Node, base: str, mutable: bool) -> Product:
        return Product(
            name=name,
            place=place,
            doc=text_of(get(node, "doc")),
            base=base,
            keys=self._keys(node) or (Use(snake(name), place),),
            called=_called(node),
            mutable=mutable,
            single=flag_of(get(node, "single")),
            single_place=_place(get(node, "single")),
            fields=self._fields(node),
            operations=self._operations(node),
            defaults=_given(get(node, "defaults")),
            answers=_given(get(node, "answers")),
        )

    def _keys(self, node: Node) -> tuple[Use, ...]:
        one, several = get(node, "key"), items(get(node, "keys"))
        if one is not None and several:
            self._problems.add(products.KEY_AND_KEYS, one.place)
        return tuple(_use(key) for key in ([one] if one is not None else several))

    def _fields(self, node: Node) -> dict[str, Field]:
        read: dict[str, Field] = {}
        for list_name in ("required", "optional"):
            for name, place, inner in entries(get(node, list_name)):
                if name in read:
                    self._problems.add(catalogue.FIELD_TWICE, place, field=name)
                    continue
                read[name] = self._field(name, place, inner, list_name == "required")
        return read

    def _field(self, name: str, place: Place, node: Node, required: bool) -> Field:
        type_place, written = self._type(get(node, "type"), place, of_field=True)
        type_, inner = as_held(written), element_of(written)
        element = element_of(type_) or type_
        item, copy = get(node, "item"), get(node, "copy")
        return Field(
            name=name,
            place=place,
            required=required,
            type=type_,
            type_place=type_place,
            limits=_as_they_hold(
                (*self._limits(node, type_), *_form(written, type_place)),
                type_,
                is_empty_by_default=not required and get(node, "default") is None,
            ),
            each=(*self._limits(get(node, "each"), element), *_form(inner, type_place)),
            default=get(node, "default"),
            doc=text_of(get(node, "doc")),
            item=text_of(item) if item is not None else None,
            item_place=_place(item),
            copy=text_of(copy) if copy is not None else None,
            copy_place=_place(copy),
            secret=_key_place(node, "secret") if flag_of(get(node, "secret")) else None,
            called=_called(node),
        )

    def _type(self, node: Node | None, otherwise: Place, *, of_field: bool = False) -> tuple[Place, Type]:
        if not isinstance(node, ScalarNode):
            return otherwise, UNKNOWN
        place = node.place.within(1, len(node.text)) if node.quoted else node.place
        return node.place, self._types.read(node.text, place, of_field=of_field)

    def _limits(self, node: Node | None, type_: Type) -> tuple[Limit, ...]:
        limits = []
        for name, place, value in entries(node):
            if name in LIMIT_NAMES:
                bound = self._bound(name, value, type_)
                if bound is not None and bound is not False:
                    limits.append(Limit(name, bound, place))
        return tuple(sorted(limits, key=lambda limit: LIMIT_NAMES.index(limit.name)))

    def _bound(self, name: str, node: Node, type_: Type) -> Bound | None:
        if name == "pattern":
            return self._pattern(node)
        if (
            name in NUMERIC
            and isinstance(node, ScalarNode)
            and (type_ in TOLD or isinstance(node.value, str))
        ):
            return self._told_bound(name, node, type_)
        if name != "one_of":
            value = node.value if isinstance(node, ScalarNode) else None
            return value if isinstance(value, (int, float)) else None
        words: list[str | int] = []
        for item in items(node):
            value = item.value if isinstance(item, ScalarNode) else None
            fits = (
                isinstance(value, str)
                if type_ == TEXT
                else isinstance(value, int) and not isinstance(value, bool)
            )
            if type_ not in (TEXT, INTEGER):
                continue
            if fits and isinstance(value, (str, int)):
                words.append(value)
            else:
                found, use = text_of(item) or "this", VALUES[str(type_)]
                self._problems.add(catalogue.VALUE_TYPE, item.place, found=found, type=type_, use=use)
        return tuple(dict.fromkeys(words))

    def _told_bound(self, name: str, node: ScalarNode, type_: Type) -> Bound | None:
        """A bound that is told by a text. Beside a number it is noted here, beside any other type where limits are checked."""
        told = type_ in TOLD
        if type_ not in ORDERED:
            return node.text
        bound = read_told(str(type_), node.text) if told else None
        if bound is None:
            wanted = KINDS[str(type_)].wanted if told else "a number"
            self._problems.add(
                fields.BAD_BOUND, node.place, limit=name, bound=repr(node.text[:40]), wanted=wanted
            )
        return bound

    def _pattern(self, node: Node) -> str | None:
        """A pattern that can be compiled; the problem of another stands where it goes wrong."""
        if not isinstance(node, ScalarNode):
            return None
        try:
            automaton(node.text)
        except BadPattern as error:
            place = node.place.within(error.start + node.quoted, max(error.width, 1))
            self._problems.add(fields.BAD_PATTERN, place, pattern=node.text, why=error.why)
            return None
        return node.text

    def _operations(self, node: Node) -> dict[str, Operation]:
        return {
            name: self._operation(name, place, inner)
            for name, place, inner in entries(get(node, "operations"))
        }

    def _operation(self, name: str, place: Place, node: Node) -> Operation:
        takes = tuple(
            Parameter(parameter, spot, self._type(type_, spot)[1])
            for parameter, spot, type_ in entries(get(node, "takes"))
        )
        written = get(node, "returns")
        returns = (
            self._types.read_returned(text_of(written), written.place) if written is not None else NOTHING
        )
        once = _key_place(node, "once") if flag_of(get(node, "once")) else None
        return Operation(name, place, takes, returns, text_of(get(node, "doc")), once)

    def _factory(self, node: Node | None) -> Factory | None:
        if node is None:
            return None
        unknown = get(node, "unknown")
        used = get(unknown, "use")
        return Factory(
            place=_place(get(node, "form")) or node.place,
            form=text_of(get(node, "form"), UNREAD),
            unknown=_use(used) if used is not None else text_of(unknown, "error"),
            unknown_place=_key_place(node, "unknown"),
            refuse=tuple(_refusal(item) for item in items(get(node, "refuse"))),
            refuse_place=_key_place(node, "refuse"),
            choose=tuple(
                _choosing(item) for item in items(get(node, "choose")) if get(item, "use") is not None
            ),
            choose_place=_key_place(node, "choose"),
        )

    def _family(self, name: str, place: Place, node: Node) -> Family:
        unknown = get(node, "unknown")
        used = get(unknown, "use")
        roles = {}
        for role, spot, type_ in entries(get(node, "makes")):
            type_place, read = self._type(type_, spot)
            roles[role] = Role(role, spot, read, type_place)
        return Family(
            name=name,
            place=place,
            roles=roles,
            members={
                member: _member(member, spot, inner) for member, spot, inner in entries(get(node, "members"))
            },
            doc=text_of(get(node, "doc")),
            unknown=_use(used) if used is not None else text_of(unknown, "error"),
            stand_in=flag_of(get(node, "stand_in")),
        )


def _place(node: Node | None) -> Place | None:
    return node.place if node is not None else None


def _key_place(node: Node, key: str) -> Place | None:
    entry = node.entries.get(key) if isinstance(node, MappingNode) else None
    return entry[0].place if entry is not None else None


def _use(node: Node) -> Use:
    return Use(text_of(node), node.place)


def _called(node: Node) -> Use | None:
    called = get(node, "as")
    return _use(called) if called is not None else None


def _records(root: Node) -> Records | None:
    node, place = get(root, "records"), _key_place(root, "records")
    if place is None or not (isinstance(node, MappingNode) or flag_of(node)):
        return None
    kind = get(node, "kind_field")
    return Records(
        place,
        text_of(get(node, "unknown"), "refuse"),
        _use(kind) if kind is not None else None,
        text_of(get(node, "write"), "needed"),
    )


def _given(node: Node | None) -> tuple[Given, ...]:
    return tuple(Given(name, place, value) for name, place, value in entries(node))


def _named_values(node: Node | None) -> tuple[NamedValues, ...]:
    return tuple(NamedValues(name, place, inner, _given(inner)) for name, place, inner in entries(node))


def _form(written: Type | None, place: Place) -> tuple[Limit, ...]:
    """What a type says of the form of a text, as a limit."""
    return (Limit("uri", True, place),) if written == URI else ()


def _as_they_hold(limits: tuple[Limit, ...], type_: Type, *, is_empty_by_default: bool) -> tuple[Limit, ...]:
    """An optional collection without a default is empty where it is not given, whatever its least length."""
    if not (is_empty_by_default and isinstance(type_, Collection)):
        return limits
    return tuple(replace(each, unless_empty=True) if each.name == "min_length" else each for each in limits)


def _builder(node: Node, place: Place | None) -> Builder:
    style, after = text_of(get(node, "style"), "fluent"), text_of(get(node, "after_build"), "keep")
    missing = get(node, "missing")
    return Builder(
        place or node.place,
        style,
        after,
        text_of(missing, "at_build"),
        missing.place if missing is not None else None,
        _named_values(get(node, "presets")),
    )


def _flyweight(node: Node, place: Place | None) -> Flyweight:
    key = tuple(_use(item) for item in items(get(node, "key")))
    return Flyweight(place or node.place, key, text_of(get(node, "hold"), "strong"))


def _written(node: Node | None) -> WrittenCondition:
    assert isinstance(node, ScalarNode)
    return WrittenCondition(node.text, node.place.within(1 if node.quoted else 0, len(node.text)))


def _refusal(node: Node) -> Refusal:
    if isinstance(node, ScalarNode):
        return Refusal(_written(node), node.text)
    when = _written(get(node, "when") or ScalarNode(node.place, "false", "false"))
    return Refusal(when, text_of(get(node, "reason"), when.text))


def _choosing(node: Node) -> Choosing:
    when, use = get(node, "when"), get(node, "use")
    assert use is not None
    return Choosing(_use(use), _written(when) if when is not None else None)


def _member(name: str, place: Place, node: Node) -> Member:
    fillings = {}
    for role, spot, inner in entries(node):
        listed = isinstance(inner, SequenceNode)
        parts = tuple(_part(item) for item in (items(inner) if listed else [inner]))
        fillings[role] = Filling(role, spot, parts, listed)
    return Member(name, place, fillings)


def _part(node: Node) -> Part:
    if isinstance(node, ScalarNode):
        return Part(_use(node))
    use = get(node, "use")
    return Part(_use(use) if use is not None else Use("", node.place), _given(get(node, "with")))
