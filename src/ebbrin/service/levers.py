"""Pulling a lever: a further variant with one change."""

from __future__ import annotations

from ebbrin.document import levers
from ebbrin.document.build import Build
from ebbrin.verdict.levers import WORDS
from ebbrin.verdict.text import printed


def pull(build: Build, variant_id: str, lever: str) -> Build:
    """The build with one more variant, named after the lever. Stores nothing.

    Raises
    ------
    KeyError
        If there is no such variant or lever.
    MissingValues
        If the variant lacks what an answer needs.
    pydantic.ValidationError
        If the change leaves what a build may hold.
    """
    source = next((v for v in build.variants if v.id == variant_id), None)
    if source is None:
        raise KeyError(variant_id)
    words = printed(WORDS[lever])
    return levers.with_lever(build, source.id, lever, f"{source.name} + {words[0].lower()}{words[1:]}")
