"""A car of which a cause is looked for, before anything was seen of it."""

from __future__ import annotations

from dataclasses import dataclass

from ebbrin.core.cause.network import Network
from ebbrin.features.cause.answers import SpokenBy
from ebbrin.features.cause.entries import NUMBER, SPOKEN_OF
from ebbrin.features.cause.witnesses import Known


@dataclass(frozen=True)
class Car:
    """What is known of it: the network that answers go by; what its drives came to, and whether they are under way; causes
    that it cannot have, factors on the odds of others, and what the workbench says of it."""

    network: Network
    known: Known | None
    driving: bool
    lacking: frozenset[str]
    factors: dict[str, float]
    verdict: str | None

    @property
    def spoken_by(self) -> SpokenBy:
        """Who speaks of it: the tables of the trade, or its own drives as well."""
        known = self.known
        if known is None:
            text = (
                "The tables of the trade speak, until this build has been driven in the model with each fault."
                if self.driving
                else "The tables of the trade speak: no model of this car is at hand."
            )
            return SpokenBy(state="driving" if self.driving else "table", drives=0, model=[], text=text)
        names = sorted({name for _, name in known.spoken}, key=lambda name: NUMBER[name])
        text = (
            f"This build was driven {known.witness.drives} times in the model, with each fault that it can have. "
            f"The model speaks of {', '.join(SPOKEN_OF[name] for name in names)}; of all else the tables of the trade."
        )
        return SpokenBy(state="model", drives=known.witness.drives, model=names, text=text)
