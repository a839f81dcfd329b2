"""How code that makes things is read from a tree: the same in every language, with a table of its words and a few functions."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from urform.dataclasses import dataclass
from urform.existing.sources import trees
from urform.existing.sources.code_facts import (
    ABSENT,
    FAILS,
    GOES_ON,
    MAKES,
    NOTHING_GIVEN,
    Arm,
    CallFact,
    ConstructorFact,
    FileFacts,
    Region,
    SwitchFact,
)
from urform.existing.sources.copies import CopyWords, copies
from urform.existing.sources.facts import TypeFact
from urform.existing.sources.trees import Node, text

FEWEST_ARMS = 2  # that make something
FEWEST_ROWS = 3  # of a table


@dataclass(frozen=True, slots=True)
class Branch:
    """Keys, and what is done for them. Without labels: for every other key."""

    labels: tuple[Node, ...]
    body: tuple[Node, ...]
    node: Node


@dataclass(frozen=True, slots=True)
class Result:
    """What statements come to: how they end, what they make, and where that goes."""

    ends: str
    makes: str = ""
    target: str = ""


@dataclass(frozen=True, slots=True)
class Function:
    """Where something stands: the function's name, and what it says that it returns."""

    name: str
    returns: str


@dataclass(frozen=True, slots=True)
class CodeGrammar:
    """The words of a language for making things.

    `made` names the type that an expression makes; `cases` are the branches of a switch, and its subject; `test` is what a
    condition compares with keys; `parts` of an `if` are its condition, what follows, and what follows otherwise; `rows` are
    the keys and the made types of a table; `assigned` is a name and the value that it gets.
    """

    functions: frozenset[str]
    blocks: frozenset[str]
    returns: frozenset[str]
    throws: frozenset[str]
    nulls: frozenset[str]
    switches: frozenset[str]
    conditions: frozenset[str]
    tables: frozenset[str]
    constructions: frozenset[str]  # nodes that `calls` is asked about
    made: Callable[[Node], str]
    cases: Callable[[Node], tuple[Node | None, Sequence[Branch]]]
    test: Callable[[Node], tuple[str, tuple[Node, ...]] | None]
    parts: Callable[[Node], tuple[Node | None, Sequence[Node], Sequence[Node] | None]]
    rows: Callable[[Node], Sequence[tuple[Node, str]]]
    assigned: Callable[[Node], tuple[str, Node | None] | None]
    constructors: Callable[[Node, str], Iterator[ConstructorFact]]
    calls: Callable[[Node, str], CallFact | None]
    copies: CopyWords | None  # where a copy could share
    comments: frozenset[str] = frozenset(("comment", "line_comment", "block_comment"))
    aborts: frozenset[str] = frozenset()  # functions that do not come back
    unwrapped: Callable[[Node], Node] = lambda node: node  # what `Ok(Box::new(made))` gives
    is_exhaustive: bool = False  # a switch has an arm for every key
    has_tails: bool = False  # the last expression of a block is its value
    idle: frozenset[str] = frozenset(("break_statement", "pass_statement"))


def region(node: Node, file: str) -> Region:
    """Where a node stands."""
    return Region(file, trees.line(node), int(node.end_point[0]) + 1, int(node.start_point[1]) + 1)


def code_facts(root: Node, file: str, grammar: CodeGrammar, types: Sequence[TypeFact]) -> FileFacts:
    """All that a file does about making things."""
    reader = _Reader(file, grammar)
    reader.read(root)
    return FileFacts(
        types=tuple(types),
        switches=tuple(reader.switches),
        copies=tuple(copies(root, file, types, grammar.copies)) if grammar.copies is not None else (),
        constructors=tuple(grammar.constructors(root, file)),
        calls=tuple(reader.calls),
    )


def is_type_name(name: str) -> bool:
    """Whether a name is that of a type, by how it is spelled: constants are in capitals."""
    return name[:1].isupper() and (len(name) == 1 or not name.isupper())


def is_code(node: Node) -> bool:
    """Whether a node is a type code: a literal, or a constant by its name."""
    if node.type in _LITERALS:
        return True
    if node.type in _CONSTANTS:
        last = text(node).replace("::", ".").rpartition(".")[2]
        return last[:1].isupper() and last not in ("None", "True", "False", "NULL")
    if node.type in _SEVERAL:
        return bool(node.named_children) and all(is_code(each) for each in node.named_children)
    return False


