"""What each flaw of a plan comes to in Java."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import ListOf, MapOf, SetOf
from urform.languages.java.builders import BuilderNames
from urform.languages.java.expressions import PRIMITIVES, Expressions, is_settled
from urform.languages.java.names import Names
from urform.languages.naming.names import camel, of_family, pascal
from urform.languages.rendering.flaws import Rewrite, Spelled, Table
from urform.plan.model import Flaw, Plan

CONTAINERS: dict[type, str] = {ListOf: "ArrayList", SetOf: "LinkedHashSet", MapOf: "LinkedHashMap"}


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """How Java calls what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        found = {
            "owner": flaw.owner,
            "member": flaw.member,
            "aspect": flaw.aspect,
            "type": names.type(flaw.owner),
            "name": names.member(flaw.member),
            "exported": pascal(flaw.member),
            "variable": names.member(camel(flaw.owner)),
        }
        member, _, role = flaw.member.partition(".")
        found |= {"class": of_family(member, names.type(flaw.owner)), "role": names.member(role)}
        product = plan.products.get(flaw.owner)
        field = next((f for f in product.fields if f.name == flaw.member), None) if product else None
        if product is None or field is None:
            return found
        primitive = PRIMITIVES.get(field.type) if not field.may_be_absent else None
        found["boxed"] = code.boxed(field.type)
        found["container"] = CONTAINERS.get(type(field.type), "")
        found["zero"] = {None: "null", "boolean": "false"}.get(primitive, "0")
        default = field.default if is_settled(plan, product, field) else None
        found["unset"] = code.value(default) if default is not None else "null"
        builder = plan.builder_of(flaw.owner)
        if builder is not None:
            spelt = BuilderNames(names, product, builder)
            found |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return found

    return spelled


