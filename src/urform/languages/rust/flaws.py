"""How each flaw of a plan is made in Rust."""

from __future__ import annotations

from collections.abc import Callable

from urform.declaration.types import (
    TOLD,
    ChoiceType,
    Collection,
    MapOf,
    ProductType,
    Type,
)
from urform.languages.naming.names import of_family
from urform.languages.rendering.flaws import Marked, Rewrite, Spelled, Table
from urform.languages.rust.builders import BuilderNames
from urform.languages.rust.copies import field_copied
from urform.languages.rust.expressions import Expressions
from urform.languages.rust.families import role_name
from urform.plan.model import Field, Flaw, Product

NOWHERE = "no such thing"  # stands in no code


def spelling(code: Expressions) -> Callable[[Flaw], Spelled]:
    """The names that Rust gives to what a flaw is about."""

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
            "option": names.option(flaw.member),
            "class": of_family(names.derived(member, ""), names.derived(flaw.owner, "")),
            "role": role_name(role),
        }
        product = plan.products.get(flaw.owner)
        if product is None:
            return spellings
        struct = names.derived(flaw.owner, "Fields") if product.abstract else names.type(flaw.owner)
        others = [f for f in product.own_fields if f.name != flaw.member]
        clones = code.plan.restarts(product)
        return spellings | {
            "struct": struct,
            "compared": _compared(code, product, others),
            "cloned": NOWHERE if clones else struct,
            "parts": _parts(code, product, others),
            **_of_field(code, product, flaw.member),
        }

    return spelled


def _compared(code: Expressions, product: Product, fields: list[Field]) -> str:
    """What an equality compares that leaves out a field."""
    base = code.plan.products[product.base] if product.base is not None else None
    pairs = ["self.fields == other.fields"] if base is not None and base.fields else []
    pairs += [f"self.{_name(code, f)} == other.{_name(code, f)}" for f in fields]
    return " && ".join(pairs) or "true"


def _parts(code: Expressions, product: Product, fields: list[Field]) -> str:
    """The fields of a clone, save one."""
    base = code.plan.products[product.base] if product.base is not None else None
    pairs = ["fields: self.fields.clone()"] if base is not None and base.fields else []
    return "".join(
        f"{pair}, "
        for pair in [*pairs, *(f"{_name(code, f)}: self.{_name(code, f)}.clone()" for f in fields)]
    )


def _name(code: Expressions, field: Field) -> str:
    return code.names.stored(field.name)


def _of_field(code: Expressions, product: Product, name: str) -> dict[str, str]:
    field = next((f for f in product.fields if f.name == name), None)
    if field is None:
        return {}
    stored = _name(code, field)
    holder = "self" if field.owner == product.name and not product.abstract else "self.fields"
    spellings = {
        "nothing": nothing(code, field),
        "twin": _twin(code, field, f"self.{stored}"),
        "pair": f"{stored}: {field_copied(code, field, holder)}",
        "kept": f"{stored}: {holder}.{stored}.clone()",
        "copied": f"{stored}: {_twin(code, field, f'{holder}.{stored}')}",
        "absent": _absent(code, product, field),
        "constant": _constant(code, field.type),
        "default": f"{code.options(product)}::default().{code.names.option(name)}",
    }
    builder = code.plan.builder_of(product.name)
    if builder is not None:
        spelt = BuilderNames(product, builder)
        spellings |= {"setter": spelt.setter(field), "adder": spelt.adder(field)}
    return spellings


def nothing(code: Expressions, field: Field) -> str:
    """The value of a field that was forgotten."""
    inner = code.plan.products.get(str(field.type))
    is_told = field.type in TOLD or isinstance(field.type, ChoiceType)
    if field.may_be_absent or not (inner is not None or is_told):
        return "Default::default()"
    return 'panic!("nothing")'


def _twin(code: Expressions, field: Field, stored: str) -> str:
    """A field of which every product has been copied."""
    inner = code.plan.product_in(field.type)
    if inner is None:
        return f"{stored}.clone()"
    is_open = code.is_open(inner)
    one = "Arc::from(each.boxed_clone())" if is_open else "Arc::new(each.as_ref().clone())"
    if field.may_be_absent:
        return f"{stored}.as_ref().map(|each| {one})"
    return (
        f"{stored}{_copying(field.type, one)}"
        if isinstance(field.type, Collection)
        else one.replace("each", stored)
    )


def _copying(type_: Type, one: str) -> str:
    assert isinstance(type_, Collection)
    inner = one if isinstance(type_.element, ProductType) else f"each{_copying(type_.element, one)}"
    if isinstance(type_, MapOf):
        return f".iter().map(|(key, each)| (key.clone(), {inner})).collect()"
    return f".iter().map(|each| {inner}).collect()"


