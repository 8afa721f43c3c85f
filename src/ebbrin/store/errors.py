"""What can go wrong in the store, typed."""

from __future__ import annotations

from uuid import UUID


class StoreError(Exception):
    """Root of the store's errors."""


class UnknownBuild(StoreError):  # noqa: N818
    """There is no such build."""

    def __init__(self, build_id: UUID) -> None:
        self.build_id = build_id
        super().__init__(f"there is no build {build_id}")


class RevisionTaken(StoreError):  # noqa: N818
    """Another writer added that revision first."""

    def __init__(self, build_id: UUID, number: int) -> None:
        self.build_id, self.number = build_id, number
        super().__init__(f"revision {number} of build {build_id} exists already")


class StoreUnavailable(StoreError):  # noqa: N818
    """The database does not answer."""


class UnknownRun(StoreError):  # noqa: N818
    """There is no such sizing."""

    def __init__(self, run_id: UUID) -> None:
        self.run_id = run_id
        super().__init__(f"there is no sizing {run_id}")


class UnknownRecording(StoreError):  # noqa: N818
    """There is no such recording."""

    def __init__(self, recording_id: UUID) -> None:
        self.recording_id = recording_id
        super().__init__(f"there is no recording {recording_id}")
