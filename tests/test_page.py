"""The HTML pages: complete, self-contained, nothing of a declaration becomes markup; and what a browser makes of them."""

from __future__ import annotations

import html
import json
import re
import shutil
import subprocess
from html.parser import HTMLParser
from pathlib import Path

import pytest

from tests.conftest import BUILT_IN, DEMO, HERE, STARTER, emitted, planned
from tests.test_faults import faults
from urform.diagram.pictures import Pictures
from urform.verification.page import challenge_page, function_of, verification_page
from urform.verification.results import FAILED, HELD, PASSED, ClaimResult, Outcome, TargetRun, Verification
from urform.verification.verdicts import (
    CAUGHT,
    IMPOSSIBLE,
    SURVIVED,
    Challenge,
    FaultResult,
    TrialsRun,
    Verdict,
)

HOSTILE = HERE / "fixtures/valid/hostile.urform.yaml"
BROWSERS = ("chromium", "chromium-browser", "google-chrome")
VOID = {"meta", "br", "link", "input", "source", "img"}
DRAWN = Pictures("data:image/svg+xml;base64,PHN2Zy8+", "data:image/svg+xml;base64,PHN2ZyAvPg==")


def verified(path: Path) -> str:
    """A page on which the first claim failed in the first target, and the rest passed or is held."""
    _, claims = planned(path)
    emissions = {name: emitted(path, name) for name in BUILT_IN}
    results = []
    for number, claim in enumerate(claims):
        outcomes = {
            name: Outcome(HELD, reason=each.held[claim.id]) if claim.id in each.held else Outcome(PASSED)
            for name, each in emissions.items()
        }
        if number == 0:
            outcomes["go"] = Outcome(FAILED, expected="<b>1</b>", found="2 & 3")
        results.append(ClaimResult(claim.id, claim.group, claim.text, outcomes))
    runs = tuple(TargetRun(name, f"{name} 1") for name in BUILT_IN)
    result = Verification(planned(path)[0].name, tuple(results), runs)
    return verification_page(result, claims, emissions, DRAWN)


def challenged(path: Path) -> str:
    """A page on which the first fault survived in the first target."""
    _, claims = planned(path)
    emissions = {name: emitted(path, name) for name in BUILT_IN}
    results = []
    for number, fault in enumerate(faults(path)):
        verdicts = {
            name: Verdict(IMPOSSIBLE, "so it is") if fault.claim.id in each.held else Verdict(CAUGHT)
            for name, each in emissions.items()
        }
        if number == 0:
            verdicts["go"] = Verdict(SURVIVED, change="--- a\n+++ b\n-<i>\n+</script>")
        results.append(FaultResult(fault.id, fault.claim.id, fault.claim.group, fault.text, verdicts))
    runs = tuple(TrialsRun(name, f"{name} 1") for name in BUILT_IN)
    result = Challenge(planned(path)[0].name, tuple(results), runs)
    return challenge_page(result, claims, emissions, Pictures(missing="Nothing <draws> here."))


PAGES = {"verified": verified, "challenged": challenged}


class Reader(HTMLParser):
    """What a page is made of."""

    def __init__(self) -> None:
        super().__init__()
        self.open: list[str] = []
        self.tags: list[str] = []
        self.attributes: list[tuple[str, str]] = []
        self._texts: list[str] = []

    @property
    def text(self) -> str:
        """All of its text."""
        return "".join(self._texts)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append(tag)
        self.attributes += [(name, value or "") for name, value in attrs]
        if tag not in VOID:
            self.open.append(tag)

    def handle_endtag(self, tag: str) -> None:
        assert self.open, tag
        assert self.open.pop() == tag

    def handle_data(self, data: str) -> None:
        self._texts.append(data)


def read(page: str) -> Reader:
    reader = Reader()
    reader.feed(page)
    assert reader.open == []
    return reader


@pytest.mark.parametrize("kind", PAGES)
@pytest.mark.parametrize("path", [DEMO, HOSTILE], ids=["demo", "hostile"])
@pytest.mark.slow
def test_a_page_is_whole_and_asks_for_nothing_else(kind: str, path: Path) -> None:
    reader = read(PAGES[kind](path))
    assert {"script", "style", "h1", "table", "details"} <= set(reader.tags)
    assert reader.tags.count("script") == 1, "no text of a declaration is a script"
    asked = [a for a in reader.attributes if a[0] in ("src", "href", "srcset", "action", "onclick")]
    held = [("srcset", DRAWN.dark), ("src", DRAWN.light)] if kind == "verified" else []
    assert asked == held, "a picture is held by the page itself"
    assert "url(" not in PAGES[kind](path).partition("</style>")[0]


@pytest.mark.parametrize("kind", PAGES)
@pytest.mark.parametrize("path", [DEMO, HOSTILE], ids=["demo", "hostile"])
@pytest.mark.slow
def test_every_claim_stands_there_in_words_with_its_tests(kind: str, path: Path) -> None:
    text = read(PAGES[kind](path)).text
    for claim in planned(path)[1]:
        assert claim.id in text
        assert claim.text in text
    for name in BUILT_IN:
        for address in emitted(path, name).tests:
            assert re.split(r"[.:]+", address.name)[-1] in text, address


