"""How each flaw of a plan is made in Java."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import ListOf, MapOf, SetOf
from urform.languages.java.builders import BuilderNames
from urform.languages.java.expressions import PRIMITIVES, Expressions, is_settled
from urform.languages.java.names import Names
from urform.languages.naming.names import camel, of_family, pascal
from urform.languages.rendering.flaws import Marked, Rewrite, Spelled, Table
from urform.plan.model import Flaw
from urform.plan.whole import Plan

CONTAINERS: dict[type, str] = {ListOf: "ArrayList", SetOf: "LinkedHashSet", MapOf: "LinkedHashMap"}


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """The names that Java gives to what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        spellings = {
            "owner": flaw.owner,
            "member": flaw.member,
            "aspect": flaw.aspect,
            "change": f"{flaw.owner} {flaw.aspect} {flaw.member}",
            "type": names.type(flaw.owner),
            "name": names.member(flaw.member),
            "clones": "copy",
            "exported": pascal(flaw.member),
            "variable": names.member(camel(flaw.owner)),
        }
        member, _, role = flaw.member.partition(".")
        spellings |= {"class": of_family(member, names.type(flaw.owner)), "role": names.member(role)}
        product = plan.products.get(flaw.owner)
        field = next((f for f in product.fields if f.name == flaw.member), None) if product else None
        if product is None or field is None:
            return spellings
        primitive = PRIMITIVES.get(field.type) if not field.may_be_absent else None
        spellings["boxed"] = code.boxed(field.type)
        spellings["container"] = CONTAINERS.get(type(field.type), "")
        spellings["zero"] = {None: "null", "boolean": "false"}.get(primitive, "0")
        default = field.default if is_settled(plan, product, field) else None
        spellings["unset"] = code.value(default) if default is not None else "null"
        builder = plan.builder_of(flaw.owner)
        if builder is not None:
            spelt = BuilderNames(names, product, builder)
            spellings |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return spellings

    return spelled


_HELD = r"(= (?:[^\n]*?\? null : )?)"
_CHECKED = r'Check\.{}\("«owner»", "«member»", .*\)(?=;$)'
_DEPTH = 6  # of calls within each other: a default may have products that have times


def _within(depth: int) -> str:
    """What stands in parentheses, and in those within them."""
    return rf"\((?:[^()]|{_within(depth - 1)})*\)" if depth else r"\([^()]*\)"


_ARGUMENT = rf"((?:[^(),]|{_within(_DEPTH)})+)"
_EQUALS = "{line}\n%% if p.type == flaw.type\n    @Override public boolean equals(Object other) {{ return {how}; }}\n\n%% endif"


def _returning(value: str) -> dict[str, str]:
    """Another thing that a clone is, of just this type."""
    text = f"%% if p.type == flaw.type\nreturn {value};\n%% else\n{{line}}\n%% endif"
    return dict.fromkeys(("product.cloned", "record.cloned"), text)


def _equal(how: str) -> str:
    """The line that begins a record, and an equality of its own."""
    return _EQUALS.format(line="{line}", how=how)


_HELD_SET = '«"this." if f.held == f.name else ""»«f.held»'
_SEE = "{line}\n    if (this.seen == null) {\n        this.seen = «flaw.name»;\n    }\n"
_SEEN = "{line}\nprivate Object seen;"

