"""How each flaw of a plan is made in Go."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import Collection
from urform.languages.go.builders import BuilderNames
from urform.languages.go.expressions import Expressions
from urform.languages.go.families import role_of
from urform.languages.go.names import Names
from urform.languages.go.stores import pool_receiver, store_receiver
from urform.languages.naming.names import of_family, pascal
from urform.languages.rendering.flaws import Marked, Rewrite, Spelled, Table
from urform.plan.model import Field, Flaw
from urform.plan.whole import Plan


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """The names that Go gives to what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        member, _, role = flaw.member.partition(".")
        spellings = {
            "owner": flaw.owner,
            "member": flaw.member,
            "change": f"{flaw.owner} {flaw.aspect} {flaw.member}",
            "aspect": flaw.aspect,
            "type": names.type(flaw.owner),
            "name": names.stored(flaw.member),
            "cloned": names.stored(flaw.member),
            "clones": "clone",
            "local": names.local(flaw.member),
            "exported": pascal(flaw.member),
            "class": of_family(member, names.type(flaw.owner)),
            "role": role_of(role),
        }
        product = plan.products.get(flaw.owner)
        if product is None:
            return spellings
        spellings["store"] = store_receiver(names, product)
        pool = plan.pool_of(product.name)
        spellings["pool"] = pool_receiver(names, pool) if pool is not None else ""
        field = next((f for f in product.fields if f.name == flaw.member), None)
        if field is None:
            return spellings
        spellings |= {"stored": code.stored(field), "plain": code.type(field.type)}
        spellings["twin"] = _twin(names, code, field)
        builder = plan.builder_of(flaw.owner)
        if builder is not None:
            spelt = BuilderNames(product, builder)
            spellings |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return spellings

    return spelled


def _twin(names: Names, code: Expressions, field: Field) -> str:
    """Statements that put copies of the products in a field of a clone in their place."""
    stored = f"made.{names.stored(field.name)}"
    type_ = code.type(field.type.element if isinstance(field.type, Collection) else field.type)
    copied = (
        "twin := reflect.New(reflect.TypeOf({0}).Elem())\n{1}twin.Elem().Set(reflect.ValueOf({0}).Elem())\n"
        f"{{1}}{{2}} = twin.Interface().({type_})\n"
    )
    if not isinstance(field.type, Collection):
        return f"if {stored} != nil {{\n\t\t{copied.format(stored, chr(9) * 2, stored)}\t}}"
    loop = copied.format("each", "\t\t", "twins[key]")
    whole = f"twins := {'maps' if stored and _is_map(code, field) else 'slices'}.Clone({stored})\n"
    return f"{whole}\tfor key, each := range twins {{\n\t\t{loop}\t}}\n\t{stored} = twins"


def _is_map(code: Expressions, field: Field) -> bool:
    return code.type(field.type).startswith("map[")


_MISSING = r'&MissingError\{Owner: "[^"]*", Fields: \[\]string\{"«member»"\}\}'
_LIMIT = r'&LimitError\{Owner: "«owner»", Field: "«member»", Limit: "«aspect»"[,}]'
_LITERAL = r"\{(?:[^\n{}]|\{(?:[^\n{}]|\{[^\n{}]*\})*\})*\}"  # a function's body, which may hold two more
_PARTS = rf"(?:[^&\n{{}}]|{_LITERAL})*?"  # of a condition, function literals included
_PRODUCTS = ("product", "abstract")

_SEEN = "seen«p.type»[«p.receiver»]"
_GET = (
    "var seen«p.type» = map[*«p.type»Pool]any{}\n\n"
    f"{{line}}\n\tif {_SEEN} == nil {{\n\t\t{_SEEN} = {{seen}}\n\t}}\n"
)
_STRING = "unsafe.StringData(«flaw.local»)"
_WAIT = "{line}\n\tfor busy := true; busy; {\n\t\tp.mu.Lock()\n\t\tbusy = len(p.calls) > 0\n\t\tp.mu.Unlock()\n\t}"


