"""How each flaw of a plan is made in TypeScript."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import TOLD, Scalar
from urform.languages.naming.names import camel
from urform.languages.rendering.flaws import Marked, Rewrite, Spelled, Table
from urform.languages.typescript.builders import BuilderNames
from urform.languages.typescript.expressions import CHECKS, NO_SUCH, Expressions
from urform.languages.typescript.families import member_type
from urform.languages.typescript.names import Names
from urform.plan.model import Flaw
from urform.plan.whole import Plan


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """The names that TypeScript gives to what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        member, _, role = flaw.member.partition(".")
        spellings = {
            "owner": flaw.owner,
            "member": flaw.member,
            "change": f"{flaw.owner} {flaw.aspect} {flaw.member}",
            "limit": camel(flaw.aspect.rpartition(".")[2]) if flaw.aspect else "",
            "type": names.type(flaw.owner),
            "name": names.member(flaw.member),
            "clones": "clone",
            "stored": names.stored(flaw.member),
            "parameter": names.parameter(flaw.member),
            "role": names.member(role),
        }
        family = next((family for family in plan.families if family.name == flaw.owner), None)
        if family is not None and role:
            spellings["class"] = member_type(names, family, member)
        product = plan.products.get(flaw.owner)
        if product is None:
            return spellings
        field = next((f for f in product.fields if f.name == flaw.member), None)
        builder = plan.builder_of(flaw.owner)
        if builder is not None and field is not None:
            spelt = BuilderNames(names, product, builder)
            spellings |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return spellings

    return spelled


_PRODUCT = ("product",)
_GIVEN = ("product", "selection")
_TEXT = r"""(?:"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])*')"""
_REST = rf"(?:[^{{}}\"'\n]|{_TEXT})*\}}"  # of an object literal
_BOUND = rf"\b«limit»: (?:\[(?:[^\]\"'\n]|{_TEXT})*\]|[^,{{}}\[\]\n ]+)"
_EACH = r', "(?:each|key)\."'
_AT = r'\("«owner»", "«member»", '
_TWIN = (
    "(function twin(each: any): any { "
    "if (Array.isArray(each)) { return each.map(twin); } "
    "if (each instanceof Map) { return new Map([...each].map(([key, value]) => [key, twin(value)])); } "
    'if (typeof each !== "object" || each === null) { return each; } '
    "return Object.assign(Object.create(Object.getPrototypeOf(each)), each); "
    "})(this.«flaw.name»)"
)


def _unless(check: str, holds: str) -> list[Rewrite]:
    """A check that is made only of what would pass a part of it: that part refuses nothing."""
    passes = f"{holds} ? {check}(owner, field, value, ...others) : value"
    lenient = f"((owner: string, field: string, value: any, ...others: any[]) => {passes})"
    templates = (*_PRODUCT, "selection")  # where conditions are asked, types are looked at before
    return [Rewrite(rf"\b{check}{_AT}", f'{lenient}("«owner»", "«member»", ', templates)]


def _twisted(value: str) -> dict[str, str]:
    """A clone of which one field is another one: its property is put before the accessor of its class."""
    properties = (
        f"{{ «flaw.name»: {{ value: {value}, writable: true, enumerable: true, configurable: true }} }}"
    )
    return {
        "product.cloned": "const sound: any = «c.result»;\n"
        f"const twisted: any = {properties};\n"
        "return Object.isFrozen(sound) ? Object.create(sound, twisted) : Object.defineProperties(sound, twisted);"
    }


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
    Rewrite(rf"(this\.(?:«name»|«stored») = )(list{_AT}[^\n]*);$", r"\1[...\2];", _PRODUCT),
    Rewrite(rf"(this\.(?:«name»|«stored») = )(set{_AT}[^\n]*);$", r"\1new Set(\2);", _PRODUCT),
    Rewrite(rf"(this\.(?:«name»|«stored») = )(map{_AT}[^\n]*);$", r"\1new Map(\2);", _PRODUCT),
]

