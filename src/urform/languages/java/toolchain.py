"""javac, and the console launcher of JUnit 5: two processes a run, no Maven."""

from __future__ import annotations

import os
import re
import shutil
from collections.abc import Iterator, Sequence
from functools import cached_property
from pathlib import Path
from xml.etree import ElementTree

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
)
from urform.languages.testing.rounds import overdue

LAUNCHER = "junit-platform-console-standalone"
VERSION = "1.14.4"  # goes with JUnit 5.14.4, which the generated pom.xml names
TIMEOUT = "java.util.concurrent.TimeoutException"
FAST_START = ("-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1", "-Xshare:auto")
_COMPARED = re.compile(r"expected: (?P<expected>.*?) but was: (?P<found>.*)", re.DOTALL)
_FRAME = re.compile(r"at .*?(?P<class>\w+)\.(?P<method>\w+)\((?P<file>\w+\.java):(?P<line>\d+)\)")


_SAID_AT = re.compile(r"(?P<file>[^\s:][^:\n]*):(?P<line>\d+): error: ")
_SAID = re.compile(r"^(?=[^\s:][^:\n]*:\d+: error: )", re.MULTILINE)
SUPPORT = Path(__file__).parent / "support"
TRIALS = "urform-trials"  # the folder of what trials need


class Javac(Toolchain):
    """The JDK on the path."""

    trials_at_once = 120  # the compiler in the virtual machine grows fast as it works

    @cached_property
    def jar(self) -> Path:
        """JUnit and its launcher."""
        from platformdirs import user_cache_path

        return user_cache_path("urform") / f"{LAUNCHER}-{VERSION}.jar"

    def find(self, run: Runner) -> Found:
        """A JDK of at least 17, and the launcher in the cache."""
        missing, install = [], []
        version = ""
        if shutil.which("javac") is None or shutil.which("java") is None:
            missing.append("a JDK, 17 or newer")
            install.append("apt-get install openjdk-17-jdk-headless")
        else:
            version = run(["javac", "-version"], Path.cwd()).output.strip()
            number = re.search(r"\d+", version)
            if number is None or int(number[0]) < 17:
                missing.append(f"a JDK, 17 or newer (found {version})")
                install.append("apt-get install openjdk-17-jdk-headless")
        if not self.jar.exists():
            missing.append(f"the JUnit console launcher {VERSION}")
            install.append("urform targets --fetch")
        return Found(
            f"{version}, JUnit launcher {VERSION}" if not missing else version, tuple(missing), tuple(install)
        )

    def fetch(self, run: Runner) -> str:
        """The launcher from Maven Central, by the Maven that is installed and as it is set up."""
        if self.jar.exists():
            return ""
        if shutil.which("mvn") is None:
            return "Maven is needed to fetch the JUnit launcher: apt-get install maven"
        self.jar.parent.mkdir(parents=True, exist_ok=True)
        artifact = f"org.junit.platform:{LAUNCHER}:{VERSION}"
        plugin = "org.apache.maven.plugins:maven-dependency-plugin:3.6.1:copy"
        command = ["mvn", "-q", plugin, f"-Dartifact={artifact}", f"-DoutputDirectory={self.jar.parent}"]
        done = run(command, self.jar.parent)
        if not self.jar.exists():
            return f"Maven could not fetch {artifact}:\n{(done.output + done.errors)[-1500:]}"
        return f"fetched {LAUNCHER} {VERSION}"

    def test(self, folder: Path, emission: Emission, run: Runner, seconds: float = SECONDS_A_TEST) -> Ran:
        """One javac for code and tests, one JVM for all tests."""
        build = folder / "urform-build"
        sources = build / "sources.txt"
        build.mkdir()
        try:
            paths = [file.path for file in emission.files if file.path.endswith(".java")]
            sources.write_text("\n".join(f'"{path}"' for path in paths), encoding="utf-8")
            compiled = run(
                [
                    "javac",
                    *(f"-J{option}" for option in FAST_START),
                    *("--release", "17", "-encoding", "UTF-8", "-proc:none", "-Xlint:all", "-Werror"),
                    *("-cp", str(self.jar), "-d", "urform-build/classes", "@urform-build/sources.txt"),
                ],
                folder,
            )
            if compiled.status != 0:
                return Ran((), broke=(compiled.output + compiled.errors).strip()[-4000:])
            return self._launch(folder, build, run, seconds)
        finally:
            shutil.rmtree(build, ignore_errors=True)

    def _launch(self, folder: Path, build: Path, run: Runner, seconds: float) -> Ran:
        command = [
            "java",
            *FAST_START,
            "-jar",
            str(self.jar),
            "execute",
            "--scan-classpath=urform-build/classes",
        ]
        command += ["-cp", "urform-build/classes", "--reports-dir=urform-build/reports", "--details=none"]
        command += [f"--config={name}={value}" for name, value in _limits(seconds).items()]
        done = run([*command, "--disable-banner", "--disable-ansi-colors"], folder)
        report = build / "reports" / "TEST-junit-jupiter.xml"
        if not report.exists():
            return Ran(
                (), broke=(done.output + done.errors).strip()[-4000:] or "the launcher wrote no report"
            )
        try:
            results = tuple(_results(report, seconds))
        except ElementTree.ParseError as error:
            return Ran((), broke=f"the launcher's report is cut off: {error}")
        return Ran(results, broke="" if done.status in (0, 1) else done.errors.strip()[-4000:])

    def compile_clients(self, folder: Path, emission: Emission, clients: Clients, run: Runner) -> Compiled:
        """One javac for the code, what all tests share and the clients."""
        build = folder / "urform-build"
        build.mkdir()
        try:
            tests = {address.file for address in emission.tests}
            paths = [f.path for f in emission.files if f.path.endswith(".java") and f.path not in tests]
            done = run(
                [
                    "javac",
                    *(f"-J{option}" for option in FAST_START),
                    *("--release", "17", "-encoding", "UTF-8", "-proc:none", "-nowarn", "-Xmaxerrs", "10000"),
                    *("-cp", str(self.jar), "-d", "urform-build/classes", *paths, clients.file.path),
                ],
                folder,
            )
        finally:
            shutil.rmtree(build, ignore_errors=True)
        said = done.output + done.errors
        complaints = tuple(_complaints(said, clients.file.path))
        return Compiled(complaints, "" if complaints or done.status == 0 else said.strip()[-4000:])

    def prepare(self, folder: Path, emission: Emission, run: Runner) -> str:
        """The sound classes, and the driver of trials, each in a folder of its own."""
        (folder / TRIALS).mkdir()
        sources = folder / TRIALS / "sources.txt"
        paths = [file.path for file in emission.files if file.path.endswith(".java")]
        sources.write_text("\n".join(f'"{path}"' for path in paths), encoding="utf-8")
        driver = [str(SUPPORT / name) for name in ("Faults.java", "Trials.java")]
        for into, what in (("classes", [f"@{TRIALS}/sources.txt"]), ("driver", driver)):
            options = (
                *(f"-J{option}" for option in FAST_START),
                "-encoding",
                "UTF-8",
                "-proc:none",
                "-nowarn",
            )
            done = run(["javac", *options, "-cp", str(self.jar), "-d", f"{TRIALS}/{into}", *what], folder)
            if done.status != 0:
                return (done.output + done.errors).strip()[-4000:]
        return ""

    def try_all(
        self, folder: Path, emission: Emission, trials: Sequence[Trial], run: Runner
    ) -> Iterator[Tried]:
        """One virtual machine; each trial compiles what differs and has a class loader of its own.

        Another one takes what is left, should a test end the first.
        """
        left = list(trials)
        while left:
            told = list(_tried(self._driven(folder, left, run)))
            yield from told
            if not told:
                yield from (Tried(trial.number, broke="the driver of trials told nothing") for trial in left)
                return
            ended = {each.number for each in told}
            left = [trial for trial in left if trial.number not in ended]

    def _driven(self, folder: Path, trials: Sequence[Trial], run: Runner) -> str:
        """The output of the driver for some trials."""
        lines = [line for trial in trials for line in _trial_lines(folder, trial)]
        (folder / TRIALS / "trials.txt").write_text("\n".join(lines) + "\n", encoding="utf-8")
        path = os.pathsep.join((f"{TRIALS}/driver", str(self.jar)))
        command = ["java", "-XX:+UseSerialGC", "-Xshare:auto", "-cp", path, "urform.faults.Trials"]
        done = run([*command, f"{TRIALS}/classes", f"{TRIALS}/trials.txt", str(self.seconds_a_trial)], folder)
        return done.output

    def walk_through(self, folder: Path, run: Runner) -> Finished:
        """The client's source file beside the compiled package."""
        build = folder / "urform-build"
        build.mkdir()
        try:
            sources = [
                str(path.relative_to(folder)) for path in sorted((folder / "src/main").rglob("*.java"))
            ]
            options = ("--release", "17", "-encoding", "UTF-8", "-proc:none", "-Xlint:all", "-Werror")
            compiled = run(["javac", *options, "-d", "urform-build/classes", *sources], folder)
            if compiled.status != 0:
                return compiled
            return run(
                ["java", *FAST_START, "-cp", "urform-build/classes", "examples/WalkThrough.java"], folder
            )
        finally:
            shutil.rmtree(build, ignore_errors=True)

    def measurable(self, folder: Path, run: Runner) -> Finished | list[str]:
        """A class beside those of the package; the virtual machine as it usually is."""
        sources = [str(path.relative_to(folder)) for path in sorted((folder / "src/main").rglob("*.java"))]
        options = ("--release", "17", "-encoding", "UTF-8", "-proc:none", "-nowarn", "-d", "urform-measure")
        done = run(["javac", *options, *sources, "examples/Measure.java"], folder)
        return ["java", "-XX:+UseSerialGC", "-cp", "urform-measure", "Measure"] if done.status == 0 else done

    def again(self, address: TestAddress) -> str:
        """One test method, by Maven."""
        class_, _, method = address.name.partition(".")
        return f"mvn test -Dtest='{class_}#{method}'"


