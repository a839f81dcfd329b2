"""The steps of claims as tests of package testing."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from functools import cached_property

from urform.languages.go.context import Context
from urform.languages.go.expressions import Expressions, client_name, witness_name
from urform.languages.go.families import role_fails, role_name
from urform.languages.go.views import HERE, STYLE, comment, qualifiers
from urform.languages.go.writer import Writer
from urform.languages.layout.engine import lay_out
from urform.languages.naming.names import camel, claim_words, pascal, snake, unique
from urform.languages.naming.scope import Scope, helpers_of, parameters_of_makers
from urform.languages.placing import TESTS
from urform.languages.rendering.templates import support_file
from urform.languages.target import File, Held, Piece, TestAddress
from urform.languages.testing.steps import case_lines
from urform.plan.capabilities import Expressible
from urform.plan.model import Family
from urform.plan.operands import (
    Arguments,
)
from urform.plan.whole import Plan
from urform.plan.witnesses import Witnesses


class Proof:
    """Writes the tests of one plan, a file for each owner of claims."""

    def __init__(self, context: Context, plan: Plan) -> None:
        self.context = context
        self.plan = plan
        self.templates = context.templates
        self.names = context.names
        self.code = Expressions(plan, context.names, context.package, context.doubles)
        self.at = self.code.at
        self._witnesses = Witnesses(plan)
        doubles = f'"{context.path}/{context.doubles}"'
        self._packages = {context.package: context.imported, context.doubles: doubles}

    def pieces(self, owners: Iterable[tuple[str, Sequence[Expressible]]]) -> Iterator[Piece]:
        """The test files, and where each claim is tested, or why it is not."""
        shared = support_file(HERE / "support", "shared_test.go").replace("PACKAGE", self.context.package)
        yield File("shared_test.go", self.context.header + shared, part=TESTS)
        if self.plan.records is not None:
            shared = support_file(HERE / "support", "shared_records_test.go")
            text = shared.replace("PACKAGE", self.context.package).replace("IMPORT", self.context.imported)
            yield File("shared_records_test.go", self.context.header + text, part=TESTS)
        yield self._file("witnesses_test", self._witness_code())
        named: set[str] = set()
        for owner, own in owners:
            path = (
                f"{snake(owner)}_test"
                if snake(owner) not in ("shared", "witnesses")
                else f"{snake(owner)}__test"
            )
            functions = []
            for expressible in own:
                if expressible.held is not None:
                    yield Held(expressible.claim.id, expressible.held)
                    continue
                name = unique(test_name(expressible.claim.id), named, "_again")
                named.add(name)
                yield TestAddress(expressible.claim.id, f"{path}.go", name)
                functions.append(self._test(name, expressible))
            if functions:
                yield self._file(path, "\n".join(functions))

    def _file(self, name: str, code: str) -> File:
        used = qualifiers(code)
        more = tuple(imported for name, imported in self._packages.items() if name in used)
        laid_out = lay_out(code, STYLE)
        text = self.context.whole(laid_out, package=f"{self.context.package}_test", more=more)
        return File(f"{name}.go", text, part=TESTS)

    @cached_property
    def reserved(self) -> frozenset[str]:
        """The names that no parameter of a maker may hide: what tests call, and what they import."""
        return self.helpers | set(self._packages)

    @cached_property
    def helpers(self) -> frozenset[str]:
        """The functions for typical products and clients."""
        return helpers_of(self.plan, witness_name, client_name)

    def _witness_code(self) -> str:
        functions = []
        for product in self.plan.products.values():
            if product.abstract:
                continue
            both = (False, self._witnesses.arguments(product)), (True, self._witnesses.second(product))
            for second, arguments in both:
                if arguments is None:
                    continue
                type_ = f"*{self.at}{self.names.type(product.name)}"
                call = self.make(product.name, arguments)
                selection = self.plan.selected_by(product)
                fails = (
                    self.code.fallible(product) if selection is None else self.code.selection_fails(selection)
                )
                result = f"as[{type_}](t, made)" if selection is not None else "made"
                body = f"\tmade, err := {call}\n\tsucceeds(t, err)\n\treturn {result}\n"
                if not fails:
                    body = f"\treturn {call if selection is None else f'as[{type_}](t, {call})'}\n"
                name = witness_name(product.name, second)
                functions.append(f"func {name}(t *testing.T) {type_} {{\n\tt.Helper()\n{body}}}\n")
        functions += [self._client(family) for family in self.plan.families_with_stand_in]
        return "// Typical products for the tests, two of each kind where there are two.\n\n" + "\n".join(
            functions
        )

    def _client(self, family: Family) -> str:
        """A client that knows the abstract factory alone, and asks it for everything."""
        lines = ["t.Helper()", "var got []any"]
        for role in family.roles:
            product = self.plan.products[role.product]
            given = {f.name: v for f in product.required if (v := self._witnesses.of(f)) is not None}
            call = f"family.{role_name(role)}({'' if role.several else self.code.arguments(product, given)})"
            variable = camel(role.name) + "Made"
            if role.several:
                lines += [f"for _, {variable} := range {call} {{", f"\tgot = append(got, {variable})", "}"]
            elif role_fails(self.context, family, role):
                lines += [f"{variable}, err := {call}", "succeeds(t, err)", f"got = append(got, {variable})"]
            else:
                lines += [f"got = append(got, {call})"]
        body = "".join(f"\t{line}\n" for line in [*lines, "return got"])
        type_ = f"{self.at}{self.names.type(family.name)}"
        header = f"func {client_name(family.name)}(t *testing.T, family {type_}) []any {{"
        return f"// {client_name(family.name)} is a client that knows the abstract factory alone.\n{header}\n{body}}}\n"

    def make(self, product: str, arguments: Arguments) -> str:
        """A call of a constructor."""
        declared = self.plan.products[product]
        selection = self.plan.selected_by(declared)
        if selection is not None:
            entry = f"{self.at}New{self.names.type(selection.product)}"
            return f"{entry}({self.code.selected(selection, arguments)})"
        return f"{self.at}New{self.names.type(product)}({self.code.arguments(declared, arguments)})"

    def _test(self, name: str, expressible: Expressible) -> str:
        claim = expressible.claim
        scope = Scope(
            self.plan,
            frozenset({*self._packages, "t", "is"}) | parameters_of_makers(self.plan, claim.owner),
        )
        writer = Writer(self, scope)
        lines = [comment(f"{name}: {claim.text} ({claim.id}).", 0), f"func {name}(t *testing.T) {{"]
        for number, case in enumerate(expressible.cases):
            if number:
                lines.append("")
            lines += ["\t" + line for line in case_lines(writer, case)]
        return "\n".join([*lines, "}"]) + "\n"


def test_name(claim: str) -> str:
    """`limit/Mark.station:min` gives `TestLimit_Mark_station_min`."""
    first, *others = claim_words(claim)
    return f"Test{pascal(first)}_{'_'.join(others)}"
