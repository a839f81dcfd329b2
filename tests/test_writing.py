"""Writing into folders: what a person edited stays, a killed run is repaired, nothing leads out of the folder."""

from __future__ import annotations

import fcntl
import json
import os
import signal
import threading
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

import pytest

from urform.languages.placing import BUILD, CODE
from urform.languages.target import File, Stub
from urform.output import writing
from urform.output.changes import (
    CHANGED,
    EDITED,
    IN_THE_WAY,
    KEPT,
    NEW,
    OVERWRITTEN,
    REMOVED,
    UNCHANGED,
    USERS,
    Change,
)
from urform.output.folder import Folder, OutputError, is_inside
from urform.output.manifest import MANIFEST, WORKING, owner_of
from urform.output.writing import InTheWay, up_to_date

apply = partial(writing.apply, owner="harbour")
changes = partial(writing.changes, owner="harbour")

FIRST = (
    File("a.txt", "one\n"),
    File("deep/b.txt", "two\n"),
    File("deep/er/gone.txt", "three\n"),
    File("edited.txt", "four\n"),
    File("yours.txt", "begin\n", users=True),
)
SECOND = (
    File("a.txt", "one, again\n"),
    File("deep/b.txt", "two, again\n"),
    File("edited.txt", "four, again\n"),
    File("new/c.txt", "five\n"),
    File("yours.txt", "begin\n", users=True),
)
THIRD = (
    File("a.txt", "one, at last\n"),
    File("edited.txt", "four, at last\n"),
    File("new/c.txt", "five, at last\n"),
    File("yours.txt", "begin\n", users=True),
)
EDIT = "four, by hand\n"


def contents(root: Path) -> dict[str, str]:
    """Every file below a folder, the manifest aside."""
    files = (path for path in sorted(root.rglob("*")) if path.is_file())
    return {
        path.relative_to(root).as_posix(): path.read_text(encoding="utf-8")
        for path in files
        if path.name != MANIFEST
    }


def states(done: Sequence[Change]) -> dict[str, str]:
    return {change.path: change.state for change in done}


@pytest.fixture
def edited(tmp_path: Path) -> Path:
    """A project that was written once, and in which a person changed two files since."""
    root = tmp_path / "project"
    apply(root, FIRST)
    (root / "edited.txt").write_text(EDIT, encoding="utf-8")
    (root / "yours.txt").write_text("mine\n", encoding="utf-8")
    (root / "foreign.txt").write_text("not yours\n", encoding="utf-8")
    return root


def test_what_happens_to_each_file(edited: Path) -> None:
    looked = changes(edited, SECOND)
    assert states(looked) == {
        "a.txt": CHANGED,
        "deep/b.txt": CHANGED,
        "deep/er/gone.txt": REMOVED,
        "edited.txt": EDITED,
        "new/c.txt": NEW,
        "yours.txt": USERS,
    }
    assert contents(edited)["a.txt"] == "one\n", "looking writes nothing"
    assert states(apply(edited, SECOND)) == states(looked)
    assert contents(edited) == {
        "a.txt": "one, again\n",
        "deep/b.txt": "two, again\n",
        "edited.txt": EDIT,
        "foreign.txt": "not yours\n",
        "new/c.txt": "five\n",
        "yours.txt": "mine\n",
    }
    assert not (edited / "deep/er").exists(), "a folder goes with its last file"
    assert set(states(apply(edited, SECOND)).values()) == {UNCHANGED, EDITED, USERS}


def test_force_overwrites_but_not_what_is_the_users(edited: Path) -> None:
    done = apply(edited, SECOND, force=True)
    assert states(done)["edited.txt"] == OVERWRITTEN
    assert contents(edited)["edited.txt"] == "four, again\n"
    assert contents(edited)["yours.txt"] == "mine\n"


