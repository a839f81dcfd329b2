"""tsc, and node: two processes a run, without npm. The compiler is fetched once, from the npm registry."""

from __future__ import annotations

import json
import os
import re
import shutil
from collections.abc import Iterator, Sequence
from functools import cached_property
from pathlib import Path

from urform.languages.target import (
    SECONDS_A_TEST,
    Clients,
    Compiled,
    Complaint,
    Emission,
    Finished,
    Found,
    Ran,
    Runner,
    TestAddress,
    TestResult,
    Toolchain,
    Trial,
    Tried,
    Watch,
)
from urform.languages.testing.rounds import Round, to_the_end

PACKAGES = {"typescript": "7.0.2", "@types/node": "26.6.6"}
OLDEST = 20  # of node
CLIENTS = "tsconfig.clients.json"
SUPPORT = Path(__file__).parent / "support"
BUILD, TRIALS = "urform-build", "urform-trials"  # folders of what a run, or trials, need
_MAJOR = re.compile(r"\d+")
_MARK = re.compile(r"^(?:begun |\{)", re.MULTILINE)  # a test begins or ends
_SAID_AT = re.compile(r"(?P<file>[^\s(][^(\n]*)\((?P<line>\d+),\d+\): error ")
_SAID = re.compile(r"^(?=[^\s(][^(\n]*\(\d+,\d+\): error )", re.MULTILINE)
_FRAME = re.compile(r"(?:file://)?(?P<file>[^\s():]*/[\w.-]+\.test\.[tj]s):(?P<line>\d+):\d+")