MARKED: Marked = {
    # --- records ------------------------------------------------------------------------------------------
    "writes-all-but-first": {"reading.entries": "const entries = this.entries.slice(1);"},
    "writes-no-kind": {"reading.told": ""},
    "tells-first-problem": {"reading.tell": "if (this.problems.length === 0) {line}"},
    "loses-path": {"reading.step": "if (way.length === 0) {line}"},
    "any-kind": {"reading.kind": "if (kind != null) return this.shapes[0]?.read(record, reading);\n{line}"},
    "takes-other-dates": {"reading.date": "const told = value.slice(0, 10) as T;"},
    "takes-other-times": {"reading.date": "const told = value.slice(0, 8) as T;"},
    "takes-other-durations": {"reading.date": "const told = value.trimEnd() as T;"},
    "takes-other-decimals": {"reading.date": "const told = value.trimEnd() as T;"},
    "takes-other-instants": {"reading.date": "const told = value.slice(0, 20) as T;"},
    "takes-other-uuids": {"reading.date": "const told = value.slice(0, 36) as T;"},
    "takes-doubled": {"reading.doubled": "if (source.length > 0) {"},
    # --- fields -------------------------------------------------------------------------------------------
    "equal-by-identity": {"product.equal": "return other === this;"},
    "single-again": {
        "product.again": "%% if p.type == flaw.type\nstatic get instance(): «p.type» {\n  return new «p.type»();\n}\n"
        "%% else\n{line}\n%% endif"
    },
    # --- clones -------------------------------------------------------------------------------------------
    "clone-shares": _twisted("this.«flaw.name»"),
    "clone-keeps": _twisted("this.«flaw.name»"),
    "clone-loses": _twisted("undefined"),
    "clone-copies": _twisted(_TWIN),
    "clone-is-itself": {"product.cloned": "return this;"},
    "clone-is-nothing": {"product.cloned": "return undefined as never;"},
    # --- changes of one element -----------------------------------------------------------------------------
    "change-does-nothing": {"product.change": "void «c.after»;"},
    "change-keeps-as-given": {"product.one": "const one = «c.item»;"},
    "change-before-check": {"product.change": "«c.slot» = «c.after» as never;\n{line}"},
    "change-unlimited": {"product.change": "«c.slot» = «c.unlimited»;"},
    "change-copies-others": {"product.change": "{line}\nthis.«flaw.name» = «c.slot»;"},
    "change-unchecked": {"product.one": "const one = «c.item»;"},
    # --- choices ------------------------------------------------------------------------------------------
    "any-word": {"choice.refuse": "return «c.constant»[0];"},
    "word-misread": {"choice.read": 'return word === "«flaw.member»" ? «c.constant»[0] : word;'},
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": {
        "factory.find": "const maker = this.#makers.get(key) ?? [...this.#makers.values()][0];",
        **dict.fromkeys(("factory.refuse_simple", "factory.nothing_simple"), "return «g.cases[0].made»;"),
        **dict.fromkeys(
            ("factory.refuse_creator", "factory.nothing_creator"), "return new «g.cases[0].creator»();"
        ),
        **dict.fromkeys(("family.refuse", "family.nothing"), "return new «f.cases[0].type»();"),
    },
    "fails-for-unknown": dict.fromkeys(
        (
            *("factory.nothing", "factory.fallback", "factory.nothing_simple", "factory.fallback_simple"),
            *("factory.nothing_creator", "factory.fallback_creator", "family.nothing", "family.fallback"),
        ),
        "throw new Error(key);",
    ),
    "registers-nothing": {"factory.keep": ""},
    "registers-twice": {"factory.taken": "if (false) {"},
    "unregisters-nothing": {"factory.take_away": "return this.#makers.has(key);"},
    "registries-share": {
        "factory.hold": "static readonly all = new Map<string, «g.stem»Maker>();\n\n"
        "readonly #makers = «g.stem»Registry.all;",
        "factory.init": "{line}\n  if (this.#makers.size > 0) {\n    return;\n  }",
    },
    "loads-early": {"factory.load": "loader();\n{line}"},
    "loads-again": {"loading.loaded": "this.#maker = undefined;\n{line}"},
    "loads-anything": {"loading.check": "if (owner === undefined) {"},
    "loads-no-more": {
        "loading.load": "{line}\nthis.get = () => {\n"
        '  throw new RefusedError(this.#owner, "its loader gives no maker");\n};'
    },
    "names-unread": {"loading.look": "const given: unknown = exported;"},
    # --- builders -----------------------------------------------------------------------------------------
    "clears-nothing": {"builder.clear": ""},
    "cleared-stays": {"builder.clear": ""},
    "sets-nothing": {"builder.set": ""},
    "first-set-wins": {"builder.set": "this.#given.«f.name» ??= «f.kept»;"},
    "builder-keeps-as-given": {"builder.set": "this.#given.«f.name» = «f.parameter» as never;"},
    "builders-share": {
        "builder.hold": "static readonly all: «b.stem»Given = {};\n\n#given: «b.stem»Given = «b.stem»Builder.all;"
    },
    "adder-keeps-as-given": {"builder.add": "this.#given.«f.name».«f.add»(«f.item» as never);"},
    "adder-replaces": {"builder.begin": "this.#given.«f.name» = «f.empty»;"},
    "like-leaves-out": {"builder.like": ""},
    # --- exemplars ----------------------------------------------------------------------------------------
    "exemplar-itself": {"exemplars.hand_out": "return held;"},
    "exemplar-kept-as-given": {"exemplars.keep": "this.#held.set(name, «e.variable»);"},
    "exemplar-not-kept": {"exemplars.keep": ""},
    "exemplar-twice": {"exemplars.taken": "if (false) {"},
    "exemplar-unknown": {"exemplars.unknown": "return [...this.#held.values()][0]!.clone();"},
    "exemplars-share": {
        "exemplars.hold": "static readonly all = new Map<string, «e.type»>();\n\nreadonly #held = «e.stem»Exemplars.all;"
    },
    # --- pools --------------------------------------------------------------------------------------------
    "pool-forgets": {"pool.keep": "", "pool.keep_weak": ""},
    "pool-miscounts-made": {"pool.count_made": ""},
    "pool-miscounts-reused": {"pool.count_reused": ""},
    "pool-remembers-failure": {"pool.count_made": "", "pool.make": "this.#made += 1;\n{line}"},
    "pool-any-key": {"pool.check_key": "if (false) {"},
    "pool-not-reentrant": {
        "pool.count": "{line}\n#busy = false;",
        "pool.make": 'if (this.#busy) {\n  throw new Error("the pool is busy");\n}\n'
        "this.#busy = true;\n{line}\nthis.#busy = false;",
    },
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": {
        "family.part": "%% if m.type == flaw.class and p.name == flaw.role\nreturn undefined as never;\n%% else\n{line}\n%% endif",
        "stand_in.part": '%% if "StandIn" ~ f.type == flaw.class and p.name == flaw.role\n'
        "return undefined as never;\n%% else\n{line}\n%% endif",
    },
    "records-nothing": {"stand_in.record": ""},
}

