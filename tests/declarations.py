"""Valid declarations drawn by Hypothesis, so that every feature of the format comes up, with text and names that are hard to write.

A declaration is drawn as plain data and written much as JSON, which is YAML. What is drawn is valid by construction.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from math import inf, nextafter
from typing import Any, TypeVar

from hypothesis import strategies as st

T = TypeVar("T")
Data = dict[str, Any]

# Words of the targets, names that generated code would like to have, and names that Port Varrow has.
MEMBERS = (
    "station draught length side remarks legs crew tags pulses code period range class type func self value key equals hash "
    "hash_code get_class to_string clone copy build like made error check list map set string text integer t is result err "
    "options of find none some null nil true_north int float bool object record final static public new delete this super "
    "return yield lambda import package go select chan defer len cap make append print id super_class not_null items keys "
    "values get put asked unregister register known made_at reused with create instance period_1 x y_2 "
).split()
TYPES = (
    "Mark Buoy Beacon Lantern Berth Hull Light List Map Set String Object Class Error Exception Test Optional Record Options "
    "Builder Pool Registry Kind Creator Maker Values Witness Check Checks Integer Long Double Boolean Text Iterable Thread "
    "Enum Any Type Self None True Override Deprecated Stream Func Chan Strings Fmt Sync HTTPMark X Y2 MarkError BuoyOptions"
).split()
AWKWARD = (
    '*/ */ """',
    "''' \"\"\"",
    "// # -- <!-- ]]>",
    "${code} {code} {{ code }} {% if %} «name»",
    "%% for x in y",
    "¦ ¦¦",
    "\x00\x01\x02\x03\x07\x1b[31m",
    "\\u0041 \\u000a \\n \\x41 \\N{BULLET} \\",
    "%s %d %(name)s %n {0} {!r}",
    "</script><b>&amp;",
    "{@code x} @param x @Override",
    '"); panic("x"); ("',
    '"; import os; os.abort() #',
    "'; DROP",
    "\r\n\r\n",
    "\u2028\u2029\x85\x0b\x0c",
    "\u202e\u2066 rtl \u2069",
    "🛟👨‍👩‍👧é́",
    "\ufeff\ufffe\uffff\U0010ffff",
    "`tick` ``two``",
    "$(rm) $HOME ~",
    "  lead and trail  ",
    "\t",
)
CONDITION_WORDS = ("and", "or", "not", "blank", "size", "present", "true", "false", "a", "b")
CHARACTERS = st.characters(exclude_categories=("Cs",))
TEXTS = st.one_of(
    st.sampled_from(AWKWARD),
    st.text(CHARACTERS, max_size=12),
    st.lists(st.sampled_from([*AWKWARD, "a", "A mark.", "word "]), max_size=4).map("".join),
)
WORDS = st.from_regex(r"[a-z][a-z0-9]{0,6}(_[a-z0-9]{1,5}){0,2}", fullmatch=True)
INTEGERS = st.one_of(st.integers(-20, 20), st.integers(-(2**53) + 1, 2**53 - 1))
REALS = st.one_of(
    st.integers(-50, 50).map(lambda n: n / 4),
    st.sampled_from([0.0, -0.0, 1e300, -1e300, 5e-324, 0.1, 1 / 3, 2.0**53, 7, -3]),
)
BLANK = " \t\n\x0b\x0c\r"


def folded(name: str) -> str:
    """Names of one scope differ in this: stricter than the format asks for."""
    return name.replace("_", "").lower()


@dataclass
class Product:
    """What later parts of a declaration have to know of a product that was drawn."""

    name: str
    mutable: bool = False
    shared: bool = False  # a flyweight or single
    by_values: bool = False
    endless: bool = False  # it has fields of its own type
    fields: dict[str, Data] = field(default_factory=dict)  # own ones, with "required" noted
    variants: dict[str, dict[str, Data]] = field(default_factory=dict)  # the fields of each variant

    def every_field(self, variant: str | None = None) -> dict[str, Data]:
        return {**self.fields, **(self.variants[variant] if variant else {})}


