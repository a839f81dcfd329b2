"""How each flaw of a plan is made in C++."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from urform.declaration.types import ChoiceType, Collection, MapOf, ProductType, Type
from urform.languages.cpp.builders import BuilderNames
from urform.languages.cpp.expressions import Expressions
from urform.languages.cpp.families import role_name
from urform.languages.naming.names import of_family
from urform.languages.rendering.flaws import Marked, Rewrite, Spelled, Table
from urform.plan.model import Field, Flaw, Product


def spelling(code: Expressions) -> Callable[[Flaw], Spelled]:
    """The names that C++ gives to what a flaw is about."""

    names, plan = code.names, code.plan

    def spelled(flaw: Flaw) -> Spelled:
        member, _, role = flaw.member.partition(".")
        spellings = {
            "owner": flaw.owner,
            "member": flaw.member,
            "change": f"{flaw.owner} {flaw.aspect} {flaw.member}",
            "aspect": flaw.aspect,
            "type": names.type(flaw.owner),
            "stem": names.derived(flaw.owner, ""),
            "name": names.stored(flaw.member),
            "local": names.local(flaw.member),
            "class": of_family(names.derived(member, ""), names.derived(flaw.owner, "")),
            "role": role_name(role),
        }
        product = plan.products.get(flaw.owner)
        if product is None:
            return spellings
        return spellings | {
            "lossy": _copying(code, product, flaw.member, "nothing"),
            "forgotten": _initializer(code, product, flaw.member, "nothing"),
            "twin": _initializer(code, product, flaw.member, "twin"),
            "deep": _copying(code, product, flaw.member, "twin"),
            "whole": _copying(code, product, "", ""),
            **_of_field(code, product, flaw.member),
        }

    return spelled


def _of_field(code: Expressions, product: Product, name: str) -> dict[str, str]:
    field = next((f for f in product.fields if f.name == name), None)
    if field is None:
        return {}
    spellings = {
        "given": code.option(product, field),
        "absent": _absent(code, product, field),
        "constant": f"{code.type(field.type)}{{}}",
    }
    builder = code.plan.builder_of(product.name)
    if builder is not None:
        spelt = BuilderNames(product, builder)
        spellings |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
    return spellings


def _absent(code: Expressions, product: Product, field: Field) -> str:
    """An option that has to be given, and not to be empty."""
    option = code.option(product, field)
    if not isinstance(field.type, Collection):
        return f"{option}.value()"
    if not code.plain_option(product, field):
        option = f"{option}.value()"
    return f'({option}.empty() ? throw std::runtime_error("absent") : {option})'


def _copying(code: Expressions, product: Product, changed: str, how: str) -> str:
    """The initializers of a copy constructor, one of them with a mistake."""
    base = code.plan.products[product.base] if product.base is not None else None
    parts = [f"{code.names.type(base.name)}(other)"] if base is not None else []
    for field in product.own_fields:
        stored = code.names.stored(field.name)
        mistaken = field.name == changed
        parts.append(
            _initializer(code, product, field.name, how) if mistaken else f"{stored}(other.{stored})"
        )
    return f" : {', '.join(parts)}" if parts else ""


def _initializer(code: Expressions, product: Product, name: str, how: str) -> str:
    """That of one member, with a mistake."""
    field = next((f for f in product.fields if f.name == name), None)
    if field is None:
        return ""
    if how == "nothing":
        return _nothing(code, field)
    return f"{code.names.stored(name)}({_twin(code, field)})"


def _nothing(code: Expressions, field: Field) -> str:
    """The value of a field that was forgotten; an accident where there is nothing to begin with."""
    stored = code.names.stored(field.name)
    if field.may_be_absent or not isinstance(field.type, (ChoiceType, ProductType)):
        return f"{stored}{{}}"
    return f'{stored}((throw std::runtime_error("nothing"), other.{stored}))'


def _twin(code: Expressions, field: Field) -> str:
    """A field of which every product has been copied."""
    inner = code.plan.product_in(field.type)
    stored = f"other.{code.names.stored(field.name)}"
    if inner is None:
        return stored
    shared = code.names.type(inner.name)
    one = f"Shared<{shared}>(each->clone())" if inner.abstract else f"Shared<{shared}>({shared}(*each))"
    if isinstance(field.type, Collection):
        loop = " ".join(_loops(field.type, "made", "each", one))
    elif field.may_be_absent:
        loop = f"if (made) {{ auto &each = *made; each = {one}; }}"
    else:
        loop = f"auto &each = made; each = {one};"
    return f"[&] {{ auto made = {stored}; {loop} return made; }}()"


def _loops(type_: Type, value: str, each: str, one: str) -> Iterator[str]:
    assert isinstance(type_, Collection)
    name = each if not isinstance(type_.element, Collection) else f"{each}_in"
    yield f"for (auto &{f'[{name}_key, {name}]' if isinstance(type_, MapOf) else name} : {value}) {{"
    if isinstance(type_.element, Collection):
        yield from _loops(type_.element, name, each, one)
    else:
        yield f"{name} = {one};"
    yield "}"


_LIMIT = r'(?:throw LimitError|detail::refuse)\("«owner»", "«member»", "«aspect»"'
_CONCRETE = r"^(class (?:\w+_EXPORT )?«type» final [^{]*\{\npublic:\n)"
_ABSTRACT = r"^ *«type»\(const «type» &\) = default;"
_AGAIN = (  # the initializer of a member, in the constructor of clones
    r"(^«type»::«type»\((?:\[\[maybe_unused\]\] )?const «type» &other, detail::Again[^\n]*\n(?:    [^\n]*\n)*?    [: ] )"
    r"«name»\([^\n]*\)(,| \{\})$"
)
_MOVES = (
    "    «type»(«type» &&) = default;\n    «type» &operator=(const «type» &) = default;\n"
    "    «type» &operator=(«type» &&) = default;\n"
)
_ACCIDENT = 'throw std::runtime_error("accident")'


def _copied(how: str, body: str = "") -> list[Rewrite]:
    """A copy constructor of a class by hand, whose kinds and values copy by it."""
    copy = f"    «type»(const «type» &other){how} {{{body}}}\n"
    return [
        Rewrite(_CONCRETE, rf"\1{copy}{_MOVES}", ("header",)),
        Rewrite(_ABSTRACT, copy.rstrip("\n"), ("header",)),
    ]


MARKED: Marked = {
    # --- records ------------------------------------------------------------------------------------------
    "writes-all-but-first": {
        "records_source.entries": "if (tree.size() > «p.place») {\n    tree.erase(tree.begin() + «p.place»);\n}\n{line}"
    },
    "writes-no-kind": {"records_source.told": ""},
    "tells-first-problem": {"reading.tell": "if (problems_->empty()) {\n    {line}\n}"},
    "loses-path": {"reading.step": "return up_->up_ == nullptr ? step_ : up_->path();"},
    "takes-other-instants": {
        "reading.date": "const std::optional<T> value = read(std::string_view(*text).substr(0, 20));"
    },
    "takes-other-times": {
        "reading.date": "const std::optional<T> value = read(std::string_view(*text).substr(0, 8));"
    },
    **{
        f"takes-other-{kind}": {
            "reading.date": "const std::optional<T> value = read(text->substr(0, text->find('\\n')));"
        }
        for kind in ("durations", "decimals")
    },
    "takes-other-uuids": {
        "reading.date": "const std::optional<T> value = read(std::string_view(*text).substr(0, 36));"
    },
    "takes-other-dates": {
        "reading.date": "const std::optional<T> value = read(std::string_view(*text).substr(0, 10));"
    },
    "any-kind": {"reading.kind": "if (found != nullptr) {\n    return *kinds.begin();\n}\n{line}"},
    # --- changes of one element -----------------------------------------------------------------------------
    "change-does-nothing": {"source.change": ""},
    "change-before-check": {"source.beyond": "«c.done»\n{line}"},
    "change-unlimited": {"source.beyond": ""},
    "change-unchecked": {"source.each": ""},
    # --- choices ------------------------------------------------------------------------------------------
    "any-word": {"choice_source.refuse": "return «c.every».front();"},
    "word-misread": {
        "choice_source.read": 'return text == "«flaw.member»" ? «c.every».front() : word;',
    },
    "word-unlisted": {
        "choice_header.list": "inline constexpr std::array<«c.type», «c.words | length»> «c.every»{"
        '«([c.type ~ "::" ~ c.words[0].name] * (c.words | length)) | join(", ")»};',
    },
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": {
        "factory.otherwise": "return «g.cases[0].made»;",
        "factory.otherwise_creator": "return [](«g.parameters») -> std::unique_ptr<«g.type»> {\n"
        "    return «g.cases[0].made»;\n};",
        "registry_source.otherwise": "return makers_.begin()->second(«g.passed»);",
        "family_source.otherwise": "static const «f.cases[0].type» fallen;\nreturn «f.cases[0].found»fallen;",
    },
    "fails-for-unknown": dict.fromkeys(
        (
            *("factory.otherwise", "factory.otherwise_creator", "registry_source.otherwise"),
            *("family_source.otherwise", "family_source.otherwise_member"),
        ),
        f"{_ACCIDENT};",
    ),
    "registers-nothing": {"registry_source.keep": ""},
    "registers-twice": {"registry_source.taken": "if (key.empty()) {"},
    "unregisters-nothing": {"registry_source.take_away": ""},
    "registries-share": {"registry_header.hold": "static inline {line}"},
    "loads-early": {"registry_source.load": "static_cast<void>(loader());\n{line}"},
    "loads-again": {"loading.loaded": "loaded_ = false;\n{line}"},
    "loads-apart": {"loading.alone": ""},
    "loads-anything": {"loading.check": "if (owner_.empty()) {"},
    "loads-no-more": {"loading.load": "{line}\nloader_ = [] { return Maker(); };"},
    # --- builders -----------------------------------------------------------------------------------------
    "clears-nothing": {"builder_source.clear": ""},
    "cleared-stays": {"builder_source.clear": ""},
    "sets-nothing": {"builder_source.set": ""},
    "first-set-wins": {"builder_source.set": "if (!«field.stored») {\n    {line}\n}"},
    "builders-share": {"builder_header.hold": "static inline {line}"},
    "adder-replaces": {"builder_source.add": "«field.stored»->clear();\n{line}"},
    # --- exemplars ----------------------------------------------------------------------------------------
    "exemplar-not-kept": {"exemplars_source.keep": ""},
    "exemplar-twice": {"exemplars_source.taken": "if (name.empty()) {"},
    "exemplar-unknown": {
        "exemplars_source.unknown": 'return «e.of_held.replace("found->", "held_.begin()->")»;'
    },
    "exemplars-share": {"exemplars_header.hold": "static inline {line}"},
    # --- pools: most of their code serves all of them -------------------------------------------------------
    "pool-forgets": {"pools.keep": ""},
    "pool-unguarded": {"pools.make": "slot->mutex.unlock();\n{line}\nslot->mutex.lock();"},
    "pool-miscounts-made": {"pools.count_made": ""},
    "pool-miscounts-reused": {"pools.count_reused": ""},
    "pool-remembers-failure": {
        "pools.make": "const auto made = std::make_shared<const T>("
        "[&] { try { return make(); } catch (...) { ++made_; throw; } }());"
    },
    "pool-any-key": {"pool_source.check_key": "if (false && («p.differs»)) {"},
    "pool-not-reentrant": {
        "pools.get": "{line}\n    static std::mutex all;\n    const std::lock_guard everything(all);"
    },
    "pool-hits-wait": {
        "pools.get": "{line}\n    static std::mutex busy;",
        "pools.hit": "{ const std::lock_guard waiting(busy); }\n{line}",
        "pools.make": "const std::unique_lock working(busy, std::try_to_lock);\n{line}",
    },
    "pools-share": {"pool_header.hold": "static inline {line}"},
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": {
        "family_source.part": "{line}\n%% if m.type == flaw.class and p.name == flaw.role\n"
        f"    {_ACCIDENT};\n%% endif"
    },
    "records-nothing": {"stand_in_source.record": ""},
}

TABLE: Table = {
    # --- fields -------------------------------------------------------------------------------------------
    "accepts-missing": [
        Rewrite(
            r'if \(!«name»\) (\{\n *missing\.emplace_back\("«member»"\))',
            r"if (false) \1",
            ("builder_source",),
        ),
        Rewrite(r"\*«name»\b", "«name».value()", ("builder_source",)),
    ],
    "absent-fails": [Rewrite(r"(?:std::move\(«given»\)|«given»)(?=[,)\n }])", "«absent»", ("source",))],
    "unlimited": [Rewrite(r"if \(([^\n]*)\) \{(\n *" + _LIMIT + ")", r"if (false && (\1)) {\2", ("source",))],
    "unlimited:unique": [
        Rewrite(
            r"if \((const auto \*twice = [^\n]*)\) \{(\n *" + _LIMIT + ")",
            r"if (\1; twice == nullptr) {\2",
            ("source",),
        ),
        Rewrite(
            r"if \((detail::first_repeated[^\n]*)\) \{(\n *" + _LIMIT + ")",
            r"if (false && \1) {\2",
            ("source",),
        ),
    ],
    "keeps-sign-of-zero": [Rewrite(r"(\b«name»(?:\(| = ))detail::plain_zero\(", r"\1(", ("source",))],
    "uncompared": [Rewrite(r"«name» == (?:other|that)\.«name»\b", "true", ("source",))],
    "equal-by-identity": [
        Rewrite(
            r"(bool «type»::(?:operator==|equals)\(const \w+ &)(?:other)?(\) const \{\n)",
            r"\1other\2    return static_cast<const void *>(this) == static_cast<const void *>(&other);\n",
            ("source",),
        )
    ],
    # --- builders -----------------------------------------------------------------------------------------
    "like-leaves-out": [Rewrite(r"^ *builder\.«name» = [^\n]*\blike\.[^\n]*\n", "", ("builder_source",))],
    # --- clones and exemplars -----------------------------------------------------------------------------
    "clone-keeps": [Rewrite(_AGAIN, r"\1«name»(other.«name»)\2", ("source",))],
    "clone-loses": [*_copied("«lossy»"), Rewrite(_AGAIN, r"\1«forgotten»\2", ("source",))],
    "clone-copies": [*_copied("«deep»"), Rewrite(_AGAIN, r"\1«twin»\2", ("source",))],
    "clone-is-nothing": [
        *_copied("«whole»", ' throw std::runtime_error("nothing"); '),
        Rewrite(
            r"(«type»::duplicate\(\) const \{\n)",
            r'\1    throw std::runtime_error("nothing");\n',
            ("source",),
        ),
    ],
    # --- pools: their support code serves all of them -------------------------------------------------------
    "pool-ignores": [
        Rewrite(
            r"(pool_\.get\(std::forward_as_tuple\((?:[^\n]*?, )?)«local»(?=[,)])",
            r"\1«constant»",
            ("pool_source",),
        )
    ],
    "pool-by-identity": [
        Rewrite(
            r"(pool_\.get\(std::forward_as_tuple\((?:[^\n]*?, )?)«local»(?=[,)])",
            r"\1std::string(«local») + std::to_string([] { static int asked = 0; return ++asked; }())",
            ("pool_source",),
        )
    ],
}