def _complaints(said: str, path: str) -> Iterator[Complaint]:
    """What javac says of a file; what it says of another is of line 0. What is said of a line is several lines."""
    for part in _SAID.split(said)[1:]:
        place = _SAID_AT.match(part)
        assert place is not None, "it was split there"
        yield Complaint(int(place["line"]) if place["file"] == path else 0, part.strip())


def _limits(seconds: float) -> dict[str, str]:
    """The time limit as settings of JUnit; a test that does not heed an interrupt is left behind in its thread."""
    timeout = "junit.jupiter.execution.timeout"
    return {
        f"{timeout}.testable.method.default": f"{round(seconds * 1000)} ms",
        f"{timeout}.thread.mode.default": "SEPARATE_THREAD",
    }


def _trial_lines(folder: Path, trial: Trial) -> Iterator[str]:
    """The lines by which the driver learns of a trial; its files are written beside the sound ones."""
    yield f"trial {trial.number}"
    for path, text in trial.files.items():
        file = folder / TRIALS / str(trial.number) / path
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(text, encoding="utf-8")
        yield f"file {file}"
    for address in trial.tests:
        package = address.file.removeprefix("src/test/java/").rpartition("/")[0].replace("/", ".")
        yield f"test {package}.{address.name.replace('.', '#')}"


