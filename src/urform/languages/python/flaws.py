"""What each flaw of a plan comes to in Python."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import ListOf, MapOf, SetOf
from urform.languages.naming.names import of_family, snake
from urform.languages.python.builders import BuilderNames
from urform.languages.python.expressions import Expressions
from urform.languages.python.names import Names
from urform.languages.rendering.flaws import Rewrite, Spelled, Table
from urform.plan.model import Flaw, Plan

# What is like the container that a product holds, but changes.
CONTAINERS: dict[type, str] = {ListOf: "list", SetOf: "set", MapOf: "dict"}


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """How Python calls what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        found = {
            "owner": flaw.owner,
            "member": flaw.member,
            "aspect": flaw.aspect.rpartition(".")[2],
            "type": names.type(flaw.owner),
            "constant": f"_{snake(flaw.owner).upper()}",
            "name": names.field(flaw.member),
            "slot": names.slot(flaw.member),
            "parameter": names.parameter(flaw.member),
        }
        member, _, role = flaw.member.partition(".")
        found |= {"class": of_family(member, names.type(flaw.owner)), "role": names.field(role)}
        product = plan.products.get(flaw.owner)
        if product is None:
            return found
        found["clone"] = code.copying.clone(product)
        types = {field.name: field.type for field in product.fields}
        found["container"] = CONTAINERS.get(type(types.get(flaw.member)), "")
        if plan.builder_of(flaw.owner) is not None and flaw.member:
            field, spelt = product.field(flaw.member), BuilderNames(names, product)
            found |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return found

    return spelled


# A call of a check on the member itself, and on its elements.
_WHOLE = r'(\w+\("«owner»", "«member»", .*)'
_EACH = r'(\w+\("«owner»", "«member»", [^()]*?within="each\."[^()]*?)'
_QUOTED = r""""(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'"""
_BOUND = r", «aspect»=(?:\((?:" + _QUOTED + r"|[^)\"'])*\)|[^,)]+)"
_FINITE = r'real\("«owner»", "«member»", ([\w.]+)'
# The method that clones, up to where it copies the member, or to what it returns.
_CLONE = r"(def «clone»\(self\)(?:(?!\n    def )[\s\S])*?\n        "
_RETURNING = r"(class «type»\b[\s\S]*?def «clone»\(self\)[\s\S]*?\n        )return [^\n]*"
_GET = r'(def get\(self, [^\n]*\n\s*"""[\s\S]*?"""\n)'
_FIRST_CASE = (
    r"(case [^\n]*:\n\s*(return [^\n]*)\n(?:[^\n]*\n)*?\s*case _:\n\s*)(?:raise Unknown[^\n]*|return None)"
)
_FACTORIES = ("factory", "family")
_BUILDERS = ("builder_fluent", "builder_statements")


def _copying(value: str) -> list[Rewrite]:
    """Another value that a clone gets, of a product that is immutable or not."""
    return [
        Rewrite(_CLONE + r'put\(made, "«name»", )[^\n]*\)$', rf"\1{value})"),
        Rewrite(_CLONE + r"made\.«slot» = )[^\n]*$", rf"\1{value}"),
    ]


