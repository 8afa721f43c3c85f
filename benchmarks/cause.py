"""How long finding a cause takes, whether what it says is so, and what its order of tests is worth:
.venv/bin/python benchmarks/cause.py [cars]"""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from ebbrin.bridge.to_core import system_from  # noqa: E402
from ebbrin.bridge.unknowns import all_unknowns  # noqa: E402
from ebbrin.build.resolve import resolve  # noqa: E402
from ebbrin.core.base import FloatArray  # noqa: E402
from ebbrin.core.cause.belief import Belief, Inquiry  # noqa: E402
from ebbrin.core.cause.choice import Order, costs, ordered  # noqa: E402
from ebbrin.core.cause.network import Network, by_the_table  # noqa: E402
from ebbrin.core.cause.sets import members, prior_weights, shown  # noqa: E402
from ebbrin.core.cause.tables import CAUSES, OBSERVATIONS  # noqa: E402
from ebbrin.core.cause.witness import witness_of  # noqa: E402
from ebbrin.demo import demo_builds  # noqa: E402
from ebbrin.features.cause.answers import DiagnosisQuestion  # noqa: E402
from ebbrin.features.cause.service import CauseService  # noqa: E402
from oracles.made_car import found_out, made_cars  # noqa: E402

SEEN = list(OBSERVATIONS.values())
TESTS = [n for n, seen in enumerate(SEEN) if not seen.story]
COST = costs(
    np.array([o.minutes for o in SEEN]),
    np.array([o.money for o in SEEN]),
    np.array([o.danger for o in SEEN]),
    30.0,
)
DANGER = np.array([o.danger for o in SEEN])
COMPLAINT = list(OBSERVATIONS).index("complaint")
FIRST: dict[str, tuple[str, ...]] = {"gauge": ("gauge_check",), "pressure": ("pressure_hold", "cap_test")}
SURE = 0.9
RACED = 300
"""Cars over which the orders of tests are compared."""


def main(cars: int) -> None:
    """Measure and print."""
    inquiry = Inquiry(by_the_table())
    evidence = {COMPLAINT: 0, 1: 0, 5: 0}
    print("| what | time |")
    print("|---|---|")
    ready = best(lambda: Inquiry(inquiry.network))
    print(f"| 52 causes, 46 observations: a network made ready, once for each car | {ready * 1e3:.0f} ms |")
    whole = best(lambda: answer(inquiry, evidence))
    floor = best(lambda: prior_weights(inquiry.network.prior) * inquiry.likelihood(0, 0))
    print(f"| chances, reasons and what every test would tell, after three answers | {whole * 1e3:.1f} ms |")
    print(f"| floor: one answer multiplied into all sets | {floor * 1e3:.2f} ms, ratio {whole / floor:.0f} |")
    service, build = CauseService(), demo_builds()[0]
    question = DiagnosisQuestion(
        build=build, variant=build.variants[0].id, evidence={"complaint": "runs_hot", "when_hot": "standing"}
    )
    service.diagnose(question, wait=True)
    asked = best(lambda: service.diagnose(question))
    print(f"| the same as a whole answer in words, of a build that was driven | {asked * 1e3:.0f} ms |")
    for build in demo_builds():
        resolved = resolve(build, build.variants[0].id)
        system = system_from(resolved)
        unknowns = [named.unknown for named in all_unknowns(system, resolved)]
        began = time.perf_counter()
        found = witness_of(system, unknowns, build.site.ambient_c + 273.15, build.site.altitude_m)
        print(f"| {build.name} driven {found.drives} times | {time.perf_counter() - began:.1f} s |")
    print(f"| load average | {os.getloadavg()[0]:.1f} on {os.cpu_count()} cores |")
    calibrated(inquiry, cars)
    raced(inquiry)
    all_found_out(service)


def best(work: Callable[[], object], times: int = 5) -> float:
    """The shortest of some runs [s]."""
    found = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        found.append(time.perf_counter() - began)
    return min(found)


def answer(inquiry: Inquiry, evidence: dict[int, int]) -> Belief:
    """All that a question asks of the engine."""
    belief = inquiry.after(evidence)
    explained = belief.explained(np.ones(len(CAUSES), bool))
    for test in TESTS:
        explained.bits(test)
    belief.for_and_against()
    return belief


