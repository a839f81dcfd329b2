"""The steps of claims as tests of cargo: one program, a module for each owner of claims."""

from __future__ import annotations

import re
from collections.abc import Container, Iterable, Iterator, Sequence
from functools import cached_property

from urform.languages.naming.names import claim_words, snake, unique
from urform.languages.naming.scope import Scope, helpers_of, parameters_of_makers
from urform.languages.placing import TESTS
from urform.languages.rendering.templates import support_file
from urform.languages.rust.builders import has_field
from urform.languages.rust.context import Context
from urform.languages.rust.expressions import client_name, witness_name
from urform.languages.rust.families import member_type, role_fails, role_name
from urform.languages.rust.layout import used, used_order
from urform.languages.rust.names import KEYWORDS
from urform.languages.rust.values_in_tests import TestExpressions
from urform.languages.rust.views import HERE, STANDARD, TESTING, comment, laid_out, standard_uses
from urform.languages.rust.writer import RESERVED, Writer
from urform.languages.target import Clients, File, Held, Piece, TestAddress
from urform.languages.testing.clients import Function, clients_of, compiled_cases, is_compiled, refusal_in
from urform.languages.testing.steps import case_lines
from urform.plan.capabilities import Expressible
from urform.plan.model import Family
from urform.plan.script import Case, Claim
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses

FOLDER = "tests/claims"
OWN_MODULES = frozenset({"main", "support", "witnesses"})
_HELPER = re.compile(r"(?<![\w.:])([a-z_]\w*)(?=\()")
_NOT_CODE = re.compile(r"""//[^\n]*|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\\n])'""")