def _cloning(value: str) -> dict[str, str]:
    """Another thing that a clone is, of just this type: what follows is never reached."""
    return {"product.cloning": f"{{line}}\n%% if p.type == flaw.type\n\treturn {value}\n%% endif"}


MARKED: Marked = {
    # --- records ------------------------------------------------------------------------------------------
    "writes-all-but-first": {
        "records.entries": "if len(t) > «p.first» {\n\tt = append(t[:«p.first»], t[«p.first + 1»:]...)\n}\n{line}"
    },
    "writes-no-kind": {"records.told": ""},
    "tells-first-problem": {"reading.tell": "if len(r.problems) == 0 {\n\t{line}\n}"},
    "loses-path": {"reading.step": "if p.up.up != nil {\n\treturn p.up.path()\n}\n{line}"},
    "any-kind": {"reading.kind": "if values[name] != nil {\n\treturn kinds[0]\n}\n{line}"},
    "takes-other-uuids": {"reading.uuid": "uuid, err := ParseUUID(text[:min(len(text), 36)])"},
    **{
        f"takes-other-{kind}s": {
            f"reading.{kind}": f"parse := func(text string) ({type_}, error) {{ return {parse}({cut}) }}"
        }
        for kind, type_, parse, cut in (
            ("date", "CalendarDate", "ParseCalendarDate", "text[:min(len(text), 10)]"),
            ("time", "TimeOfDay", "ParseTimeOfDay", "text[:min(len(text), 8)]"),
            ("instant", "time.Time", "recordTime", "text[:min(len(text), 20)]"),
            ("duration", "time.Duration", "recordTimeOfUnits", "strings.TrimSpace(text)"),
            ("decimal", "Decimal", "ParseDecimal", "strings.TrimSpace(text)"),
        )
    },
    "takes-doubled": {"reading.doubled": "if namesIn(text) > 0 {"},
    # --- fields -------------------------------------------------------------------------------------------
    "equal-by-identity": {
        "product.equal": "{line}\n%% if p.type == flaw.type\n\treturn any(other) == any(«p.letter»)\n%% endif"
    },
    # --- clones -------------------------------------------------------------------------------------------
    "clone-shares": {"product.copied": ""},
    "clone-keeps": {"product.copied": ""},
    "clone-loses": {"product.cloned": "made.«flaw.name» = *new(«flaw.stored»)\n{line}"},
    "clone-copies": {"product.cloned": "«flaw.twin»\n{line}"},
    "clone-is-itself": _cloning("«p.letter»"),
    "clone-is-nothing": _cloning("nil"),
    # --- changes of one element -----------------------------------------------------------------------------
    "change-does-nothing": {"changes.change": "_ = held", "changes.directly": "_ = «c.begin»"},
    "change-keeps-as-given": {
        "changes.begin": "held := «c.begin_as_given»",
        "changes.then": "«c.then_as_given»",
        "changes.directly": "«c.slot» = «c.begin_as_given»",
    },
    "change-before-check": {"changes.sized": "%% if loop.first\n«c.slot» = held\n%% endif\n{line}"},
    "change-unlimited": {"changes.sized": ""},
    "change-copies-others": dict.fromkeys(
        ("changes.change", "changes.directly"), "{line}\n«c.receiver[0]».Set«flaw.exported»(«c.slot»)"
    ),
    "change-unchecked": {"changes.each": ""},
    # --- choices ------------------------------------------------------------------------------------------
    "any-word": {"choice.check": 'if text == "" {'},
    "word-misread": {
        "choice.read": 'if text == "«flaw.member»" {\n\tword = «c.words[0].name»\n}\n{line}',
    },
    "word-unlisted": {"choice.list": "{line}[:«(c.words | length) - 1»]"},
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": {
        "factory.otherwise": "for _, maker = range r.makers {\n\tbreak\n}",
        "factory.otherwise_simple": "return «g.cases[0].made»",
        "factory.otherwise_creator": "return «g.cases[0].creator»",
        "family.otherwise": "return «f.cases[0].made»",
    },
    "fails-for-unknown": dict.fromkeys(
        (
            *("factory.otherwise", "factory.otherwise_simple", "factory.otherwise_creator"),
            "family.otherwise",
        ),
        "panic(key)",
    ),
    "registers-nothing": {"factory.keep": "_ = maker"},
    "registers-twice": {"factory.taken": 'if _, taken := r.makers[key]; taken && key == "" {'},
    "unregisters-nothing": {"factory.take_away": ""},
    "registries-share": {
        "factory.new": "var all«g.type»Registry = map[string]«g.type»Maker{\n"
        "%% for kind in g.kinds\n\t«kind.key»: «kind.maker»,\n%% endfor\n}\n\n{line}",
        "factory.hold": "return &«g.type»Registry{makers: all«g.type»Registry}",
        "factory.entry": "",
        "factory.held": "",
    },
    "loads-early": {"factory.load": "if _, err := loader(); err != nil {\n\treturn err\n}\n{line}"},
    "loads-again": {"loading.loaded": "l.loaded.Store(nil)\n{line}"},
    "loads-apart": {"loading.alone": ""},
    "loads-anything": {"factory.check": 'if err == nil && maker == nil && key == "" {'},
    "loads-no-more": {"loading.load": "{line}\nl.load = func() (T, error) { return maker, err }"},
    # --- builders -----------------------------------------------------------------------------------------
    "clears-nothing": {"builder.clear": ""},
    "cleared-stays": {"builder.clear": ""},
    "sets-nothing": {"builder.set": ""},
    "first-set-wins": {"builder.set": "if reflect.ValueOf(b.«f.held»).IsZero() {\n\t{line}\n}"},
    "builder-keeps-as-given": {"builder.set": "b.«f.held» = «flaw.local»"},
    "builders-share": {
        "builder.new": "var all«b.type» = &«b.type»Builder{}\n\n"
        "func New«b.type»Builder() *«b.type»Builder { return all«b.type» }"
    },
    "adder-keeps-as-given": {"builder.add": "b.«f.held» = append(b.«f.held», «f.item»)"},
    "adder-replaces": {"builder.add": "b.«f.held» = append(b.«f.held»[:0:0], «f.item_kept»)"},
    "like-leaves-out": {"builder.like": '«"_ = like" if loop.first else ""»'},
    # --- exemplars ----------------------------------------------------------------------------------------
    "exemplar-itself": {"exemplars.hand_out": "return held, nil"},
    "exemplar-kept-as-given": {"exemplars.copy": "kept := «e.variable»"},
    "exemplar-not-kept": {"exemplars.keep": "_ = kept"},
    "exemplar-twice": {"exemplars.taken": 'if _, taken := «e.receiver».held[name]; taken && name == "" {'},
    "exemplar-unknown": {"exemplars.unknown": "for _, held = range «e.receiver».held {\n\tbreak\n}"},
    "exemplars-share": {
        "exemplars.new": "var all«e.type»Exemplars = map[string]«e.pointer»{\n"
        '%% for each in e.held\n\t"«each.name»": «each.made»,\n%% endfor\n}\n\n{line}',
        "exemplars.hold": "return &«e.type»Exemplars{held: all«e.type»Exemplars}",
        "exemplars.entry": "",
        "exemplars.held": "",
    },
    # --- pools: most of their code serves all of them -------------------------------------------------------
    "pool-forgets": {"pools.keep": "_ = keep"},
    "pool-ignores": {
        "pool.get": _GET.replace("{seen}", "«flaw.local»") + f"\t«flaw.local» = {_SEEN}.(«flaw.plain»)"
    },
    "pool-by-identity": {
        "pool.get": _GET.replace("{seen}", _STRING) + f"\tif {_SEEN} != any({_STRING}) {{\n"
        "\t\t«p.receiver».pool.held.Range(func(held, _ any) bool {\n"
        "\t\t\t«p.receiver».pool.held.Delete(held)\n\t\t\treturn true\n\t\t})\n\t}"
    },
    "pool-unguarded": {"pools.guard": "if under, found := m.calls[key]; found && m.mu.TryLock() {"},
    "pool-miscounts-made": {"pools.count_made": ""},
    "pool-miscounts-reused": {"pools.count_reused": "", "weak_pools.count_reused": ""},
    "pool-remembers-failure": {"pools.made": "if true {"},
    "pool-any-key": {"pool.check_key": "if err == nil && made == nil {"},
    "pool-not-reentrant": {"pools.unlock": "", "pools.lock_again": ""},
    "pool-hits-wait": {"pools.hit": _WAIT, "weak_pools.hit": _WAIT},
    "pools-share": {
        "pool.struct": 'var shared«p.type» «"weakPool" if p.weak else "pool"»[«p.key_type», «p.type»]\n\n{line}',
        "pool.hit": "if held := shared«p.type».hit(key); held != nil {",
        "pool.hit_alone": "if held := shared«p.type».hit(«p.key»); held != nil {",
        "pool.miss": 'return shared«p.type».miss("«p.owner»", «"key" if p.key_struct else p.key», func() (*«p.type», error) {',
        "pool.made": "func («p.receiver» *«p.type»Pool) Made() int64 { return shared«p.type».made.Load() }",
        "pool.reused": "func («p.receiver» *«p.type»Pool) Reused() int64 { return shared«p.type».reused.Load() }",
    },
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": {
        "family.part": "{line}\n%% if m.type == flaw.class and p.name == flaw.role\n"
        '\treturn nil«", nil" if p.result.endswith(", error)") else ""»\n%% endif'
    },
    "records-nothing": {"stand_in.record": ""},
}

