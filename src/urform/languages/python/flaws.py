"""How each flaw of a plan is made in Python."""

from __future__ import annotations

import re
from collections.abc import Callable

from urform.declaration.types import ListOf, MapOf, Scalar, SetOf
from urform.languages.naming.names import of_family, snake
from urform.languages.python.builders import BuilderNames
from urform.languages.python.expressions import CHECKS, UNTOLD, Expressions
from urform.languages.python.names import Names
from urform.languages.rendering.flaws import Marked, Rewrite, Spelled, Table
from urform.plan.model import Flaw
from urform.plan.whole import Plan

# What is like the container that a product holds, but changes.
CONTAINERS: dict[type, str] = {ListOf: "list", SetOf: "set", MapOf: "dict"}


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """The names that Python gives to what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        spellings = {
            "owner": flaw.owner,
            "member": flaw.member,
            "aspect": flaw.aspect.rpartition(".")[2],
            "change": f"{flaw.owner} {flaw.aspect} {flaw.member}",
            "type": names.type(flaw.owner),
            "constant": f"_{snake(flaw.owner).upper()}",
            "name": names.field(flaw.member),
            "cloned": names.field(flaw.member),
            "clones": "clone",
            "slot": names.slot(flaw.member),
            "parameter": names.parameter(flaw.member),
        }
        member, _, role = flaw.member.partition(".")
        spellings |= {"class": of_family(member, names.type(flaw.owner)), "role": names.field(role)}
        product = plan.products.get(flaw.owner)
        if product is None:
            return spellings
        types = {field.name: field.type for field in product.fields}
        spellings["container"] = CONTAINERS.get(type(types.get(flaw.member)), "")
        builder = plan.builder_of(flaw.owner)
        if builder is not None and flaw.member:
            field, spelt = product.field(flaw.member), BuilderNames(names, product, builder)
            spellings |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return spellings

    return spelled


# A call of a check on the member itself, and on its elements.
_WHOLE = r'(\w+\("«owner»", "«member»", .*)'
_CALL = r"(?:datetime\.\w+|Decimal)\([^()]*\)"  # the one bound that is a call
_EACH = r'(\w+\("«owner»", "«member»", (?:[^()]|' + _CALL + r')*?within="each\."(?:[^()]|' + _CALL + ")*?)"
_QUOTED = r""""(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'"""
_BOUND = r", «aspect»=(?:" + _CALL + r"|\((?:" + _QUOTED + r"|[^)\"'])*\)|[^,)]+)"
_FINITE = r'real\("«owner»", "«member»", ([\w.]+)'


def _told_call(kind: str, within: str) -> str:
    """The check of a type that holds more than is told; elements say that they are some."""
    inside = f', within="{re.escape(within)}"' if within else ""
    return rf'\b{CHECKS[Scalar(kind)]}\("«owner»", "«member»", ([\w.]+){inside}(?:, (?!within)\w+={_CALL})*\)'


def _cloning(value: str) -> dict[str, str]:
    """Another value that a clone gets, of a product that is mutable or not."""
    return {
        "product.copied": f"made.«m.slot» = {value}",
        "product.put": f'put(made, "«m.name»", {value})',
    }


def _returning(value: str) -> dict[str, str]:
    """Another thing that a clone is, of just this type."""
    return {"product.cloned": f"%% if p.type == flaw.type\nreturn {value}\n%% else\n{{line}}\n%% endif"}


_NO_HITS = "self.get = self._get"
_FIRST = '«flaw.parameter» = self.__dict__.setdefault("first «flaw.parameter»", «flaw.parameter»)\n{line}'
_ANOTHER = (
    'if self.__dict__.setdefault("last", «flaw.parameter») is not «flaw.parameter»:\n'
    "    self._held.clear()\n{line}"
)