class Node(Toolchain):
    """The node on the path, and the compiler in the cache."""

    trials_at_once = 200  # the compiler is paid once a call

    @cached_property
    def _cache(self) -> Path:
        from platformdirs import user_cache_path

        versions = "-".join(PACKAGES.values())
        return user_cache_path("urform") / f"typescript-{versions}"

    @property
    def modules(self) -> Path:
        return self._cache / "node_modules"

    def find(self, run: Runner) -> Found:
        """A node of at least 20, and tsc in the cache."""
        missing, install = [], []
        version = ""
        if shutil.which("node") is None:
            missing.append(f"node, {OLDEST} or newer")
            install.append("apt-get install nodejs npm")
        else:
            version = run(["node", "--version"], Path.cwd()).output.strip().removeprefix("v")
            major = _MAJOR.match(version)
            if major is None or int(major[0]) < OLDEST:
                missing.append(f"node, {OLDEST} or newer (found {version})")
                install.append("apt-get install nodejs npm")
        if not all((self.modules / name).exists() for name in PACKAGES):
            missing.append(f"tsc {PACKAGES['typescript']}")
            install.append("urform targets --fetch")
        tools = f"node {version}, tsc {PACKAGES['typescript']}" if not missing else version
        return Found(tools, tuple(missing), tuple(install))

    def fetch(self, run: Runner) -> str:
        """The compiler and the types of node, by the npm that is installed and as it is set up."""
        if all((self.modules / name).exists() for name in PACKAGES):
            return ""
        if shutil.which("npm") is None:
            return "npm is needed to fetch tsc: apt-get install npm"
        self._cache.mkdir(parents=True, exist_ok=True)
        (self._cache / "package.json").write_text('{"private": true}\n', encoding="utf-8")
        wanted = [f"{name}@{version}" for name, version in PACKAGES.items()]
        done = run(["npm", "install", "--no-audit", "--no-fund", "--save-exact", *wanted], self._cache)
        if done.status != 0:
            return f"npm could not fetch {' and '.join(wanted)}:\n{(done.output + done.errors)[-1500:]}"
        return f"fetched tsc {PACKAGES['typescript']}"

    def compiled(self, folder: Path, run: Runner, into: str, *options: str) -> Finished:
        """Compiles a project into a folder; returns what tsc says."""
        tsc = str(self.modules / ".bin" / "tsc")
        types = str(self.modules / "@types")
        return run([tsc, "-p", ".", "--outDir", into, "--typeRoots", types, *options], folder)

    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = SECONDS_A_TEST) -> Ran:
        """One tsc, and all tests in one process."""
        build = folder / BUILD
        try:
            compiled = self.compiled(folder, run, BUILD)
            if compiled.status != 0:
                return Ran((), broke=(compiled.output + compiled.errors).strip()[-4000:])
            build.mkdir(exist_ok=True)
            files = sorted(path.relative_to(build).as_posix() for path in build.rglob("*.test.js"))
            first = (SUPPORT / "begun.mjs").as_uri()
            imports = (f"await import({json.dumps(name)});\n" for name in (first, *(f"./{f}" for f in files)))
            (build / "all.mjs").write_text("".join(imports), encoding="utf-8")
            return _tested(folder, emission, run, seconds)
        finally:
            shutil.rmtree(build, ignore_errors=True)

    def compile_clients(self, folder: Path, emission: Emission, clients: Clients, run: Runner) -> Compiled:
        """One tsc, which writes nothing."""
        shape = {"extends": "./tsconfig.json", "include": [], "files": [clients.file.path]}
        config = folder / CLIENTS
        config.write_text(json.dumps(shape), encoding="utf-8")
        try:
            types = str(self.modules / "@types")
            command = [str(self.modules / ".bin" / "tsc"), "-p", CLIENTS, "--noEmit", "--pretty", "false"]
            done = run([*command, "--typeRoots", types], folder)
        finally:
            config.unlink()
        said = done.output + done.errors
        complaints = tuple(_complaints(said, clients.file.path))
        return Compiled(complaints, "" if complaints or done.status == 0 else said.strip()[-4000:])

    def prepare(self, folder: Path, emission: Emission, run: Runner) -> str:
        """The sound project, compiled once."""
        done = self.compiled(folder, run, f"{TRIALS}/sound", "--noCheck", "--sourceMap", "false")
        if done.status != 0:
            return (done.output + done.errors).strip()[-4000:]
        sound = folder / TRIALS / "sound"
        for path in (sound / "test").glob("*.js"):  # tests are collected, and run one by one
            text = path.read_text(encoding="utf-8")
            path.write_text(text.replace('from "node:test"', 'from "../collect.mjs"'), encoding="utf-8")
        shutil.copy(SUPPORT / "collect.mjs", sound / "collect.mjs")
        return ""

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        """One tsc for the changed files of all; one node, in which each trial has a thread of its own."""
        faulty = folder / TRIALS / "faulty"
        for trial in trials:
            for path, text in trial.files.items():
                file = faulty / str(trial.number) / path
                file.parent.mkdir(parents=True, exist_ok=True)
                file.write_text(text, encoding="utf-8")
        self._compile_trials(folder, faulty, run)
        told = []
        for trial in trials:
            place = folder / TRIALS / str(trial.number)
            _linked(folder / TRIALS / "sound", place)
            for path in trial.files:
                script = Path(path).with_suffix(".js")
                compiled = folder / TRIALS / "compiled" / str(trial.number) / script
                (place / script).unlink(missing_ok=True)
                if compiled.exists():
                    shutil.copy(compiled, place / script)
            files = sorted({str(Path(address.file).with_suffix(".js")) for address in trial.tests})
            names = [address.name for address in trial.tests]
            told.append({"number": trial.number, "folder": str(place), "files": files, "tests": names})
        (folder / TRIALS / "trials.json").write_text(json.dumps(told), encoding="utf-8")
        done = run(
            ["node", str(SUPPORT / "trials.mjs"), f"{TRIALS}/trials.json", str(self.seconds_a_trial)],
            folder,
            {"NODE_OPTIONS": ""},
        )
        for line in done.output.splitlines():
            tried = json.loads(line)
            yield Tried(tried["number"], frozenset(tried["failed"]), tried["broke"])
        for trial in trials:
            shutil.rmtree(folder / TRIALS / str(trial.number), ignore_errors=True)

    def _compile_trials(self, folder: Path, faulty: Path, run: Runner) -> None:
        """Types are not checked: a fault may well break them, and that would hide what the tests say."""
        options = {"target": "es2022", "module": "esnext", "rootDir": "faulty", "outDir": "compiled"}
        shape = {
            "compilerOptions": {
                **options,
                "noCheck": True,
                "noResolve": True,
                "verbatimModuleSyntax": True,
                "types": [],
            },
            "include": ["faulty"],
        }
        (folder / TRIALS / "tsconfig.json").write_text(json.dumps(shape), encoding="utf-8")
        run([str(self.modules / ".bin" / "tsc"), "-p", TRIALS], folder)

    def walk_through(self, folder: Path, run: Runner) -> Finished:
        """The client, compiled with the package."""
        try:
            compiled = self.compiled(folder, run, BUILD)
            if compiled.status != 0:
                return compiled
            return run(["node", f"{BUILD}/examples/walk-through.js"], folder, {"NODE_OPTIONS": ""})
        finally:
            shutil.rmtree(folder / BUILD, ignore_errors=True)

    def measurable(self, folder: Path, run: Runner) -> Finished | list[str]:
        """A program beside the package; node lets it collect what is no longer held."""
        done = self.compiled(folder, run, "urform-measure")
        command = ["node", "--expose-gc", "--max-old-space-size=8192", "urform-measure/examples/measure.js"]
        return command if done.status == 0 else done

    def weighing(self, command: Sequence[str]) -> list[str]:
        """Compiled in the same thread: what another one is about to compile would be weighed, now and then."""
        return [command[0], "--no-concurrent-recompilation", *command[1:]]

    def again(self, address: TestAddress) -> str:
        """One test by its name."""
        compiled = Path(address.file).with_suffix(".js")
        pattern = _exactly(address.name)
        return f"npm run build && node --test --test-name-pattern='^{pattern}$' dist/{compiled}"