def _absent(code: Expressions, product: Product, field: Field) -> str:
    """Whether a constructor was not given a field, or one that is empty."""
    option = code.option(product, field)
    if not isinstance(field.type, Collection):
        return f"{option}.is_none()"
    if code.plain_option(product, field):
        return f"{option}.is_empty()"
    return f"{option}.as_ref().is_none_or(|each| each.is_empty())"


def _constant(code: Expressions, type_: Type) -> str:
    """A value that says nothing of a part of a key."""
    if isinstance(type_, ChoiceType):
        return f"{code.names.type(type_.name)}::{code.names.word(code.plan.choices[type_.name].words[0])}"
    return "Default::default()"


def _balanced(levels: int) -> str:
    """A pattern for an expression in which brackets nest so deep."""
    inner = _balanced(levels - 1) if levels else ""
    quoted = r'"(?:\\.|[^"\\])*"'
    nested = rf"|[(\[{{](?:{inner}|,)*[)\]}}]" if levels else ""
    return rf"(?:[^,()\[\]{{}}\"]|{quoted}{nested})"


_VALUE = _balanced(5) + "*?"
_LIMIT = r'Err\(outside(?:_length)?\("«owner»", "«member»", "«aspect»"'
_EQUALITY = (
    "impl PartialEq for «struct» {{\n    fn eq(&self, other: &Self) -> bool {{\n        {}\n    }}\n}}\n\n"
)
_CLONE = "impl Clone for «struct» {{\n    fn clone(&self) -> Self {{\n        {}\n    }}\n}}\n\n"
_STRUCT = r"((?:pub|pub\(crate\)) struct {}(?: \{{|;|\(\(\)\);))"
_DERIVES = r"#\[derive\(Debug, Clone(, PartialEq)?(, Eq, Hash)?(, Default)?\)\]\n"
_NEW = r"(impl «struct» \{\n(?:(?!\})[^\n]*\n)*? *(?:pub |pub\(crate\) )?fn new\([^\n]*\{\n)"
_DUPLICATE = r"(fn duplicate\(&self\) -> Self \{\n[^\n]*?[ {])"  # and what begins its literal
_PAIR = rf"«name»: {_VALUE}(?=, | \}})"
_PRODUCTS = ("product", "abstract")

