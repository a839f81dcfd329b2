"""What is found in code that makes things: examples of each kind, the same code in four languages, and the facts below."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from tests.conftest import HERE
from urform.existing.auditing import CODES, SUFFIXES, Audit, audit, sources_of
from urform.existing.findings.finding import Kind
from urform.existing.findings.kinds import KINDS
from urform.existing.findings.reports import as_json, as_sarif, fingerprints
from urform.existing.sources import trees
from urform.existing.sources.code import code_facts
from urform.existing.sources.code_facts import SwitchFact
from urform.existing.sources.reading import LANGUAGES

CODE = sorted((HERE / "fixtures/existing/code").glob("*"))
ALL = tuple(KINDS.values())


def found_in(folder: Path, source: str, name: str = "one.py", kinds: tuple[Kind, ...] = ALL) -> Audit:
    path = folder / name
    path.write_text(source, encoding="utf-8")
    return audit([path], kinds, frozenset())


# --- each kind --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ALL, ids=KINDS)
def test_an_example_has_it_and_another_has_not(kind: Kind, tmp_path: Path) -> None:
    assert [each.id for each in found_in(tmp_path, kind.bad, kinds=(kind,)).findings] == [kind.id]
    assert found_in(tmp_path, kind.good, kinds=(kind,)).findings == ()
    assert all(each.level == kind.level for each in found_in(tmp_path, kind.bad, kinds=(kind,)).findings)


@pytest.mark.parametrize("path", CODE, ids=lambda path: SUFFIXES[path.suffix])
def test_the_same_code_in_each_language(path: Path, expected: Callable[[str, str], None]) -> None:
    told = as_json(audit([path], ALL, frozenset()))
    for each in told["findings"]:  # type: ignore[attr-defined]
        each["fingerprint"] = "…"
    text = json.dumps(told, indent=2, ensure_ascii=False) + "\n"
    expected(f"audited/{SUFFIXES[path.suffix]}.json", text.replace(str(path), path.name))


def test_every_language_has_code() -> None:
    assert {SUFFIXES[path.suffix] for path in CODE} == set(CODES)


# --- facts ------------------------------------------------------------------------------------------------------


def switches(language: str, source: str) -> list[SwitchFact]:
    root = trees.root_of(source.encode(), *LANGUAGES[language].grammar)
    return list(code_facts(root, "one", CODES[language], []).switches)


SWITCHES = [
    ("python", "def f(x):\n  if x == 'a': return A()\n  elif x in ('b', 'c'): return B()\n  else: raise E", "fails"),
    ("python", "def f(x):\n  if x == K.A: return A()\n  if x == K.B: return B()\n  return None", "nothing"),
    ("python", "def f(x):\n  if x == 'a': return A()\n  if x == 'b': return B()", "nothing"),
    ("python", "def f(x):\n  if x == 'a': return A()\n  if x == 'b': return B()\n  return C()", "makes"),
    ("python", "def f(x):\n  if x == 'a': y = A()\n  elif x == 'b': y = B()\n  return y", "goes on"),
    ("python", "def f(x):\n  match x:\n    case 'a': return A()\n    case 'b' | 'c': return B()\n    case _: raise E", "fails"),
    ("python", "T = {'a': A, 'b': B, 'c': lambda: C()}", "absent"),
    ("java", "class C { A f(int x) { switch (x) { case 1: return new A(); case 2: return new B(); } return null; } }", "nothing"),
    (
        "java",
        'class C { A f(String x) { return switch (x) { case "a" -> new A(); case "b", "c" -> new B(); '
        "default -> throw new E(); }; } }",
        "fails",
    ),
    ("java", "class C { A f(K x) { if (x == K.A) return new A(); else if (x == K.B) return new B(); throw new E(); } }", "fails"),
    (
        "typescript",
        "function f(x: string) { switch (x) { case 'a': return new A(); case 'b': { const y = new B(); return y; } "
        "default: return undefined; } }",
        "nothing",
    ),
    ("typescript", "const t = { a: A, b: () => new B(), 'c': C };", "absent"),
    ("go", 'func f(x string) M { switch x { case "a": return &A{}; case "b", "c": return NewB() }; return nil }', "nothing"),
    ("rust", "fn f(x: K) -> M { match x { K::A => Box::new(A::new()), K::B => Box::new(B { x: 1 }) } }", "absent"),
    ("rust", 'fn f(x: &str) -> O { match x { "a" => Some(A::new()), "b" => Some(B {}), _ => None } }', "nothing"),
    (
        "rust",
        'fn f(x: &str) -> R { if x == "a" { return Ok(A {}); } if x == "b" { let y = B {}; return Ok(y); } Err(x) }',
        "fails",
    ),
    ("cpp", "M *f(K x) { switch (x) { case K::A: return new A(); case K::B: return new B(); } return nullptr; }", "nothing"),
    (
        "cpp",
        "P f(int x) { if (x == 1) { return std::make_unique<A>(); } else if (x == 2) { return B(); } else { throw E(); } }",
        "fails",
    ),
    (
        "go",
        'func f(x string) (M, error) { switch x { case "a": return &A{}, nil; case "b": return B{}, nil }; '
        "return nil, errors.New(x) }",
        "fails",
    ),
    (
        "go",
        'var t = map[string]func() M{"a": func() M { return &A{} }, "b": func() M { return &B{} }, '
        '"c": func() M { return &C{} }}',
        "absent",
    ),
]  # fmt: skip


@pytest.mark.parametrize(("language", "source", "otherwise"), SWITCHES)
def test_switches_in_all_their_forms(language: str, source: str, otherwise: str) -> None:
    (switch,) = switches(language, source)
    assert {"A", "B"} <= switch.makes() <= {"A", "B", "C"}
    assert switch.otherwise == otherwise


NO_SWITCHES = [
    (
        "rust",
        'fn f(x: &str) -> D { match x { "a" => D::A(1), "b" => From::from(2), _ => Default::default() } }',
    ),
    ("cpp", "int f(int x) { switch (x) { case 1: return g(); case 2: return h(); } return 0; }"),
    ("python", "def f(x):\n  if x == 'a': return 1\n  if x == 'b': return 2"),
    ("python", "def f(x, y):\n  if x == 'a': return A()\n  if y == 'b': return B()"),
    ("python", "def f(x):\n  if x > 1: return A()\n  if x > 2: return B()"),
    ("python", "T = {'a': 1, 'b': 2, 'c': C}"),
    (
        "java",
        "class C { A f(int x) { switch (x) { case 1: g(); return new A(); default: return new B(); } } }",
    ),
    ("typescript", "function f(x: string) { if (x === 'a') { g(); } else if (x === 'b') { h(); } }"),
    (
        "go",
        "func f(x any) M { switch x.(type) { case int: return &A{}; case string: return &B{} }; return nil }",
    ),
]


@pytest.mark.parametrize(("language", "source"), NO_SWITCHES)
def test_what_is_no_switch_that_makes(language: str, source: str) -> None:
    assert switches(language, source) == []


# --- rules ------------------------------------------------------------------------------------------------------

MARKS = "class Mark: pass\nclass Buoy(Mark): pass\nclass Beacon(Mark): pass\n"
MAKING = "def make(code):\n    if code == 'buoy': return Buoy()\n    if code == 'beacon': return Beacon()\n    raise ValueError\n"


@pytest.mark.parametrize(
    "source",
    [
        MARKS.replace("Mark", "Exception").replace("Buoy", "BuoyError").replace("Beacon", "BeaconError")
        + MAKING.replace("Buoy()", "BuoyError()").replace("Beacon()", "BeaconError()"),
        MARKS.replace("(Mark)", "") + MAKING,
        MARKS + MAKING.replace("code", "len(parts)"),
        MARKS + "T = {Mark: Mark, Buoy: Buoy, Beacon: Beacon}\n",
        "# Generated by a tool. DO NOT EDIT.\n" + MARKS + MAKING,
    ],
    ids=["exceptions", "unrelated", "sizes", "by types", "generated"],
)
def test_what_is_left_out(source: str, tmp_path: Path) -> None:
    assert [each.id for each in found_in(tmp_path, MARKS + MAKING).findings] == ["type-switch"]
    assert found_in(tmp_path, source).findings == ()


CLONES = [
    ("return Refit(self.legs)", "self.legs = legs", "self.legs.append(1)", 1),
    ("return Refit(legs=self.legs)", "self.legs = legs", "self.legs[0] = 1", 1),
    ("made = Refit([])\n        made.legs = self.legs\n        return made", "self.legs = list(legs)", "self.legs.append(1)", 1),
    ("return Refit(list(self.legs))", "self.legs = legs", "self.legs.append(1)", 0),
    ("return Refit(self.legs)", "self.legs = list(legs)", "self.legs.append(1)", 0),
    ("return Refit(self.legs)", "self.legs = legs", "return len(self.legs)", 0),
    ("return Refit(self.legs)", "self.legs = legs", "self.legs = list(self.legs)\n        self.legs.append(1)", 0),
    ("return Other(self.legs)", "self.legs = legs", "self.legs.append(1)", 0),
]  # fmt: skip


@pytest.mark.parametrize(("copy", "init", "change", "count"), CLONES)
def test_which_clones_share(copy: str, init: str, change: str, count: int, tmp_path: Path) -> None:
    source = (
        f"class Refit:\n    legs: list[int]\n    def __init__(self, legs: list[int]):\n        {init}\n"
        f"    def copy(self):\n        {copy}\n    def change(self):\n        {change}\n"
    )
    assert len(found_in(tmp_path, source, kinds=(KINDS["clone-shares"],)).findings) == count


def test_go_hands_out_what_is_exported(tmp_path: Path) -> None:
    source = "package a\ntype R struct{ %s []int }\nfunc (r *R) Copy() *R { return &R{r.%s} }\n"
    shares = (KINDS["clone-shares"],)
    assert len(found_in(tmp_path, source.replace("%s", "Legs"), "one.go", shares).findings) == 1
    assert len(found_in(tmp_path, source.replace("%s", "legs"), "one.go", shares).findings) == 0


@pytest.mark.parametrize(
    ("function", "count"),
    [
        ("def make(code):", 1),
        ("def find_mark(code):", 0),
        ("def mark_or_none(code):", 0),
        ("def make(code) -> Optional[Mark]:", 0),
        ("def make(code) -> Mark:", 1),
    ],
)
def test_who_says_that_there_may_be_nothing(function: str, count: int, tmp_path: Path) -> None:
    source = MARKS + MAKING.replace("def make(code):", function).replace(
        "    raise ValueError\n", "    return None\n"
    )
    assert len(found_in(tmp_path, source, kinds=(KINDS["unknown-gives-nothing"],)).findings) == count


def test_a_person_keeps_what_is_meant(tmp_path: Path) -> None:
    kept = MAKING.replace("    if code == 'buoy'", "    # urform: keep type-switch\n    if code == 'buoy'")
    found = found_in(tmp_path, MARKS + kept)
    assert (found.findings, found.kept) == ((), 1)
    other = found_in(tmp_path, MARKS + kept.replace("type-switch", "clone-shares"))
    assert (len(other.findings), other.kept) == (1, 0)


def test_what_was_known_before_is_left_out_wherever_it_stands(tmp_path: Path) -> None:
    before = found_in(tmp_path, MARKS + MAKING)
    known = fingerprints(json.loads(json.dumps(as_json(before))))
    path = tmp_path / "one.py"
    path.write_text("\n\n" + MARKS + "\n" + MAKING, encoding="utf-8")
    after = audit([path], ALL, known)
    assert (after.findings, after.known) == ((), 1)
    more = MAKING.replace("    raise", "    if code == 'w': return Wreck()\n    raise")
    path.write_text(MARKS + "class Wreck(Mark): pass\n" + more, encoding="utf-8")
    assert len(audit([path], ALL, known).findings) == 1


def test_sarif(tmp_path: Path) -> None:
    found = found_in(tmp_path, KINDS["same-switch-twice"].bad)
    told = json.loads(json.dumps(as_sarif(found, ALL)))
    (run,) = told["runs"]
    assert [rule["id"] for rule in run["tool"]["driver"]["rules"]] == list(KINDS)
    for result, finding in zip(run["results"], found.findings, strict=True):
        assert run["tool"]["driver"]["rules"][result["ruleIndex"]]["id"] == result["ruleId"] == finding.id
        place = result["locations"][0]["physicalLocation"]
        assert place["artifactLocation"]["uri"] == (tmp_path / "one.py").as_uri()
        assert place["region"] == {"startLine": finding.region.line, "endLine": finding.region.end_line}
        assert [each["id"] for each in result["relatedLocations"]] == [*range(1, len(finding.proof) + 1)]
        assert result["partialFingerprints"] == {"urform/v1": finding.fingerprint}


# --- files ------------------------------------------------------------------------------------------------------


def test_tests_and_hidden_folders_are_left_out(tmp_path: Path) -> None:
    names = "src/a.py src/a.txt tests/b.py src/test_c.py src/d_test.go .venv/e.py node_modules/f.ts g.spec.ts"
    for name in (*names.split(), "src/H.java", "src/HTest.java"):
        (tmp_path / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / name).write_text("", encoding="utf-8")
    found = [path.relative_to(tmp_path).as_posix() for path in sources_of([tmp_path])]
    assert found == ["src/H.java", "src/a.py"]
    assert sources_of([tmp_path / "tests/b.py"]) == [tmp_path / "tests/b.py"]  # for it was named


def test_many_files_are_read_side_by_side_with_the_same_findings(tmp_path: Path) -> None:
    for number in range(90):
        (tmp_path / f"m{number}.py").write_text(MARKS + MAKING, encoding="utf-8")
    files = sources_of([tmp_path])
    assert len(audit(files, (KINDS["type-switch"],), frozenset()).findings) == 90


def test_what_is_broken_is_read_as_far_as_it_goes(tmp_path: Path) -> None:
    found = found_in(tmp_path, MARKS + MAKING + "\ndef broken(:\n")
    assert [each.id for each in found.findings] == ["type-switch"]
    assert found.broken == (f"{tmp_path / 'one.py'} is not whole python: what could be read was",)


PIECES = [
    *(
        "if (x == 'a') {",
        "if x == 'a':\n",
        "elif x == 'b':\n",
        "else",
        "switch (x) {",
        "switch x {",
        "case 1:",
        "default:",
    ),
    *(
        "match x:\n",
        "case 'a':\n",
        "return new A();",
        "return A()\n",
        "return nil",
        "return null;",
        "new A(",
        "&A{",
        "{",
        "}",
    ),
    *(
        "class A:\n",
        "class A {",
        "def copy(self):\n",
        "self.x",
        "this.x",
        "(",
        ")",
        ";",
        ",",
        "\n",
        "    ",
        "'a'",
        "=",
        "x",
    ),
    *(
        "func (a *A) Copy() *A {",
        "type A struct {",
        "constructor(",
        "A copy() {",
        "case",
        "=>",
        "->",
        "map[string]A{",
    ),
]


@example(source="map[string]A{if x == 'a':\nswitch x {return null;")
@given(source=st.lists(st.sampled_from(PIECES), max_size=30).map("".join) | st.text(max_size=60))
def test_any_code_is_read(source: str) -> None:
    for language, grammar in CODES.items():
        reader = LANGUAGES[language]
        root = trees.root_of(source.encode("utf-8", "surrogatepass"), *reader.grammar)
        facts = code_facts(root, "one", grammar, list(reader.facts(root, "one")))
        assert all(switch.region.line <= switch.region.end_line for switch in facts.switches)