_HELD = r"(= (?:[^\n]*?\? null : )?)"
_CHECKED = r'Check\.{}\("«owner»", "«member»", .*\)(?=;$)'
_ARGUMENT = r"((?:[^(),]|\((?:[^()]|\([^()]*\))*\))+)"
# The constructor that copies, up to what it gives to the member; and the method that clones, up to what it returns.
_COPYING = r"(\(\w+ original(?:, [^\n]*)?\) \{\n(?:(?!    \})[^\n]*\n)*?\s*this\.«name» = )[^\n]*;"
_RETURNING = r"(«type» copy\(\) \{\n\s*)return [^\n]*;"
_SETTER = r"((?:Builder|void) «setter»\([^\n]*\) \{\n\s*)"
_RECORD = r"^(public record «type»\(.*\) \{)"
_EQUALS = "\n    @Override public boolean equals(Object other) { return %s; }\n"
_FIRST_CASE = r"(case [^\n]* -> ([^\n]*);\n(?:[^\n]*\n)*?\s*default -> )[^\n]*;"
_NO_MAKER = r"(if \((\w+) == null\) \{\n\s*)(?:throw new CreationException\.UnknownKey|return )[^\n]*"
_GET = r"(public «type» get\([^\n]*\) \{\n)"
_SEEN = Rewrite(r"^(\s*private final Maker maker;)$", r"\1\n    private Object seen;", ("pool",))
_SEE = r"        if (this.seen == null) {\n            this.seen = «name»;\n        }\n"

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
        Rewrite(r'^\s*Check\.that\(.*, "«owner»", "«member»", "«aspect»", [^\n]*\);\n', ""),
        Rewrite(r'Check\.finite\("«owner»", "«member»", "«aspect»", ([^()]*)\)', r"\1"),
    ],
    "keeps-sign-of-zero": [Rewrite(r"(\b«name» = [^;\n]*?) \+ 0\.0;", r"\1;")],
    "uncompared": [
        Rewrite(r"\s*&& [^&;\n]*\bthat\.«name»\b[^&;\n]*(?=[;\n]| &&)", ""),
        Rewrite(_RECORD, r"\1" + _EQUALS % 'urform.faults.Faults.equalSave(this, other, "«name»")'),
    ],
    "equal-by-identity": [
        Rewrite(
            r"(class «type»\b[\s\S]*?public boolean equals\(Object other\) \{\n\s*)return [\s\S]*?;",
            r"\1return this == other;",
        ),
        Rewrite(
            r"\A((?:(?!boolean equals)[\s\S])*?\bclass «type»\b[^\n]*\{\n)(?![\s\S]*boolean equals)",
            r"\1" + _EQUALS % "this == other",
        ),
        Rewrite(_RECORD, r"\1" + _EQUALS % "this == other"),
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
    "single-again": [Rewrite(r"return INSTANCE;", "return new «type»();")],
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": [
        Rewrite(_FIRST_CASE, r"\1\2;"),
        Rewrite(_NO_MAKER, r"\1\2 = this.makers.values().iterator().next();"),
    ],
    "fails-for-unknown": [
        Rewrite(r"default -> [^\n]*;", "default -> java.util.Objects.requireNonNull(null);"),
        Rewrite(_NO_MAKER, r"\1throw new IllegalStateException(key);"),
    ],
    "registers-nothing": [Rewrite(r"makers\.putIfAbsent\(key, maker\) != null", "makers.containsKey(key)")],
    "registers-twice": [
        Rewrite(r"makers\.putIfAbsent\(key, maker\) != null", "makers.put(key, maker) != null && key == null")
    ],
    "unregisters-nothing": [Rewrite(r"makers\.remove\(key\) != null", "makers.containsKey(key)")],
    "registries-share": [
        Rewrite(r"private final (ConcurrentMap<String, Maker>)", r"private static final \1")
    ],
    # --- builders -----------------------------------------------------------------------------------------
    "sets-nothing": [Rewrite(_SETTER + r"[^\n]*\n", r"\1\n", ("builder",))],
    "first-set-wins": [
        Rewrite(_SETTER + r"((?:this\.)?[\w.]+)( = [^\n]*;)", r"\1if (\2 == «unset») \2\3", ("builder",))
    ],
    "builder-keeps-as-given": [
        Rewrite(_SETTER + r"((?:this\.)?[\w.]+ = )[^\n]*;", r"\1\2«name»;", ("builder",))
    ],
    "builders-share": [
        Rewrite(r"^(\s*private )(?=(?:final )?\w+[\w<>, ]* \w+(?: =|;))", r"\1static ", ("builder",))
    ],
    "adder-keeps-as-given": [
        Rewrite(
            r"((?:Builder|void) «adder»\([^\n]*? (\w+)\) \{(?:[^\n]*\n)*?\s*[\w.]+\.add\()[^\n]*\);",
            r"\1\2);",
            ("builder",),
        )
    ],
    "adder-replaces": [
        Rewrite(
            r"((?:Builder|void) «adder»\([\s\S]*?\n\s*)([\w.]+)\.add\(",
            r"\1\2.clear();\n\2.add(",
            ("builder",),
        )
    ],
    "like-leaves-out": [Rewrite(r"^\s*builder\.(?:options\.)?«name» = [^\n]*;\n", "", ("builder",))],
    # --- clones and exemplars -----------------------------------------------------------------------------
    "clone-shares": [Rewrite(_COPYING, r"\1original.«name»;")],
    "clone-handed-out": [Rewrite(_COPYING, r"\1new java.util.«container»<>(original.«name»);")],
    "clone-keeps": [Rewrite(_COPYING, r"\1original.«name»;")],
    "clone-loses": [Rewrite(_COPYING, r"\1«zero»;")],
    "clone-copies": [Rewrite(_COPYING, r"\1urform.faults.Faults.twin(original.«name»);")],
    "clone-is-itself": [Rewrite(_RETURNING, r"\1return this;")],
    "clone-is-nothing": [Rewrite(_RETURNING, r"\1return null;")],
    "exemplar-itself": [Rewrite(r"return found\.copy\(\);", "return found;")],
    "exemplar-kept-as-given": [Rewrite(r"(putIfAbsent\(name, \w+)\.copy\(\)\)", r"\1)")],
    "exemplar-not-kept": [Rewrite(r"held\.putIfAbsent\(name, [^\n]*\) != null", "held.containsKey(name)")],
    "exemplar-twice": [
        Rewrite(r"held\.putIfAbsent\((name, [^\n]*)\) != null", r"held.put(\1) != null && name == null")
    ],
    "exemplar-unknown": [
        Rewrite(
            r"throw new CreationException\.UnknownKey\([^\n]*",
            "found = held.values().iterator().next();",
            ("exemplars",),
        )
    ],
    "exemplars-share": [
        Rewrite(r"private final (ConcurrentMap)", r"private static final \1", ("exemplars",))
    ],
    # --- pools --------------------------------------------------------------------------------------------
    "pool-forgets": [Rewrite(r"^\s*held\.put\(key, [^\n]*\n", "", ("pool",))],
    "pool-ignores": [
        _SEEN,
        Rewrite(_GET, r"\1" + _SEE + "        «name» = («boxed») seen;\n", ("pool",)),
    ],
    "pool-by-identity": [
        _SEEN,
        Rewrite(
            _GET,
            r"\1"
            + _SEE
            + "        if (this.seen != (Object) «name») {\n            this.held.clear();\n        }\n",
            ("pool",),
        ),
    ],
    "pool-unguarded": [Rewrite(r"return makings\.alone\(.*\);", "return makeAlone(key);", ("pool",))],
    "pool-miscounts-made": [Rewrite(r"^\s*made\.increment\(\);\n", "", ("pool",))],
    "pool-miscounts-reused": [Rewrite(r"^\s*(?:this\.)?reused\.increment\(\);\n", "", ("pool",))],
    "pool-remembers-failure": [
        Rewrite(r"^\s*made\.increment\(\);\n", "", ("pool",)),
        Rewrite(r"^(\s*)(«type» product = maker)", r"\1made.increment();\n\1\2", ("pool",)),
    ],
    "pool-any-key": [Rewrite(r"if \(!key\.equals\(.*\)\) \{", "if (false) {", ("pool",))],
    "pool-not-reentrant": [Rewrite(r"makings\.alone\(key,", "makings.alone(null,", ("pool",))],
    "pool-hits-wait": [
        Rewrite(r"makings\.alone\(key,", "makings.alone(null,", ("pool",)),
        Rewrite(_GET, r"\1        makings.alone(null, () -> null);" "\n", ("pool",)),
    ],
    "pools-share": [Rewrite(r"private final (ConcurrentMap<Key)", r"private static final \1", ("pool",))],
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": [
        Rewrite(
            r"(class «class» [\s\S]*? «role»\([^\n]*\) \{\n\s*)return [^\n]*;", r"\1return null;", ("member",)
        )
    ],
    "records-nothing": [Rewrite(r"^\s*asked\.add\([^\n]*\n", "")],
}