def test_what_was_edited_and_is_no_longer_generated_stays(edited: Path) -> None:
    done = apply(edited, [file for file in FIRST if file.path != "edited.txt"])
    assert states(done)["edited.txt"] == KEPT
    assert contents(edited)["edited.txt"] == EDIT
    assert "edited.txt" not in states(apply(edited, FIRST[:1]))


def test_differences_are_shown_when_asked_for(edited: Path) -> None:
    found = {change.path: change.difference for change in changes(edited, SECOND, differences=True)}
    assert "-one\n+one, again\n" in found["a.txt"]
    assert "-four, by hand\n+four, again\n" in found["edited.txt"]
    assert "-three\n" in found["deep/er/gone.txt"]
    assert found["yours.txt"] == ""


def test_the_manifest_tells_no_time_and_no_place(tmp_path: Path) -> None:
    one, other = tmp_path / "one", tmp_path / "elsewhere/other"
    apply(one, FIRST, source=lambda: "0" * 64)
    apply(other, FIRST, source=lambda: "0" * 64)
    assert (one / MANIFEST).read_bytes() == (other / MANIFEST).read_bytes()
    (shape,) = json.loads((one / MANIFEST).read_bytes())["declarations"].values()
    assert set(shape) == {"source", "yours", "files"}


def test_nothing_is_written_where_nothing_changes(edited: Path) -> None:
    before = {path: path.stat().st_mtime_ns for path in edited.rglob("*")}
    edited.chmod(0o555)
    try:
        apply(edited, FIRST)
    finally:
        edited.chmod(0o755)
    assert {path: path.stat().st_mtime_ns for path in edited.rglob("*")} == before


# A run is killed at each of its steps in turn: SIGKILL within the call that changes the disk.

CHANGING = ("replace", "unlink", "mkdir", "rmdir", "fsync", "write")


def killed_at(step: int, work: Callable[[], object]) -> bool:
    """Do work in a process that dies at its step-th change of the disk; whether it got that far."""
    child = os.fork()
    if child == 0:
        left = [step]

        def dying(call: Callable[..., object]) -> Callable[..., object]:
            def counted(*arguments: object, **options: object) -> object:
                left[0] -= 1
                if left[0] < 0:
                    os.kill(os.getpid(), signal.SIGKILL)
                return call(*arguments, **options)

            return counted

        for name in CHANGING:
            setattr(os, name, dying(getattr(os, name)))
        try:
            work()
        finally:
            os._exit(0)
    _, status = os.waitpid(child, 0)
    return os.WIFSIGNALED(status)


def allowed(versions: Sequence[Sequence[File]]) -> dict[str, set[str]]:
    texts: dict[str, set[str]] = {
        "edited.txt": {EDIT},
        "yours.txt": {"mine\n"},
        "foreign.txt": {"not yours\n"},
    }
    for file in (file for version in versions for file in version):
        if file.path not in ("edited.txt", "yours.txt"):
            texts.setdefault(file.path, set()).add(file.text)
    return texts


def assert_whole(root: Path, texts: Mapping[str, set[str]]) -> None:
    for path, text in contents(root).items():
        if not path.startswith(WORKING):
            assert text in texts[path], path


