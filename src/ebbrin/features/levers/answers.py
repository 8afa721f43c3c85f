"""What each single change would buy."""

from __future__ import annotations

from pydantic import Field

from ebbrin.ground.words import Answer, Text


class LeverGain(Answer):
    """What one change does to one case; null where it cannot be said."""

    case_id: str
    cooler_k: float | None = Field(description="Fall of the temperature that margins are taken from.")
    margin_gain_k: float | None = Field(description="Growth of the margin below the limit.")
    ambient_gain_k: float | None = Field(description="How much hotter the air may be.")
    cures: bool = Field(description="A case without steady state gets one.")


class Lever(Answer):
    """One single change and its worth, found by solving the changed build."""

    name: str
    text: Text = Field(default=[], description="What it is called.")
    cautions: list[Text] = Field(
        default=[], description="What it would bring that is worth knowing, whatever it is worth."
    )
    cases: list[LeverGain]
