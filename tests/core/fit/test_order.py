"""The order of jobs, on made tasks of every shape."""

import graphlib
import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.fit.order import Task, bridged, for_two, in_order


@st.composite
def jobs(draw: st.DrawFn) -> list[Task]:
    """Tasks that wait for earlier-made ones only, in any order."""
    count = draw(st.integers(1, 14))
    tasks = []
    for n in range(count):
        after = draw(st.lists(st.integers(0, n - 1), max_size=3, unique=True)) if n else []
        tasks.append(
            Task(
                f"t{n}",
                draw(st.integers(1, 60)),
                tuple(f"t{i}" for i in after),
                draw(st.sampled_from((1, 1, 2))),
            )
        )
    return draw(st.permutations(tasks))


@given(jobs())
def test_no_task_comes_before_what_it_waits_for(tasks: list[Task]) -> None:
    place = {task.name: n for n, task in enumerate(in_order(tasks))}
    assert len(place) == len(tasks)
    for task in tasks:
        assert all(place[before] < place[task.name] for before in task.after)


@given(jobs())
def test_by_two_nobody_does_two_things_at_once_and_it_is_never_slower(tasks: list[Task]) -> None:
    ordered = in_order(tasks)
    slots = for_two(ordered)
    by_name = {task.name: task for task in ordered}
    for name, slot in slots.items():
        assert slot.ends - slot.begins == pytest.approx(by_name[name].minutes)
        assert (slot.hand == 0) == (by_name[name].hands == 2)
        assert all(slots[before].ends <= slot.begins + 1e-9 for before in by_name[name].after)
    for hand in (1, 2):
        busy = sorted((s.begins, s.ends) for s in slots.values() if s.hand in (0, hand))
        assert all(one[1] <= two[0] + 1e-9 for one, two in itertools.pairwise(busy))
    assert max(slot.ends for slot in slots.values()) <= sum(task.minutes for task in tasks) + 1e-9


@given(jobs(), st.sets(st.integers(0, 13)))
def test_what_is_left_out_hands_on_what_it_waited_for(tasks: list[Task], gone: set[int]) -> None:
    after = {task.name: task.after for task in tasks}
    kept = [name for name in after if int(name[1:]) not in gone]
    found = bridged(after, kept)
    # By hand: one kept task must come before another where a path leads there over tasks that are gone.
    for name in kept:
        reached, look = set(), list(after[name])
        while look:
            one = look.pop()
            if one in found:
                reached.add(one)
            else:
                look += after[one]
        assert set(found[name]) == reached
    list(graphlib.TopologicalSorter(found).static_order())


def test_circles_and_strangers_are_refused() -> None:
    with pytest.raises(ValueError, match="circle"):
        in_order([Task("a", 1, ("b",)), Task("b", 1, ("a",))])
    with pytest.raises(ValueError, match="not there: c"):
        in_order([Task("a", 1, ("c",))])