class Drawn:
    """A car drawn from the priors, its observations from the links: one draw for each, whenever it is asked for."""

    def __init__(self, inquiry: Inquiry, rng: np.random.Generator, all_sets: bool) -> None:
        network = inquiry.network
        if all_sets:
            self.there = np.flatnonzero(rng.random(len(network.causes)) < network.prior)
            few = network.cut_down([int(c) for c in self.there])
            self._shares = [of_all(few, o) for o in range(len(network.observations))]
        else:
            number = int(rng.choice(len(members(len(CAUSES))), p=prior_weights(network.prior)))
            self.there = members(len(CAUSES))[number]
            self.there = self.there[self.there < len(CAUSES)]
            self._shares = [of.shares[of.row[number]] for of in inquiry.shown]
        self._draws = rng.random(len(network.observations))

    def value(self, observation: int) -> int:
        """What is seen of it."""
        shares = np.cumsum(self._shares[observation])
        return int(min(np.searchsorted(shares, self._draws[observation]), len(shares) - 1))


def of_all(network: Network, observation: int) -> FloatArray:
    """Shares of an observation's values where all causes of a small network are there, however many."""
    together = tuple(1.0 - (1.0 - shows).prod(0, keepdims=True) for shows in network.shows)
    one = replace(network, causes=("all",), prior=np.array([0.5]), shows=together)
    return shown(one, observation).shares[-1]


def calibrated(inquiry: Inquiry, cars: int) -> None:
    """Of what is said to be there with a chance, how much is."""
    rng = np.random.default_rng(11)
    edges = np.array([0.0, 0.05, 0.15, 0.25, 0.35, 0.45, 0.55, 0.65, 0.75, 0.85, 0.95, 1.0 + 1e-9])
    for all_sets in (False, True):
        said: list[FloatArray] = []
        true: list[FloatArray] = []
        for _ in range(cars):
            car = Drawn(inquiry, rng, all_sets)
            made = rng.choice(len(SEEN) - 1, size=int(rng.integers(1, 9)), replace=False)
            belief = inquiry.after({int(o): car.value(int(o)) for o in (COMPLAINT, *made)})
            there = np.zeros(len(CAUSES))
            there[car.there] = 1.0
            said.append(belief.present)
            true.append(there)
        chances, happened = np.concatenate(said), np.concatenate(true)
        what = "however many causes at once" if all_sets else "up to three causes at once"
        print(f"\n{cars} cars, {what}: of causes said to be there with a chance of\n")
        print("| said | causes | were there |")
        print("|---|---|---|")
        for low, high in pairwise(edges):
            here = (chances >= low) & (chances < high)
            if here.sum() > 50:
                print(
                    f"| {low:.2f} to {min(high, 1.0):.2f} | {here.sum()} | {happened[here].mean():.3f} (said {chances[here].mean():.3f}) |"
                )


def raced(inquiry: Inquiry) -> None:
    """Minutes and money until one reason is SURE, by order of tests."""
    spent: dict[str, list[float]] = {}
    orders: tuple[Order, ...] = ("telling", "cheapest", "gauge", "pressure")
    for order in orders:
        rng = np.random.default_rng(5)
        spent[order] = []
        first = np.zeros(len(SEEN), bool)
        for begins in FIRST.get(order, ()):
            first[list(OBSERVATIONS).index(begins)] = True
        for _ in range(RACED):
            car = Drawn(inquiry, rng, all_sets=False)
            if len(car.there) == 0:
                continue
            complaint = SEEN[COMPLAINT].telling[car.value(COMPLAINT)]
            can = np.array([complaint in cause.explains for cause in CAUSES.values()])
            evidence, cost = {COMPLAINT: car.value(COMPLAINT), 1: car.value(1)}, 0.0
            for _ in range(len(TESTS)):
                explained = inquiry.after(evidence).explained(can)
                if explained.by.max() >= SURE:
                    break
                bits = np.zeros(len(SEEN))
                for test in TESTS:
                    bits[test] = 0.0 if test in evidence else explained.bits(test)
                queue = ordered(bits, COST, DANGER, order, first)
                if not queue:
                    break
                evidence[queue[0]] = car.value(queue[0])
                cost += float(COST[queue[0]])
            spent[order].append(cost)
    print(f"\n{RACED} cars: minutes, money and danger counted in, until one reason is at {SURE:.0%}\n")
    print("| order | mean | median |")
    print("|---|---|---|")
    for name, costed in spent.items():
        print(f"| {name} | {np.mean(costed):.0f} | {np.median(costed):.0f} |")


def all_found_out(service: CauseService) -> None:
    """Cars with one cause at its worst, found out by the tests that are chosen."""
    print(
        "\n| build | cars that complain | a cause of that fault among the first three from the seat "
        "| first after five tests | after ten |"
    )
    print("|---|---|---|---|---|")
    for build in demo_builds():
        counts = np.zeros(4, int)
        for car in made_cars(build):
            found = found_out(service, build, car, 10)
            if found is not None:
                counts += [1, found.from_seat, found.right and found.tests <= 5, found.right]
        print(f"| {build.name} | " + " | ".join(str(n) for n in counts) + " |")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 10_000)