MARKED: Marked = {
    # --- records ------------------------------------------------------------------------------------------
    "writes-all-but-first": {"records.entries": "tree.remove(«p.first»);\n{line}"},
    "writes-no-kind": {"records.told": ""},
    "tells-first-problem": {"Reading.tell": "if (problems.isEmpty()) {line}"},
    "loses-path": {"Reading.step": "return up.up == null ? steps() : up.path();"},
    **{
        f"takes-other-{kind}s": {
            f"Reading.{kind}": f'return told({type_}.class, "{kind}", "{wanted}", '
            f"text -> {kind}Of(text.substring(0, Math.min({length}, text.length()))), limits);"
        }
        for kind, type_, wanted, length in (
            ("date", "LocalDate", "a date", 10),
            ("instant", "Instant", "an instant", 20),
            ("uuid", "UUID", "a UUID", 36),
        )
    },
    **{
        f"takes-other-{kind}s": {
            f"Reading.{kind}": f"Function<String, {type_}> of = text -> {kind}Of({cut});"
        }
        for kind, type_, cut in (
            ("time", "LocalTime", "text.substring(0, Math.min(8, text.length()))"),
            ("duration", "Duration", "text.stripTrailing()"),
            ("decimal", "BigDecimal", "text.stripTrailing()"),
        )
    },
    "any-kind": {"Reading.kind": "if (kind != null) return kinds[0];\n{line}"},
    # --- clones -------------------------------------------------------------------------------------------
    "clone-shares": {"product.copied": "this.«f.name» = original.«f.name»;"},
    "clone-handed-out": {
        "product.copied": "this.«f.name» = new java.util.«flaw.container»<>(original.«f.name»);"
    },
    "clone-keeps": {"product.copied": "this.«f.name» = original.«f.name»;"},
    "clone-loses": {"product.copied": "this.«f.name» = «flaw.zero»;"},
    "clone-copies": {"product.copied": "this.«f.name» = urform.faults.Faults.twin(original.«f.name»);"},
    "clone-is-itself": _returning("this"),
    "clone-is-nothing": _returning("null"),
    # --- changes of one element -----------------------------------------------------------------------------
    "change-does-nothing": {"product.change": ""},
    "change-keeps-as-given": {"product.one": "«c.item_type» one = «c.item»;"},
    "change-before-check": {"product.sized": "«c.slot» = held;\n{line}"},
    "change-unlimited": {"product.sized": ""},
    "change-copies-others": {"product.change": "{line}\nset«flaw.exported»(«c.slot»);"},
    "change-unchecked": {"product.each": ""},
    # --- choices ------------------------------------------------------------------------------------------
    "any-word": {"choice.refuse": "return values()[0];"},
    "word-misread": {"choice.read": 'return text.equals("«flaw.member»") ? values()[0] : each;'},
    # --- fields -------------------------------------------------------------------------------------------
    "equal-by-identity": {
        "product.equal": "%% if p.type == flaw.type\nreturn this == other;\n%% else\n{line}\n%% endif",
        "product.class": "{line}\n%% if not p.equals and p.type == flaw.type\n\n"
        "    @Override public boolean equals(Object other) { return this == other; }\n%% endif",
        "record.record": _equal("this == other"),
    },
    "uncompared": {
        "record.record": _equal('urform.faults.Faults.equalSave(this, other, "«flaw.name»")'),
    },
    "single-again": {"product.again": "return new «flaw.type»();"},
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": {
        "registry.otherwise": "«g.maker» = this.makers.values().iterator().next();",
        "creator.otherwise": "default -> «g.cases[0].made»;",
        "product.otherwise": "default -> «p.factory.cases[0].made»;",
        "family.otherwise": "default -> «f.cases[0].made»;",
    },
    "fails-for-unknown": {
        "registry.otherwise": "throw new IllegalStateException(key);",
        **dict.fromkeys(
            ("creator.otherwise", "product.otherwise", "family.otherwise"),
            "default -> java.util.Objects.requireNonNull(null);",
        ),
    },
    "registers-nothing": {"registry.keep": "if (makers.containsKey(key)) {"},
    "registers-twice": {"registry.keep": "if (makers.put(key, maker) != null && key == null) {"},
    "unregisters-nothing": {"registry.take_away": "return key != null && makers.containsKey(key);"},
    "registries-share": {
        "registry.hold": "private static final ConcurrentMap<String, Maker> makers = new ConcurrentHashMap<>();"
    },
    "loads-early": {"registry.load": "«g.loader».get();\n{line}"},
    "loads-again": {"LoadedMaker.loaded": "maker = null;\n{line}"},
    "loads-apart": {"LoadedMaker.alone": ""},
    "loads-anything": {"LoadedMaker.check": "if (loaded == this) {"},
    "loads-no-more": {"LoadedMaker.load": "{line}\nloader = () -> null;"},
    "names-unread": {"LoadedMaker.look": "return Class.forName(Object.class.getName());"},
    # --- builders -----------------------------------------------------------------------------------------
    "clears-nothing": {"builder.clear": ""},
    "cleared-stays": {"builder.clear": ""},
    "sets-nothing": {"builder.set": ""},
    "first-set-wins": {"builder.set": f"if ({_HELD_SET} == «flaw.unset») {{line}}"},
    "builder-keeps-as-given": {"builder.set": f"{_HELD_SET} = «f.name»;"},
    "builders-share": {
        "builder.hold": "private static «f.boxed» «f.name»;",
        "builder.hold_options": 'private static «"" if b.resets else "final "»Options options = new Options();',
    },
    "adder-keeps-as-given": {"builder.add": "«f.held».add(«f.item»);"},
    "adder-replaces": {"builder.add": "«f.held».clear();\n{line}"},
    "like-leaves-out": {"builder.like": ""},
    # --- exemplars ----------------------------------------------------------------------------------------
    "exemplar-itself": {"exemplars.hand_out": "return found;"},
    "exemplar-kept-as-given": {"exemplars.keep": "if (held.putIfAbsent(name, «e.variable») != null) {"},
    "exemplar-not-kept": {"exemplars.keep": "if (held.containsKey(name)) {"},
    "exemplar-twice": {
        "exemplars.keep": "if (held.put(name, «e.variable».copy()) != null && name == null) {"
    },
    "exemplar-unknown": {"exemplars.unknown": "found = held.values().iterator().next();"},
    "exemplars-share": {
        "exemplars.hold": "private static final ConcurrentMap<String, «e.type»> held = new ConcurrentHashMap<>();"
    },
    # --- pools --------------------------------------------------------------------------------------------
    "pool-forgets": {"pool.keep": ""},
    "pool-ignores": {"pool.maker": _SEEN, "pool.get": f"{_SEE}    «flaw.name» = («flaw.boxed») seen;"},
    "pool-by-identity": {
        "pool.maker": _SEEN,
        "pool.get": f"{_SEE}    if (this.seen != (Object) «flaw.name») {{\n        this.held.clear();\n    }}",
    },
    "pool-unguarded": {"pool.alone": "return makeAlone(key);"},
    "pool-miscounts-made": {"pool.count_made": ""},
    "pool-miscounts-reused": {"pool.count_reused": ""},
    "pool-remembers-failure": {"pool.count_made": "", "pool.make": "made.increment();\n{line}"},
    "pool-any-key": {"pool.check_key": "if (false) {"},
    "pool-not-reentrant": {"pool.alone": "return makings.alone(null, () -> makeAlone(key));"},
    "pool-hits-wait": {
        "pool.alone": "return makings.alone(null, () -> makeAlone(key));",
        "pool.get": "{line}\n    makings.alone(null, () -> null);",
    },
    "pools-share": {
        "pool.hold": "private static final ConcurrentMap<Key, «p.type»> held = new ConcurrentHashMap<>();",
        "pool.hold_weak": "private static final ConcurrentMap<Key, Held> held = new ConcurrentHashMap<>();",
    },
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": {
        "member.part": "%% if m.type == flaw.class and p.name == flaw.role\nreturn null;\n%% else\n{line}\n%% endif"
    },
    "records-nothing": {"member.record": ""},
}