MARKED: Marked = {
    # --- records ------------------------------------------------------------------------------------------
    "writes-all-but-first": {
        "records.entries": "match tree.done() {\n"
        "    Value::Object(mut names) => {\n        names.remove(«p.place»);\n        Value::Object(names)\n    }\n"
        "    other => other,\n}"
    },
    "writes-no-kind": {"records.told": ""},
    "tells-first-problem": {"reading.tell": "if self.problems.borrow().is_empty() {\n    {line}\n}"},
    "loses-path": {
        "reading.step": "Some(up) => if up.up.is_none() { self.step.to_string() } else { up.path() },"
    },
    "takes-other-instants": {"reading.date": "let Some(told) = read(text.get(..20).unwrap_or(text)) else {"},
    "takes-other-uuids": {"reading.date": "let Some(told) = read(text.get(..36).unwrap_or(text)) else {"},
    "takes-other-dates": {"reading.date": "let Some(told) = read(text.get(..10).unwrap_or(text)) else {"},
    "takes-other-times": {"reading.date": "let Some(told) = read(text.get(..8).unwrap_or(text)) else {"},
    "takes-other-durations": {"reading.date": "let Some(told) = read(text.trim_end()) else {"},
    "takes-other-decimals": {"reading.date": "let Some(told) = read(text.trim_end()) else {"},
    "any-kind": {"reading.kind": "if found.is_some() {\n    return kinds.first().copied();\n}\n{line}"},
    # --- changes of one element -----------------------------------------------------------------------------
    "change-does-nothing": {"changes.change": "«c.undone»"},
    "change-before-check": {"changes.beyond": "«c.early»\n{line}"},
    "change-unlimited": {"changes.beyond": ""},
    "change-unchecked": {"changes.each": ""},
    # --- choices ------------------------------------------------------------------------------------------
    "any-word": {"choice.refuse": "_ => Ok(Self::«c.words[0].name»),"},
    "word-misread": {"choice.read": "«word.text» => Ok(Self::«c.words[0].name»),"},
    "word-unlisted": {
        "choice.list": "pub const ALL: [Self; «c.words | length»] = [Self::«c.words[0].name»; «c.words | length»];"
    },
    # --- factories ----------------------------------------------------------------------------------------
    "falls-through": {
        "factory.otherwise": "_ => «g.cases[0].made»,",
        "factory.otherwise_kind": "_ => «g.cases[0].chosen»,",
        "factory.no_maker": "None => self.makers.values().next().map(|maker| «g.from_maker»).unwrap(),",
        "family.otherwise": "_ => «f.cases[0].made»,",
    },
    "fails-for-unknown": {
        **dict.fromkeys(
            ("factory.otherwise", "factory.otherwise_kind", "family.otherwise"), '_ => panic!("{key}"),'
        ),
        "factory.no_maker": 'None => panic!("{key}"),',
        "factory.function": "%% if g.cases\n{line}\n%% else\npub fn «g.function»(key: &str«g.more») -> «g.result» {\n"
        '    panic!("{key}");\n%% endif',
        "factory.of": "%% if g.cases\n{line}\n%% else\npub fn of(key: &str) -> «g.result» {\n"
        '    panic!("{key}");\n%% endif',
    },
    "registers-nothing": {"factory.keep": "drop(maker);"},
    "registers-twice": {"factory.taken": "if key.is_empty() {"},
    "unregisters-nothing": {"factory.take_away": "self.makers.contains_key(key)"},
    "loads-early": {"factory.load": "drop(loader());\n{line}"},
    "loads-again": {
        "loading.loaded": "if self.loaded.get().is_some() {\n    drop((self.load)());\n}\n{line}"
    },
    "loads-apart": {"loading.alone": ""},
    "loads-no-more": {
        "loading.load": "static TRIED: OnceLock<()> = OnceLock::new();\n"
        'TRIED.set(()).map_err(|()| crate::CreationError::maker("tried before"))?;\n{line}'
    },
    # --- builders -----------------------------------------------------------------------------------------
    "clears-nothing": {"builder.clear": ""},
    "cleared-stays": {"builder.clear": ""},
    "sets-nothing": {"builder.set": ""},
    # --- exemplars ----------------------------------------------------------------------------------------
    "exemplar-not-kept": {"exemplars.keep": ""},
    "exemplar-twice": {"exemplars.taken": "if name.is_empty() {"},
    "exemplar-unknown": {"exemplars.unknown": "None => Ok(self.held.values().next().unwrap().clone()),"},
    # --- pools: most of their code serves all of them -------------------------------------------------------
    "pool-forgets": {"pools.keep": ""},
    "pool-unguarded": {"pools.make": "drop(_alone);\n{line}"},
    "pool-miscounts-made": {"pools.count_made": ""},
    "pool-miscounts-reused": {"pools.count_reused": ""},
    "pool-remembers-failure": {
        "pools.make": "let made = Arc::new(make().inspect_err(|_| lock(&self.slots).made += 1)?);"
    },
    "pool-any-key": {"pool.check_key": "if false && («p.differs») {"},
    "pool-not-reentrant": {
        "pools.get": "{line}\n    static ALL: Mutex<()> = Mutex::new(());\n    let _all = lock(&ALL);"
    },
    "pool-hits-wait": {
        "pools.get": "{line}\n    static BUSY: Mutex<()> = Mutex::new(());",
        "pools.hit": "drop(lock(&BUSY));\n{line}",
        "pools.make": "let _busy = BUSY.try_lock();\n{line}",
    },
    "pools-share": {
        "pool.type": "fn shared_() -> &'static Pool<«p.key_type», «p.type»> {\n"
        "    static ALL: std::sync::OnceLock<Pool<«p.key_type», «p.type»>> = std::sync::OnceLock::new();\n"
        "    ALL.get_or_init(|| Pool::strong(module_path!()))\n}\n\n{line}",
        "pool.hold": "pool: &'static Pool<«p.key_type», «p.type»>,",
        "pool.new": "Self { maker: Box::new(maker), pool: shared_() }",
    },
    # --- families -----------------------------------------------------------------------------------------
    "part-is-nothing": {
        "family.part": "{line}\n%% if m.type == flaw.class and p.name == flaw.role\n"
        '    panic!("nothing");\n%% endif'
    },
    "records-nothing": {"stand_in.record": ""},
}

