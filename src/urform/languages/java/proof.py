"""The steps of claims as JUnit 5 tests."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from functools import cached_property

from urform.languages.java.expressions import client_name, text_literal, witness_name
from urform.languages.java.families import role_name
from urform.languages.java.project import Project
from urform.languages.java.views import HERE, STYLE, identifiers, javadoc, tidy
from urform.languages.java.writer import Writer
from urform.languages.layout.engine import lay_out
from urform.languages.naming.names import camel, claim_words, pascal, unique
from urform.languages.naming.scope import Scope, parameters_of_makers
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

ASSERTIONS = tuple(
    "assertEquals assertFalse assertNotEquals assertNotSame assertNull assertSame assertThrows assertTrue".split()
)
SHARED = tuple(
    "attempt duplicateKey missing outOfLimit refused together unknownKey until withNull within".split()
)
CLIENTS = "Clients_"  # a class that no product is called
OF_RECORDS = ("items", "notMade", "said", "tree")


class Proof:
    """Writes the tests of one plan, a class for each owner of claims."""

    def __init__(self, project: Project, plan: Plan) -> None:
        self.project = project
        self.plan = plan
        self.templates = project.context.templates
        self.code = project.code
        self.names = project.names
        self._witnesses = Witnesses(plan)

    def pieces(self, owners: Iterable[tuple[str, Sequence[Expressible]]]) -> Iterator[Piece]:
        """The test files, and where each claim is tested, or why it is not."""
        shared = support_file(HERE / "support", "Shared.java").partition("\n\n")[2]
        yield self._file("Shared", self.project.whole(shared, imports=False))
        if self.plan.records is not None:
            shared = support_file(HERE / "support", "SharedRecords.java").partition("\n\n")[2]
            yield self._file("SharedRecords", self.project.whole(shared, imports=False))
        yield self._witness_file()
        named: set[str] = set()
        compiled: list[Expressible] = []
        for owner, own in owners:
            class_ = f"{pascal(owner)}Test"
            path = self._path(class_)
            methods = []
            for expressible in own:
                if expressible.held is not None:
                    yield Held(expressible.claim.id, expressible.held)
                    continue
                if is_compiled(expressible):
                    compiled.append(expressible)
                    continue
                name = unique(test_name(expressible.claim.id), named, "Again")
                named.add(name)
                yield TestAddress(expressible.claim.id, path, f"{class_}.{name}")
                methods.append(self._test(name, expressible))
            if not methods:
                continue
            body = f"final class {class_} {{\n" + "\n".join(methods) + "}\n"
            yield self._file(class_, self._with_statics(self.project.whole(lay_out(body, STYLE))))
        if compiled:
            yield self._clients(compiled)

    @cached_property
    def _helpers(self) -> set[str]:
        clients = {client_name(family.name) for family in self.plan.families}
        return clients | {
            witness_name(name, second) for name in self.plan.products for second in (False, True)
        }

    @property
    def package(self) -> str:
        """The package of the generated classes and of their tests."""
        return self.project.package

    @property
    def reserved(self) -> frozenset[str]:
        """The names that no parameter of a maker may hide: nothing, for it hides no method."""
        return frozenset()

    def _path(self, class_: str) -> str:
        return f"src/test/java/{self.project.folder}/{class_}.java"

    def _file(self, class_: str, text: str) -> File:
        return File(self._path(class_), text, part=TESTS)

    def _with_statics(self, text: str) -> str:
        """Static imports stand before the others."""
        used = identifiers(text)
        package = self.project.package
        lines = [
            f"import static org.junit.jupiter.api.Assertions.{name};" for name in ASSERTIONS if name in used
        ]
        if "assumeTrue" in used:
            lines.append("import static org.junit.jupiter.api.Assumptions.assumeTrue;")
        lines += [f"import static {package}.Shared.{name};" for name in SHARED if name in used]
        lines += [
            f"import static {package}.SharedRecords.{name};"
            for name in (OF_RECORDS if self.plan.records is not None else ())
            if re.search(rf"(?<![.\w]){name}\(", text)
        ]
        lines += [f"import static {package}.Witnesses.{name};" for name in used & self._helpers]
        head, separator, rest = text.partition(f"package {package};\n\n")
        return head + separator + ("\n".join(sorted(lines)) + "\n\n" if lines else "") + rest

    def _witness_file(self) -> File:
        methods = []
        for product in self.plan.products.values():
            if product.abstract:
                continue
            both = (False, self._witnesses.arguments(product)), (True, self._witnesses.second(product))
            for second, arguments in both:
                if arguments is not None:
                    call = self.code.make(product.name, arguments)
                    if self.plan.selected_by(product) is not None:
                        call = f"({self.names.type(product.name)}) {call}"
                    methods.append(
                        f"    static {self.names.type(product.name)} {witness_name(product.name, second)}() {{\n"
                        f"        return {call};\n    }}\n"
                    )
        methods += [self._client(family) for family in self.plan.families_with_stand_in]
        doc = "/** Typical products for the tests, two of each kind where there are two. */\n"
        body = f"{doc}final class Witnesses {{\n    private Witnesses() {{}}\n\n" + "\n".join(methods) + "}\n"
        return self._file("Witnesses", self.project.whole(lay_out(body, STYLE)))

    def _client(self, family: Family) -> str:
        """A client that knows the abstract factory alone, and asks it for everything."""
        lines = ["List<Class<?>> got = new ArrayList<>();"]
        for role in family.roles:
            product = self.plan.products[role.product]
            given = {f.name: v for f in product.required if (v := self._witnesses.of(f)) is not None}
            asked = [self.code.operand(given[f.name]) for f in product.required]
            asked += [f"new {self.names.type(product.name)}.Options()"] if product.optional else []
            call = f"family.{role_name(self.names, role)}({'' if role.several else ', '.join(asked)})"
            if role.several:
                lines += [f"{call}.forEach(each -> got.add(each.getClass()));"]
            else:
                lines += [f"got.add({call}.getClass());"]
        body = "".join(f"        {line}\n" for line in [*lines, "return got;"])
        return (
            f"    /** A client that knows the abstract factory alone. */\n"
            f"    static List<Class<?>> {client_name(family.name)}({self.names.type(family.name)} family) {{\n{body}    }}\n"
        )

    def _clients(self, claims: Sequence[Expressible]) -> Clients:
        """The file of clients that must not compile, and of their twins."""
        functions = [self._client_function(*each) for each in compiled_cases(claims)]
        opening = f"final class {CLIENTS} {{\n"
        body = opening + "\n".join(function.text for function in functions) + "}\n"
        head, _, _ = self._with_statics(self.project.whole(body)).partition(opening)
        return clients_of(self._path(CLIENTS), head + opening, functions, foot="}\n")

    def _client_function(self, number: int, claim: Claim, case: Case) -> Function:
        body = [f"        {line}" for line in case_lines(Writer(self, Scope(self.plan)), case)]
        text = lay_out(tidy("\n".join([f"    void client{number}() {{", *body, "    }"]) + "\n"), STYLE)
        refusal = refusal_in(case)
        if refusal is None:
            return Function(claim.id, text)
        needed = f"Needs{pascal(refusal.missing)}"
        return Function(claim.id, text, refusal.missing, ("method build()", needed))

    def _test(self, name: str, expressible: Expressible) -> str:
        claim = expressible.claim
        scope = Scope(self.plan, parameters_of_makers(self.plan, claim.owner))
        writer = Writer(self, scope)
        lines = [f"    {javadoc(claim.text[:1].upper() + claim.text[1:] + '.', 4)}", "    @Test"]
        lines += [f"    @DisplayName({text_literal(claim.id)})", f"    void {name}() {{"]
        for number, case in enumerate(expressible.cases):
            if number:
                lines.append("")
            lines += ["        " + line for line in case_lines(writer, case)]
        return tidy("\n".join([*lines, "    }"]) + "\n")


def test_name(claim: str) -> str:
    """`limit/Mark.station:min` gives `limitMarkStationMin`."""
    first, *others = map(camel, claim_words(claim))
    return first + "".join(pascal(word) for word in others)
