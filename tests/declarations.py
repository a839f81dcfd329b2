"""Valid declarations drawn by chance, so that every feature of the format comes up, with text and names that are hard to write.

A declaration is drawn as plain data and written much as JSON, which is YAML. What is drawn is valid by construction.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from random import Random
from typing import Any

from tests.conditions import comparisons, condition
from tests.data import Data, Product, element_of, innermost, is_collection, written
from tests.values import Values
from tests.vocabulary import TYPES, folded
from urform.prose import snake

SETTINGS: Data = {"java": {"package": "harbour.varrow.drawn"}, "go": {"module": "harbour.example/drawn"}}


class Drawn(Values):
    """Draws one declaration, part after part."""

    has_records = False
    needs_records = False  # some factory by key makes kinds with required fields of their own

    # --- products ---------------------------------------------------------------------------------------

    def field(self, *, required: bool, immutable: bool, items: set[str]) -> Data:
        """One field, `needed` or not."""
        drawn = self.type(immutable=immutable)
        type_ = self.with_uris(drawn) if self.maybe(4) else drawn
        declared: Data = {"type": type_, **self.limits(type_), **self.doc(), "needed": required}
        if (
            type_.startswith("list<")
            and element_of(type_) in ("text", "integer", *self.choices)
            and self.maybe(3)
        ):
            declared["unique"] = True
            if "min_length" in declared:
                declared["min_length"] = min(declared["min_length"], 1)  # few may be left
        if is_collection(type_):
            element = element_of(type_)
            each = {} if self.product(element) or element in self.choices else self.limits(element)
            declared |= {"each": each} if each and type_.split("<")[0] in ("list", "set", "map") else {}
            if "each" in declared and (
                type_.startswith("set") or is_collection(element) or "unique" in declared
            ):
                declared.pop("min_length", None)  # few may be left
            if self.maybe(3):
                declared["item"] = self.member(items)
        if not required:
            least = declared.get("min_length", 0) if is_collection(type_) else 0
            if (self.maybe() or least > 0) and self.may_be_written(type_):
                declared["default"] = self.of_field(declared)
            elif least > 0 and self.maybe():
                declared.pop("min_length")
        declared |= self._copy(type_, required=required)
        declared |= {"secret": self.maybe()} if innermost(type_) in ("text", "uri") and self.maybe(4) else {}
        return declared

    def _copy(self, type_: str, *, required: bool) -> Data:
        inner = self.product(innermost(type_))
        ways = [] if required else ["fresh"]
        if is_collection(type_) or inner is not None:
            if inner is None or not inner.mutable:
                ways += ["shared"] if inner is not None else []
                ways += ["shallow"] if is_collection(type_) else []
            if inner is None or not inner.shared:
                ways.append("deep")
        return {"copy": self.one(ways)} if ways and self.maybe(3) else {}

    def fields(
        self, taken: set[str], *, immutable: bool, most: int = 4, needed: bool = True
    ) -> dict[str, Data]:
        """Some fields, required ones first."""
        items: set[str] = set(taken)
        required = self.number(0, most) if needed else 0
        found: dict[str, Data] = {}
        for at in range(required + self.number(0, most)):
            name = self.member(taken)
            found[name] = self.field(required=at < required, immutable=immutable, items=items)
        return found

    def operations(self, taken: set[str], most: int = 2) -> dict[str, Data]:
        found: dict[str, Data] = {}
        for _ in range(self.number(0, most)):
            scope: set[str] = set()
            takes = {self.member(scope): self.type(immutable=False) for _ in range(self.number(0, 2))}
            returned = {"returns": self.type(immutable=False) + ("?" if self.maybe(4) else "")}
            found[self.member(taken)] = {
                **(returned if not self.maybe(4) else {}),
                **({"takes": takes} if takes else {}),
                **self.doc(),
            }
        return found

    def answers(self, operations: Mapping[str, Data]) -> dict[str, Any]:
        """Constants for some operations whose answers can be written."""
        found: dict[str, Any] = {}
        for name, operation in operations.items():
            type_ = operation.get("returns", "").removesuffix("?")
            if type_ and self.product(innermost(type_)) is None and self.maybe():
                is_none = operation["returns"].endswith("?") and self.maybe(3)
                found[name] = None if is_none else self.value(type_, {}, {})
        return found

    def plain(self) -> Data:
        """A product without variants, and perhaps a builder, a prototype or a pool."""
        product = Product(self.type_name(), mutable=self.maybe())
        taken: set[str] = set()
        operations = self.operations(taken)
        declared: Data = {**self.doc(), **({"mutable": True} if product.mutable else {})}
        others: Data = {}
        if self.maybe(8) and not product.mutable:
            product.shared = True
            declared["single"] = True
        else:
            product.fields = self.fields(taken, immutable=not product.mutable)
            wrapper = self._recursion(product, taken) if self.maybe(4) else {}
            declared |= written(product.fields)
            declared |= self._makings(product)
            others |= wrapper
        declared |= {"operations": operations, "answers": self.answers(operations)} if operations else {}
        self.products[product.name] = product
        return {product.name: declared, **others}

    def _recursion(self, product: Product, taken: set[str]) -> Data:
        """A field of a product's own type, by itself, in a list that may be empty, or in a product that wraps it."""
        wrapper = Product(self.type_name(), mutable=product.mutable)
        way = self.one(["optional", "list", "required list", "wrapper", "list of wrappers"])
        inner = wrapper.name if "wrapper" in way else product.name
        type_ = f"list<{inner}>" if "list" in way else inner
        product.fields[self.member(taken)] = {
            "type": type_,
            "needed": way == "required list" or "list of" in way,
        }
        product.endless = True
        if "wrapper" not in way:
            return {}
        of_wrapper: set[str] = set()
        wrapper.fields = {self.member(of_wrapper): {"type": product.name, "needed": self.maybe()}}
        wrapper.endless = True
        self.products[wrapper.name] = wrapper
        return {wrapper.name: {**({"mutable": True} if wrapper.mutable else {}), **written(wrapper.fields)}}

    def _makings(self, product: Product) -> Data:
        found: Data = {}
        writable = {n: f for n, f in product.fields.items() if innermost(f["type"]) != product.name}
        writable = {name: f for name, f in writable.items() if self.may_be_written(f["type"])}
        if product.fields and self.maybe():
            presets: set[str] = set()
            style = self.one(["fluent", "statements"])
            needed = any(f["needed"] for f in product.fields.values())
            typed = needed and style == "fluent" and self.maybe()
            found["builder"] = {
                "style": style,
                "missing": "at_compile_time" if typed else "at_build",
                "after_build": self.one(["keep", "reset"]),
                "presets": {
                    self.member(presets): {
                        name: self.of_field(f) for name, f in writable.items() if self.maybe()
                    }
                    for _ in range(self.number(0, 2))
                },
            }
        if self.maybe():
            names: set[str] = set()
            whole = all(name in writable for name, f in product.fields.items() if f["needed"])
            count = self.number(0, 2) if whole else 0
            given = [{n: f for n, f in writable.items() if f["needed"] or self.maybe()} for _ in range(count)]
            exemplars = {self.member(names): {n: self.of_field(f) for n, f in each.items()} for each in given}
            found["prototype"] = {"exemplars": exemplars} if exemplars else {}
        keyed = [
            name
            for name, f in product.fields.items()
            if (f["type"] in ("text", "integer", "boolean") or f["type"] in self.choices)
            and (f["needed"] or "default" in f)
        ]
        if keyed and not product.mutable and not self.maybe(4):
            key = keyed[: self.number(1, len(keyed))]
            found["flyweight"] = {"key": key, "hold": self.one(["strong", "weak"])}
            product.shared = True
        return found

    def abstract(self) -> Data:
        """A product with variants, and perhaps a factory and a prototype."""
        product = Product(self.type_name(), mutable=self.maybe(3))
        taken: set[str] = set()
        form = self.one([None, "simple", "registry", "creators", "by_values"])
        operations = self.operations(taken)
        product.fields = self.fields(taken, immutable=not product.mutable, most=3)
        declared: Data = {
            **self.doc(),
            **({"mutable": True} if product.mutable else {}),
            **written(product.fields),
        }
        for operation in operations.values():
            operation |= {"once": True} if self.maybe(3) else {}
        declared |= {"operations": operations} if operations else {}
        declared |= {"answers": answers} if (answers := self.answers(operations)) and self.maybe() else {}
        keys: set[str] = set()
        variants: Data = {}
        for _ in range(self.number(1, 3)):
            name = self.type_name()
            variants[name] = self._variant(name, product, set(taken), operations, keys, form)
        declared["variants"] = variants
        asked = self._asked(product)
        if form == "by_values" and (asked or len(variants) == 1):
            product.by_values = True
            declared["factory"] = self._by_values(product, asked)
        elif form not in (None, "by_values"):
            unknown = self.one(["error", "nothing", {"use": self.one(list(variants))}])
            declared["factory"] = {"form": form, "unknown": unknown}
        if self.maybe(3):
            declared["prototype"] = {}
        self.products[product.name] = product
        if not product.by_values:  # a variant that is chosen by values cannot be written by itself
            for name in product.variants:
                kind = Product(name, product.mutable, fields=product.every_field(name))
                kind.shared = "single" in variants[name]
                self.kinds[name] = kind
        return {product.name: declared}

    def _variant(
        self, name: str, base: Product, taken: set[str], operations: Data, keys: set[str], form: str | None
    ) -> Data:
        declared: Data = self.doc()
        if snake(name) in keys or self.maybe():
            codes = [self.code(keys) for _ in range(self.number(1, 3))]
            declared |= {"key": codes[0]} if len(codes) == 1 else {"keys": codes}
        else:
            keys.add(snake(name))
        single = not base.fields and not base.mutable and self.maybe(4)
        free = form in (None, "by_values") or self.has_records
        base.variants[name] = {}
        if single:
            declared["single"] = True
        else:
            apart = {**base.variants}
            same = {
                n for fields in apart.values() for n in map(folded, fields)
            }  # parameters of one name have one type
            own = self.fields(taken | same, immutable=not base.mutable, most=2, needed=free)
            base.variants[name] = own
            asks_more = form not in (None, "by_values") and any(field["needed"] for field in own.values())
            self.needs_records = self.needs_records or asks_more
            taken = taken | {folded(field) for field in own}
            declared |= written(own)
            others = {
                n: self.of_field(f)
                for n, f in base.fields.items()
                if not f["needed"] and self.maybe(3) and self.may_be_written(f["type"])
            }
            declared |= {"defaults": others} if others else {}
        own_operations = self.operations(taken, most=1) if self.maybe(3) else {}
        declared |= {"operations": own_operations} if own_operations else {}
        answers = self.answers({**operations, **own_operations})
        return declared | ({"answers": answers} if answers else {})

    def _asked(self, product: Product) -> list[str]:
        """What conditions ask of fields that every variant has, or some: what is not there counts as absent."""
        every = {name: f for v in [None, *product.variants] for name, f in product.every_field(v).items()}
        needed = {n for v in product.variants for n, f in product.every_field(v).items() if f["needed"]}
        return comparisons(self, every, needed)

    def _by_values(self, product: Product, asked: list[str]) -> Data:
        chosen: Data = {"form": "by_values"}
        if asked and self.maybe():
            refused = [condition(self, asked) for _ in range(self.number(1, 2))]
            chosen["refuse"] = [
                {"when": when, "reason": self.text()} if self.maybe(3) else when for when in refused
            ]
        *first, last = list(product.variants)
        chosen["choose"] = [
            *({"use": variant, "when": condition(self, asked)} for variant in first),
            {"use": last},
        ]
        return chosen

    # --- families ---------------------------------------------------------------------------------------

    def family(self) -> Data:
        """A family over products that are not chosen by values."""
        able = [p for p in self.products.values() if not p.by_values and not self._needs_unwritten(p)]
        if not able:
            return {}
        roles: dict[str, tuple[Product, bool]] = {}
        taken: set[str] = set()
        lists_only = self.maybe(5)
        for _ in range(self.number(1, 3)):
            roles[self.member(taken)] = (self.one(able), lists_only or self.maybe(3))
        members = {}
        scope: set[str] = set()
        for _ in range(self.number(1, 3)):
            name = self.name(scope, TYPES, ("Ice", "Open", "Calm"))
            members[name] = {
                role: [self._part(product, several=True) for _ in range(self.number(0, 2))]
                if several
                else self._part(product, several=False)
                for role, (product, several) in roles.items()
            }
        declared: Data = {
            **self.doc(),
            "makes": {role: f"list<{p.name}>" if several else p.name for role, (p, several) in roles.items()},
            "members": members,
            "unknown": self.one(["error", "nothing", {"use": self.one(list(members))}]),
        }
        return {self.type_name(): declared | ({"stand_in": True} if self.maybe() else {})}

    def _part(self, product: Product, *, several: bool) -> Any:
        variant = self.one(list(product.variants)) if product.variants else None
        caller = {} if several else product.fields
        fields = {n: f for n, f in product.every_field(variant).items() if n not in caller}
        given = {
            name: self.of_field(f)
            for name, f in fields.items()
            if f["needed"] or (self.maybe(3) and self.may_be_written(f["type"]))
        }
        return {"use": variant or product.name, "with": given} if given else variant or product.name

    # --- records ----------------------------------------------------------------------------------------

    def records(self, products: Data, choices: Data) -> Data:
        """Settings of records; some things get another name in them, which nothing else has."""
        taken = {"kind", *_texts(products), *_texts(choices)}
        for choice in choices.values():
            choice["values"] = [
                {"word": word, **({"as": self.code(taken)} if self.maybe() else {})}
                if self.maybe(3)
                else word
                for word in choice["values"]
            ]
        for product in products.values():
            self._called(product, taken)
            apart = product.get("factory", {}).get("form") == "by_values"
            for variant in product.get("variants", {}).values():
                self._called(variant, taken, fields=not apart)  # parameters of one name have one name there
        settings: Data = {
            "unknown": self.one(["refuse", "ignore"]),
            "kind_field": self.code(taken),
            "write": self.one(["needed", "all"]),
        }
        every = [each for p in products.values() for each in (p, *p.get("variants", {}).values())]
        meets = any("kind" in each.get(key, {}) for each in every for key in ("required", "optional"))
        chosen = {n: word for n, word in settings.items() if self.maybe() or (meets and n == "kind_field")}
        return {"records": chosen or self.needs_records or self.maybe()}

    def _called(self, declared: Data, taken: set[str], *, fields: bool = True) -> None:
        declared |= {"as": self.code(taken)} if self.maybe(4) else {}
        for field in [*declared.get("required", {}).values(), *declared.get("optional", {}).values()]:
            field |= {"as": self.code(taken)} if fields and self.maybe(4) else {}

    # --- the whole --------------------------------------------------------------------------------------

    def whole(self) -> Data:
        for _ in range(self.number(0, 2)):
            words: set[str] = set()
            name = self.type_name()
            self.choices[name] = [self.member(words) for _ in range(self.number(1, 4))]
        choices = {name: {"values": words, **self.doc()} for name, words in self.choices.items()}
        self.has_records = self.maybe(3)
        products: Data = {}
        for _ in range(self.number(1, 4)):
            products |= self.plain() if self.maybe() else self.abstract()
        families = self.family() if self.maybe() else {}
        records = self.records(products, choices) if self.has_records else {}
        return {
            "urform": 1,
            "name": self.name(set(), ["harbour", "fairway", "class", "test", "list", "int", "java"]),
            **self.doc(),
            **({"targets": SETTINGS} if self.maybe(5) else {}),
            **records,
            **({"choices": choices} if choices else {}),
            "products": products,
            **({"families": families} if families else {}),
        }


def _texts(data: Any) -> Iterator[str]:
    """Every text of a part of a declaration, its keys as well."""
    if isinstance(data, str):
        yield data
    for each in data if isinstance(data, (list, dict)) else ():
        yield from _texts(each)
    for each in data.values() if isinstance(data, dict) else ():
        yield from _texts(each)


def declaration(chance: Random) -> Data:
    """A whole valid declaration as data."""
    return Drawn(chance).whole()