@pytest.mark.slow
def test_what_failed_is_told_as_text() -> None:
    assert "expected <b>1</b>, found 2 & 3" in read(verified(DEMO)).text
    assert "+</script>" in read(challenged(DEMO)).text


def test_a_page_without_a_picture_says_why() -> None:
    assert "Nothing <draws> here." in read(challenged(STARTER)).text
    assert "no picture" not in read(verified(STARTER)).text


def test_the_first_heading_tells_the_verdict() -> None:
    assert f"1 of {len(planned(STARTER)[1])} claims failed" in verified(STARTER)
    assert "1 faults were not caught by the test of their own claim" in challenged(STARTER)


@pytest.mark.slow
def test_a_function_is_found_whole(valid: Path, target_name: str) -> None:
    emission = emitted(valid, target_name)
    files = {file.path: file.text for file in emission.files}
    for address in emission.tests:
        text = function_of(files[address.file], address.name)
        assert re.split(r"[.:]+", address.name)[-1] in text, address
        opened, closed = text.count("{"), text.count("}")
        assert text.rstrip(");").endswith("}") or not opened or target_name == "python", address
        assert abs(opened - closed) <= text.count('"'), "balanced, but for braces in text"


def test_what_is_not_there_is_nothing() -> None:
    assert function_of("def one():\n    pass\n", "two") == ""


# --- in a browser -------------------------------------------------------------------------------------------------

ASK = """
<script>
const set = (by, value) => { const box = document.querySelector(`select[data-by=${by}]`); box.value = value;
  box.dispatchEvent(new Event("change")); };
const shown = () => [...document.querySelectorAll(".claim:not([hidden])")].map(each => each.querySelector(".id").textContent);
const contrast = element => getComputedStyle(element).color + " on " + getComputedStyle(document.body).backgroundColor;
const told = { all: shown().length };
set("group", "limit"); told.limit = shown(); told.said = document.querySelector("output").textContent;
set("group", ""); set("state", "failed"); told.failed = shown();
set("target", "java"); told.failedInJava = shown();
told.sections = document.querySelectorAll("section:not([hidden])").length;
set("state", ""); set("target", ""); told.again = shown().length;
told.overflows = document.documentElement.scrollWidth > document.documentElement.clientWidth;
told.colours = ["good", "neutral", "bad", "soft"].map(name => contrast(document.querySelector("." + name)));
told.reachable = [...document.querySelectorAll("pre")].every(each => each.tabIndex === 0);
document.body.innerHTML = ""; document.body.textContent = "TOLD" + JSON.stringify(told) + "END";
</script>
</body>"""


def browse(page: Path, width: int) -> str:
    """What headless Chromium makes of a page, as its document."""
    browser = next((found for name in BROWSERS if (found := shutil.which(name))), None)
    assert browser is not None, "Chromium is needed: sh tools/browser.sh"
    command = [browser, "--headless", "--no-sandbox", "--disable-gpu", f"--window-size={width},800"]
    done = subprocess.run(
        [*command, "--virtual-time-budget=5000", "--dump-dom", page.as_uri()],
        capture_output=True,
        encoding="utf-8",
        timeout=120,
        check=True,
    )
    return done.stdout


@pytest.mark.toolchain
@pytest.mark.parametrize("width", [1280, 500])
def test_the_page_in_a_browser(tmp_path: Path, width: int) -> None:
    page = tmp_path / "page.html"
    page.write_text(verified(DEMO).replace("</body>", ASK), encoding="utf-8")
    match = re.search(r"TOLD(.*)END", browse(page, width))
    assert match is not None
    told = json.loads(html.unescape(match[1]))
    claims = planned(DEMO)[1]
    assert told["all"] == told["again"] == len(claims)
    assert told["limit"] == [claim.id for claim in claims if claim.group == "limit"]
    assert told["said"] == f"{len(told['limit'])} of {len(claims)} claims shown"
    assert told["failed"] == [claims[0].id]
    assert told["failedInJava"] == []
    assert told["sections"] == 0
    assert told["overflows"] is False
    assert told["reachable"] is True
    for pair in told["colours"]:
        assert _contrast(pair) >= 4.5, f"{pair}: WCAG 2 asks for 4.5"


@pytest.mark.toolchain
def test_without_scripts_everything_is_there(tmp_path: Path) -> None:
    page = tmp_path / "page.html"
    bare = re.sub(r"<script>.*?</script>", "", challenged(DEMO), flags=re.DOTALL)
    page.write_text(bare, encoding="utf-8")
    seen = browse(page, 1280)
    assert seen.count('class="claim"') == len({fault.claim.id for fault in faults(DEMO)})
    assert 'class="scripted"' not in seen
    assert "hidden=" not in seen


def _contrast(pair: str) -> float:
    """The contrast ratio of WCAG 2.2, success criterion 1.4.3."""
    lights = []
    for colour in pair.split(" on "):
        parts = [int(part) / 255 for part in re.findall(r"\d+", colour)[:3]]
        linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
        lights.append(0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2] + 0.05)
    return max(lights) / min(lights)
