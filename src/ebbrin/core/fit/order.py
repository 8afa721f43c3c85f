"""The order of a job: what must come before what, and what two people can do side by side."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from graphlib import CycleError, TopologicalSorter


@dataclass(frozen=True)
class Task:
    """One piece of a job: how long it takes [min], how many people it needs (1 or 2), and the names of what must be
    done before it."""

    name: str
    minutes: float
    after: tuple[str, ...] = ()
    hands: int = 1


@dataclass(frozen=True)
class Slot:
    """When a task begins and ends with two people at work [min from the beginning], and whose it is: 1, 2, or 0 for
    both."""

    begins: float
    ends: float
    hand: int


def bridged(after: Mapping[str, Sequence[str]], kept: Sequence[str]) -> dict[str, tuple[str, ...]]:
    """What must come before each of the ``kept`` tasks among them: where a task is left out, what it waited for takes
    its place.

    Parameters
    ----------
    after : of every task, what it waits for.

    Raises
    ------
    KeyError
        If a task waits for one that is not in ``after``.

    Examples
    --------
    >>> bridged({"a": (), "b": ("a",), "c": ("b",)}, ["a", "c"])
    {'a': (), 'c': ('a',)}
    """
    there = set(kept)
    known: dict[str, tuple[str, ...]] = {}

    def before(name: str) -> tuple[str, ...]:
        if name not in known:
            # Each is looked through once, however many ways lead to it.
            found = [earlier for one in after[name] for earlier in ((one,) if one in there else before(one))]
            known[name] = tuple(dict.fromkeys(found))
        return known[name]

    return {name: before(name) for name in kept}


def in_order(tasks: Sequence[Task]) -> list[Task]:
    """The tasks so that none comes before what it waits for; among those that could be next, the one that is named
    first.

    Raises
    ------
    ValueError
        If tasks wait for each other in a circle, or for one that is not there.
    """
    place = {task.name: number for number, task in enumerate(tasks)}
    strange = sorted({name for task in tasks for name in task.after} - place.keys())
    if strange:
        raise ValueError(f"tasks wait for what is not there: {', '.join(strange)}")
    sorter = TopologicalSorter({task.name: task.after for task in tasks})
    try:
        sorter.prepare()
    except CycleError as error:
        raise ValueError(f"tasks wait for each other in a circle: {' → '.join(error.args[1])}") from error
    found: list[Task] = []
    ready: list[str] = []
    while sorter.is_active():
        ready = sorted([*ready, *sorter.get_ready()], key=place.__getitem__)
        name = ready.pop(0)
        found.append(tasks[place[name]])
        sorter.done(name)
    return found


def for_two(ordered: Sequence[Task]) -> dict[str, Slot]:
    """When each task is done by two people, who take in turn the first one that can be begun (a list schedule: good,
    not proven the shortest).

    Parameters
    ----------
    ordered : as ``in_order`` gives them.
    """
    slots: dict[str, Slot] = {}
    free = [0.0, 0.0]
    waiting = list(ordered)
    while waiting:
        now = min(free)
        best: tuple[float, int] | None = None
        for number, task in enumerate(waiting):
            if any(name not in slots for name in task.after):
                continue
            since = max([slots[name].ends for name in task.after], default=0.0)
            begins = max(since, max(free) if task.hands == 2 else now)
            if best is None or begins < best[0]:
                best = begins, number
        assert best is not None, "ordered tasks have no circle"
        begins, number = best
        task = waiting.pop(number)
        if task.hands == 2:
            free = [begins + task.minutes] * 2
            slots[task.name] = Slot(begins, free[0], 0)
        else:
            hand = 0 if free[0] <= free[1] else 1
            free[hand] = begins + task.minutes
            slots[task.name] = Slot(begins, free[hand], hand + 1)
    return slots
