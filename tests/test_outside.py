"""A target of somebody else, found by its entry point."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path
from xml.etree import ElementTree

import pytest

from tests.conftest import Urform

TOY = """
import os
from functools import cached_property
from urform.languages.target import File, Found, Held, Ran, Target, TestAddress, TestResult, Toolchain

class Reader(Toolchain):
    def find(self, run):
        return Found("toy 1")
    def test(self, folder, emission, run, seconds):
        said = (folder / "plan.txt").read_text().splitlines()
        unseen = os.environ.get("TOY_UNSEEN")
        return Ran(tuple(
            TestResult(a.name, a.name in said and a.name != unseen, a.name == unseen, message="no collector ran")
            for a in emission.tests
        ))
    def again(self, address):
        return f"grep {address.name} plan.txt"

class Toy(Target):
    name = "toy"
    capabilities = frozenset()
    def pieces(self, plan, claims):
        tested = []
        for claim in claims:
            if claim.group == "single":
                yield Held(claim.id, "toys are single")
            else:
                tested.append(claim.id)
                yield TestAddress(claim.id, "plan.txt", claim.id)
        yield File("plan.txt", "\\n".join(tested))
    @cached_property
    def toolchain(self):
        return Reader()

TARGET = Toy()
"""


@pytest.fixture
def outside(tmp_path: Path) -> dict[str, str]:
    """An environment in which a target of somebody else is installed."""
    package = tmp_path / "site"
    info = package / "toy_target-1.dist-info"
    info.mkdir(parents=True)
    (package / "toy_target.py").write_text(TOY, encoding="utf-8")
    (info / "METADATA").write_text("Metadata-Version: 2.1\nName: toy-target\nVersion: 1\n", encoding="utf-8")
    (info / "entry_points.txt").write_text("[urform.languages]\ntoy = toy_target:TARGET\n", encoding="utf-8")
    return {"PYTHONPATH": os.pathsep.join([str(package), *sys.path])}


def test_a_target_can_be_added_from_outside(
    urform: Urform, tmp_path: Path, starter: Path, outside: dict[str, str]
) -> None:
    assert "toy 1" in urform("targets", environment=outside).out
    assert urform("generate", "-t", "toy", "-o", "out", environment=outside).status == 0
    assert "limit/Mark.station:min" in (tmp_path / "out/toy/plan.txt").read_text(encoding="utf-8")
    assert urform("verify", "-t", "toy", "--fresh", environment=outside).status == 0


def test_what_a_test_could_not_show_is_no_pass(
    urform: Urform, tmp_path: Path, starter: Path, outside: dict[str, str]
) -> None:
    unseen = {**outside, "TOY_UNSEEN": "limit/Mark.station:min"}
    done = urform("verify", "-t", "toy", "--fresh", "--json", "--junit", "report.xml", environment=unseen)
    assert done.status == 1
    claims = {claim["id"]: claim for claim in json.loads(done.out)["claims"]}
    assert claims["limit/Mark.station:min"]["results"] == {"toy": "not shown"}
    assert claims["limit/Mark.station:min"]["reasons"] == {"toy": "no collector ran"}
    assert claims["limit/Mark.station:max"]["results"] == {"toy": "passed"}
    (suite,) = ElementTree.parse(tmp_path / "report.xml").getroot()
    assert suite.get("errors") == "1"
    said = urform("verify", "-t", "toy", "--fresh", environment=unseen)
    assert said.status == 1
    assert "not shown limit/Mark.station:min in toy: no collector ran" in said.out
