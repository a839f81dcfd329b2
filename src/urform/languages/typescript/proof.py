"""The steps of claims as tests of node:test."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence, Set
from functools import cached_property

from urform.languages.naming.names import snake
from urform.languages.naming.scope import Scope, helpers_of, parameters_of_makers
from urform.languages.placing import TESTS
from urform.languages.rendering.comments import plain, wrapped
from urform.languages.rendering.templates import support_file
from urform.languages.target import Clients, File, Held, Piece, TestAddress
from urform.languages.testing.clients import Function, clients_of, compiled_cases, is_compiled, refusal_in
from urform.languages.testing.steps import case_lines
from urform.languages.typescript.breaking import STYLE
from urform.languages.typescript.expressions import Expressions, client_name, text_literal, witness_name
from urform.languages.typescript.families import role_name
from urform.languages.typescript.layout import lay_out
from urform.languages.typescript.names import KEYWORDS, USED_FUNCTIONS
from urform.languages.typescript.project import Project
from urform.languages.typescript.views import HERE, identifiers
from urform.languages.typescript.writer import Writer
from urform.plan.capabilities import Expressible
from urform.plan.making_steps import PoolReleased
from urform.plan.model import Family
from urform.plan.operands import Arguments
from urform.plan.script import Case, Claim
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses

SHARED = (
    "notSameObject collected equal fixed is kind kinds refused repeated saying sameObject throwsAgain tryToEmpty unequal weakly"
).split()
OF_RECORDS = "refusedRecord"
VARIABLES = frozenset({"all", "context", "exported", "parts"})


class Proof:
    """Writes the tests of one plan, a file for each owner of claims."""

    def __init__(self, project: Project, plan: Plan) -> None:
        self.project = project
        self.plan = plan
        self.templates = project.context.templates
        self.names = project.names.calling(self.aliased)
        self.code = Expressions(plan, self.names)
        self._witnesses = Witnesses(plan)
        self._code = project.context.code_from_tests

    def pieces(self, owners: Iterable[tuple[str, Sequence[Expressible]]]) -> Iterator[Piece]:
        """The test files, and where each claim is tested, or why it is not."""
        shared = support_file(HERE / "support", "shared.ts").replace("CODE", self._code)
        yield File("test/shared.ts", self.project.test_header + shared, part=TESTS)
        if self.plan.records is not None:
            shared = support_file(HERE / "support", "shared-records.ts").replace("CODE", self._code)
            yield File("test/shared-records.ts", self.project.test_header + shared, part=TESTS)
        yield self._witness_file()
        compiled: list[Expressible] = []
        for owner, own in owners:
            path = f"test/{snake(owner).replace('_', '-')}.test.ts"
            tests = []
            for expressible in own:
                if expressible.held is not None:
                    yield Held(expressible.claim.id, expressible.held)
                    continue
                if is_compiled(expressible):
                    compiled.append(expressible)
                    continue
                yield TestAddress(expressible.claim.id, path, expressible.claim.id)
                tests.append(self._test(expressible))
            if tests:
                yield File(path, self._file(tests), part=TESTS)
        if compiled:
            yield self._clients(compiled)

    # --- files ----------------------------------------------------------------------------------------

    def _file(self, tests: list[str]) -> str:
        code = "\n".join(tests)
        lines = ['import { test } from "node:test";', "", *self._imports_of(code)]
        return f"{self.project.test_header}\n" + "\n".join(lines) + f"\n\n{code}"

    def _imports_of(self, code: str) -> list[str]:
        """What tests or clients import of the package and of what all tests share."""
        lines: list[str] = []
        if " in exported" in code:
            lines.append(f'import * as exported from "{self.package}";')
        used = identifiers(code)
        lines += self._imports(code, used)
        shared = [name for name in SHARED if name in used]
        if shared:
            lines.append(lay_out(f'import {{ {", ".join(sorted(shared))} }} from "./shared.js";'))
        if OF_RECORDS in used and self.plan.records is not None:
            lines.append(f'import {{ {OF_RECORDS} }} from "./shared-records.js";')
        witnesses = sorted(used & self.helpers)
        if witnesses:
            lines.append(lay_out(f'import {{ {", ".join(witnesses)} }} from "./witnesses.js";'))
        return lines

    def _imports(self, code: str, used: Set[str]) -> Iterator[str]:
        stand_ins = used & self._stand_ins
        names = {name for name in used if name in self.project.exports} - stand_ins - self.aliased.keys()
        names |= {f"{name} as {alias}" for name, alias in self.aliased.items() if alias in used}
        if names:
            yield from self.project.import_lines(self.package, names, code)
        if stand_ins:
            yield from self.project.import_lines(f"{self._code}/testing.js", stand_ins, code)

    @cached_property
    def _stand_ins(self) -> set[str]:
        members = {f"StandIn{self.names.type(f.name)}" for f in self.plan.families if f.stand_in is not None}
        return members | {self.names.type(name) for name in self.plan.stand_ins}

    @property
    def package(self) -> str:
        """The module that exports the package, as tests import it."""
        return f"{self._code}/index.js"

    @cached_property
    def reserved(self) -> frozenset[str]:
        """The names that no parameter of a maker may hide: what tests call, and what they import."""
        return self.helpers | self.project.exports.keys()

    @cached_property
    def helpers(self) -> frozenset[str]:
        """The functions for typical products and clients."""
        return helpers_of(self.plan, witness_name, client_name)

    @cached_property
    def aliased(self) -> dict[str, str]:
        """Exported functions that tests call otherwise: a function for typical products is called so."""
        return {
            n: f"the{n[0].upper()}{n[1:]}"
            for n in sorted((self.helpers | {OF_RECORDS}) & self.project.exports.keys())
        }

    @cached_property
    def taken(self) -> frozenset[str]:
        """What no variable of a test may be called: the names that it imports, as variables are spelt in steps."""
        functions = (n for n in self.project.exports if not n[0].isupper())
        names = {*functions, *USED_FUNCTIONS, *self.helpers, *VARIABLES}
        return frozenset({snake(name) for name in names} | KEYWORDS)

    def _witness_file(self) -> File:
        functions = []
        for product in self.plan.products.values():
            if product.abstract:
                continue
            both = (False, self._witnesses.arguments(product)), (True, self._witnesses.second(product))
            functions += [self._witness(product.name, s, given) for s, given in both if given is not None]
        functions += [self._client(family) for family in self.plan.families_with_stand_in]
        code = "\n".join(functions)
        head = f"{self.project.header}\n// Typical products for the tests, two of each kind where there are two.\n"
        used = identifiers(code)
        imports = list(self._imports(code, used))
        if "repeated" in used:
            imports.append('import { repeated } from "./shared.js";')
        return File(
            "test/witnesses.ts",
            "\n".join([head, *imports, *([""] if imports else [])]) + ("\n" if imports else "") + code,
            part=TESTS,
        )

    def _witness(self, product: str, second: bool, arguments: Arguments) -> str:
        type_ = self.names.type(product)
        call = self.code.make(product, arguments)
        cast = f" as {type_}" if self.plan.selected_by(self.plan.products[product]) is not None else ""
        return lay_out(
            f"export function {witness_name(product, second)}(): {type_} {{\n  return {call}{cast};\n}}\n"
        )

    def _client(self, family: Family) -> str:
        """A client that knows the abstract factory alone, and asks it for everything."""
        parts = []
        for role in family.roles:
            product = self.plan.products[role.product]
            given = {
                f.name: self.code.operand(v)
                for f in product.required
                if (v := self._witnesses.of(f)) is not None and not role.several
            }
            call = f"family.{role_name(self.names, role)}({self.code.fields(given)})"
            parts.append(f"...{call}" if role.several else call)
        return lay_out(
            "/** A client that knows the abstract factory alone. */\n"
            f"export function {client_name(family.name)}(family: {self.names.type(family.name)}): unknown[] {{\n"
            f"  return [{', '.join(parts)}];\n}}\n"
        )

    # --- clients --------------------------------------------------------------------------------------

    def _clients(self, claims: Sequence[Expressible]) -> Clients:
        """The file of clients that must not compile, and of their twins."""
        functions = [self._client_function(*each) for each in compiled_cases(claims)]
        imports = "\n".join(self._imports_of("\n".join(function.text for function in functions)))
        return clients_of("test/clients.ts", f"{self.project.test_header}\n{imports}\n\n", functions)

    def _client_function(self, number: int, claim: Claim, case: Case) -> Function:
        body = [f"  {line}" for line in case_lines(Writer(self, Scope(self.plan, self.taken)), case)]
        text = lay_out("\n".join([f"export function client{number}(): void {{", *body, "}", ""]))
        refusal = refusal_in(case)
        if refusal is None:
            return Function(claim.id, text)
        return Function(claim.id, text, refusal.missing, (f'"{refusal.missing}"', "type 'never'"))

    # --- one test -------------------------------------------------------------------------------------

    def _test(self, expressible: Expressible) -> str:
        claim = expressible.claim
        scope = Scope(self.plan, self.taken | parameters_of_makers(self.plan, claim.owner))
        writer = Writer(self, scope)
        body: list[str] = []
        for number, case in enumerate(expressible.cases):
            if number:
                body.append("")
            body += [f"  {line}" for line in case_lines(writer, case)]
        waits = any("await " in line for line in body)
        skips = any(isinstance(step, PoolReleased) for case in expressible.cases for step in case.steps)
        context = writer.local("context") if skips else ""
        head = f"test({text_literal(claim.id)}, {'async ' if waits else ''}({context}) => {{"
        said = plain(claim.text)
        comment = [f"// {line}" for line in wrapped(said[:1].upper() + said[1:] + ".", STYLE.width - 3)]
        return lay_out("\n".join([*comment, head, *body, "});", ""]))
