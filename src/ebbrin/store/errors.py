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


class SaveIdUsed(StoreError):  # noqa: N818
    """Another document was saved under the same id of a save."""

    def __init__(self, save_id: UUID) -> None:
        self.save_id = save_id
        super().__init__(f"The save {save_id} was made before, with another document or for another build")


class StoreUnavailable(StoreError):  # noqa: N818
    """The database does not answer. Whether what was sent last was stored is not known."""


class StoreBusy(StoreError):  # noqa: N818
    """The database has too much to do for this now. Nothing was changed."""


class StoreFull(StoreError):  # noqa: N818
    """The disk of the database is full. Nothing was changed."""


class StoreBroken(StoreError):  # noqa: N818
    """A table is missing or damaged; the message says which. Nothing was changed."""


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
