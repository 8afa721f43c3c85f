"""Rules of the house that no linter knows."""

from __future__ import annotations

import re
import subprocess
import tomllib
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
CORE = ROOT / "src" / "ebbrin" / "core"
SOURCES = tomllib.loads((CORE / "sources.toml").read_text())
CODE = "\n".join(path.read_text() for path in CORE.rglob("*.py"))


@pytest.mark.parametrize("key", sorted(SOURCES))
def test_every_source_is_used(key: str) -> None:
    assert re.search(rf"(?<![\w-]){re.escape(key)}(?![\w-])", CODE), f"{key} is named nowhere in the core"


def test_every_reference_is_a_source() -> None:
    named = set()
    for block in re.findall(r"References\n\s*-+\n(.*?)(?:\"\"\"|\n\s*\n)", CODE, re.S):
        named |= set(
            re.findall(
                r"\b[a-z][a-z]*(?:-[a-z0-9]+)*-\d{4}\b|iapws-if97|crane-tp-410|iso-2533|sae-j819", block
            )
        )
    assert named
    assert named <= set(SOURCES)


def test_colours_and_fonts_stand_in_the_theme_alone() -> None:
    raw = re.compile(r"#[0-9a-fA-F]{3,8}\b|\brgba?\(|\bhsla?\(|fontFamily: '(?!body)")
    for path in (ROOT / "web" / "src").rglob("*.ts*"):
        if "theme" not in path.parts and not path.name.endswith(".d.ts"):
            assert not raw.search(path.read_text()), f"{path.name} holds a raw colour or font"


def test_no_lock_says_where_from_and_no_file_where_this_machine_keeps_things() -> None:
    for name in ("requirements/check.lock", "requirements/run.lock"):
        assert "://" not in (ROOT / name).read_text(), name
    assert '"resolved"' not in (ROOT / "web" / "package-lock.json").read_text()
    told = [f"{place}/" for place in (ROOT, Path.home()) if len(place.parts) > 1]
    listed = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, text=True, check=True)
    for name in filter(None, listed.stdout.split("\0")):
        path = ROOT / name
        if path.is_file() and path.suffix not in {".npz", ".png"}:
            text = path.read_text(errors="ignore")
            assert not any(place in text for place in told), name


def test_pictures_stay_few() -> None:
    assert len(list((ROOT / "docs" / "screenshots").glob("*.png"))) < 20


NAMED = re.compile(r"`((?:src|tests|web|scripts|benchmarks|oracles|docs)/[\w./-]+)`")
DOCS = ("README.md", "CONTRIBUTING.md", "benchmarks/README.md", "docs/*.md")


@pytest.mark.parametrize(
    "doc", sorted(doc for form in DOCS for doc in ROOT.glob(form)), ids=lambda doc: doc.name
)
def test_every_file_that_the_docs_name_is_there(doc: Path) -> None:
    missing = [path for path in NAMED.findall(doc.read_text()) if not (ROOT / path).exists()]
    assert missing == []


METHOD = (ROOT / "docs" / "method.md").read_text()


def test_method_names_every_source() -> None:
    assert [key for key in SOURCES if f"`{key}`" not in METHOD] == []


def test_checks_that_the_method_names_exist() -> None:
    tests = "\n".join(path.read_text() for path in (ROOT / "tests").rglob("test_*.py"))
    known = set(re.findall(r"def test_(\w+)", tests))
    named = [n for n in re.findall(r"`([a-z0-9_]+…?)`", METHOD) if n.count("_") > 1]
    assert len(named) > 40
    for name in named:
        assert any(k.startswith(name[:-1]) if name.endswith("…") else k == name for k in known), name