TABLE: Table = {
    # --- fields -------------------------------------------------------------------------------------------
    "accepts-missing": [
        Rewrite(r'\("«member»", self\.\w+\.is_some\(\)\)', '("«member»", true)', ("builder",))
    ],
    "absent-fails": [
        Rewrite(_NEW, r'\1        if «absent» {\n            panic!("absent");\n        }\n', _PRODUCTS),
    ],
    "unlimited": [
        Rewrite(r"if ([^\n]*) \{(\n *return " + _LIMIT + ")", r"if false && (\1) {\2", _PRODUCTS),
    ],
    "unlimited:unique": [
        Rewrite(
            r"if let Some\(twice\) = ([^\n]*) \{(\n *return " + _LIMIT + ")",
            r"if let Some(twice) = \1.filter(|_| false) {\2",
            _PRODUCTS,
        ),
        Rewrite(r"if (repeated[^\n]*) \{(\n *return " + _LIMIT + ")", r"if false && \1 {\2", _PRODUCTS),
    ],
    "keeps-sign-of-zero": [
        Rewrite(r"(\b«name»(?:: | = )[^\n]*?)\.plain_zero\(\)", r"\1", _PRODUCTS),
    ],
    "uncompared": [
        Rewrite(
            _DERIVES + _STRUCT.format("«struct»"),
            _EQUALITY.format("«compared»") + r"#[derive(Debug, Clone\2\3)]\n\4",
            _PRODUCTS,
        ),
        Rewrite(r"\*?self\.«name» == \*?other\.«name»\b", "true", _PRODUCTS),
    ],
    "equal-by-identity": [
        Rewrite(
            r"#\[derive\(Debug, Clone, PartialEq(, Eq, Hash)?(, Default)?\)\]\n" + _STRUCT.format("«struct»"),
            _EQUALITY.format("std::ptr::eq(self, other)") + r"#[derive(Debug, Clone\1\2)]\n\3",
            _PRODUCTS,
        ),
        Rewrite(
            r"(impl PartialEq for «struct» \{\n[^\n]*\n *)[^\n]*", r"\1std::ptr::eq(self, other)", _PRODUCTS
        ),
    ],
    # --- builders -----------------------------------------------------------------------------------------
    "first-set-wins": [
        Rewrite(
            r"(fn «setter»\(&mut self, [^\n]*\n *)(self\.options\.[\w.]+) = ([^\n]*);\n",
            r"\1if \2 == «default» {\n            \2 = \3;\n        }\n",
            ("builder",),
        ),
        Rewrite(
            r"(fn «setter»\(&mut self, [^\n]*\n *)(self\.\w+) = ([^\n]*);\n",
            r"\1if \2.is_none() {\n            \2 = \3;\n        }\n",
            ("builder",),
        ),
    ],
    "adder-replaces": [
        Rewrite(
            r"(fn «adder»\(&mut self, [^\n]*\n *)(self\.[^\n]*?)\.(push|insert)(\([^\n]*)",
            r"\1\2.clear();\n        \2.\3\4",
            ("builder",),
        )
    ],
    "like-leaves-out": [
        Rewrite(r"Some\(like\.«name»(?:\.\w+\(\))*\)", "None", ("builder",)),
        Rewrite(r": like\.«name»(?:\.\w+\(\))*(?=[,} ])", ": «default»", ("builder",)),
    ],
    # --- clones and exemplars -----------------------------------------------------------------------------
    "clone-keeps": [Rewrite(_DUPLICATE + _PAIR, r"\1«kept»", ("product",))],
    "clone-loses": [
        Rewrite(_DUPLICATE + _PAIR, r"\1«name»: «nothing»", ("product",)),
        Rewrite(
            _DERIVES + _STRUCT.format("«cloned»"),
            _CLONE.format("Self { «parts»«name»: «nothing» }") + r"#[derive(Debug\1\2\3)]\n\4",
            _PRODUCTS,
        ),
    ],
    "clone-copies": [
        Rewrite(_DUPLICATE + _PAIR, r"\1«copied»", ("product",)),
        Rewrite(
            _DERIVES + _STRUCT.format("«cloned»"),
            _CLONE.format("Self { «parts»«name»: «twin» }") + r"#[derive(Debug\1\2\3)]\n\4",
            _PRODUCTS,
        ),
    ],
    "clone-is-nothing": [
        Rewrite(r"(pub fn duplicate\(&self\) -> Self \{\n)", r'\1        panic!("nothing");\n', ("product",)),
        Rewrite(
            _DERIVES + _STRUCT.format("«cloned»"),
            _CLONE.format('panic!("nothing")') + r"#[derive(Debug\1\2\3)]\n\4",
            ("product",),
        ),
    ],
    # --- pools: their support code serves all of them -------------------------------------------------------
    "pool-ignores": [
        Rewrite(
            r"(let \w*key = \((?:[^\n]*?, )?)«local»(?:\.to_owned\(\))?(?=[,)])", r"\1«constant»", ("pool",)
        )
    ],
    "pool-by-identity": [
        Rewrite(
            r"(let \w*key = \((?:[^\n]*?, )?)«local»\.to_owned\(\)",
            r'\1format!("{}{:p}", «local», «local».as_ptr())',
            ("pool",),
        )
    ],
}
