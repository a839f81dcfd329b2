"""Generated C++ under the sanitizers of its compiler: memory and undefined behaviour, and data races where there are threads."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest

from tests.conftest import DEMO, VALID, emitted, is_of_today
from tests.targets import tool
from urform.output.writing import write_project

OPTIONS = ("-std=c++20", "-O0", "-Iinclude", "-Itests", "-I.")
LIBRARIES = ("-lgtest", "-lgtest_main", "-lpthread")


RECORDS = next(path for path in VALID if path.name.startswith("records"))


@pytest.fixture(scope="module")
def built(tmp_path_factory: pytest.TempPathFactory) -> Callable[..., Path]:
    """A declaration with some of its tests, compiled with sanitizers."""

    def compiled(sanitizers: str, *tests: str, declaration: Path = DEMO) -> Path:
        folder = tmp_path_factory.mktemp("sanitizers")
        files = emitted(declaration, "cpp").files
        write_project(folder, files)
        paths = [file.path for file in files if file.path.endswith(".cpp")]
        kept = [path for path in paths if path.startswith("src/") or path.endswith(tests)]
        text = "".join(f'#include "{path}"\n' for path in ["gtest/gtest.h", *kept])
        (folder / "all.cpp").write_text(text, encoding="utf-8")
        program = folder / sanitizers.replace(",", "-")
        command = (
            "g++",
            *OPTIONS,
            f"-fsanitize={sanitizers}",
            "-fno-sanitize-recover=all",
            "-o",
            str(program),
        )
        status, said = tool(*command, "all.cpp", *LIBRARIES, folder=folder)
        assert status == 0, said
        return program

    return compiled


# The demo, all of it; and records of what holds everything that there is, of what holds itself, of what is chosen by values.
PROGRAMS = (
    (DEMO, ("_test.cpp",), ("tests from",)),
    (
        RECORDS,
        ("watch_test.cpp", "plan_test.cpp", "tide_offset_test.cpp"),
        ("Watch.record_path", "Plan.record_round_trip"),
    ),
)
TODAY = [program for number, program in enumerate(PROGRAMS) if is_of_today(number, len(PROGRAMS))]


@pytest.mark.toolchain
@pytest.mark.slow
@pytest.mark.parametrize(("path", "tests", "shown"), TODAY, ids=[path.stem for path, _, _ in TODAY])
def test_memory_is_handled_as_it_should_be(
    path: Path, tests: tuple[str, ...], shown: tuple[str, ...], built: Callable[..., Path]
) -> None:
    program = built("address,undefined", *tests, declaration=path)
    status, said = tool(str(program), folder=program.parent)
    assert status == 0, said[-3000:]
    assert [text for text in shown if text not in said] == []
    if path == DEMO:
        assert f"[  PASSED  ] {len(emitted(DEMO, 'cpp').tests)} tests" in said


@pytest.mark.toolchain
@pytest.mark.slow
def test_pools_have_no_data_races(built: Callable[..., Path]) -> None:
    program = built("thread", "light_rhythm_test.cpp")
    status, said = tool(str(program), folder=program.parent)
    assert status == 0, said[-3000:]
    assert "light_rhythm" in (program.parent / "all.cpp").read_text(encoding="utf-8")
    assert "LightRhythm.pool_once" in said