TABLE: Table = {
    # --- fields -------------------------------------------------------------------------------------------
    "accepts-missing": [
        Rewrite(r"^(\s*given\(.*?), «member»=[^\n]*?(?=, \w+=|\)$)", r"\1"),
        Rewrite(r'^(\s*given\(.*\{.*?)"«member»": [^,]*?(, |(?=\}\)$))', r"\1"),
    ],
    "absent-fails": [
        Rewrite(
            r"(\b«name»: [^=,\n]+) = (?:\(\)|\w+\([^\n]*?\)|[^,()\n]+)(?=, \w+:|$|\))", r"\1", ("product",)
        )
    ],
    "unlimited": [Rewrite(_WHOLE + _BOUND, r"\1")],
    "unlimited:each.": [Rewrite(_EACH + _BOUND, r"\1")],
    "unlimited:type": [
        Rewrite(
            r'(?:integer|number|real|text|boolean|instance)\("«owner»", "«member»", ([\w.]+)(?:[^()]|\([^)]*\))*\)',
            r"\1",
        ),
        Rewrite(r'listed\("«owner»", "«member»", ([\w.]+)', r'listed("«owner»", "«member»", list(\1)'),
        Rewrite(r'set_of\("«owner»", "«member»", ([\w.]+)', r'set_of("«owner»", "«member»", set(\1)'),
        Rewrite(r'mapped\("«owner»", "«member»", ([\w.]+)', r'mapped("«owner»", "«member»", dict(\1)'),
    ],
    "unlimited:finite": [Rewrite(_FINITE + r"(?:, \w+=[^,()]*)*\)", r"float(\1)")],
    "unlimited:each.finite": [Rewrite(_FINITE + r', within="each\."[^()]*\)', r"float(\1)")],
    "unlimited:choice": [Rewrite(r'choice\("«owner»", "«member»", ([\w.]+), \w+\)', r"\1")],
    "unlimited:each.choice": [
        Rewrite(r'choice\("«owner»", "«member»", ([\w.]+), \w+, within="each\."\)', r"\1")
    ],
    "keeps-sign-of-zero": [
        Rewrite(r'^(\s*)value = (real\("«owner»", "«member»", [^\n]*)$', r"\1\2"),
        Rewrite(r'^(\s*)put\(self, "«name»", (real\("«owner»", "«member»", [^\n]*)\)$', r"\1\2"),
    ],
    "uncompared": [
        Rewrite(
            r"^    «name»: ([^=\n]+) = ([^\n]+)$",
            r'    «name»: \1 = __import__("dataclasses").field(default=\2, compare=False)',
            ("product",),
        ),
        Rewrite(
            r"^    «name»: ([^=\n]+)$",
            r'    «name»: \1 = __import__("dataclasses").field(compare=False)',
            ("product",),
        ),
        Rewrite(r"\bself\.«slot» == other\.«slot»(?=\s| |$)", "True", ("product",)),
    ],
    "equal-by-identity": [
        Rewrite(
            r"(def __eq__\(self, other: object\) -> bool:\n)",
            "\\1        return self is other\n",
            ("product",),
        ),
        Rewrite(
            r"^(class «type»\b[^\n]*:\n)",
            "\\1    def __eq__(self, other: object) -> bool:\n        return self is other\n\n"
            "    __hash__ = object.__hash__\n\n",
            ("product",),
        ),
    ],
    "kept-as-given": [
        Rewrite(r'^(\s*)put\(self, "«name»", (?:listed|set_of|mapped)\(.*\)\)$', r"\1pass"),
        Rewrite(r'^(\s*)put\(self, "«name»", self\.«name»\.\w+\(\)\)$', r"\1pass"),
        Rewrite(r"^(\s*self\.«slot» = )value[. ][^\n]*$", r"\1value"),
        Rewrite(r'^(\s*)value = (?:listed|set_of|mapped)\("«owner»", "«member»", .*$', r"\1pass"),
    ],
    "handed-out": [
        Rewrite(r'^(\s*put\(self, "«name»", )(listed\(.*\))\)$', r"\1list(\2))"),
        Rewrite(r'^(\s*put\(self, "«name»", )(set_of\(.*\))\)$', r"\1set(\2))"),
        Rewrite(r'^(\s*put\(self, "«name»", )(mapped\(.*\))\)$', r"\1dict(\2))"),
        Rewrite(r'^(\s*value = )(listed\("«owner»", "«member»", .*)$', r"\1list(\2)"),
        Rewrite(r'^(\s*value = )(set_of\("«owner»", "«member»", .*)$', r"\1set(\2)"),
        Rewrite(r'^(\s*value = )(mapped\("«owner»", "«member»", .*)$', r"\1dict(\2)"),
    ],
    "assignable": [Rewrite(r"frozen=True, ", r"unsafe_hash=True, ")],
    "single-again": [Rewrite(r"return «constant»$", r"return new(«type»)")],
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": [
        Rewrite(
            r"(if maker is None:\n\s*)(?:raise|return) [^\n]*",
            r"\1maker = next(iter(self._makers.values()))",
            _FACTORIES,
        ),
        Rewrite(_FIRST_CASE, r"\1\2", _FACTORIES),
    ],
    "fails-for-unknown": [
        Rewrite(r"(if maker is None:\n\s*)(?:maker =|return) [^\n]*", r"\1raise KeyError(key)", _FACTORIES),
        Rewrite(r"(case _:\n\s*)return [^\n]*", r"\1raise KeyError(key)", _FACTORIES),
    ],
    "registers-nothing": [Rewrite(r"self\._makers\[key\] = maker", "pass")],
    "registers-twice": [Rewrite(r"if key in self\._makers:", "if False:")],
    "unregisters-nothing": [Rewrite(r"self\._makers\.pop\(key, None\)", "self._makers.get(key)")],
    "registries-share": [
        Rewrite(
            r"__init__\(self\) -> None:\n([^\n]*\n\s*)self\._makers: [^=]+ = (\{.*\})$",
            r"__init__(self, all=\2) -> None:\n\1self._makers = all",
        )
    ],
    # --- builders -----------------------------------------------------------------------------------------
    "sets-nothing": [
        Rewrite(r'^(\s*)self\._given\["«name»"\] = [^\n]*$', r"\1pass"),
        Rewrite(r'"«name»": self\.«setter»(?:, |(?=\}))', ""),
    ],
    "first-set-wins": [
        Rewrite(
            r'self\._given\["«name»"\] = ([^\n\[]+\(.*\)|[^\n\[(]+)$', r'self._given.setdefault("«name»", \1)'
        ),
        Rewrite(
            r"^    def build\(self\)",
            '    def __setattr__(self, name: str, value: object) -> None:\n        if name != "«setter»" or getattr'
            "(self, name, None) is None:\n            object.__setattr__(self, name, value)\n\n    def build(self)",
            ("builder_statements",),
        ),
    ],
    "builder-keeps-as-given": [
        Rewrite(
            r'(def «setter»\(.*\n(?:[^\n]*"""\n)?\s*self\._given\["«name»"\] = )[^\n]*', r"\1«parameter»"
        ),
        Rewrite(r'(case "«setter»":\n\s*)value = [^\n]*', r"\1pass", ("builder_statements",)),
    ],
    "builders-share": [
        Rewrite(
            r"__init__\(self\) -> None:\n\s*self\._given: \w+ = \{\}",
            r"__init__(self, all={}) -> None:\n        self._given = all",
        ),
        Rewrite(
            r"^    def build\(self\)",
            "    all_ = {}\n\n    def __setattr__(self, name: str, value: object) -> None:\n        if value is None:\n"
            "            object.__setattr__(self, name, value)\n        else:\n            type(self).all_[name] = value\n\n"
            "    def __getattribute__(self, name: str) -> object:\n        all_ = object.__getattribute__(self, 'all_')\n"
            "        return all_[name] if name in all_ else object.__getattribute__(self, name)\n\n    def build(self)",
            ("builder_statements",),
        ),
    ],
    "adder-keeps-as-given": [
        Rewrite(
            r"(def «adder»\(self, (\w+): [\s\S]*?held\.(?:append|add)\()[^\n]*\)$",
            r"\1\2)",
            ("builder_fluent",),
        ),
        Rewrite(
            r"(def «adder»\(self, (\w+): [^\n]*\n\s*put\(self, [^\n]* or \(\)\), )[^\n]*\]\)$",
            r"\1\2])",
            ("builder_statements",),
        ),
    ],
    "adder-replaces": [
        Rewrite(r"(def «adder»\(.*\n(?:[^\n]*\n)*?\s*)held\.(append|add)\(", r"\1held.clear(); held.\2("),
        Rewrite(r"\*\(self\.«setter» or \(\)\), ", ""),
    ],
    "like-leaves-out": [
        Rewrite(r"^\s*builder\.«setter»\(\w+\.«name»\)\n", "", _BUILDERS),
        Rewrite(r"^\s*builder\.«setter» = \w+\.«name»\n", "", _BUILDERS),
    ],
    # --- clones and exemplars -----------------------------------------------------------------------------
    "clone-shares": _copying("self.«name»"),
    "clone-handed-out": _copying("«container»(self.«name»)"),
    "clone-keeps": _copying("self.«name»"),
    "clone-loses": _copying("None"),
    "clone-copies": _copying('__import__("copy").deepcopy(self.«name»)'),
    "clone-is-itself": [Rewrite(_RETURNING, r"\1return self")],
    "clone-is-nothing": [Rewrite(_RETURNING, r"\1return None")],
    "exemplar-itself": [Rewrite(r"return held\.clone\(\)", "return held")],
    "exemplar-kept-as-given": [Rewrite(r"= (\w+)\.clone\(\)$", r"= \1", ("exemplars",))],
    "exemplar-not-kept": [Rewrite(r"self\._held\[name\] = [^\n]*", "pass")],
    "exemplar-twice": [Rewrite(r"if name in self\._held:", "if False:")],
    "exemplar-unknown": [
        Rewrite(r"raise UnknownKeyError[^\n]*", "held = next(iter(self._held.values()))", ("exemplars",))
    ],
    "exemplars-share": [
        Rewrite(
            r"__init__\(self\) -> None:\n([^\n]*\n\s*)self\._held: [^=]+ = (\{.*\})$",
            r"__init__(self, all=\2) -> None:\n\1self._held = all",
            ("exemplars",),
        )
    ],
    # --- pools --------------------------------------------------------------------------------------------
    "pool-forgets": [Rewrite(r"self\._held\[key\] = made", "pass")],
    "pool-ignores": [
        Rewrite(
            _GET, r'\1        «parameter» = self.__dict__.setdefault("first «parameter»", «parameter»)' "\n"
        )
    ],
    "pool-by-identity": [
        Rewrite(
            _GET,
            r'\1        if self.__dict__.setdefault("last", «parameter») is not «parameter»:'
            "\n"
            "            self._held.clear()\n",
        )
    ],
    "pool-unguarded": [Rewrite(r"with self\._makings\.alone\(key\):", "if True:", ("pool",))],
    "pool-miscounts-made": [Rewrite(r"self\._made\.add\(\)", "pass", ("pool",))],
    "pool-miscounts-reused": [Rewrite(r"self\._reused\.add\(\)", "pass", ("pool",))],
    "pool-remembers-failure": [
        Rewrite(
            r"^(\s*)made = (self\._maker\(.*\))$",
            r"\1try:\n\1    made = \2\n\1except BaseException:\n\1    self._held[key] = self\n\1    raise",
            ("pool",),
        )
    ],
    "pool-any-key": [Rewrite(r"if .* != key:", "if False:", ("pool",))],
    "pool-not-reentrant": [Rewrite(r"self\._makings\.alone\(key\)", "self._makings.alone(None)", ("pool",))],
    "pool-hits-wait": [
        Rewrite(r"self\._makings\.alone\(key\)", "self._makings.alone(None)", ("pool",)),
        Rewrite(
            r"^(\s*)(try:\n\s*\w+ = self\._held\[)",
            r"\1with self._makings.alone(None):\n\1    pass\n\1\2",
            ("pool",),
        ),
    ],
    "pools-share": [
        Rewrite(
            r"(__init__\(self, maker: [^\n]*?)\) -> None:\n([\s\S]*?)self\._held: [^=\n]+ = (\{\}|\w+\(\))",
            r"\1, all=\3) -> None:\n\2self._held = all",
            ("pool",),
        )
    ],
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": [
        Rewrite(
            r"(class «class»\([\s\S]*? def «role»\([^\n]*\n\s*)return [^\n]*", r"\1return None", ("family",)
        )
    ],
    "records-nothing": [Rewrite(r"self\.asked\.append\([^\n]*", "pass")],
}