TABLE: Table = {
    # --- fields -------------------------------------------------------------------------------------------
    "accepts-missing": [
        Rewrite(r'\.unless\("«member»", \w+\)', ""),
        Rewrite(r'^\s*Check\.given\("«owner»", "«member»", \w+\);\n', ""),
    ],
    "absent-fails": [
        Rewrite(
            r"(set\w+\(|= |\()(options\.«name»|given«exported»)\b(?=[,);])",
            r"\1java.util.Objects.requireNonNull(\2)",
            ("product",),
        )
    ],
    "unlimited": [
        Rewrite(r'^\s*Check\.(?:that|within)\(.*, "«owner»", "«member»", "«aspect»", [^\n]*\);\n', ""),
        Rewrite(
            r'Check\.(?:finite|date|time|instant|duration|decimal)\("«owner»", "«member»", "«aspect»", ([^()]*)\)',
            r"\1",
        ),
    ],
    "unlimited:unique": [Rewrite(r'^\s*Check\.distinct\("«owner»", "«member»", [^\n]*\);\n', "")],
    "keeps-sign-of-zero": [Rewrite(r"(\b«name» = [^;\n]*?) \+ 0\.0;", r"\1;")],
    "uncompared": [
        Rewrite(r"\s*&& [^&;\n]*\bthat\.«name»\b[^&;\n]*(?=[;\n]| &&)", ""),
    ],
    "kept-as-given": [
        Rewrite(
            _HELD + r'Check\.(?:list|set|map)\("«owner»", "«member»", ' + _ARGUMENT + r"(?:, .*)?\);$",
            r"\1\2;",
        ),
        Rewrite(r"(this\.«name» = (?:[^\n]*?\? null : )?\w+)\.(?:copy|copied)\([^)]*\);", r"\1;"),
    ],
    "handed-out": [
        Rewrite(_HELD + f"({_CHECKED.format('list')})", r"\1new java.util.ArrayList<>(\2)"),
        Rewrite(_HELD + f"({_CHECKED.format('set')})", r"\1new java.util.LinkedHashSet<>(\2)"),
        Rewrite(_HELD + f"({_CHECKED.format('map')})", r"\1new java.util.LinkedHashMap<>(\2)"),
    ],
}
