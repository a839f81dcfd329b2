"""A thousand records with forty mistakes, read and written by a client of each target; and texts that nobody should send.

What is expected is worked out here, from the records themselves, so that six clients that agree with it agree with each
other: every problem in the same words, and every byte of what is written. What one target writes is then what every other
one reads.
"""

from __future__ import annotations

import json
import random
import re
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest

from tests.conftest import HERE, ROOT, VALID, planned
from tests.targets import tools
from urform.languages import target
from urform.languages.target import Emission, File
from urform.output.writing import write_project
from urform.verification.processes import Processes

Record = dict[str, Any]
COUNT, EACH = 1000, 4  # records, and how often each mistake is made
REMARKS = (
    "seen",
    "moved 3 m",
    'says "N"',
    "back\\slash",
    "tab\there",
    "żółw",
    "bell 🔔",
    "\u2028",
    "</script>",
)
# What is done to a record, and what is told of it after its place in the list.
MISTAKES: tuple[tuple[Callable[[Record], object], str], ...] = (
    (
        lambda r: r["position"].update(lat=95.5),
        ".position.lat: Position.latitude is 95.5; at most 90.0 is allowed",
    ),
    (lambda r: r.update(station="7"), '.station: Mark.station is "7"; an integer is wanted'),
    (lambda r: r.update(station=10000), ".station: Mark.station is 10000; at most 9999 is allowed"),
    (lambda r: r.update(station=7.5), ".station: Mark.station is 7.5; an integer is wanted"),
    (lambda r: r.pop("position"), ".position: Mark.position is missing"),
    (lambda r: r.update(position=[1, 2]), ".position: Mark.position is a list; a record is wanted"),
    (
        lambda r: r.update(Station=1),
        '.Station: {kind} has no such field; did you mean "station"?',
    ),
    (lambda r: r.update(type="bouy"), '.type: Mark.type is "bouy"; one of "B-1", "buoy", "BCN" is wanted'),
    (
        lambda r: r.update(side="port"),
        '.side: Mark.side is "port"; one of "P", "S (to starboard)", "middle" is wanted',
    ),
    (
        lambda r: r.update(toString="twenty-one characters"),
        '.toString: Mark.remarks is "twenty-one characters"; a length of at most 20 is allowed',
    ),
)


def a_record(chance: random.Random, number: int) -> Record:
    """A mark as it is written: names in their order, and nothing that need not be said."""
    is_buoy = chance.random() < 0.5
    record: Record = {"type": "B-1" if is_buoy else "BCN", "station": number % 9999 + 1}
    latitude, longitude = chance.randint(-9000, 9000) / 100, chance.randint(-18000, 18000) / 100
    record["position"] = {"lat": _as_written(latitude), "lon (°)": _as_written(longitude)}
    optional: Record = {
        "side": chance.choice(["P", "S (to starboard)", "middle"]),
        "toString": chance.choice(REMARKS),
        "reflective": not is_buoy,
        "password": "hush",
        **({"draught": _as_written(chance.randint(1, 140) / 100)} if is_buoy else {}),
    }
    return record | {name: value for name, value in optional.items() if chance.random() < 0.5}


def _as_written(number: float) -> float | int:
    return int(number) if number.is_integer() else number


def the_file() -> tuple[list[Record], list[str], list[str]]:
    """The records, the problems of some, and the texts of the others."""
    chance = random.Random(20)
    records = [a_record(chance, number) for number in range(COUNT)]
    spoilt = dict(zip(chance.sample(range(COUNT), len(MISTAKES) * EACH), MISTAKES * EACH, strict=True))
    problems = []
    for place in sorted(spoilt):
        spoil, said = spoilt[place]
        kind = "Buoy" if records[place]["type"] == "B-1" else "Beacon"
        spoil(records[place])
        problems.append(f"[{place}]{said.format(kind=kind)}")
    sound = [record for place, record in enumerate(records) if place not in spoilt]
    texts = [json.dumps(record, ensure_ascii=False, separators=(",", ":")) for record in sound]
    return records, problems, texts


def steps_of(node: object) -> Iterator[str]:
    """A tree for languages whose standard library reads no JSON: a line for each value, name and end; texts as their bytes."""
    match node:
        case None | bool():
            yield {None: "null", True: "true", False: "false"}[node]
        case int():
            yield f"integer {node}"
        case float():
            yield f"real {node!r}"
        case str():
            yield f"text {node.encode().hex()}"
        case list():
            yield "list"
            for each in node:
                yield from steps_of(each)
            yield "end"
        case dict():
            yield "object"
            for name, each in node.items():
                yield f"text {name.encode().hex()}"
                yield from steps_of(each)
            yield "end"
        case _:
            raise TypeError(f"{node} is no value of JSON")


def deep(levels: int) -> Record:
    """A plan that holds a plan, and so on."""
    legs = [{"label": "out"}]
    node: Record = {"title": "innermost", "legs": legs}
    for _ in range(levels):
        node = {"title": "outer", "legs": legs, "inner": node}
    return node


@pytest.mark.toolchain
def test_a_file_is_read_and_written_alike(target_name: str, tmp_path: Path) -> None:
    records, problems, texts = the_file()
    assert (len(problems), len(texts)) == (40, COUNT - 40)
    client = tools(target_name).records
    (declaration,) = (path for path in VALID if path.name == f"{client.of}.urform.yaml")
    data = tmp_path / "data"
    data.mkdir()
    again = [json.loads(text) for text in texts]
    for file, node in (("records", records), ("again", again), ("deep", deep(400))):
        (data / f"{file}.json").write_text(json.dumps(node, ensure_ascii=False), encoding="utf-8")
        (data / f"{file}.steps").write_text("".join(f"{step}\n" for step in steps_of(node)), encoding="utf-8")
    (data / "problems.txt").write_text("".join(f"{problem}\n" for problem in problems), encoding="utf-8")
    (data / "written.txt").write_text("".join(f"{text}\n" for text in texts), encoding="utf-8")
    text = client.source.read_text(encoding="utf-8")
    text = text.replace("PACKAGE", client.package).replace("DATA_FOLDER", data.as_posix())
    emission = target(target_name).emit(
        planned(declaration)[0], ()
    )  # compiling the generated tests takes longer than all else
    whole = Emission((*emission.files, File(client.path, text)))
    write_project(tmp_path / "project", whole.files)
    ran = target(target_name).toolchain.test(tmp_path / "project", whole, Processes().run)
    assert ran.broke == ""
    assert [result for result in ran.results if not result.passed] == []
    assert set(client.tests) <= {result.name for result in ran.results}
    assert client.tests
    shutil.rmtree(tmp_path)


def test_the_page_shows_what_the_clients_have() -> None:
    """Every block of the page that names a client is in it, line after line."""
    page = (ROOT / "docs/records.md").read_text(encoding="utf-8")
    blocks = re.findall(r"^```\w+ (\S+)\n(.*?)^```$", page, re.DOTALL | re.MULTILINE)
    of_text = {
        path.name: path for path in (HERE / "clients/json").iterdir()
    }  # where the library of the language reads none
    of_files = {name: tools(name).records.source for name in ("python", "go", "typescript")}
    shown = of_text | {path.name: path for path in of_files.values()}
    assert {path for path, _ in blocks} == shown.keys()
    for path, block in blocks:
        source = shown[path].read_text(encoding="utf-8")
        assert _bare(block) in _bare(source), path


def _bare(code: str) -> str:
    return "".join(f"{line.strip()}\n" for line in code.splitlines())
