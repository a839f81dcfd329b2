"""What each flaw of a plan comes to in Go."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import Collection
from urform.languages.go.builders import BuilderNames
from urform.languages.go.expressions import Expressions
from urform.languages.go.families import role_of
from urform.languages.go.makings import pool_receiver, store_receiver
from urform.languages.go.names import Names
from urform.languages.naming.names import of_family, pascal
from urform.languages.rendering.flaws import Rewrite, Spelled, Table
from urform.plan.model import Field, Flaw, Plan


def spelling(plan: Plan, names: Names, code: Expressions) -> Callable[[Flaw], Spelled]:
    """How Go calls what a flaw is about."""

    def spelled(flaw: Flaw) -> Spelled:
        member, _, role = flaw.member.partition(".")
        found = {
            "owner": flaw.owner,
            "member": flaw.member,
            "aspect": flaw.aspect,
            "type": names.type(flaw.owner),
            "name": names.stored(flaw.member),
            "local": names.local(flaw.member),
            "exported": pascal(flaw.member),
            "class": of_family(member, names.type(flaw.owner)),
            "role": role_of(role),
        }
        product = plan.products.get(flaw.owner)
        if product is None:
            return found
        found["store"] = store_receiver(names, product)
        pool = plan.pool_of(product.name)
        found["pool"] = pool_receiver(names, pool) if pool is not None else ""
        found["clone"] = code.copying.clone(product)
        field = next((f for f in product.fields if f.name == flaw.member), None)
        if field is None:
            return found
        found |= {"stored": code.stored(field), "plain": code.type(field.type)}
        found["twin"] = _twin(names, code, field)
        builder = plan.builder_of(flaw.owner)
        if builder is not None:
            spelt = BuilderNames(product, builder)
            found |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
        return found

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
        return f"\tif {stored} != nil {{\n\t\t{copied.format(stored, chr(9) * 2, stored)}\t}}\n"
    loop = copied.format("each", "\t\t", "twins[key]")
    whole = f"\ttwins := {'maps' if stored and _is_map(code, field) else 'slices'}.Clone({stored})\n"
    return f"{whole}\tfor key, each := range twins {{\n\t\t{loop}\t}}\n\t{stored} = twins\n"


def _is_map(code: Expressions, field: Field) -> bool:
    return code.type(field.type).startswith("map[")


_MISSING = r'&MissingError\{Owner: "[^"]*", Fields: \[\]string\{"«member»"\}\}'
_LIMIT = r'&LimitError\{Owner: "«owner»", Field: "«member»", Limit: "«aspect»"[,}]'
_FIRST_CASE = r"(case [^\n]*:\n\t*(return [^\n]*)\n(?:[^\n]*\n)*?\t*default:\n\t*)[^\n]*"
_NO_MAKER = r"(if !found \{\n\t*)[^\n]*"
_SETTER = r"(\) «setter»\([^\n]*\{\n)\t(b\.[\w.]+)( = )([^\n]*)"
_CLONING = r"(\) «clone»\(\) [^\n]*\{\n(?:(?!\})[^\n]*\n)*?)"
_METHOD = r"(func \((\w+) \*«type»\) {}\([^\n]*\{{\n)"
_GET = r"^(func \(«pool» \*«type»Pool\) Get\([^\n]*\{\n)"
_SEEN = "var seen«type» = map[*«type»Pool]any{}\n\n"
_SHARED_MAP = r"^(func New\w+\(\) [^\n]*\{\n)\treturn &(\w+)\{(\w+): (map[\s\S]*?\n\t\})\}\n\}"
_LITERAL = r"\{(?:[^\n{}]|\{(?:[^\n{}]|\{[^\n{}]*\})*\})*\}"  # a function's body, which may hold two more
_PARTS = rf"(?:[^&\n{{}}]|{_LITERAL})*?"  # of a condition, function literals included
_PRODUCTS = ("product", "abstract")
_POOLS = ("pools", "weak_pools")
_FACTORIES = ("factory", "family")

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
    "equal-by-identity": [Rewrite(_METHOD.format("Equal"), "\\1\treturn any(other) == any(\\2)\n")],
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
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": [
        Rewrite(_FIRST_CASE, r"\1\2", _FACTORIES),
        Rewrite(_NO_MAKER, "\\1for _, maker = range r.makers {\n\t\t\tbreak\n\t\t}", _FACTORIES),
    ],
    "fails-for-unknown": [
        Rewrite(r"(default:\n\t*)return [^\n]*", r"\1panic(key)", _FACTORIES),
        Rewrite(_NO_MAKER, r"\1panic(key)", _FACTORIES),
    ],
    "registers-nothing": [Rewrite(r"r\.makers\[key\] = maker", "_ = maker")],
    "registers-twice": [Rewrite(r"(taken := r\.makers\[key\]; taken) \{", r'\1 && key == "" {')],
    "unregisters-nothing": [Rewrite(r"^\t*delete\(r\.makers, key\)\n", "")],
    "registries-share": [
        Rewrite(_SHARED_MAP, "var all\\2 = \\4\n\n\\1\treturn &\\2{\\3: all\\2}\n}", _FACTORIES)
    ],
    # --- builders -----------------------------------------------------------------------------------------
    "sets-nothing": [Rewrite(_SETTER, r"\1", ("builder",))],
    "first-set-wins": [
        Rewrite(_SETTER, "\\1\tif reflect.ValueOf(\\2).IsZero() {\n\t\t\\2\\3\\4\n\t}", ("builder",))
    ],
    "builder-keeps-as-given": [Rewrite(_SETTER, "\\1\t\\2\\3«local»", ("builder",))],
    "builders-share": [
        Rewrite(
            r"^(func New«type»Builder\(\) \*«type»Builder) \{ return (&«type»Builder\{\}) \}",
            "var all«type» = \\2\n\n\\1 { return all«type» }",
            ("builder",),
        )
    ],
    "adder-keeps-as-given": [
        Rewrite(
            r"(\) «adder»\((\w+) [^\n]*\{\n\tb\.[\w.]+ = append\(b\.[\w.]+, )[^\n]*\)$",
            r"\1\2)",
            ("builder",),
        )
    ],
    "adder-replaces": [Rewrite(r"(\) «adder»\([^\n]*\{\n\tb\.[\w.]+ = append\(b\.[\w.]+),", r"\1[:0:0],")],
    "like-leaves-out": [
        Rewrite(r"^(\t+)b\.[\w.]+ = [^\n]*\blike\.«name»\b[^\n]*\n", r"\1_ = like\n", ("builder",))
    ],
    # --- clones and exemplars -----------------------------------------------------------------------------
    "clone-shares": [Rewrite(_CLONING + r"\t+made\.«name» = [^\n]*\n", r"\1")],
    "clone-keeps": [Rewrite(_CLONING + r"\t+made\.«name» = [^\n]*\n", r"\1")],
    "clone-loses": [Rewrite(_CLONING + r"(\treturn &made)", "\\1\tmade.«name» = *new(«stored»)\n\\2")],
    "clone-copies": [Rewrite(_CLONING + r"(\treturn &made)", r"\1«twin»\2")],
    "clone-is-itself": [Rewrite(_METHOD.format("«clone»"), "\\1\treturn \\2\n")],
    "clone-is-nothing": [Rewrite(_METHOD.format("«clone»"), "\\1\treturn nil\n")],
    "exemplar-itself": [Rewrite(r"return held\.Clone\(\), nil", "return held, nil")],
    "exemplar-kept-as-given": [Rewrite(r"(kept := \w+)\.Clone\(\)", r"\1", ("exemplars",))],
    "exemplar-not-kept": [Rewrite(r"«store»\.held\[name\] = (\w+)[^\n]*", r"_ = \1")],
    "exemplar-twice": [Rewrite(r"(taken := «store»\.held\[name\]; taken) \{", r'\1 && name == "" {')],
    "exemplar-unknown": [
        Rewrite(
            r"return nil, &UnknownKeyError\{[^\n]*",
            "for _, held = range «store».held {\n\t\t\tbreak\n\t\t}",
            ("exemplars",),
        )
    ],
    "exemplars-share": [
        Rewrite(_SHARED_MAP, "var all\\2 = \\4\n\n\\1\treturn &\\2{\\3: all\\2}\n}", ("exemplars",))
    ],
    # --- pools: their support code serves all of them -------------------------------------------------------
    "pool-forgets": [Rewrite(r"keep\(own\.made\)", "_ = keep", _POOLS)],
    "pool-ignores": [
        Rewrite(
            _GET,
            _SEEN + "\\1\tif seen«type»[«pool»] == nil {\n\t\tseen«type»[«pool»] = «local»\n\t}\n"
            "\t«local» = seen«type»[«pool»].(«plain»)\n",
        )
    ],
    "pool-by-identity": [
        Rewrite(
            _GET,
            _SEEN
            + "\\1\tif seen«type»[«pool»] == nil {\n\t\tseen«type»[«pool»] = unsafe.StringData(«local»)\n\t}\n"
            "\tif seen«type»[«pool»] != any(unsafe.StringData(«local»)) {\n"
            "\t\t«pool».pool.held.Range(func(held, _ any) bool {\n"
            "\t\t\t«pool».pool.held.Delete(held)\n\t\t\treturn true\n\t\t})\n\t}\n",
        )
    ],
    "pool-unguarded": [
        Rewrite(r"(under, found := m\.calls\[key\]; found) \{", r"\1 && m.mu.TryLock() {", _POOLS)
    ],
    "pool-miscounts-made": [Rewrite(r"^\t*m\.made\.Add\(1\)\n", "", _POOLS)],
    "pool-miscounts-reused": [Rewrite(r"^\t*[mp]\.reused\.Add\(1\)\n", "", _POOLS)],
    "pool-remembers-failure": [Rewrite(r"if own\.err == nil \{", "if true {", _POOLS)],
    "pool-any-key": [Rewrite(r"\(made == nil \|\| [^\n]*\) \{", "made == nil {")],
    "pool-not-reentrant": [
        Rewrite(r"(m\.calls\[key\] = own\n)\t*m\.mu\.Unlock\(\)\n", r"\1", _POOLS),
        Rewrite(r"(// also when the maker panics\n)\t*m\.mu\.Lock\(\)\n", r"\1", _POOLS),
    ],
    "pool-hits-wait": [
        Rewrite(
            r"(hit\(key K\) \*T \{\n)",
            "\\1\tfor busy := true; busy; {\n\t\tp.mu.Lock()\n\t\tbusy = len(p.calls) > 0\n\t\tp.mu.Unlock()\n\t}\n",
            _POOLS,
        )
    ],
    "pools-share": [
        Rewrite(
            r"^(\tpool\x01)((?:weakP|p)ool\[[^\n]*\])\n\}", "\\1\\2\n}\n\nvar shared«type» \\2", ("pool",)
        ),
        Rewrite(r"«pool»\.pool\.", "shared«type».", ("pool",)),
    ],
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": [
        Rewrite(
            r"(func \([^\n]*«class»\) «role»\([^\n]*, error\) \{\n)", "\\1\treturn nil, nil\n", ("family",)
        ),
        Rewrite(
            r"(func \([^\n]*«class»\) «role»\((?![^\n]*, error\) \{)[^\n]*\{\n)",
            "\\1\treturn nil\n",
            ("family",),
        ),
    ],
    "records-nothing": [Rewrite(r'^\t\w+\.record\("[^\n]*\n', "")],
}