_LITERALS = frozenset(
    "string integer float number char_literal character_literal string_literal decimal_integer_literal "
    "hex_integer_literal interpreted_string_literal raw_string_literal int_literal rune_literal number_literal "
    "integer_literal property_identifier".split()
)
_CONSTANTS = frozenset(
    "identifier attribute field_access selector_expression member_expression dotted_name scoped_identifier "
    "qualified_identifier".split()
)
_SEVERAL = frozenset(
    "tuple list set case_pattern union_pattern parenthesized_expression expression_list".split()
)


class _Reader:
    def __init__(self, file: str, grammar: CodeGrammar) -> None:
        self._file = file
        self._grammar = grammar
        self._chained: set[int] = set()  # conditions that are part of a chain that was read
        self.switches: list[SwitchFact] = []
        self.calls: list[CallFact] = []

    def read(self, root: Node) -> None:
        grammar = self._grammar
        for node in trees.everywhere(root, *grammar.switches, *grammar.conditions, *grammar.tables):
            if node.type in grammar.switches:
                self._switch(node)
            elif node.type in grammar.tables:
                self._table(node)
            elif node.id not in self._chained:
                self._chain(node)
        for node in trees.everywhere(root, *grammar.constructions):
            if (call := grammar.calls(node, self._file)) is not None:
                self.calls.append(call)

    def _function(self, node: Node | None) -> Function:
        """The function in which a node stands; one without a name has that of the one around it."""
        returns = ""
        while node is not None:
            if node.type in self._grammar.functions:
                found = _function(node)
                returns = returns or found.returns
                if found.name:
                    return Function(found.name, returns)
            node = node.parent
        return Function("", returns)

    # --- three forms ---

    def _switch(self, node: Node) -> None:
        subject, branches = self._grammar.cases(node)
        if subject is None:
            return
        arms, others, otherwise = [], 0, Result(ABSENT)
        for branch in branches:
            result = self.result(branch.body)
            if not branch.labels:
                otherwise = result
            elif result.ends == MAKES and all(map(is_code, branch.labels)):
                arms.append(self._arm(branch.labels, result, branch.node))
            else:
                others += 1
        if otherwise.ends == ABSENT and not self._grammar.is_exhaustive:
            otherwise = self._after(node, arms[0].target if arms else "")
        self._keep(node, node, text(subject).strip("()"), arms, others, otherwise)

    def _chain(self, node: Node) -> None:
        """Conditions that compare one subject with keys: else-ifs, or ifs one after the other that return."""
        arms: list[Arm] = []
        others, subject = 0, ""
        current: Node | None = node
        last, otherwise = node, Result(ABSENT)
        while current is not None and current.type in self._grammar.conditions:
            condition, body, alternative = self._grammar.parts(current)
            tested = self._grammar.test(condition) if condition is not None else None
            if tested is None or (subject and tested[0] != subject):
                break
            subject, labels = tested
            self._chained.add(current.id)
            last, result = current, self.result(body)
            if result.ends == MAKES:
                arms.append(self._arm(labels, result, current))
            else:
                others += 1
            if alternative is None:
                current = self._next(current) if result.ends in (MAKES, FAILS, NOTHING_GIVEN) else None
            elif len(alternative) == 1 and alternative[0].type in self._grammar.conditions:
                current = alternative[0]
            else:
                otherwise, current = self.result(alternative), None
        if otherwise.ends == ABSENT:
            otherwise = self._after(last, arms[0].target if arms else "")
        self._keep(node, last, subject, arms, others, otherwise)

    def _table(self, node: Node) -> None:
        rows = self._grammar.rows(node)
        arms = [
            Arm((text(key),), makes, "table", trees.line(key))
            for key, makes in rows
            if makes and is_code(key)
        ]
        others = len(rows) - len(arms)
        if len(arms) >= FEWEST_ROWS and others * 3 <= len(arms):
            fact = SwitchFact(
                region(node, self._file),
                self._function(node).name,
                "",
                tuple(arms),
                others,
                ABSENT,
                is_table=True,
            )
            self.switches.append(fact)

    def _arm(self, labels: Sequence[Node], result: Result, node: Node) -> Arm:
        return Arm(tuple(map(text, labels)), result.makes, result.target, trees.line(node))

    def _keep(
        self,
        node: Node,
        last: Node,
        subject: str,
        arms: list[Arm],
        others: int,
        otherwise: Result,
    ) -> None:
        if len(arms) < FEWEST_ARMS:
            return
        function = self._function(node)
        where = Region(self._file, trees.line(node), int(last.end_point[0]) + 1, int(node.start_point[1]) + 1)
        self.switches.append(
            SwitchFact(
                where,
                function.name,
                subject,
                tuple(arms),
                others,
                otherwise.ends,
                otherwise_makes=otherwise.makes,
                returns=function.returns,
            )
        )

    # --- what statements come to ---

    def result(self, statements: Sequence[Node]) -> Result:
        """What is made by some statements, and where it goes."""
        grammar = self._grammar
        lines = [
            each
            for statement in statements
            for each in _flat(statement, grammar)
            if each.type not in grammar.comments and each.type not in grammar.idle
        ]
        if not lines:
            return Result(GOES_ON)
        last = lines[-1]
        if _throws(last, grammar):
            return Result(FAILS)
        if _is_bare(last) and last.named_children[0].type in grammar.returns:
            last = last.named_children[0]
        if last.type in grammar.returns:
            return self._returned(last, lines[:-1])
        if grammar.has_tails and last.type not in ("expression_statement", "let_declaration"):
            return self._value(last, lines[:-1])
        made = [(each, target, makes) for each in lines for target, makes in self._assigned(each)]
        if len(made) == 1:
            return Result(MAKES, made[0][2], made[0][1])
        if makes := grammar.made(last.named_children[0] if _is_bare(last) else last):
            return Result(MAKES, makes, "return") if last.type in _VALUES else Result(GOES_ON)
        return Result(GOES_ON)

    def _returned(self, statement: Node, before: Sequence[Node]) -> Result:
        values = [each for each in statement.named_children if each.type not in self._grammar.comments]
        if len(values) == 1 and values[0].type == "expression_list":
            values = values[0].named_children
        if not values:
            return Result(NOTHING_GIVEN)
        if text(values[0]) in self._grammar.nulls:
            rest = [text(each) for each in values[1:]]
            return Result(NOTHING_GIVEN if all(each in self._grammar.nulls for each in rest) else FAILS)
        return self._value(values[0], before)

    def _value(self, value: Node, before: Sequence[Node]) -> Result:
        if text(value) in self._grammar.nulls:
            return Result(NOTHING_GIVEN)
        if makes := self._grammar.made(value):
            return Result(MAKES, makes, "return")
        for each in before:  # made just before, and given by its name
            for target, makes in self._assigned(each):
                if target == text(self._grammar.unwrapped(value)):
                    return Result(MAKES, makes, "return")
        return Result(GOES_ON)

    def _assigned(self, statement: Node) -> Iterator[tuple[str, str]]:
        pair = self._grammar.assigned(statement)
        if pair is not None and pair[1] is not None and (makes := self._grammar.made(pair[1])):
            yield pair[0], makes

    def _next(self, node: Node) -> Node | None:
        """The statement behind a condition, if it is a condition as well."""
        outer = node.parent
        after = (outer if outer is not None and _is_bare(outer) else node).next_named_sibling
        while after is not None and after.type in self._grammar.comments:
            after = after.next_named_sibling
        if after is not None and _is_bare(after):
            after = after.named_children[0]
        return after if after is not None and after.type in self._grammar.conditions else None

    def _after(self, node: Node, target: str) -> Result:
        """What becomes of a key that no arm knows: what stands behind the switch; the end of a function that returns gives
        nothing, and what was assigned before stays where the arms assign."""
        if target != "return":
            return Result(GOES_ON)
        while True:
            after = node.next_named_sibling
            while after is not None and after.type in self._grammar.comments:
                after = after.next_named_sibling
            parent = node.parent
            if after is not None and parent is not None and parent.type in self._grammar.blocks:
                return self.result([after])
            if parent is None or parent.type in self._grammar.functions:
                return Result(NOTHING_GIVEN)
            node = parent


def _function(node: Node) -> Function:
    fields = ("return_type", "result", "type")
    returns = next((each for field in fields if (each := node.child_by_field_name(field)) is not None), None)
    declared = text(node.child_by_field_name("declarator")).partition("(")[0].rpartition("::")[2].strip("*& ")
    said = f"{text(trees.first(node, 'modifiers'))} {text(returns)}".strip()
    return Function(text(node.child_by_field_name("name")) or declared, said)


_VALUES = frozenset(("expression_statement",))  # of a rule of a switch that is an expression


def _is_bare(node: Node) -> bool:
    return node.type == "expression_statement" and len(node.named_children) == 1


def _flat(node: Node, grammar: CodeGrammar) -> Iterator[Node]:
    if node.type in grammar.blocks:
        for each in node.named_children:
            yield from _flat(each, grammar)
    else:
        yield node


def _throws(node: Node, grammar: CodeGrammar) -> bool:
    inner = node.named_children[0] if _is_bare(node) else node
    called = inner.child_by_field_name("function") or inner.child_by_field_name("macro")
    return inner.type in grammar.throws or text(called) in grammar.aborts
