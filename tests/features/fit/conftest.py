"""Builds whose car is known in one way or another."""

from typing import Any

from ebbrin.build.build import Build
from ebbrin.demo import demo_builds


def mule(**car: Any) -> Build:
    """Mule with other facts of its car; None forgets one."""
    document = demo_builds()[1].model_dump(mode="json")
    document["car"].update(car)
    return Build.model_validate(document)


def with_variant(build: Build, variant_id: str, **parts: dict[str, Any]) -> Build:
    """The build with one more variant: the first with some of its parts changed."""
    document = build.model_dump(mode="json")
    new = {**document["variants"][0], "id": variant_id, "name": variant_id}
    for part, changes in parts.items():
        new[part] = {**new[part], **changes}
    document["variants"].append(new)
    return Build.model_validate(document)