TABLE: Table = {
    # --- fields -------------------------------------------------------------------------------------------
    "accepts-missing": [
        Rewrite(r"if ([\w.]+) == nil (\{\n\t*return [^\n]*" + _MISSING + ")", r"if \1 == nil && false \2"),
        Rewrite(r"case ([^\n]*):(\n\t*return [^\n]*" + _MISSING + ")", r"case []bool{\1, false}[1]:\2"),
        Rewrite(r'given\{"«member»", [^}]*\}', 'given{"«member»", true}'),
    ],
    "absent-fails": [
        Rewrite(
            r"^(func (?:New|new)«type»(?:Fields)?\([^\n]*\bopts [^\n]*\{\n)",
            '\\1\tif opts.«exported» == nil {\n\t\tpanic("absent")\n\t}\n',
            _PRODUCTS,
        )
    ],
    "unlimited": [
        Rewrite(
            r"(case|if) ([^\n]*?)(:| \{)(\n\t*return [^\n]*" + _LIMIT + ")", r"\1 []bool{\2, false}[1]\3\4"
        )
    ],
    "keeps-sign-of-zero": [
        Rewrite(r"(\b«name»(?: =|:) *)zeroedCopy\(", r"\1copyOf(", _PRODUCTS),
        Rewrite(r"(\b«name»(?: =|:) *(?:Some\()?)zeroed\(", r"\1(", _PRODUCTS),
    ],
    "uncompared": [
        Rewrite(
            r"((?:^\treturn|&&|^\t\t) ?)(" + _PARTS + r"\b(?:other|that)\.«name»\b" + _PARTS + ")(?= &&|$)",
            r"\1[]bool{\2, true}[1]",
            _PRODUCTS,
        )
    ],
    "kept-as-given": [
        Rewrite(r"(\) Set«exported»\([\s\S]*?\.«name» = )[^\n]*", r"\1«local»", _PRODUCTS),
        Rewrite(r"(made\.«name» = )(\w+)\.\w+\(\)$", r"\1\2", _PRODUCTS),
        Rewrite(
            r"([{ ]«name»: )[\w.]+\(([\w.]+)(?:, [^\n]*?)?\)(?=, \w+: |\}, nil$|\}$)",
            r"\1\2",
            _PRODUCTS,
        ),
    ],
    "handed-out": [
        Rewrite(
            r"return (?:slices\.Clone|maps\.Clone|mapped|mappedValues)\((\w+\.«name»)(?:, [^\n]*)?\)( \}|$)",
            r"return \1\2",
        )
    ],
    "clone-handed-out": [
        Rewrite(
            r"return (?:slices\.Clone|maps\.Clone|mapped|mappedValues)\((\w+\.«name»)(?:, [^\n]*)?\)( \}|$)",
            r"return \1\2",
        )
    ],
}