def _tested(folder: Path, emission: Emission, run: Runner, seconds: float) -> Ran:
    """The results of all compiled tests."""
    reporter = (SUPPORT / "reporter.mjs").as_uri()
    command = ["node", "--enable-source-maps", f"--test-reporter={reporter}"]

    def launch(without: Sequence[str]) -> Round:
        others = "|".join(_exactly(name) for name in without)
        wanted = [f"--test-name-pattern=^(?!(?:<root>|{others})$)"] if without else []  # a root lets all in
        done = run(
            [*command, *wanted, f"{BUILD}/all.mjs"], folder, {"NODE_OPTIONS": ""}, Watch(_MARK, seconds)
        )
        lines = done.output.splitlines()
        results = (_result(line) for line in lines if line.startswith("{"))
        by_name = {result.name: result for result in results if result is not None}
        begun = [name for line in lines if (name := line.removeprefix("begun ")) != line]
        last = begun[-1] if begun and begun[-1] not in by_name else ""
        return Round(done, {name: each for name, each in by_name.items() if name not in without}, last)

    results, done = to_the_end(launch, seconds)
    short = len(results) < len(emission.tests) or not (done.status in (0, 1) or done.late)
    return Ran(tuple(results.values()), broke=(done.errors or done.output).strip()[-4000:] if short else "")


def _exactly(name: str) -> str:
    """A pattern, for node and for shells, of one name."""
    return re.escape(name).replace("\\-", "-")


def _complaints(said: str, path: str) -> Iterator[Complaint]:
    """What tsc says of a file; what it says of another is of line 0. What is indented belongs to the line before it."""
    for part in _SAID.split(said)[1:]:
        place = _SAID_AT.match(part)
        assert place is not None, "it was split there"
        yield Complaint(int(place["line"]) if place["file"] == path else 0, part.strip())


def _linked(source: Path, into: Path) -> None:
    """A folder with links to all files of another one, and nothing that an earlier trial of its number left."""
    shutil.rmtree(into, ignore_errors=True)
    for path in source.rglob("*"):
        if path.is_file():
            link = into / path.relative_to(source)
            link.parent.mkdir(parents=True, exist_ok=True)
            os.link(path, link)


def _result(line: str) -> TestResult | None:
    """One line of the reporter; None if it is cut off."""
    try:
        told = json.loads(line)
    except ValueError:
        return None
    if told["passed"] or told["skipped"]:
        return TestResult(
            told["name"], told["passed"] and not told["skipped"], told["skipped"], message=told["message"]
        )
    frame = next(_FRAME.finditer(told["stack"]), None)
    message = str(told["message"])
    return TestResult(
        told["name"],
        False,
        message=message.partition("\n")[0],
        expected=told["expected"] or "no failure here",
        found=told["actual"] or message.partition("\n")[0],
        file=f"test/{frame['file'].rpartition('/')[2]}" if frame else "",
        line=int(frame["line"]) if frame else 0,
    )