class Drawn:
    """Draws one declaration, part after part."""

    def __init__(self, draw: Callable[[st.SearchStrategy[T]], T]) -> None:
        self.draw: Callable[[st.SearchStrategy[Any]], Any] = draw
        self.types: set[str] = set()
        self.choices: dict[str, list[str]] = {}
        self.products: dict[str, Product] = {}

    # --- small things -----------------------------------------------------------------------------------

    def maybe(self, often: int = 2) -> bool:
        """True once in so many times."""
        return bool(self.draw(st.integers(0, often - 1)) == 0)

    def one(self, found: Sequence[T]) -> T:
        chosen: T = self.draw(st.sampled_from(list(found)))
        return chosen

    def number(self, low: int, high: int) -> int:
        return int(self.draw(st.integers(low, high)))

    def name(self, taken: set[str], pool: Sequence[str], others: st.SearchStrategy[str]) -> str:
        """A name that meets none of its scope; its folded form is taken from then on."""
        found = str(self.draw(st.one_of(st.sampled_from(list(pool)), others)))
        ending = 0
        while folded(found + (str(ending) if ending else "")) in taken:
            ending += 1
        found += str(ending) if ending else ""
        taken.add(folded(found))
        return found

    def member(self, taken: set[str]) -> str:
        return self.name(taken, MEMBERS, WORDS)

    def type_name(self) -> str:
        camel = WORDS.map(lambda word: "".join(part[:1].upper() + part[1:] for part in word.split("_")))
        return self.name(self.types, TYPES, camel.filter(lambda name: name[:1].isalpha()))

    def doc(self) -> Data:
        return {"doc": self.draw(TEXTS.filter(bool))} if self.maybe(3) else {}

    # --- types ------------------------------------------------------------------------------------------

    def scalar(self) -> str:
        return str(self.one(["text", "integer", "real", "boolean", *self.choices]))

    def key_type(self) -> str:
        return str(self.one(["text", "integer", *self.choices]))

    def usable(self, *, immutable: bool) -> list[str]:
        return [p.name for p in self.products.values() if not (immutable and p.mutable)]

    def type(self, *, immutable: bool, depth: int = 0) -> str:
        """A type of a field of a product; an immutable product holds no mutable one."""
        kind = self.number(0, 9 if depth < 2 else 5)
        products = self.usable(immutable=immutable)
        if kind <= 4 or (kind == 5 and not products):
            return self.scalar()
        if kind == 5:
            return self.one(products)
        if kind == 6:
            return f"set<{self.key_type()}>"
        if kind == 7:
            return f"map<{self.key_type()}, {self.type(immutable=immutable, depth=depth + 1)}>"
        return f"list<{self.type(immutable=immutable, depth=depth + 1)}>"

    # --- limits and values ------------------------------------------------------------------------------

    def limits(self, type_: str) -> Data:
        """Limits that leave a value."""
        if not self.maybe():
            return {}
        if type_ == "integer":
            return self._of_numbers(self.draw(INTEGERS), lambda: self.number(0, 9), {"one_of": True})
        if type_ == "real":
            return self._of_numbers(self.draw(REALS), lambda: self.number(0, 40) / 8, {})
        if type_ == "text":
            return self._of_texts()
        if is_collection(type_):
            fewest = self.number(0, 1 if type_.startswith(("set", "map")) else 3)
            found = {"min_length": fewest} if self.maybe() else {}
            return found | ({"max_length": fewest + self.number(0, 2)} if self.maybe() else {})
        return {}

    def _of_numbers(self, middle: float, step: Callable[[], float], more: Mapping[str, bool]) -> Data:
        if more.get("one_of") and self.maybe(4):
            words = {middle, *self.draw(st.lists(INTEGERS, max_size=3))}
            return {"one_of": sorted(words)}
        most = 2**53 - 1 if more else 1e306
        below, above = max(middle - step(), -most), min(middle + step(), most)
        found: Data = {}
        if self.maybe():
            found["min"] = below
        elif self.maybe() and below - 1 >= -most and below - 1 < middle:
            found["above"] = below - 1
        if self.maybe():
            found["max"] = above
        elif self.maybe() and above + 1 <= most and above + 1 > middle:
            found["below"] = above + 1
        return found

    def _of_texts(self) -> Data:
        if self.maybe(4):
            return {"one_of": self.draw(st.lists(TEXTS, min_size=1, max_size=4, unique=True))}
        found: Data = {"not_blank": True} if self.maybe() else {}
        fewest = self.number(0, 3)
        if self.maybe(3):
            found["min_length"] = fewest
        if self.maybe(3):
            found["max_length"] = max(fewest, 1) + self.number(0, 40)
        return found

    def value(self, type_: str, limits: Data, each: Data) -> Any:
        """A value that satisfies the limits."""
        if type_ in self.choices:
            return self.one(self.choices[type_])
        if type_ == "boolean":
            return self.maybe()
        if type_ in ("integer", "real"):
            return self._number(type_, limits)
        if type_ == "text":
            return self._text(limits)
        if is_collection(type_):
            return self._collection(type_, limits, each)
        return self.made(self.products[type_])

    def _number(self, type_: str, limits: Data) -> float:
        if "one_of" in limits:
            return self.one(limits["one_of"])
        whole = type_ == "integer"
        after, before = (
            (limits.get("above", 0) + 1, limits.get("below", 0) - 1)
            if whole
            else (nextafter(limits.get("above", 0), inf), nextafter(limits.get("below", 0), -inf))
        )
        low = limits.get("min", after if "above" in limits else None)
        high = limits.get("max", before if "below" in limits else None)
        if low is None and high is None:
            return self.draw(INTEGERS if whole else REALS)
        edge = low if low is not None else high
        inner = [edge] if "above" not in limits and "below" not in limits else []
        candidates = [*inner, low, high, (low + high) / 2 if None not in (low, high) and not whole else low]
        return self.one([n for n in candidates if n is not None and within(n, limits)])

    def _text(self, limits: Data) -> str:
        if "one_of" in limits:
            return str(self.one(limits["one_of"]))
        found = str(self.draw(TEXTS))
        if "max_length" in limits:
            found = found[: limits["max_length"]]
        if limits.get("not_blank") and not found.strip(BLANK):
            found = "x"
        return found + "y" * (limits.get("min_length", 0) - len(found))

    def _collection(self, type_: str, limits: Data, each: Data) -> Any:
        fewest = limits.get("min_length", 0)
        size = self.number(fewest, min(limits.get("max_length", fewest + 2), fewest + 2))
        kind, inner = type_.split("<", 1)
        inner = inner[:-1]
        if kind == "list":
            return [self.value(inner, each, {}) for _ in range(size)]
        if kind == "set":
            found = {self.value(inner, each, {}) for _ in range(size)}
            return sorted(found) if len(found) >= fewest else sorted(found)[:fewest]
        key, element = (part.strip() for part in inner.split(",", 1))
        keys = {self.value(key, {}, {}) for _ in range(size)}
        return {key: self.value(element, each, {}) for key in keys}

    def made(self, product: Product) -> Data:
        """A product, written down: what it needs, and something more at times."""
        variant = self.one(list(product.variants)) if product.variants else None
        fields = product.every_field(variant)
        given = {name: self.of_field(f) for name, f in fields.items() if f["needed"] or self.maybe(3)}
        return {"use": variant, **given} if variant is not None else given

    def of_field(self, declared: Data) -> Any:
        """A value of a field."""
        return self.value(declared["type"], declared, declared.get("each", {}))

    def may_be_written(self, type_: str) -> bool:
        """Whether a value can be written down without asking what a factory by values says to it."""
        product = self.products.get(innermost(type_))
        return product is None or not (product.by_values or product.endless or self._needs_unwritten(product))

    def _needs_unwritten(self, product: Product) -> bool:
        fields = [f for variant in [None, *product.variants] for f in product.every_field(variant).values()]
        return any(not self.may_be_written(f["type"]) for f in fields if innermost(f["type"]) != product.name)

    # --- products ---------------------------------------------------------------------------------------

    def field(self, *, required: bool, immutable: bool, items: set[str]) -> Data:
        """One field, `needed` or not."""
        type_ = self.type(immutable=immutable)
        declared: Data = {"type": type_, **self.limits(type_), **self.doc(), "needed": required}
        if is_collection(type_):
            element = element_of(type_)
            each = {} if element in self.products or element in self.choices else self.limits(element)
            declared |= {"each": each} if each and type_.split("<")[0] in ("list", "set", "map") else {}
            if "each" in declared and (type_.startswith("set") or is_collection(element)):
                declared.pop("min_length", None)  # few may be left
            if self.maybe(3):
                declared["item"] = self.member(items)
        if not required:
            least = declared.get("min_length", 0) if is_collection(type_) else 0
            if (self.maybe() or least > 0) and self.may_be_written(type_):
                declared["default"] = self.of_field(declared)
            elif least > 0:
                declared.pop("min_length")
        declared |= self._copy(type_, required=required)
        return declared

    def _copy(self, type_: str, *, required: bool) -> Data:
        inner = self.products.get(innermost(type_))
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

    def operations(self, taken: set[str]) -> dict[str, Data]:
        found: dict[str, Data] = {}
        for _ in range(self.number(0, 2)):
            scope: set[str] = set()
            takes = {self.member(scope): self.type(immutable=False) for _ in range(self.number(0, 2))}
            returned = self.type(immutable=False)
            found[self.member(taken)] = {
                "returns": returned,
                **({"takes": takes} if takes else {}),
                **self.doc(),
            }
        return found

    def answers(self, operations: Mapping[str, Data]) -> dict[str, Any]:
        """Constants for some operations whose answers can be written."""
        return {
            name: self.value(operation["returns"], {}, {})
            for name, operation in operations.items()
            if innermost(operation["returns"]) not in self.products and self.maybe()
        }

    def plain(self) -> Data:
        """A product without variants, and perhaps a builder, a prototype or a pool."""
        product = Product(self.type_name(), mutable=self.maybe())
        taken: set[str] = set()
        operations = self.operations(taken)
        declared: Data = {**self.doc(), **({"mutable": True} if product.mutable else {})}
        if self.maybe(8) and not product.mutable:
            product.shared = True
            declared["single"] = True
        else:
            product.fields = self.fields(taken, immutable=not product.mutable)
            if self.maybe(4):
                name = self.member(taken)
                product.fields[name] = {
                    "type": self.one([product.name, f"list<{product.name}>"]),
                    "needed": False,
                }
            declared |= written(product.fields)
            declared |= self._makings(product)
        declared |= {"operations": operations, "answers": self.answers(operations)} if operations else {}
        self.products[product.name] = product
        return {product.name: declared}

    def _makings(self, product: Product) -> Data:
        found: Data = {}
        writable = {n: f for n, f in product.fields.items() if innermost(f["type"]) != product.name}
        writable = {name: f for name, f in writable.items() if self.may_be_written(f["type"])}
        if product.fields and self.maybe():
            presets: set[str] = set()
            found["builder"] = {
                "style": self.one(["fluent", "statements"]),
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
        declared |= {"operations": operations} if operations else {}
        keys: set[str] = set()
        variants: Data = {}
        for _ in range(self.number(1, 3)):
            name = self.type_name()
            variants[name] = self._variant(name, product, set(taken), operations, keys, form)
        declared["variants"] = variants
        if form == "by_values":
            product.by_values = True
            declared["factory"] = self._by_values(product)
        elif form is not None:
            unknown = self.one(["error", "nothing", {"use": self.one(list(variants))}])
            declared["factory"] = {"form": form, "unknown": unknown}
        if self.maybe(3):
            declared["prototype"] = {}
        self.products[product.name] = product
        return {product.name: declared}

    def _variant(
        self, name: str, base: Product, taken: set[str], operations: Data, keys: set[str], form: str | None
    ) -> Data:
        declared: Data = self.doc()
        if folded(name) in keys or self.maybe():
            declared["key"] = self.member(keys)
        else:
            keys.add(folded(name))
        single = not base.fields and not base.mutable and self.maybe(4)
        free = form in (None, "by_values")
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
            declared |= written(own)
            others = {
                n: self.of_field(f)
                for n, f in base.fields.items()
                if not f["needed"] and self.maybe(3) and self.may_be_written(f["type"])
            }
            declared |= {"defaults": others} if others else {}
        answers = self.answers(operations)
        return declared | ({"answers": answers} if answers else {})

    def _by_values(self, product: Product) -> Data:
        """Conditions over fields that every variant has, or some: what is not there counts as absent."""
        every = {name: f for v in [None, *product.variants] for name, f in product.every_field(v).items()}
        needed = {n for v in product.variants for n, f in product.every_field(v).items() if f["needed"]}
        conditions = [
            c for name, f in every.items() for c in self._conditions(name, f, always=name in needed)
        ]
        chosen: Data = {"form": "by_values"}
        if conditions and self.maybe():
            refused = [self._condition(conditions) for _ in range(self.number(1, 2))]
            chosen["refuse"] = [
                {"when": when, "reason": self.draw(TEXTS.filter(bool))} if self.maybe(3) else when
                for when in refused
            ]
        *first, last = list(product.variants)
        chosen["choose"] = [
            *({"use": variant, "when": self._condition(conditions)} for variant in first if conditions),
            {"use": last},
        ]
        return chosen

    def _condition(self, conditions: Sequence[str]) -> str:
        one = self.one(conditions)
        others = [other for other in conditions if set(_names(other)).isdisjoint(_names(one))]
        if others and self.maybe(3):
            one = f"{one} {self.one(['and', 'or'])} {self.one(others)}"
        return f"not ({one})" if self.maybe(4) else one

    def _conditions(self, name: str, declared: Data, *, always: bool) -> list[str]:
        type_ = declared["type"]
        there = always or "default" in declared or is_collection(type_)
        compared = self.one(["<", "<=", ">", ">=", "==", "!="])
        found: list[str] = []
        if type_ in ("integer", "real"):
            found = [f"{name} {compared} {self.number(-9, 9)}"]
        elif type_ == "text":
            found = [f"blank({name})", f"size({name}) {compared} {self.number(0, 5)}", f'{name} == "a b"']
        elif type_ == "boolean":
            found = [name, f"{name} == false"]
        elif type_ in self.choices:
            found = [f'{name} {self.one(["==", "!="])} "{self.one(self.choices[type_])}"']
        elif is_collection(type_):
            found = [f"size({name}) {compared} {self.number(0, 3)}"]
        if there:
            return found
        return [f"present({name})", *(f"(present({name}) and {condition})" for condition in found)]

    # --- families ---------------------------------------------------------------------------------------

    def family(self) -> Data:
        """A family over products that are not chosen by values."""
        able = [p for p in self.products.values() if not p.by_values and not self._needs_unwritten(p)]
        if not able:
            return {}
        roles: dict[str, tuple[Product, bool]] = {}
        taken: set[str] = set()
        for _ in range(self.number(1, 3)):
            roles[self.member(taken)] = (self.one(able), self.maybe(3))
        members = {}
        scope: set[str] = set()
        for _ in range(self.number(1, 3)):
            name = self.name(scope, TYPES, st.sampled_from(["Ice", "Open", "Calm"]))
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

    # --- the whole --------------------------------------------------------------------------------------

    def whole(self) -> Data:
        for _ in range(self.number(0, 2)):
            words: set[str] = set()
            name = self.type_name()
            self.choices[name] = [self.member(words) for _ in range(self.number(1, 4))]
        choices = {name: {"values": words, **self.doc()} for name, words in self.choices.items()}
        products: Data = {}
        for _ in range(self.number(1, 4)):
            products |= self.plain() if self.maybe() else self.abstract()
        families = self.family() if self.maybe() else {}
        return {
            "urform": 1,
            "name": self.name(set(), ["harbour", "fairway", "class", "test", "list", "int", "java"], WORDS),
            **self.doc(),
            **({"choices": choices} if choices else {}),
            "products": products,
            **({"families": families} if families else {}),
        }


def _names(condition: str) -> list[str]:
    """The words of a condition, its fields among them; two conditions on one field may contradict each other."""
    return [word for word in re.findall(r"[a-z]\w*", condition) if word not in CONDITION_WORDS]


def is_collection(type_: str) -> bool:
    return type_.startswith(("list<", "set<", "map<"))


def element_of(type_: str) -> str:
    """What a collection holds; the values of a map."""
    kind, inner = type_[:-1].split("<", 1)
    return inner.split(",", 1)[1].strip() if kind == "map" else inner


def innermost(type_: str) -> str:
    while is_collection(type_):
        type_ = element_of(type_)
    return type_


def within(number: float, limits: Data) -> bool:
    """Whether a number keeps limits of numbers."""
    return (
        limits.get("min", number) <= number <= limits.get("max", number)
        and ("above" not in limits or number > limits["above"])
        and ("below" not in limits or number < limits["below"])
    )


def written(fields: Mapping[str, Data]) -> Data:
    """Fields as a declaration has them, in its two lists."""
    found: Data = {}
    for name, declared in fields.items():
        place = found.setdefault("required" if declared["needed"] else "optional", {})
        place[name] = {key: value for key, value in declared.items() if key != "needed"}
    return found


@st.composite
def declarations(draw: Callable[[st.SearchStrategy[Any]], Any]) -> Data:
    """A whole valid declaration as data."""
    return Drawn(draw).whole()


def text_of(declaration: Data) -> str:
    """The data as a declaration file: JSON, save that keys may be numbers; every character beyond ASCII is escaped."""
    return "".join(_yaml(declaration, "")) + "\n"


def _yaml(data: Any, indent: str) -> Iterator[str]:
    inner = indent + " "
    if isinstance(data, dict) and data:
        yield "{"
        for number, (key, value) in enumerate(data.items()):
            yield f"{',' if number else ''}\n{inner}{key if isinstance(key, int) else json.dumps(key)}: "
            yield from _yaml(value, inner)
        yield f"\n{indent}}}"
    elif isinstance(data, list):
        yield "["
        for number, value in enumerate(data):
            yield ", " if number else ""
            yield from _yaml(value, inner)
        yield "]"
    else:
        yield json.dumps(data)
