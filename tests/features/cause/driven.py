"""One service for all tests of this place: a car that was driven once is known."""

from ebbrin.build.build import Build
from ebbrin.demo import demo_builds
from ebbrin.features.cause.service import CauseService

SERVICE = CauseService()


def unmarked() -> list[Build]:
    """The demo's builds as they were begun: none of their variants is marked as standing in the car."""
    return [build.model_copy(update={"standing": None}) for build in demo_builds()]
