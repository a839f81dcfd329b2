"""The steps of claims as tests of GoogleTest, a file for each owner of claims."""

from __future__ import annotations

import re
from collections.abc import Container, Iterable, Iterator, Sequence
from functools import cached_property

from urform.languages.cpp.builders import has_field
from urform.languages.cpp.expressions import client_name, witness_name
from urform.languages.cpp.families import role_name
from urform.languages.cpp.names import KEYWORDS
from urform.languages.cpp.sources import Sources
from urform.languages.cpp.values_in_tests import TestExpressions
from urform.languages.cpp.views import HERE, comment, laid_out
from urform.languages.cpp.writer import RESERVED, Writer
from urform.languages.naming.names import claim_words, snake, unique
from urform.languages.naming.scope import Scope, helpers_of, parameters_of_makers
from urform.languages.placing import TESTS
from urform.languages.rendering.templates import support_file
from urform.languages.target import Clients, File, Held, Piece, TestAddress
from urform.languages.testing.clients import Function, clients_of, compiled_cases, is_compiled, refusal_in
from urform.languages.testing.steps import case_lines
from urform.plan.capabilities import Expressible
from urform.plan.model import Family
from urform.plan.script import Case, Claim
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses


class Proof:
    """Writes the tests of one plan."""

    def __init__(self, sources: Sources, plan: Plan) -> None:
        self.sources = sources
        self.context = context = sources.context
        self.plan = plan
        self.templates = context.templates
        self.names = context.names
        self.code = TestExpressions(context)
        self.witnesses = Witnesses(plan)

    def pieces(self, owners: Iterable[tuple[str, Sequence[Expressible]]]) -> Iterator[Piece]:
        """The test files, and where each claim is tested, or why it is not."""
        support = support_file(HERE / "support", "support.hpp")
        if self.plan.records is not None:
            support = _with_records(support)
        support = self.context.named(support)
        yield File("tests/support.hpp", self.context.header + support, part=TESTS)
        code = self._witness_code()
        yield File(
            "tests/witnesses.hpp",
            self.sources.whole(code, "", first='#pragma once\n\n#include "support.hpp"\n\n'),
            part=TESTS,
        )
        compiled: list[Expressible] = []
        for owner, own in owners:
            path = f"tests/{snake(owner)}_test.cpp"
            suite = self._suite(owner)
            functions: dict[str, str] = {}
            for expressible in own:
                if expressible.held is not None:
                    yield Held(expressible.claim.id, expressible.held)
                    continue
                if is_compiled(expressible):
                    compiled.append(expressible)
                    continue
                name = _test_name(expressible.claim.id, functions)
                yield TestAddress(expressible.claim.id, path, f"{suite}.{name}")
                functions[name] = self._test(suite, name, expressible)
            if functions:
                yield self._file(path, "\n".join(functions.values()))
        if compiled:
            yield self._clients(compiled)

    def _suite(self, owner: str) -> str:
        """The name of a test suite: the owner's, which must not end like one of the framework's own."""
        return f"{owner}_" if owner in KEYWORDS else owner

    def _file(self, path: str, code: str) -> File:
        code = laid_out(code)
        includes = self.sources.includes(code)
        local = '#include "support.hpp"\n#include "witnesses.hpp"\n\n'
        framework = "#include <gtest/gtest.h>\n\n"
        space = self.context.namespace
        body = f"namespace {space} {{\nnamespace {{\n\n{code}\n}} // namespace\n}} // namespace {space}\n"
        own, standard = _split(includes)
        return File(path, f"{self.context.header}{local}{own}{framework}{standard}{body}", part=TESTS)

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
                selection = self.plan.selected_by(product)
                made_as = self.plan.products[selection.product] if selection is not None else product
                type_ = self.code.owned_type(made_as)
                call = Writer(self, Scope(self.plan)).construction(product.name, arguments).code
                functions.append(
                    f"inline {type_} {witness_name(product.name, second)}() {{\n    return {call};\n}}\n"
                )
        functions += [self._client(family) for family in self.plan.families_with_stand_in]
        begin = "// Typical products for the tests, two of each kind where there are two.\n\n"
        return begin + _declared_early("\n".join(functions)) + "\n".join(functions)

    def _client(self, family: Family) -> str:
        """A client that knows the abstract factory alone, and asks it for everything."""
        lines = ["std::vector<std::string> got;"]
        for role in family.roles:
            product = self.plan.products[role.product]
            given = {f.name: v for f in product.required if (v := self.witnesses.of(f)) is not None}
            call = f"family.{role_name(role.name)}({'' if role.several else self.code.all_arguments(product, given)})"
            if role.several:
                lines += [f"for (const auto &each : {call}) {{", "    got.push_back(kind_of(each));", "}"]
            else:
                lines += [f"got.push_back(kind_of({'*' if product.abstract else ''}{call}));"]
        body = "".join(f"    {line}\n" for line in [*lines, "return got;"])
        type_ = self.names.type(family.name)
        header = f"inline std::vector<std::string> {client_name(family.name)}(const {type_} &family) {{"
        return f"// A client that knows the abstract factory alone, and tells the types that it got.\n{header}\n{body}}}\n"

    def _clients(self, claims: Sequence[Expressible]) -> Clients:
        """The file of clients that must not compile, and of their twins."""
        functions = [self._client_function(*each) for each in compiled_cases(claims)]
        includes = self.sources.includes("\n".join(function.text for function in functions))
        space = self.context.namespace
        head = f'{self.context.header}#include "witnesses.hpp"\n\n{includes}namespace {space} {{\n\n'
        foot = f"\n}} // namespace {space}\n"
        return clients_of("tests/clients.cpp", head, functions, foot=foot)

    def _client_function(self, number: int, claim: Claim, case: Case) -> Function:
        self.code.variables.clear()
        body = [f"    {line}" for line in case_lines(Writer(self, Scope(self.plan, RESERVED)), case)]
        text = laid_out("\n".join([f"void client_{number}() {{", *body, "}"]) + "\n")
        refusal = refusal_in(case)
        if refusal is None:
            return Function(claim.id, text)
        return Function(
            claim.id, text, refusal.missing, ("build()", has_field(self.context, refusal.missing))
        )

    def _test(self, suite: str, name: str, expressible: Expressible) -> str:
        claim = expressible.claim
        scope = Scope(self.plan, RESERVED | parameters_of_makers(self.plan, claim.owner))
        self.code.variables.clear()  # of the test before
        writer = Writer(self, scope)
        lines = [comment(f"{claim.text} ({claim.id}).", 0, "//"), f"TEST({suite}, {name}) {{"]
        for number, case in enumerate(expressible.cases):
            if number:
                lines.append("")
            lines += ["    " + line for line in case_lines(writer, case)]
        return "\n".join([*lines, "}"]) + "\n"