class Proof:
    """Writes the tests of one plan."""

    def __init__(self, context: Context, plan: Plan) -> None:
        self.context = context
        self.plan = plan
        self.templates = context.templates
        self.names = context.names
        self.code = TestExpressions(context)
        self.witnesses = Witnesses(plan)
        text = support_file(HERE / "support", "mod.rs")
        if plan.records is not None:
            records = "use CRATE::records::{RecordError, RecordProblem, Value};\n"
            text = text.replace("use CRATE::{Bound,", f"{records}use CRATE::{{Bound,", 1)
            text += support_file(HERE / "support", "mod_records.rs")
        self._support = text.replace("CRATE", context.crate)
        self._helpers = frozenset(re.findall(r"^pub fn (\w+)", text, re.MULTILINE))

    def pieces(self, owners: Iterable[tuple[str, Sequence[Expressible]]]) -> Iterator[Piece]:
        """The test files, and where each claim is tested, or why it is not."""
        yield File(f"{FOLDER}/support.rs", self.context.header + self._support, part=TESTS)
        yield self._file("witnesses", self._witness_code(), allow="dead_code")
        modules = []
        compiled: list[Expressible] = []
        for owner, own in owners:
            module = snake(owner) if snake(owner) not in OWN_MODULES | KEYWORDS else f"{snake(owner)}_"
            functions: dict[str, str] = {}
            for expressible in own:
                if expressible.held is not None:
                    yield Held(expressible.claim.id, expressible.held)
                    continue
                if is_compiled(expressible):
                    compiled.append(expressible)
                    continue
                name = _test_name(expressible.claim.id, functions)
                yield TestAddress(expressible.claim.id, f"{FOLDER}/{module}.rs", f"{module}::{name}")
                functions[name] = self._test(name, expressible)
            if functions:
                modules.append(module)
                yield self._file(module, "\n".join(functions.values()))
        lines = "".join(f"mod {name};\n" for name in sorted([*modules, "support", "witnesses"]))
        yield File(f"{FOLDER}/main.rs", f"{self.context.header}{lines}", part=TESTS)
        if compiled:
            yield self._clients(compiled)

    def _file(self, name: str, code: str, allow: str = "") -> File:
        code = laid_out(code)
        inner = f"#![allow({allow})] // which of it is needed depends on the declaration\n\n" if allow else ""
        text = f"{self.context.header}{inner}{self.uses(code)}{code}"
        return File(f"{FOLDER}/{name}.rs", text, part=TESTS)

    def uses(self, code: str, own: str = "super") -> str:
        """The `use` declarations of test code: the standard library, the crate, the helpers."""
        bare = _NOT_CODE.sub('""', code)
        called = set(_HELPER.findall(bare))
        defined = set(re.findall(r"^(?:pub )?fn (\w+)", bare, re.MULTILINE))
        helpers = sorted((called & self._helpers) - defined)
        witnesses = sorted((called & self.helpers) - defined)
        words = set(re.findall(r"(?<!::)\b[A-Z]\w*\b", bare))
        standard = "".join(standard_uses(words, bare))
        atomic = ["use std::sync::atomic::{AtomicU64, Ordering};\n"] if "Ordering::" in bare else []
        others = [
            line for line in standard.splitlines(keepends=True) if "tomic" not in line and "cmp" not in line
        ]
        standard = "".join(sorted([*others, *atomic], key=used_order))
        doubles = sorted(words & self._doubles)
        crate = used(f"{self.context.crate}::{TESTING}", doubles) if doubles else ""
        crate += f"use {self.context.crate}::*;\n" if self._needs_crate(bare, words) else ""
        near = [used(f"{own}::support", helpers)] if helpers else []
        near += [used(f"{own}::witnesses", witnesses)] if witnesses else []
        return "".join(f"{block}\n" for block in (standard, crate, "".join(near)) if block)

    def _needs_crate(self, bare: str, words: set[str]) -> bool:
        known = {"Vec", "String", "Some", "Ok", "Err", "None", "Box", "Option", *STANDARD}
        return bool(words - known) or bool(re.search(r"(?<![\w.])(?:make_\w+|\w+_for|records::\w+)\(", bare))

    @cached_property
    def _doubles(self) -> frozenset[str]:
        """The types of the module for clients' tests."""
        families = self.plan.families_with_stand_in
        members = {member_type(self.context, family, "StandIn") for family in families}
        return frozenset(members | {self.names.type(name) for name in self.plan.stand_ins})

    @cached_property
    def reserved(self) -> frozenset[str]:
        """The names that no parameter of a maker may hide: what tests call, and what they import."""
        return self.helpers

    @cached_property
    def helpers(self) -> frozenset[str]:
        """The functions for typical products and clients."""
        return helpers_of(self.plan, witness_name, client_name)

    def _witness_code(self) -> str:
        functions = []
        for product in self.plan.products.values():
            if product.abstract:
                continue
            both = (False, self.witnesses.arguments(product)), (True, self.witnesses.second(product))
            for second, arguments in both:
                if arguments is None:
                    continue
                type_ = self.names.type(product.name)
                lines = Writer(self, Scope(self.plan)).witness(product.name, arguments)
                body = "".join(f"    {line}\n" for line in lines)
                functions.append(f"pub fn {witness_name(product.name, second)}() -> {type_} {{\n{body}}}\n")
        functions += [self._client(family) for family in self.plan.families_with_stand_in]
        return "// Typical products for the tests, two of each kind where there are two.\n\n" + "\n".join(
            functions
        )

    def _client(self, family: Family) -> str:
        """A client that knows the abstract factory alone, and asks it for everything."""
        first: list[str] = []  # the kinds that come before any list
        lines: list[str] = []
        for role in family.roles:
            product = self.plan.products[role.product]
            given = {f.name: v for f in product.required if (v := self.witnesses.of(f)) is not None}
            call = f"family.{role_name(role.name)}({'' if role.several else self.code.arguments(product, given)})"
            end = ".unwrap()" if not role.several and role_fails(self.context, family, role) else ""
            if role.several:
                lines += [f"for each in {call} {{", "    got.push(kind_of(&each));", "}"]
            elif lines:
                lines += [f"got.push(kind_of(&{call}{end}));"]
            else:
                first += [f"kind_of(&{call}{end})"]
        begun = f"vec![{', '.join(first)}]" if first else "Vec::new()"
        whole = [f"let mut got = {begun};", *lines, "got"] if lines else [begun]
        body = "".join(f"    {line}\n" for line in whole)
        header = f"pub fn {client_name(family.name)}(family: &dyn {self.names.type(family.name)}) -> Vec<String> {{"
        return f"// A client that knows the abstract factory alone, and tells the types that it got.\n{header}\n{body}}}\n"

    def _clients(self, claims: Sequence[Expressible]) -> Clients:
        """The crate of clients that must not compile, and of their twins."""
        functions = [self._client_function(*each) for each in compiled_cases(claims)]
        uses = self.uses("\n".join(function.text for function in functions), own="crate")
        allowed = "#![allow(dead_code, unused_variables)]\n\nmod support;\nmod witnesses;\n\n"
        return clients_of(f"{FOLDER}/clients.rs", f"{self.context.header}{allowed}{uses}", functions)

    def _client_function(self, number: int, claim: Claim, case: Case) -> Function:
        self.code.variables.clear()
        body = [f"    {line}" for line in case_lines(Writer(self, Scope(self.plan, RESERVED)), case)]
        text = laid_out("\n".join([f"pub fn client_{number}() {{", *body, "}"]) + "\n")
        refusal = refusal_in(case)
        if refusal is None:
            return Function(claim.id, text)
        product = self.plan.products[claim.owner]
        told = f"{has_field(self.context, product, refusal.missing)}<false>"
        return Function(claim.id, text, refusal.missing, ("a required field was not given", told))

    def _test(self, name: str, expressible: Expressible) -> str:
        claim = expressible.claim
        scope = Scope(self.plan, RESERVED | parameters_of_makers(self.plan, claim.owner))
        self.code.variables.clear()  # of the test before
        writer = Writer(self, scope)
        lines = [comment(f"{claim.text} ({claim.id}).", 0, "//"), "#[test]", f"fn {name}() {{"]
        for number, case in enumerate(expressible.cases):
            if number:
                lines.append("")
            lines += ["    " + line for line in case_lines(writer, case)]
        return "\n".join([*lines, "}"]) + "\n"


def _test_name(claim: str, taken: Container[str]) -> str:
    """`limit/Mark.station:min` gives `limit_station_min`; the owner is the module."""
    group, _, *words = map(snake, claim_words(claim))
    name = "_".join([group, *words])
    name = f"{name}_" if name in RESERVED else name
    return unique(name, taken, "_again")
