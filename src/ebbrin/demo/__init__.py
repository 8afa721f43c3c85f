"""The demo workshop, all of it invented."""

from __future__ import annotations

from importlib import resources

from ebbrin.build.build import Build

NAMES = ("linnet", "mule", "brigade")


def demo_builds() -> list[Build]:
    """The builds that a new database starts with."""
    folder = resources.files("ebbrin.demo")
    return [Build.model_validate_json(folder.joinpath(f"{name}.json").read_bytes()) for name in NAMES]