def _tried(output: str) -> Iterator[Tried]:
    failed: set[str] = set()
    number = broke = running = ""
    for line in output.splitlines():
        number, word, what = line.split(" ", 2)
        if word == "end":
            yield Tried(int(number), frozenset(failed), broke)
            failed, broke, running = set(), "", ""
        elif word == "failed":
            failed.add(what)
        elif word == "run":
            running = what
        else:
            broke = broke or what.replace("\\n", "\n")
    if running:  # the virtual machine ended with it
        yield Tried(int(number), frozenset(failed | {running}), broke)


def _results(report: Path, seconds: float) -> Iterator[TestResult]:
    for case in ElementTree.parse(report).getroot().iter("testcase"):
        class_ = case.get("classname", "").rpartition(".")[2]
        name = f"{class_}.{case.get('name', '').partition('(')[0]}"
        problem = next((child for child in case if child.tag in ("failure", "error")), None)
        if problem is None:
            skipped = next((child for child in case if child.tag == "skipped"), None)
            said = (skipped.text or "").strip().partition("\n")[0] if skipped is not None else ""
            yield TestResult(name, skipped is None, skipped is not None, message=said)
            continue
        late = problem.get("type") == TIMEOUT and " timed out after " in problem.get("message", "")
        yield overdue(name, seconds) if late else _failure(name, class_, case.get("classname", ""), problem)


def _failure(name: str, class_: str, full: str, problem: ElementTree.Element) -> TestResult:
    text = problem.text or ""
    message = problem.get("message", "")
    compared = _COMPARED.search(message)
    frame = next((matched for matched in _FRAME.finditer(text) if matched["file"] == f"{class_}.java"), None)
    folder = "/".join(full.split(".")[:-1])
    kind = problem.get("type", "").rpartition(".")[2]
    return TestResult(
        name,
        False,
        message=message.splitlines()[0] if message else text.partition("\n")[0],
        expected=_shown(compared["expected"]) if compared else "no failure here",
        found=_shown(compared["found"]) if compared else f"{kind}: {message}".strip(": "),
        file=f"src/test/java/{folder}/{class_}.java" if frame else "",
        line=int(frame["line"]) if frame else 0,
    )


def _shown(text: str) -> str:
    return text.strip().removeprefix("<").removesuffix(">")