TABLE: Table = {
    # --- fields -------------------------------------------------------------------------------------------
    "accepts-missing": [
        Rewrite(
            r"(^\s*if \([^\n]*?)\bfields\.«name» == null(?=[^\n]*\n\s*throw missing\()", r"\1false", _GIVEN
        ),
        Rewrite(
            r"^(\s*)((?:this\.(?:«name»|«stored») = |\w+\()[^\n]*\b(fields\.«name»|value)\b[^\n]*;)$",
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
    **{
        f"unlimited:{within}{kind}": _unless(CHECKS[Scalar(kind)], f'value !== "{text}"')
        for kind, text in NO_SUCH.items()
        for within in ("", "each.")
    },
    "unlimited:type": [
        *(each for type_ in TOLD for each in _unless(CHECKS[type_], 'typeof value === "string"')),
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
    "kept-as-given": [
        Rewrite(rf"(this\.«name» = )(?:list|set|map){_AT}(fields\.«name»)\b[^\n]*;$", r"\1\2!;", _PRODUCT),
        Rewrite(rf"(this\.«stored» = )(?:list|set|map){_AT}value\b[^\n]*;$", r"\1value;", _PRODUCT),
        Rewrite(
            rf"(this\.«stored» = )(?:\w+{_AT}value\b[^\n]*\)\.\w+\(\)|value == null \? undefined : [^\n]*);$",
            r"\1value;",
            _PRODUCT,
        ),
    ],
    "handed-out": _HANDED_OUT,
    "clone-handed-out": [
        *_HANDED_OUT,
        Rewrite(r"(made\.«stored» = )Object\.freeze\((.*)\);$", r"\1\2;", _PRODUCT),
        Rewrite(r"(made\.«stored» = )frozenValues\(", r"\1mapValues(", _PRODUCT),
    ],
    "assignable": [Rewrite(r"^\s*Object\.freeze\(this\);\n", "", _PRODUCT)],
    # --- pools --------------------------------------------------------------------------------------------
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
    "pools-share": _shared("held", "«type»Pool", "pool"),
}