def _declared_early(code: str) -> str:
    """Declarations of the functions that others call before they are defined."""
    called: dict[str, int] = {}  # where first
    for match in re.finditer(r"\b(\w+)\(\)", code):
        called.setdefault(match[1], match.start())
    declarations = [
        f"{match[1]};\n"
        for match in re.finditer(r"^(inline \S+ (\w+)\(\)) \{$", code, re.MULTILINE)
        if called[match[2]] < match.start()
    ]
    return "".join(declarations) + ("\n" if declarations else "")


def _split(includes: str) -> tuple[str, str]:
    """Include lines of the project, and those of the standard library."""
    lines = [line for line in includes.split("\n") if line]
    blocks = ["".join(f"{line}\n" for line in lines if ('"' in line) is own) for own in (True, False)]
    first, second = (f"{block}\n" if block else "" for block in blocks)
    return first, second


def _test_name(claim: str, taken: Container[str]) -> str:
    """`limit/Mark.station:min` gives `limit_station_min`; the owner is the suite."""
    group, _, *words = map(snake, claim_words(claim))
    name = "_".join([group, *words])
    return unique(name, taken, "_again")


def _with_records(support: str) -> str:
    """The support code of tests, with what tests of records share."""
    more = support_file(HERE / "support", "support_records.hpp")
    known = '#include "FOLDER/errors.hpp"\n'
    own = f'{known}#include "FOLDER/reading.hpp"\n'
    end = "\n} // namespace NAMESPACE\n"
    return support.replace(known, own, 1).replace(end, f"\n{more}{end}", 1)
