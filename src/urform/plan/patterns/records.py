"""Records: what is written is read back, and whatever is wrong with a record is told, all of it at once."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace

from urform.declaration.told_kinds import KINDS
from urform.declaration.types import (
    BOOLEAN,
    INTEGER,
    REAL,
    TEXT,
    TOLD,
    Collection,
    ListOf,
    MapOf,
    ProductType,
    Scalar,
    Type,
)
from urform.declaration.values import Value
from urform.plan.asking import record_of
from urform.plan.fault import Fault, flaw_fault, selection_of, with_field, with_making, with_product
from urform.plan.messages import found, message
from urform.plan.model import UNDECLARED, Bound, Factory, Field, Limit, Product, Records, Selection
from urform.plan.operands import Arguments, BadRecord, Operand
from urform.plan.outcomes import UNKEPT, Fails
from urform.plan.patterns import Pattern
from urform.plan.patterns.factories import Asker
from urform.plan.record_steps import CreateAll, ReadBack, ReadRecord, ReadText, ReadWith, RecordIs
from urform.plan.record_trees import (
    Node,
    RecordTrees,
    Tree,
    Wrong,
    at,
    below,
    json_text,
    key_at,
    names_of,
    nearest,
    shown_node,
    wanted,
)
from urform.plan.scalars import Edge, scalar_edge
from urform.plan.script import Case, Claim, case
from urform.plan.selecting import within
from urform.plan.steps import Equal, KindIs, Make, NewRegistry, Register
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses, collection_edge, holding

NOWHERE = "nowhere_declared"
REGISTERED = "registered_kind"
LARGEST = 2**53
# A node of another type, such as a careless reader converts.
MISFITS: Mapping[Type, Node] = {
    TEXT: 7,
    INTEGER: "5",
    REAL: "5.5",
    BOOLEAN: 0,
    **{type_: KINDS[str(type_)].none[0] for type_ in TOLD},
}


def claims(plan: Plan, witnesses: Witnesses) -> Iterator[Claim]:
    """`record` of every product, if the declaration has records."""
    if plan.records is None:
        return
    for product in plan.products.values():
        if product.abstract:
            yield from _OfBase(plan, witnesses, product).claims()
        elif witnesses.arguments(product) is not None:
            yield from _OfKind(plan, witnesses, product).claims()


class _OfKind:
    """The claims of a product that is made."""

    def __init__(self, plan: Plan, witnesses: Witnesses, product: Product) -> None:
        self._plan, self._witnesses, self._product = plan, witnesses, product
        self._trees = RecordTrees(plan)
        self._settings = plan.records or Records()
        self._least = dict(witnesses.arguments(product) or {})
        self._whole = self._in_full()
        self._record = self._of(self._whole)

    def _in_full(self) -> Arguments:
        """Arguments with as much as can be given."""
        product, selecting = self._product, self._witnesses.selecting(self._product)
        if selecting is None:
            others = {f.name: self._witnesses.other_than(f, f.default) for f in product.optional}
            return {**self._least, **{name: other for name, other in others.items() if other is not None}}
        second = self._witnesses.second(product)
        held = {field.name for field in product.fields}
        led = dict(self._settings.leading.get(product.name, {}))
        own = {name: value for name, value in (second or {}).items() if name in held}
        return second if second is not None and selecting.makes({**led, **own}, product.name) else self._least

    def _of(self, arguments: Arguments) -> Tree:
        """The record of a product with these arguments, as it is written."""
        selection = self._plan.selected_by(self._product)
        record = self._trees.made(
            selection.product if selection else self._product.name, self._values(arguments)
        )
        assert record.entries or not self._product.required
        return record

    def _values(self, arguments: Arguments) -> dict[str, Value]:
        values = {name: self._witnesses.value(operand) for name, operand in arguments.items()}
        return {name: value for name, value in values.items() if value is not None}

    def _claim(self, aspect: str, text: str, cases: list[Case]) -> Claim:
        return Claim("record", self._product.name, text, tuple(cases), aspect=aspect)

    def claims(self) -> Iterator[Claim]:
        """Every claim of the product."""
        name = self._product.name
        if self._record.entries:
            yield self._claim("reads", f"{name} is made from its record", list(self._reads()))
            yield self._claim(
                "writes", f"the record of {name} is the same bytes everywhere", list(self._writes())
            )
            yield self._claim("round-trip", f"what is written of {name} is read back", [self._round_trip()])
        said = "ignored" if self._settings.ignores_unknown else "refused"
        yield self._claim("unknown-name", f"a name that {name} has not is {said}", list(self._unknown_name()))
        if self._product.fields:
            told = f"everything that is wrong with a record of {name} is told at once"
            yield self._claim("all-problems", told, list(self._all_problems()))
        if inside := list(self._within()):
            yield self._claim("path", f"a problem within {name} tells its path", inside)
        if limits := list(self._limits()):
            yield self._claim("limits", f"every broken limit of {name} is told", limits)
        for type_ in TOLD:
            if others := list(self._other_forms(type_)):
                yield self._claim(f"{type_}s", f"a text that is no {type_} makes no {name}", others)
        if self._record.entries:
            said = f"{name} is made from the text of its record, unless a name stands there twice"
            yield self._claim("text", said, [self._doubled(""), self._doubled(" "), self._from_text()])

    # --- what is sound --------------------------------------------------------------------------------

    def _read(self, record: Node) -> ReadRecord:
        return ReadRecord("read", self._product.name, record)

    def _reads(self) -> Iterator[Case]:
        name = self._product.name
        for number, arguments in enumerate(self._each_once()):
            record = self._of(arguments)
            made = Make("made", name, arguments)
            yield case(self._read(record), made, Equal("read", "made"), main=not number)
            other = self._written_otherwise(record)
            if other != record:
                yield case(self._read(other), made, Equal("read", "made"), main=False)

    def _each_once(self) -> Iterator[Arguments]:
        yield self._whole
        if self._least != self._whole:
            yield self._least

    def _written_otherwise(self, record: Tree) -> Tree:
        """The same with 5 for 5.0 and 5.0 for 5, other texts of what texts tell, and null for what is not given."""
        for field in self._product.fields:
            node = record.get(field.called)
            if field.type == INTEGER and isinstance(node, int) and abs(node) < LARGEST:
                record = record.put(field.called, float(node))
            elif field.type == REAL and isinstance(node, float) and node.is_integer() and abs(node) < LARGEST:
                record = record.put(field.called, int(node))
            elif field.type in TOLD and isinstance(node, str):
                record = record.put(field.called, KINDS[str(field.type)].otherwise(node))
            elif node is None and not field.required:
                record = record.put(field.called, None)
        return record

    def _writes(self) -> Iterator[Case]:
        for number, arguments in enumerate(self._each_once()):
            written = RecordIs("made", self._product.name, json_text(self._of(arguments)))
            yield case(Make("made", self._product.name, arguments), written, main=not number)

    def _round_trip(self) -> Case:
        product = self._product
        entry = product.base or product.name
        made = Make("made", product.name, self._whole)
        if product.base is None:
            return case(made, ReadBack("read", "made", entry), Equal("read", "made"))
        again = ReadBack("again", "made", product.name)
        back = ReadBack("read", "made", entry)
        return case(made, back, KindIs("read", product.name), again, Equal("again", "made"))

    # --- what is wrong --------------------------------------------------------------------------------

    def _refused(self, record: Node, wrong: list[Wrong]) -> Case:
        told = BadRecord(self._product.name, tuple(each.text for each in wrong))
        return case(Fails(ReadRecord(UNKEPT, self._product.name, record), told))

    def _unknown_name(self) -> Iterator[Case]:
        name, known = self._product.name, names_of(self._plan, self._product)
        others = [self._nowhere()]
        if known:
            others.append(self._misspelt(known[-1], known))
        if self._settings.ignores_unknown:
            record = self._record.put(others[0], 1)
            yield case(self._read(record), Make("made", name, self._whole), Equal("read", "made"))
            return
        record, wrong = self._record, []
        for other in sorted(set(others)):
            record = record.put(other, 1)
            wrong.append(Wrong(below("", other), self._no_such_field(other)))
        yield self._refused(record, wrong)

    def _nowhere(self) -> str:
        """A name that a record may not have, and that is like none."""
        known = names_of(self._plan, self._product)
        return NOWHERE if NOWHERE not in known else f"{NOWHERE}_either"

    def _no_such_field(self, name: str) -> str:
        meant = nearest(name, names_of(self._plan, self._product))
        hint = f"; did you mean {shown_node(meant)}?" if meant is not None else ""
        return f"{self._product.name} has no such field{hint}"

    def _misspelt(self, name: str, known: tuple[str, ...]) -> str:
        """A name like this one that a record may not have."""
        other = f"{name}s"
        while other in known:
            other += "s"
        return other

    def _all_problems(self) -> Iterator[Case]:
        fields = self._product.fields
        wrong = [(field, self._misfit(field.type)) for field in fields]
        record = self._bare()
        for field, node in wrong:
            record = record.put(field.called, node)
        found = [Wrong(below("", f.called), self._unfit(f, n)) for f, n in wrong]
        if not self._settings.ignores_unknown:
            other = self._nowhere()
            record = record.put(other, 1)
            found.append(Wrong(below("", other), self._no_such_field(other)))
        yield self._refused(record, found)
        if required := self._product.required:
            missing = [Wrong(below("", f.called), f"{f.owner}.{f.name} is missing") for f in required]
            yield self._refused(self._bare(), missing)
        told = tuple(replace(each, path=_in_list(1, each.path)).text for each in found)
        listed = (self._record, record, self._record)
        yield case(CreateAll(self._product.name, listed, 2, told), main=False)

    def _bare(self) -> Tree:
        """A record with nothing but its kind."""
        product = self._product
        return Tree(((self._settings.kind, product.kinds[0]),) if product.base is not None else ())

    def _misfit(self, type_: Type) -> Node:
        return MISFITS.get(type_, NOWHERE)

    def _unfit(self, field: Field, node: Node, within: str = "", type_: Type | None = None) -> str:
        """What is said of a node of another type."""
        asked = wanted(self._plan, type_ or field.type)
        path = f"{within}{field.owner}.{field.name}"
        return f"{path}: {asked}" if field.secret else f"{path} is {shown_node(node)}; {asked}"

    def _within(self) -> Iterator[Case]:
        """One problem below each field that holds something, all in one record; then each first element null."""
        for spoilt in (self._spoilt, self._holed):
            record, wrong = self._record, list[Wrong]()
            for field in self._product.fields:
                node = self._node(field)
                below_it = spoilt(field, field.type, node, below("", field.called))
                if node is not None and below_it is not None:
                    record = record.put(field.called, below_it[0])
                    wrong.append(below_it[1])
            if wrong:
                yield self._refused(record, wrong)

    def _node(self, field: Field) -> Node:
        operand = self._witnesses.of(field)
        value = self._witnesses.value(operand) if operand is not None else None
        return self._trees.of(value) if value is not None else None

    def _spoilt(self, field: Field, type_: Type, node: Node, path: str) -> tuple[Node, Wrong] | None:
        """A node with a problem at its innermost, and where that is."""
        match node:
            case Tree() if isinstance(type_, ProductType):
                return self._spoilt_product(type_, node, path)
            case Tree(((key, inner), *rest)) if isinstance(type_, MapOf):
                place = key_at(path, key, type_.key)
                spoilt, wrong = self._spoilt_element(field, type_.element, inner, place)
                return Tree(((key, spoilt), *rest)), wrong
            case (inner, *others) if isinstance(type_, Collection):
                spoilt, wrong = self._spoilt_element(field, type_.element, inner, at(path, 0))
                return (spoilt, *others), wrong
        return None

    def _spoilt_element(self, field: Field, type_: Type, inner: Node, path: str) -> tuple[Node, Wrong]:
        deeper = self._spoilt(field, type_, inner, path)
        if deeper is not None:
            return deeper
        node = self._misfit(type_)
        return node, Wrong(path, self._unfit(field, node, "an element of ", type_))

    def _spoilt_product(self, type_: ProductType, node: Tree, path: str) -> tuple[Node, Wrong] | None:
        product = self._kind_of(self._plan.products[type_.name], node)
        for field in product.fields:
            inner = self._misfit(field.type)
            return node.put(field.called, inner), Wrong(below(path, field.called), self._unfit(field, inner))
        return None

    def _kind_of(self, product: Product, node: Tree) -> Product:
        kinds = self._plan.concrete(product)
        return next((k for k in kinds if k.kinds and k.kinds[0] == node.get(self._settings.kind)), product)

    def _holed(self, field: Field, type_: Type, node: Node, path: str) -> tuple[Node, Wrong] | None:
        """A collection whose first element is null."""
        missing = f"an element of {field.owner}.{field.name} is missing"
        match node:
            case Tree(((key, _), *rest)) if isinstance(type_, MapOf):
                return Tree(((key, None), *rest)), Wrong(key_at(path, key, type_.key), missing)
            case (_, *others) if isinstance(type_, Collection):
                return (None, *others), Wrong(at(path, 0), missing)
        return None

    def _limits(self) -> Iterator[Case]:
        record, wrong = self._record, list[Wrong]()
        for field in self._product.fields:
            broken = self._broken(field)
            if broken is not None:
                record = record.put(field.called, broken[0])
                wrong.append(broken[1])
        if wrong:
            yield self._refused(record, wrong)

    def _broken(self, field: Field) -> tuple[Node, Wrong] | None:
        """A node outside a limit of a field, or of an element of it."""
        path = below("", field.called)
        for limit in field.limits:
            edge = self._edge(field, limit.name)
            if edge is not None:
                outside = edge.outside[0]
                value = self._witnesses.value(outside)
                if value is not None:
                    said = message(field, limit.name, _bound(limit.bound), found(edge.broken[0]))
                    return self._trees.of(value), Wrong(path, said)
        return self._broken_element(field, path)

    def _edge(self, field: Field, name: str) -> Edge | None:
        limit = next(limit for limit in field.limits if limit.name == name)
        if name in UNDECLARED:
            return None
        if isinstance(field.type, Collection):
            return collection_edge(self._witnesses, field, limit)
        return scalar_edge(field.type, field.limits, limit)

    def _broken_element(self, field: Field, path: str) -> tuple[Node, Wrong] | None:
        if not isinstance(field.type, ListOf) or isinstance(field.type.element, Collection):
            return None
        for limit in field.each:
            edge = scalar_edge(field.type.element, field.each, limit)
            whole = holding(self._witnesses, field, edge.outside[0]) if edge is not None else None
            value = self._witnesses.value(whole) if whole is not None else None
            if edge is not None and value is not None:
                said = message(field, f"each.{limit.name}", _bound(limit.bound), found(edge.outside[0]))
                return self._trees.of(value), Wrong(at(path, 0), said)
        return None

    def _other_forms(self, type_: Scalar) -> Iterator[Case]:
        """Texts that look like a date or the like, and are none."""
        for field in self._product.fields:
            if field.type == type_:
                known = KINDS[type_.name]
                for text in (*known.none, *known.beyond):
                    wrong = Wrong(below("", field.called), self._unfit(field, text))
                    yield self._refused(self._record.put(field.called, text), [wrong])
                return

    def _from_text(self) -> Case:
        name = self._product.name
        read = ReadText("read", name, json_text(self._record))
        return case(read, Make("made", name, self._whole), Equal("read", "made"), main=False)

    def _doubled(self, blank: str) -> Case:
        """A name that stands twice, the second time with a blank before its colon."""
        name, node = self._record.entries[-1]
        text = f"{json_text(self._record)[:-1]},{json_text(name)}{blank}:{json_text(node)}}}"
        told = Wrong(below("", name), "this name stands there twice").text
        failing = Fails(ReadText(UNKEPT, self._product.name, text), BadRecord(self._product.name, (told,)))
        return case(failing)


def _in_list(place: int, path: str) -> str:
    return f"[{place}]{'' if path.startswith('[') else '.'}{path}"


def _bound(bound: Bound) -> Bound:
    return None if bound is True else bound


class _OfBase:
    """The claims of a product with variants."""

    def __init__(self, plan: Plan, witnesses: Witnesses, product: Product) -> None:
        self._plan, self._witnesses, self._product = plan, witnesses, product
        self._trees = RecordTrees(plan)
        self._settings = plan.records or Records()
        self._selection = plan.selection_of(product.name)

    def claims(self) -> Iterator[Claim]:
        """How kinds are told, and what is read where values choose."""
        name = self._product.name
        if self._kinds():
            text = f"a record whose kind {name} does not have is refused"
            yield Claim("record", name, text, tuple(self._unknown_kind()), aspect="unknown-kind")
        registry = self._plan.registry_of(self._product)
        if registry is not None:
            yield from self._registered(registry)
        decides = self._selection is not None and (
            self._selection.deciding.refusals or len(self._selection.deciding.choices) > 1
        )
        if decides and self._selection is not None and (cases := tuple(self._by_values(self._selection))):
            text = f"a record of parameters makes what {name} chooses"
            yield Claim("record", name, text, cases, aspect="values")

    def _registered(self, factory: Factory) -> Iterator[Claim]:
        """A kind that is registered while running is read with what all kinds have."""
        name = self._product.name
        asker = Asker(self._plan, self._witnesses, factory)
        usual = [kind for kind in factory.kinds.values() if not self._plan.requires_more(kind)]
        if not usual or not asker.can_ask:
            return
        last = usual[-1]
        another = REGISTERED
        while another in (*factory.kinds, *self._known()):
            another += "_"
        entries = record_of(self._plan, self._witnesses, factory, asker.given(last))
        record = Tree(((self._settings.kind, another), *entries.entries))
        begin = (NewRegistry("registry", name), Register("registry", another, last))
        made = asker.ask(another, last)
        read = ReadWith("read", name, record, "registry")
        told = f"{name}.{self._settings.kind} is {shown_node(self._nowhere())}; one of {self._listed(another)} is wanted"
        wrong = Wrong(below("", self._settings.kind), told)
        unknown = ReadWith(UNKEPT, name, Tree(((self._settings.kind, self._nowhere()),)), "registry")
        text = f"a record makes a kind of {name} that was registered while running"
        yield Claim(
            "record",
            name,
            text,
            (
                case(*begin, made, read, KindIs("read", last), Equal("read", "made")),
                case(*begin, Fails(unknown, BadRecord(name, (wrong.text,))), main=False),
            ),
            aspect="registered",
        )

    def _listed(self, another: str) -> str:
        return ", ".join(map(shown_node, (*self._known(), another)))

    def _kinds(self) -> list[str]:
        made = (k for k in self._plan.concrete(self._product) if self._witnesses.arguments(k) is not None)
        return [kind for each in made for kind in each.kinds]

    def _unknown_kind(self) -> Iterator[Case]:
        name, kind = self._product.name, self._settings.kind
        other = self._nowhere()
        listed = ", ".join(map(shown_node, self._known()))
        told = f"{name}.{kind} is {shown_node(other)}; one of {listed} is wanted"
        yield self._refused(Tree(((kind, other),)), Wrong(below("", kind), told))
        if self._selection is None:
            yield self._refused(Tree(()), Wrong(below("", kind), f"{name}.{kind} is missing"))
        yield self._refused(7, Wrong("", f"{name} is 7; a record is wanted"))
        for product in self._plan.concrete(self._product):
            arguments = self._witnesses.arguments(product)
            if arguments is None:
                continue
            for each in product.kinds[1:]:
                values = {n: v for n, o in arguments.items() if (v := self._witnesses.value(o)) is not None}
                owner = self._selection.product if self._selection is not None else product.name
                record = self._trees.made(owner, values).put(kind, each)
                yield case(ReadRecord("read", name, record), KindIs("read", product.name), main=False)

    def _nowhere(self) -> str:
        """A kind that there is not."""
        factory = self._plan.factory_of(self._product.name)
        known = {*self._known(), *(factory.kinds if factory is not None else ())}
        other = NOWHERE
        while other in known:
            other += "_"
        return other

    def _known(self) -> list[str]:
        return [kind for each in self._plan.concrete(self._product) for kind in each.kinds]

    def _refused(self, record: Node, wrong: Wrong) -> Case:
        name = self._product.name
        return case(Fails(ReadRecord(UNKEPT, name, record), BadRecord(name, (wrong.text,))))

    def _by_values(self, selection: Selection) -> Iterator[Case]:
        for variant in self._plan.concrete(self._product):
            arguments = self._witnesses.arguments(variant)
            if arguments is not None:
                record = self._parameters(selection, arguments)
                yield case(ReadRecord("read", self._product.name, record), KindIs("read", variant.name))
        selecting = self._witnesses.selecting_of(selection)
        asked = {field.name: field for field in self._plan.in_records(selection)}
        for number, refusal in enumerate(selection.deciding.refusals, 1):
            given = selecting.refused(number)
            # What breaks a limit is told before any condition is asked.
            if given is not None and all(within(operand, asked[name]) for name, operand in given.items()):
                told = f"{self._product.name}: refused, {refusal.reason}"
                yield self._refused(self._parameters(selection, given), Wrong("", told))

    def _parameters(self, selection: Selection, given: Arguments) -> Tree:
        """A record of arguments, in the order of the parameters."""
        entries: list[tuple[str, Node]] = []
        for field in selection.parameters:
            operand: Operand | None = given.get(field.name)
            value = self._witnesses.value(operand) if operand is not None else None
            if value is not None:
                entries.append((field.called, self._trees.of(value)))
        return Tree(tuple(entries))


# --- faults -----------------------------------------------------------------------------------------------


def _faults(plan: Plan, witnesses: Witnesses, claim: Claim) -> Iterator[Fault]:
    assert plan.records is not None
    product = plan.products[claim.owner]
    match claim.aspect:
        case "reads" | "writes":
            yield from _misnamed(plan, claim, product)
        case "round-trip":
            flaw = "writes-all-but-first" if product.fields else "writes-no-kind"
            yield flaw_fault(plan, claim, flaw, claim.owner)
        case "unknown-name":
            other = replace(plan.records, ignores_unknown=not plan.records.ignores_unknown)
            text = "names that are not declared are " + ("ignored" if other.ignores_unknown else "refused")
            yield Fault(claim, "other-names", text, replace(plan, records=other))
        case "all-problems":
            if len(product.fields) > 1 or not plan.records.ignores_unknown:
                yield flaw_fault(plan, claim, "tells-first-problem", claim.owner)
            else:
                yield from _misnamed(plan, claim, product)
        case "path":
            yield flaw_fault(plan, claim, "loses-path", claim.owner)
        case "limits":
            yield from _unlimited(plan, claim, product)
        case "registered":
            yield flaw_fault(plan, claim, "registers-nothing", claim.owner)
        case "unknown-kind":
            yield flaw_fault(plan, claim, "any-kind", claim.owner)
        case "values":
            selection = selection_of(plan, claim.owner)
            last = replace(selection.deciding.choices[-1])
            deciding = replace(selection.deciding, refusals=(), choices=(last,))
            changed = with_making(
                plan, selection, replace(selection, deciding=deciding, declared=selection.deciding)
            )
            yield Fault(claim, "chooses-last", f"whatever is given makes {last.variant}", changed)
        case "text":
            yield flaw_fault(plan, claim, "takes-doubled", claim.owner)
        case aspect if aspect in {f"{type_}s" for type_ in TOLD}:
            yield flaw_fault(plan, claim, f"takes-other-{claim.aspect}", claim.owner)


def _misnamed(plan: Plan, claim: Claim, product: Product) -> Iterator[Fault]:
    """A field, or the kind of what has none, is called otherwise."""
    if product.fields:
        field = next((f for f in reversed(product.fields) if f.required), product.fields[-1])
        other = f"{field.called}_"  # what is required is written whatever its value
        changed = _with_field_of(plan, product, field, lambda f: replace(f, called=other))
        yield Fault(claim, "misnamed-field", f"{field.name} is called {other}", changed)
    if not product.fields:
        other = f"{product.kinds[0]}_"
        changed = with_product(plan, replace(product, kinds=(other,)))
        yield Fault(claim, "misnamed-kind", f"the kind is called {other}", changed)


def _unlimited(plan: Plan, claim: Claim, product: Product) -> Iterator[Fault]:
    """The limits of one field are not looked at."""
    field = next(field for field in product.fields if _declared(field.limits) or _declared(field.each))

    def unlimited(field: Field) -> Field:
        limits, each = (
            tuple(limit for limit in own if limit.name in UNDECLARED) for own in (field.limits, field.each)
        )
        return replace(field, limits=limits, each=each)

    changed = _with_field_of(plan, product, field, unlimited)
    yield Fault(claim, "unlimited", f"{field.name} has no limits", changed)


def _declared(limits: tuple[Limit, ...]) -> bool:
    return any(limit.name not in UNDECLARED for limit in limits)


def _with_field_of(plan: Plan, product: Product, field: Field, change: Callable[[Field], Field]) -> Plan:
    """The plan with a changed field where it is declared, and in a product that may have another default."""
    changed = with_field(plan, field.owner, field.name, change)
    return changed if field.owner == product.name else with_field(changed, product.name, field.name, change)


PATTERN = Pattern("records", 95, claims, faults={"record": _faults})
