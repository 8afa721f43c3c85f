"""One service for all tests of this place: a car that was driven once is known."""

from ebbrin.features.cause.service import CauseService

SERVICE = CauseService()
