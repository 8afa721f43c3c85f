"""Finding a cause by hand: sets of causes gone through one by one in plain Python, written from the page of the
domain tables alone. One departure from it, which core/cause/network.py explains: a cause that shows the healthy value
speaks for that value."""

from __future__ import annotations

import csv
from itertools import combinations
from pathlib import Path

TABLES = Path(__file__).parents[1] / "src" / "ebbrin" / "core" / "cause"
SURE = {"+++": 0.98, "++": 0.85}


def rows(name: str) -> list[dict[str, str]]:
    """The rows of one of the tables."""
    with (TABLES / f"{name}.csv").open(encoding="utf-8", newline="") as file:
        return list(csv.DictReader(file))


class PlainCauses:
    """The tables as dictionaries, cut down to some causes."""

    def __init__(self, causes: list[str] | None = None) -> None:
        self.weight = {r["cause"]: float(r["weight"]) / 1000.0 for r in rows("causes")}
        self.causes = list(self.weight) if causes is None else causes
        self.base: dict[str, dict[str, float]] = {}
        self.story: dict[str, bool] = {}
        for row in rows("observations"):
            out = {part.split("=")[0] for part in row["denies"].split()} | {"unknown"}
            values = [value for value in row["values"].split("|") if value not in out]
            given = [float(x) for x in row["base"].split("|") if x]
            if not given:
                shares = [1.0 / len(values)] * len(values)
            elif len(given) == len(values):
                shares = given
            else:
                rest = (
                    given
                    if len(given) == len(values) - 1
                    else [given[0] / (len(values) - 1)] * (len(values) - 1)
                )
                shares = [1.0 - sum(rest), *rest]
            self.base[row["observation"]] = dict(zip(values, shares, strict=True))
            self.story[row["observation"]] = row["kind"] in ("story", "model")
        self.links: dict[tuple[str, str], dict[str, float]] = {}
        for row in rows("links"):
            usual = self.base[row["observation"]][row["value"]]
            p = SURE.get(row["strength"], max(0.45, min(3.0 * usual, 0.85)))
            self.links.setdefault((row["cause"], row["observation"]), {})[row["value"]] = p

    def shares(self, present: tuple[str, ...], observation: str) -> dict[str, float]:
        """Shares of the values of an observation where these causes are there."""
        base, healthy = self.base[observation], next(iter(self.base[observation]))
        left = dict.fromkeys(base, 1.0)
        for cause in present:
            for value, p in self.links.get((cause, observation), {}).items():
                left[value] *= 1.0 - p
        weights = {}
        for value, share in base.items():
            if self.story[observation]:
                weights[value] = share + 6.0 * (1.0 - left[value])
            else:
                weights[value] = 1.0 - (1.0 - share) * left[value]
        if not self.story[observation]:
            for value in base:
                if value != healthy:
                    weights[healthy] *= left[value]
        total = sum(weights.values())
        return {value: weight / total for value, weight in weights.items()}

    def sets(self, most: int = 3) -> list[tuple[str, ...]]:
        """All sets of so many causes at most."""
        return [chosen for size in range(most + 1) for chosen in combinations(self.causes, size)]

    def chances(self, evidence: dict[str, str], most: int = 3) -> dict[tuple[str, ...], float]:
        """Chance of every set after the evidence."""
        found = {}
        for present in self.sets(most):
            chance = 1.0
            for cause in self.causes:
                chance *= self.weight[cause] if cause in present else 1.0 - self.weight[cause]
            for observation, value in evidence.items():
                chance *= self.shares(present, observation)[value]
            found[present] = chance
        total = sum(found.values())
        return {present: chance / total for present, chance in found.items()}

    def present(self, evidence: dict[str, str], most: int = 3) -> dict[str, float]:
        """Chance of each cause that it is there."""
        sets = self.chances(evidence, most)
        return {cause: sum(p for present, p in sets.items() if cause in present) for cause in self.causes}