MARKED: Marked = {
    # --- records ------------------------------------------------------------------------------------------
    "writes-all-but-first": {"reading.entries": "_put(record, product, self.entries[1:], self.writes_all)"},
    "writes-no-kind": {"reading.told": "pass"},
    "tells-first-problem": {"reading.tell": "if not self.problems:\n    {line}"},
    "loses-path": {"reading.step": "if not way:\n    {line}"},
    "any-kind": {
        "reading.kind": "if shape is None and kind is not None:\n"
        "    shape = next(iter(self.shapes.values()))\n    record = {**record, self.kind: shape.kinds[0]}\n{line}"
    },
    "takes-other-uuids": {"told.uuid": "value = value[:36] if isinstance(value, str) else value\n{line}"},
    "takes-other-instants": {
        "told.instant": "value = value[:20] if isinstance(value, str) else value\n{line}"
    },
    "takes-other-times": {"told.time": "value = value[:8] if isinstance(value, str) else value\n{line}"},
    "takes-other-durations": {"told.duration": "value = value.rstrip()\n{line}"},
    "takes-other-decimals": {
        "told.decimal": "value = value.rstrip() if isinstance(value, str) else value\n{line}"
    },
    "takes-other-dates": {"told.date": "value = value[:10] if isinstance(value, str) else value\n{line}"},
    "takes-doubled": {"reading.doubled": "if whole:"},
    # --- choices ------------------------------------------------------------------------------------------
    "any-word": {"choice.refuse": "return next(iter(cls))"},
    # --- fields -------------------------------------------------------------------------------------------
    "equal-by-identity": {
        "product.equal": "{line}\n    return self is other",
        "product.class": "{line}\n%% if not p.mutable and p.type == flaw.type\n"
        "    def __eq__(self, other: object) -> bool:\n        return self is other\n\n"
        "    __hash__ = object.__hash__\n\n%% endif",
    },
    "assignable": {
        "product.dataclass": '@dataclass(«p.dataclass.replace("frozen=True", "unsafe_hash=True")»)'
    },
    "change-does-nothing": {"product.change": "pass"},
    "change-keeps-as-given": {"product.one": "one = «c.given»"},
    "change-before-check": {"product.sized": "«c.slot» = held\n{line}"},
    "change-unlimited": {"product.sized": ""},
    "change-copies-others": {"product.change": "{line}\nself.«flaw.name» = «c.slot»"},
    "change-unchecked": {"product.one": "one = «c.given»"},
    "single-again": {
        "product.again": "return new(«p.type»)",
        "selection.made": "%% if c.made == flaw.constant\nreturn new(«flaw.type»)\n%% else\n{line}\n%% endif",
    },
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": {
        **dict.fromkeys(("factory.refuse", "factory.nothing"), "maker = next(iter(self._makers.values()))"),
        **dict.fromkeys(
            ("factory.refuse_simple", "factory.nothing_simple"), "return «g.cases[0].type»(«g.pass_on»)"
        ),
        **dict.fromkeys(
            ("factory.refuse_creator", "factory.nothing_creator"), "return «g.cases[0].creator»()"
        ),
        **dict.fromkeys(("family.refuse", "family.nothing"), "return «f.cases[0].type»()"),
    },
    "fails-for-unknown": dict.fromkeys(
        (
            *("factory.nothing", "factory.fallback", "factory.nothing_simple", "factory.nothing_creator"),
            *("factory.otherwise_fallback", "family.nothing", "family.fallback"),
        ),
        "raise KeyError(key)",
    ),
    "registers-nothing": {"factory.keep": "pass"},
    "registers-twice": {"factory.taken": "if False:"},
    "unregisters-nothing": {"factory.take_away": "return self._makers.get(key) is not None"},
    "registries-share": {
        "factory.init": "def __init__(self, all={«g.table»}) -> None:",
        "factory.hold": "self._makers = all",
    },
    "loads-early": {"factory.load": "if callable(loader):\n    loader()\n{line}"},
    "loads-again": {"loading.loaded": "maker = self._maker = None"},
    "loads-apart": {"loading.alone": "if True:"},
    "loads-anything": {"loading.check": "if False:"},
    "loads-no-more": {
        "loading.load": "load, self._loader = self._loader, lambda: None\n"
        "self._maker = maker = self._checked(load())"
    },
    "names-unread": {"loading.look": "pass"},
    # --- builders -----------------------------------------------------------------------------------------
    "clears-nothing": {"builder_fluent.clear": ""},
    "sets-nothing": {
        "builder_fluent.set": "pass",
        "builder_statements.hand_on": "values: dict[str, Any] = {«% for f in b.fields if f.name != flaw.name %»"
        '"«f.name»": self.«f.setter»«", " if not loop.last»«% endfor %»}',
    },
    "first-set-wins": {
        "builder_fluent.set": 'self._given.setdefault("«f.name»", «f.kept»)',
        "builder_statements.build": "def __setattr__(self, name: str, value: object) -> None:\n"
        '    if name != "«flaw.setter»" or getattr(self, name, None) is None:\n'
        "        object.__setattr__(self, name, value)\n\n{line}",
    },
    "builder-keeps-as-given": {
        "builder_fluent.set": 'self._given["«f.name»"] = «f.parameter»',
        "builder_statements.keep_value": "pass",
    },
    "builders-share": {
        "builder_fluent.init": "def __init__(self, all={}) -> None:",
        "builder_fluent.hold": "self._given = all",
        "builder_statements.build": "all_ = {}\n\ndef __setattr__(self, name: str, value: object) -> None:\n    if value is None:\n"
        "        object.__setattr__(self, name, value)\n    else:\n        type(self).all_[name] = value\n\n"
        "def __getattribute__(self, name: str) -> object:\n    all_ = object.__getattribute__(self, 'all_')\n"
        "    return all_[name] if name in all_ else object.__getattribute__(self, name)\n\n{line}",
    },
    "adder-keeps-as-given": {
        "builder_fluent.add": "held.«f.add»(«f.item»)",
        "builder_statements.add": 'put(self, "«f.setter»", «f.spread.format(f.item)»)',
    },
    "adder-replaces": {
        "builder_fluent.add": "held.clear(); {line}",
        "builder_statements.add": 'put(self, "«f.setter»", '
        '«f.spread.replace("*(self." ~ f.setter ~ " or ()), ", "").format(f.item_kept)»)',
    },
    "like-leaves-out": {"builder_fluent.like": "", "builder_statements.like": ""},
    # --- clones -------------------------------------------------------------------------------------------
    "clone-shares": _cloning("self.«flaw.name»"),
    "clone-handed-out": _cloning("«flaw.container»(self.«flaw.name»)"),
    "clone-keeps": _cloning("self.«flaw.name»"),
    "clone-loses": _cloning("None"),
    "clone-copies": _cloning('__import__("copy").deepcopy(self.«flaw.name»)'),
    "clone-is-itself": _returning("self"),
    "clone-is-nothing": _returning("None"),
    # --- exemplars ----------------------------------------------------------------------------------------
    "exemplar-itself": {"exemplars.hand_out": "return held"},
    "exemplar-kept-as-given": {"exemplars.copy": "kept = «e.variable»"},
    "exemplar-not-kept": {"exemplars.keep": "pass"},
    "exemplar-twice": {"exemplars.taken": "if False:"},
    "exemplar-unknown": {"exemplars.unknown": "held = next(iter(self._held.values()))"},
    "exemplars-share": {
        "exemplars.init": "def __init__(self, all={«e.held»}) -> None:",
        "exemplars.hold": "self._held = all",
    },
    # --- pools --------------------------------------------------------------------------------------------
    "pool-forgets": {"pool.hit": _NO_HITS, "pool.keep": "pass"},
    "pool-ignores": {"pool.slots": "", "pool.look": _FIRST, "pool.look_slowly": _FIRST},
    "pool-by-identity": {
        "pool.hit": _NO_HITS,
        "pool.slots": "",
        "pool.look": _ANOTHER,
        "pool.look_slowly": _ANOTHER,
    },
    "pool-unguarded": {"pool.alone": "if True:"},
    "pool-miscounts-made": {"pool.count_made": "pass"},
    "pool-miscounts-reused": {"pool.count_reused": "pass", "pool.count_hits": "return self._reused.total()"},
    "pool-remembers-failure": {
        "pool.make": "try:\n    {line}\nexcept BaseException:\n    self._held[key] = self\n    raise"
    },
    "pool-any-key": {"pool.check_key": "if False:"},
    "pool-not-reentrant": {"pool.alone": "with self._makings.alone(None):"},
    "pool-hits-wait": {
        "pool.hit": _NO_HITS,
        "pool.alone": "with self._makings.alone(None):",
        **dict.fromkeys(
            ("pool.look", "pool.look_slowly"), "with self._makings.alone(None):\n    pass\n{line}"
        ),
    },
    "pools-share": {
        "pool.init": "def __init__(self, maker: Callable[[«p.key_types»], «p.type»]"
        '«" | None = None" if not p.needs_maker else ""», all=«p.empty») -> None:',
        "pool.hold": "self._held = all",
    },
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": {
        "family.part": "%% if m.type == flaw.class and p.name == flaw.role\nreturn None\n%% else\n{line}\n%% endif"
    },
    "records-nothing": {"stand_in.record": "pass"},
}

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
            r"(?:integer|number|real|text|boolean|calendar_date|time_of_day|instant_of|duration_of|decimal_of|uuid_of|instance)"
            r'\("«owner»", "«member»", ([\w.]+)(?:[^()]|\([^)]*\))*\)',
            r"\1",
        ),
        Rewrite(r'listed\("«owner»", "«member»", ([\w.]+)', r'listed("«owner»", "«member»", list(\1)'),
        Rewrite(r'set_of\("«owner»", "«member»", ([\w.]+)', r'set_of("«owner»", "«member»", set(\1)'),
        Rewrite(r'mapped\("«owner»", "«member»", ([\w.]+)', r'mapped("«owner»", "«member»", dict(\1)'),
    ],
    "unlimited:finite": [Rewrite(_FINITE + r"(?:, \w+=[^,()]*)*\)", r"float(\1)")],
    "unlimited:each.finite": [Rewrite(_FINITE + r', within="each\."[^()]*\)', r"float(\1)")],
    **{
        f"unlimited:{within}{kind}": [Rewrite(_told_call(kind, within), r"\1")]
        for kind in UNTOLD
        for within in ("", "each.")
    },
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
}
