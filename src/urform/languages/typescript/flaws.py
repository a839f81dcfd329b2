"""What each flaw of a plan comes to in TypeScript."""

from __future__ import annotations

from collections.abc import Callable

from urform.languages.naming.names import camel
from urform.languages.rendering.flaws import Rewrite, Spelled, Table
from urform.languages.typescript.builders import BuilderNames
from urform.languages.typescript.expressions import Expressions
from urform.languages.typescript.families import member_type
from urform.languages.typescript.names import Names
from urform.plan.model import Flaw, Plan


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """How TypeScript calls what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        member, _, role = flaw.member.partition(".")
        found = {
            "owner": flaw.owner,
            "member": flaw.member,
            "limit": camel(flaw.aspect.rpartition(".")[2]) if flaw.aspect else "",
            "type": names.type(flaw.owner),
            "name": names.member(flaw.member),
            "parameter": names.parameter(flaw.member),
            "role": names.member(role),
        }
        family = next((family for family in plan.families if family.name == flaw.owner), None)
        if family is not None and role:
            found["class"] = member_type(names, family, member)
        product = plan.products.get(flaw.owner)
        if product is None:
            return found
        found["clone"] = code.copying.clone(product)
        field = next((f for f in product.fields if f.name == flaw.member), None)
        builder = plan.builder_of(flaw.owner)
        if builder is not None and field is not None:
            spelt = BuilderNames(names, product, builder)
            found |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return found

    return spelled


_PRODUCT = ("product",)
_GIVEN = ("product", "selection")
_TEXT = r"""(?:"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])*')"""
_REST = rf"(?:[^{{}}\"'\n]|{_TEXT})*\}}"  # of an object literal
_BOUND = rf"\b«limit»: (?:\[(?:[^\]\"'\n]|{_TEXT})*\]|[^,{{}}\[\]\n ]+)"
_EACH = r', "(?:each|key)\."'
_AT = r'\("«owner»", "«member»", '
_SETTER = r"(  «setter»\([^\n]*\{\n\s*)"
_FIRST_CASE = r"(case [^\n]*:\n\s*return ([^\n]*);\n(?:[^\n]*\n)*?\s*default:\n\s*)[^\n]*;"
_CLONING = r"(«clone»\(\): \w+ \{\n(?:(?!  \})[^\n]*\n)*?\s*)return ([^\n]*);"
_TWIN = (
    "(function twin(each: any): any { "
    "if (Array.isArray(each)) { return each.map(twin); } "
    "if (each instanceof Map) { return new Map([...each].map(([key, value]) => [key, twin(value)])); } "
    'if (typeof each !== "object" || each === null) { return each; } '
    "return Object.assign(Object.create(Object.getPrototypeOf(each)), each); "
    "})(this.«name»)"
)


def _unless(check: str, holds: str) -> list[Rewrite]:
    """A check that is made only of what would pass a part of it: that part refuses nothing."""
    passes = f"{holds} ? {check}(owner, field, value, ...others) : value"
    lenient = f"((owner: string, field: string, value: any, ...others: any[]) => {passes})"
    templates = (*_PRODUCT, "selection")  # where conditions are asked, types are looked at before
    return [Rewrite(rf"\b{check}{_AT}", f'{lenient}("«owner»", "«member»", ', templates)]


def _twisted(value: str) -> list[Rewrite]:
    """A clone of which one field is another one: its property is put before the accessor of its class."""
    properties = f"{{ «name»: {{ value: {value}, writable: true, enumerable: true, configurable: true }} }}"
    return [
        Rewrite(
            _CLONING,
            rf"\1const sound: any = \2;\n    const twisted: any = {properties};\n"
            r"    return Object.isFrozen(sound) ? Object.create(sound, twisted) : Object.defineProperties(sound, twisted);",
            _PRODUCT,
        )
    ]


def _shared(member: str, type_: str, template: str) -> list[Rewrite]:
    """What each object has becomes one for all."""
    return [
        Rewrite(
            rf"  readonly #{member} = (new Map<(?:\n(?:    [^\n]*\n)+  >\(\)|[^\n]*));",
            rf"  static readonly all = \1;\n\n  readonly #{member} = {type_}.all;",
            (template,),
        )
    ]


_HANDED_OUT = [
    Rewrite(rf"(this\.#?«name» = )(list{_AT}[^\n]*);$", r"\1[...\2];", _PRODUCT),
    Rewrite(rf"(this\.#?«name» = )(set{_AT}[^\n]*);$", r"\1new Set(\2);", _PRODUCT),
    Rewrite(rf"(this\.#?«name» = )(map{_AT}[^\n]*);$", r"\1new Map(\2);", _PRODUCT),
]

TABLE: Table = {
    # --- fields -------------------------------------------------------------------------------------------
    "accepts-missing": [
        Rewrite(
            r"(^\s*if \([^\n]*?)\bfields\.«name» == null(?=[^\n]*\n\s*throw missing\()", r"\1false", _GIVEN
        ),
        Rewrite(
            r"^(\s*)((?:this\.#?«name» = |\w+\()[^\n]*\b(fields\.«name»|value)\b[^\n]*;)$",
            r"\1if (\3 != null) {\n\1  \2\n\1}",
            _GIVEN,
        ),
    ],
    "absent-fails": [
        Rewrite(
            r"^(\s*this\.«name» = [^\n]*?)fields\.«name»\b",
            r'\1[fields.«name»].map((each) => { if (each === undefined) { throw new Error("left out"); } return each; })[0]',
            _PRODUCT,
        )
    ],
    "unlimited": [Rewrite(rf"({_AT}[^\n]*){_BOUND}(?:, )?(?={_REST}(?!{_EACH}))", r"\1", _PRODUCT)],
    "unlimited:each.": [Rewrite(rf"({_AT}[^\n]*){_BOUND}(?:, )?(?={_REST}{_EACH})", r"\1", _PRODUCT)],
    **{f"unlimited:{within}finite": _unless("real", "Number.isFinite(value)") for within in ("", "each.")},
    "keeps-sign-of-zero": [
        Rewrite(
            rf"\breal{_AT}",
            "((owner: string, field: string, value: any, ...others: any[]) => "
            '{ (real as any)(owner, field, value, ...others); return value; })("«owner»", "«member»", ',
            _PRODUCT,
        )
    ],
    "unlimited:type": [
        *_unless("integer", "Number.isSafeInteger(value)"),
        *_unless("real", 'typeof value === "number"'),
        *_unless("number", 'typeof value === "number"'),
        *_unless("text", 'typeof value === "string"'),
        *_unless("truth", 'typeof value === "boolean"'),
        *_unless("instance", "value instanceof others[0]"),
        *_unless("confirmed", "others[0](value)"),
        *_unless("list", "Array.isArray(value)"),
        *_unless("set", "value instanceof Set"),
        *_unless("map", "value instanceof Map"),
    ],
    **{
        f"unlimited:{within}choice": _unless("choice", "others[0].includes(value)")
        for within in ("", "each.")
    },
    "uncompared": [
        Rewrite(r" && (?:this\.«name» === other\.«name»|same\(this\.«name», other\.«name»\))", "", _PRODUCT)
    ],
    "equal-by-identity": [
        Rewrite(r"(equals\(other: unknown\): boolean \{\n\s*return )[^\n]*;", r"\1other === this;", _PRODUCT)
    ],
    "kept-as-given": [
        Rewrite(rf"(this\.«name» = )(?:list|set|map){_AT}(fields\.«name»)\b[^\n]*;$", r"\1\2!;", _PRODUCT),
        Rewrite(rf"(this\.#«name» = )(?:list|set|map){_AT}value\b[^\n]*;$", r"\1value;", _PRODUCT),
        Rewrite(
            rf"(this\.#«name» = )(?:\w+{_AT}value\b[^\n]*\)\.\w+\(\)|value == null \? undefined : [^\n]*);$",
            r"\1value;",
            _PRODUCT,
        ),
    ],
    "handed-out": _HANDED_OUT,
    "clone-handed-out": [
        *_HANDED_OUT,
        Rewrite(r"(made\.#«name» = )Object\.freeze\((.*)\);$", r"\1\2;", _PRODUCT),
        Rewrite(r"(made\.#«name» = )frozenValues\(", r"\1mapValues(", _PRODUCT),
    ],
    "assignable": [Rewrite(r"^\s*Object\.freeze\(this\);\n", "", _PRODUCT)],
    "single-again": [
        Rewrite(
            r"static readonly instance = new «type»\(\);",
            r"static get instance(): «type» {\n    return new «type»();\n  }",
            _PRODUCT,
        )
    ],
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": [
        Rewrite(_FIRST_CASE, r"\1return \2;"),
        Rewrite(r"(const maker = this\.#makers\.get\(key\));", r"\1 ?? [...this.#makers.values()][0];"),
    ],
    "fails-for-unknown": [
        Rewrite(r"(default:\n\s*)[^\n]*;", r"\1throw new Error(key);"),
        Rewrite(r"(if \(maker === undefined\) \{\n\s*)[^\n]*", r"\1throw new Error(key);"),
    ],
    "registers-nothing": [Rewrite(r"^\s*this\.#makers\.set\(key, maker\);\n", "")],
    "registers-twice": [Rewrite(r"if \(this\.#makers\.has\(key\)\)", "if (false)")],
    "unregisters-nothing": [Rewrite(r"this\.#makers\.delete\(key\)", "this.#makers.has(key)")],
    "registries-share": [
        *_shared("makers", "«type»Registry", "factory"),
        Rewrite(
            r"(constructor\(\) \{\n)",
            r"\1    if (this.#makers.size > 0) {\n      return;\n    }\n",
            ("factory",),
        ),
    ],
    # --- builders -----------------------------------------------------------------------------------------
    "sets-nothing": [Rewrite(_SETTER + r"this\.#given[^\n]*\n", r"\1\n", ("builder",))],
    "first-set-wins": [Rewrite(_SETTER + r"(this\.#given\.«name») = ", r"\1\2 ??= ", ("builder",))],
    "builder-keeps-as-given": [
        Rewrite(_SETTER + r"(this\.#given\.«name» = )[^\n]*;", r"\1\2«parameter» as never;", ("builder",))
    ],
    "builders-share": [
        Rewrite(
            r"  #given: (\w+) = \{\};",
            r"  static readonly all: \1 = {};\n\n  #given: \1 = «type»Builder.all;",
            ("builder",),
        )
    ],
    "adder-keeps-as-given": [
        Rewrite(
            r"( «adder»\((\w+): [^\n]*\{\n[^\n]*\n\s*this\.#given\.\w+\.(?:add|push)\()[^\n]*\);",
            r"\1\2 as never);",
            ("builder",),
        )
    ],
    "adder-replaces": [
        Rewrite(r"(  «adder»\([^\n]*\{\n\s*this\.#given\.«name») \?\?= ", r"\1 = ", ("builder",))
    ],
    "like-leaves-out": [Rewrite(r"^\s*builder\.«setter»\(\w+\.«name»\);\n", "", ("builder",))],
    # --- clones and exemplars -----------------------------------------------------------------------------
    "clone-shares": _twisted("this.«name»"),
    "clone-keeps": _twisted("this.«name»"),
    "clone-loses": _twisted("undefined"),
    "clone-copies": _twisted(_TWIN),
    "clone-is-itself": [Rewrite(_CLONING, r"\1return this;", _PRODUCT)],
    "clone-is-nothing": [Rewrite(_CLONING, r"\1return undefined as never;", _PRODUCT)],
    "exemplar-itself": [Rewrite(r"return held\.clone\(\);", "return held;", ("exemplars",))],
    "exemplar-kept-as-given": [Rewrite(r"(#held\.set\(name, \w+)\.clone\(\)\)", r"\1)", ("exemplars",))],
    "exemplar-not-kept": [Rewrite(r"^\s*this\.#held\.set\(name, [^\n]*\n", "", ("exemplars",))],
    "exemplar-twice": [Rewrite(r"if \(this\.#held\.has\(name\)\)", "if (false)", ("exemplars",))],
    "exemplar-unknown": [
        Rewrite(
            r"throw new UnknownKeyError\([^\n]*",
            "return [...this.#held.values()][0]!.clone();",
            ("exemplars",),
        )
    ],
    "exemplars-share": _shared("held", "«type»Exemplars", "exemplars"),
    # --- pools --------------------------------------------------------------------------------------------
    "pool-forgets": [Rewrite(r"^\s*(?:this\.#)?held\.set\([^\n]*\n", "", ("pool",))],
    "pool-ignores": [
        Rewrite(
            r"^(\s*(?:const (?:held|by\w+) = |held\.set\()[^\n]*)\bkey\.«name»(?=[,)])",
            r"\1(undefined as never)",
            ("pool",),
        ),
        Rewrite(r"(const whole = JSON\.stringify\([^\n]*)\bkey\.«name»(?=[,\]])", r"\1null", ("pool",)),
        Rewrite(
            r"this\.#held\.(get|set)\(«parameter»(?=[,)])", r"this.#held.\1(undefined as never", ("pool",)
        ),
    ],
    "pool-by-identity": [
        Rewrite(
            r"const held = by\w+\?\.get\(key\.[^\n]*?\)(\?\.deref\(\))?;",
            r"const held = (this.#held as any).get(key)\1;",
            ("pool",),
        ),
        Rewrite(r"const held = (?:within\()+this\.#held,[^\n]*;", "const held: any = this.#held;", ("pool",)),
        Rewrite(r"const whole = JSON\.stringify\([^\n]*\);", "const whole = key as never;", ("pool",)),
        Rewrite(r"^(\s*)held\.set\(key\.\w+", r"\1held.set(key", ("pool",)),
        Rewrite(
            r"this\.#held\.(get|set)\(«parameter»(?=[,)])", r"this.#held.\1(Object(«parameter»)", ("pool",)
        ),
    ],
    "pool-miscounts-made": [Rewrite(r"^\s*this\.#made \+= 1;\n", "", ("pool",))],
    "pool-miscounts-reused": [Rewrite(r"^\s*this\.#reused \+= 1;\n", "", ("pool",))],
    "pool-remembers-failure": [
        Rewrite(r"^\s*this\.#made \+= 1;\n", "", ("pool",)),
        Rewrite(r"^(\s*)(const \w+ = this\.#maker)", r"\1this.#made += 1;\n\1\2", ("pool",)),
    ],
    "pool-any-key": [Rewrite(r"if \(\w+\.\w+ !== [^\n]*\) \{", "if (false) {", ("pool",))],
    "pool-not-reentrant": [
        Rewrite(r"^  #made = 0;$", "  #made = 0;\n  #busy = false;", ("pool",)),
        Rewrite(
            r"^(\s*)(const \w+ = this\.#maker[^\n]*)$",
            r'\1if (this.#busy) {\n\1  throw new Error("the pool is busy");\n\1}\n'
            r"\1this.#busy = true;\n\1\2\n\1this.#busy = false;",
            ("pool",),
        ),
    ],
    "pools-share": _shared("held", "«type»Pool", "pool"),
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": [
        Rewrite(
            r"(class «class» [\s\S]*?  «role»\([^\n]*\{\n(?:\s*this\.asked[^\n]*\n)?\s*)return [^\n]*;",
            r"\1return undefined as never;",
            ("family", "stand_in"),
        )
    ],
    "records-nothing": [Rewrite(r"^\s*this\.asked\.push\([^\n]*\n", "", ("stand_in",))],
}