@pytest.mark.parametrize("times", [1, 2])
@pytest.mark.slow
def test_a_killed_run_is_repaired_by_the_next(tmp_path: Path, times: int) -> None:
    """Whatever was generated then is known for ours, and what a person wrote is still a person's."""
    step, dead = 0, True
    while dead:
        root = tmp_path / f"project-{step}"
        apply(root, FIRST)
        (root / "edited.txt").write_text(EDIT, encoding="utf-8")
        (root / "yours.txt").write_text("mine\n", encoding="utf-8")
        (root / "foreign.txt").write_text("not yours\n", encoding="utf-8")
        dead = killed_at(step, lambda root=root: apply(root, SECOND))  # type: ignore[misc]
        assert_whole(root, allowed([FIRST, SECOND]))
        for _ in range(times - 1):
            killed_at(step // 2, lambda root=root: apply(root, FIRST))  # type: ignore[misc]
            assert_whole(root, allowed([FIRST, SECOND]))
        apply(root, THIRD)
        generated = {file.path: file.text for file in THIRD}
        assert contents(root) == generated | {
            "edited.txt": EDIT,
            "yours.txt": "mine\n",
            "foreign.txt": "not yours\n",
        }, f"killed at step {step}"
        assert not (root / WORKING).exists()
        step += 1
    assert step > 15


def test_an_error_leaves_what_was_there(edited: Path) -> None:
    (edited / "new").write_text("a file where a folder is wanted\n", encoding="utf-8")
    before = contents(edited)
    with pytest.raises(OutputError, match="new"):
        apply(edited, SECOND)
    assert contents(edited).keys() >= before.keys()
    (edited / "new").unlink()
    assert states(apply(edited, SECOND))["edited.txt"] == EDITED
    assert contents(edited)["new/c.txt"] == "five\n"


# What the declaration did not write.


def test_a_foreign_file_is_in_the_way_and_nothing_is_written(tmp_path: Path) -> None:
    (tmp_path / "a.txt").write_text("a person's\n", encoding="utf-8")
    (tmp_path / "edited.txt").write_text("four\n", encoding="utf-8")
    for force in (False, True):
        with pytest.raises(InTheWay, match=r"a\.txt: is in the way: Urform did not write it"):
            apply(tmp_path, FIRST, force=force)
        assert contents(tmp_path) == {"a.txt": "a person's\n", "edited.txt": "four\n"}
        assert not (tmp_path / WORKING).exists()
    assert states(changes(tmp_path, FIRST))["a.txt"] == IN_THE_WAY
    (tmp_path / "a.txt").unlink()
    assert states(apply(tmp_path, FIRST))["edited.txt"] == UNCHANGED, "what is the same is in nobody's way"


def test_each_declaration_knows_its_own_files_and_touches_no_other(tmp_path: Path) -> None:
    apply(tmp_path, FIRST)
    other = (File("its.txt", "other\n"), File("deep/its.txt", "other\n"))
    assert set(states(writing.apply(tmp_path, other, owner="quay")).values()) == {NEW}
    assert contents(tmp_path).keys() == {file.path for file in (*FIRST, *other)}
    apply(tmp_path, FIRST[:1])
    assert contents(tmp_path).keys() == {"a.txt", "its.txt", "deep/its.txt", "yours.txt"}
    writing.apply(tmp_path, (), owner="quay")
    assert contents(tmp_path).keys() == {"a.txt", "yours.txt"}


def test_a_file_of_another_declaration_is_in_the_way_even_where_it_is_the_same(tmp_path: Path) -> None:
    apply(tmp_path, FIRST)
    for text in ("one\n", "another\n"):
        with pytest.raises(InTheWay, match="belongs to 'harbour', and 'quay' would write it too"):
            writing.apply(tmp_path, (File("its.txt", "x\n"), File("a.txt", text)), owner="quay", force=True)
    assert contents(tmp_path) == {file.path: file.text for file in FIRST}


@pytest.mark.slow
def test_another_declaration_loses_nothing_where_a_run_was_killed(tmp_path: Path) -> None:
    """What the killed run had reached is known for its own, after the other one wrote into the folder too."""
    step, dead = 0, True
    while dead:
        root = tmp_path / f"project-{step}"
        apply(root, FIRST)
        dead = killed_at(step, lambda root=root: apply(root, SECOND))  # type: ignore[misc]
        writing.apply(root, (File("its.txt", "other\n"),), owner="quay")
        assert {EDITED, IN_THE_WAY, KEPT}.isdisjoint(states(apply(root, THIRD)).values()), step
        texts = {file.path: file.text for file in THIRD} | {"its.txt": "other\n"}
        assert contents(root) == texts, f"killed at step {step}"
        step += 1
    assert step > 15


LABEL = Stub("Buoy.label", "def label\n", r"^def label", "def label")
RANGE = Stub("Buoy.range", "def range\n", r"^def range", "def range")


def test_new_files_of_the_user_are_told_and_so_is_what_they_need_no_longer(tmp_path: Path) -> None:
    with_both = (File("yours.txt", "begin\ndef label\ndef range\n", users=True, stubs=(LABEL, RANGE)),)
    (created,) = apply(tmp_path, with_both)
    assert (created.state, created.to_write) == (NEW, (LABEL, RANGE))
    with_one = (File("yours.txt", "begin\ndef label\n", users=True, stubs=(LABEL,)),)
    for _ in range(2):  # told until it is gone
        (left,) = (each for change in apply(tmp_path, with_one) for each in change.leftover)
        assert (left.operation, left.path, left.line, left.text) == (
            "Buoy.range",
            "yours.txt",
            3,
            "def range",
        )
    assert [each.operation for change in apply(tmp_path, ()) for each in change.leftover] == [
        "Buoy.label",
        "Buoy.range",
    ]
    assert apply(tmp_path, with_both)[0].leftover == (), "asked for again"
    (tmp_path / "yours.txt").write_text("begin\n", encoding="utf-8")
    assert not any(change.leftover for change in apply(tmp_path, ()))


# Nothing leads out of the folder.


@pytest.mark.parametrize(
    "path", ["../a", "/a", "a/../../b", "", ".", "a//b", "a/./b", "a\0b", "..", "a/..", "\\\\there\\a"]
)
def test_paths_that_lead_out_are_refused(path: str, tmp_path: Path) -> None:
    assert not is_inside(path)
    with pytest.raises(OutputError, match="out of the folder"):
        Folder(tmp_path).read(path)


@pytest.mark.parametrize("linked", ["a.txt", "deep", "deep/b.txt"])
def test_links_are_not_followed(linked: str, tmp_path: Path) -> None:
    outside, root = tmp_path / "outside", tmp_path / "project"
    outside.mkdir()
    apply(root, [File("other.txt", "other\n")])
    (root / linked).parent.mkdir(exist_ok=True)
    (root / linked).symlink_to(outside if linked == "deep" else outside / "b.txt")
    with pytest.raises(OutputError, match="is a link"):
        apply(root, FIRST)
    assert list(outside.iterdir()) == []


def test_a_project_that_is_a_link_is_not_followed(tmp_path: Path) -> None:
    (tmp_path / "outside").mkdir()
    (tmp_path / "project").symlink_to(tmp_path / "outside")
    with pytest.raises(OutputError, match="is a link"):
        apply(tmp_path / "project", FIRST)
    assert list((tmp_path / "outside").iterdir()) == []


@pytest.mark.parametrize(
    "manifest",
    [
        b"",
        b"no json",
        b"[]",
        b'{"version": 3, "declarations": {}}',
        b'{"version": 2}',
        b'{"version": 2, "declarations": {"harbour": []}}',
        b'{"version": 2, "declarations": {"harbour": {"files": {"../outside.txt": "0"}}}}',
        b'{"version": 2, "declarations": {"other": {"files": {"/etc/hosts": "0"}}}}',
        b"[" * 100_000,
        b"\xff\xfe",
    ],
)
def test_a_manifest_that_is_not_ours_is_told(manifest: bytes, tmp_path: Path) -> None:
    (tmp_path / MANIFEST).write_bytes(manifest)
    with pytest.raises(OutputError, match="remove it to start anew"):
        apply(tmp_path, FIRST)
    assert list(tmp_path.iterdir()) == [tmp_path / MANIFEST]


@pytest.mark.parametrize("what", ["folder", "pipe"])
def test_what_is_no_file_is_in_the_way(what: str, tmp_path: Path) -> None:
    (tmp_path / "a.txt").mkdir() if what == "folder" else os.mkfifo(tmp_path / "a.txt")
    with pytest.raises(OutputError, match=r"a\.txt is in the way"):
        apply(tmp_path, FIRST)


# Two processes.


def test_a_second_process_waits_and_is_told(tmp_path: Path) -> None:
    handle = os.open(tmp_path, os.O_RDONLY)
    fcntl.flock(handle, fcntl.LOCK_EX)
    told: list[Path] = []
    waits = threading.Event()

    def waiting(folder: Path) -> None:
        told.append(folder)
        waits.set()

    second = threading.Thread(target=apply, args=(tmp_path, FIRST), kwargs={"waiting": waiting})
    second.start()
    assert waits.wait(10)
    assert told == [tmp_path]
    assert contents(tmp_path) == {}
    os.close(handle)
    second.join(10)
    assert contents(tmp_path).keys() == {file.path for file in FIRST}


# What was made from the same is not made again.


def test_up_to_date_means_the_same_source_and_untouched_files(tmp_path: Path) -> None:
    assert up_to_date(tmp_path / "nowhere", "s") is None
    apply(tmp_path, FIRST, source=lambda: "s")
    stands = up_to_date(tmp_path, "s")
    assert stands is not None
    assert (stands.files, stands.yours, stands.lines) == (4, 1, 5)
    assert up_to_date(tmp_path, "another") is None
    assert up_to_date(tmp_path, "") is None
    for path in ("a.txt", "yours.txt"):
        before = (tmp_path / path).read_bytes()
        (tmp_path / path).write_bytes(before + b"more\n")
        assert up_to_date(tmp_path, "s") is None
        (tmp_path / path).write_bytes(before)
    assert up_to_date(tmp_path, "s") is not None
    (tmp_path / "a.txt").unlink()
    assert up_to_date(tmp_path, "s") is None


def test_what_is_left_to_tell_is_told_again(edited: Path) -> None:
    """An edited file, and an operation that is not written yet, are not forgotten in the next run."""
    apply(edited, FIRST, source=lambda: "s")
    assert up_to_date(edited, "s") is None
    apply(edited, FIRST, source=lambda: "s", force=True)
    assert up_to_date(edited, "s") is not None
    stub = Stub("Buoy.range_from", "def range_from\n", r"^def range_from", "def range_from")
    wanting = [*FIRST[:-1], File("yours.txt", "begin\n", users=True, stubs=(stub,))]
    assert [change.missing for change in apply(edited, wanting, source=lambda: "t") if change.missing] == [
        (stub,)
    ]
    assert up_to_date(edited, "t") is None
    (edited / "more.txt").write_text("def range_from\n", encoding="utf-8")
    apply(edited, wanting, source=lambda: "t")
    assert up_to_date(edited, "t") is not None
    (edited / "more.txt").write_text("", encoding="utf-8")
    assert up_to_date(edited, "t") is None, "the file that had it has it no longer"


# --- what is written once ---------------------------------------------------------------------------------

BUILT = (File("a.txt", "one\n"), File("build.txt", "first\n", part=BUILD))
TODAY = (File("a.txt", "one\n"), File("build.txt", "today's\n", part=BUILD))


def test_a_build_file_is_written_once_and_is_the_users_from_then_on(tmp_path: Path) -> None:
    assert states(apply(tmp_path, BUILT)) == {"a.txt": NEW, "build.txt": NEW}
    assert states(apply(tmp_path, BUILT))["build.txt"] == USERS
    aged = {change.path: change for change in apply(tmp_path, TODAY)}["build.txt"]
    assert (aged.state, aged.aged) == (USERS, True), (
        "a person is told that another one would be written today"
    )
    assert contents(tmp_path)["build.txt"] == "first\n"
    (tmp_path / "build.txt").write_text("mine\n")
    edited = {change.path: change for change in apply(tmp_path, TODAY, force=True)}["build.txt"]
    assert (edited.state, edited.aged) == (USERS, False), "who edited it knows"
    assert contents(tmp_path)["build.txt"] == "mine\n"
    looked = {change.path: change.difference for change in changes(tmp_path, TODAY, differences=True)}
    assert "-mine\n+today's\n" in looked["build.txt"]


def test_a_build_file_that_was_removed_does_not_come_back_unless_forced(tmp_path: Path) -> None:
    apply(tmp_path, BUILT)
    (tmp_path / "build.txt").unlink()
    assert states(changes(tmp_path, BUILT))["build.txt"] == USERS
    apply(tmp_path, TODAY)
    assert not (tmp_path / "build.txt").exists()
    assert states(apply(tmp_path, TODAY, force=True))["build.txt"] == NEW
    assert contents(tmp_path)["build.txt"] == "today's\n"


def test_a_build_file_of_a_person_is_in_the_way(tmp_path: Path) -> None:
    (tmp_path / "build.txt").write_text("mine\n")
    for force in (False, True):
        with pytest.raises(InTheWay):
            apply(tmp_path, BUILT, force=force)
    assert contents(tmp_path) == {"build.txt": "mine\n"}


def test_a_build_file_that_is_no_longer_asked_for_stays(tmp_path: Path) -> None:
    apply(tmp_path, BUILT)
    assert states(apply(tmp_path, BUILT[:1])) == {"a.txt": UNCHANGED}
    assert contents(tmp_path)["build.txt"] == "first\n"


def test_a_build_file_of_an_older_manifest_is_the_users_too(tmp_path: Path) -> None:
    apply(tmp_path, [replace(file, part=CODE) for file in BUILT])
    assert states(apply(tmp_path, TODAY))["build.txt"] == USERS
    assert contents(tmp_path)["build.txt"] == "first\n"


# --- several targets in one folder ------------------------------------------------------------------------


def test_targets_of_one_declaration_share_a_folder(tmp_path: Path) -> None:
    """Each knows its own files, and what was noted when a folder had one target only."""
    writing.apply(tmp_path, FIRST[:2], owner="harbour")
    java, go = owner_of("harbour", "java"), owner_of("harbour", "go")
    assert states(writing.apply(tmp_path, FIRST[:2], owner=java)) == {
        "a.txt": UNCHANGED,
        "deep/b.txt": UNCHANGED,
    }
    assert set(states(writing.apply(tmp_path, [File("c.go", "three\n")], owner=go)).values()) == {NEW}
    assert states(writing.apply(tmp_path, FIRST[:1], owner=java))["deep/b.txt"] == REMOVED
    assert contents(tmp_path) == {"a.txt": "one\n", "c.go": "three\n"}
    with pytest.raises(
        InTheWay, match=r"belongs to 'harbour \(go\)', and 'harbour \(java\)' would write it too"
    ):
        writing.apply(tmp_path, [File("c.go", "four\n")], owner=java)


def test_what_two_targets_would_write_at_once_is_in_the_way(tmp_path: Path) -> None:
    root = tmp_path / "project"
    root.mkdir()
    java, go = (
        writing.prepare(
            root,
            [File("same.txt", f"{name}\n"), File(f"{name}.txt", "")],
            owner=owner_of("harbour", name),
        )
        for name in ("java", "go")
    )
    with pytest.raises(InTheWay, match=r"same.txt: belongs to 'harbour \(java\)'"):
        writing.refuse_what_is_in_the_way("harbour", [java, go])
    assert not root.exists(), "it was empty"


def test_two_targets_are_put_into_place_one_after_the_other(tmp_path: Path) -> None:
    prepared = [
        writing.prepare(tmp_path, [File(f"{name}.txt", f"{name}\n")], owner=owner_of("harbour", name))
        for name in ("java", "go")
    ]
    for each in prepared:
        writing.commit(each)
    writing.clean(tmp_path)
    assert contents(tmp_path) == {"java.txt": "java\n", "go.txt": "go\n"}
    assert not (tmp_path / WORKING).exists()
    for name in ("java", "go"):
        again = writing.changes(tmp_path, [File(f"{name}.txt", f"{name}\n")], owner=owner_of("harbour", name))
        assert states(again) == {f"{name}.txt": UNCHANGED}
