"""The demo workshop, all of it invented."""

from __future__ import annotations

from importlib import resources

from ebbrin.document.build import Build
from ebbrin.document.drive import Script

NAMES = ("linnet", "mule", "brigade")


def demo_builds() -> list[Build]:
    """The builds that a new database starts with."""
    folder = resources.files("ebbrin.demo")
    return [Build.model_validate_json(folder.joinpath(f"{name}.json").read_bytes()) for name in NAMES]


def demo_drives() -> dict[str, Script]:
    """A drive for each build, by the name of its file."""
    folder = resources.files("ebbrin.demo").joinpath("drives")
    return {name: Script.model_validate_json(folder.joinpath(f"{name}.json").read_bytes()) for name in NAMES}
