"""Cars that were driven in the model, each kept by a hash of what it is made of; driven behind the scenes."""

from __future__ import annotations

import hashlib
import logging
import os
import threading
from collections import OrderedDict
from concurrent.futures import Future, ThreadPoolExecutor, wait
from contextlib import suppress
from dataclasses import dataclass
from functools import cache

from ebbrin.bridge.to_core import system_from
from ebbrin.bridge.units import kelvin
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.base import Abandoned, DomainError, go_on, still_wanted
from ebbrin.core.cause.belief import Inquiry
from ebbrin.core.cause.network import Network, by_the_table
from ebbrin.core.cause.witness import Witness, with_witness, witness_of
from ebbrin.core.compiled import on_one_core

log = logging.getLogger(__name__)
MOST_KEPT = 12
LOOK_AGAIN = 0.2  # s
NICE = 5
"""Drives behind the scenes give way to what somebody waits for, and still come to an end beside others on a busy machine."""


@dataclass(frozen=True)
class Known:
    """What a car's drives came to: the network that they make, of which (cause, observation) pairs they speak, and what
    was seen with each fault."""

    network: Network
    spoken: frozenset[tuple[str, str]]
    witness: Witness


@cache
def table() -> Network:
    """The network of any car."""
    return by_the_table()


def car_of(build: Build, variant_id: str) -> str:
    """A hash of all that the drives of a variant hang on: the variant and its site."""
    variant = next(v for v in build.variants if v.id == variant_id)
    written = variant.model_dump_json(exclude={"name", "id"}) + build.site.model_dump_json()
    return hashlib.sha256(written.encode()).hexdigest()


class Witnesses:
    """Cars that were driven, and those that are being driven: one at a time, and of those that wait the newest alone,
    because a build that was changed since need not be driven as it was."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, Known | None] = OrderedDict()
        self._running: dict[str, Future[Known | None]] = {}
        self._lock = threading.Lock()
        self._pool: ThreadPoolExecutor | None = None
        self._closed = threading.Event()

    def known(self, build: Build, variant_id: str) -> tuple[Known | None, bool]:
        """What the drives of a car came to, if they are there; and whether they are under way. They are begun if
        nobody has yet."""
        key = car_of(build, variant_id)
        with self._lock:
            if key in self._known:
                self._known.move_to_end(key)
                return self._known[key], False
            if key not in self._running:
                self._begin(key, build, variant_id)
        return None, True

    def seen_of(self, build: Build, variant_id: str) -> Known | None:
        """What the drives of a car came to, if they are there; none are begun."""
        if all(variant.id != variant_id for variant in build.variants):
            return None
        with self._lock:
            return self._known.get(car_of(build, variant_id))

    def wait(self, build: Build, variant_id: str) -> Known | None:
        """What the drives of a car come to, once they are done; None for one that cannot be driven.

        Raises
        ------
        Abandoned
            If nobody waits for it any more.
        """
        found, under_way = self.known(build, variant_id)
        while under_way:
            with self._lock:
                running = self._running.get(car_of(build, variant_id))
            go_on()
            if running is not None:
                wait([running], LOOK_AGAIN)
            if self._closed.is_set():
                return None
            found, under_way = self.known(build, variant_id)
        return found

    def _begin(self, key: str, build: Build, variant_id: str) -> None:
        if self._pool is None:
            self._pool = ThreadPoolExecutor(1, "witness", initializer=_give_way)
        for other, future in list(self._running.items()):
            if future.cancel():
                self._running.pop(other)
        self._running[key] = self._pool.submit(self._drive, key, build, variant_id)

    def _drive(self, key: str, build: Build, variant_id: str) -> Known | None:
        still_wanted.set(lambda: not self._closed.is_set())
        found = None
        try:
            # Helpers that answers share would be begun here, and give way as this thread does for as long as they live.
            with on_one_core():
                found = drive_all(build, variant_id)
        except Abandoned:
            return None
        except Exception:
            # Said where somebody can mend it; the tables speak on.
            if not self._closed.is_set() and threading.main_thread().is_alive():
                log.exception("the model could not be driven to find a cause")
        with self._lock:
            self._known[key] = found
            self._running.pop(key, None)
            while len(self._known) > MOST_KEPT:
                self._known.popitem(last=False)
        return found

    def close(self) -> None:
        """Drive nothing any more; what is under way is given up."""
        self._closed.set()
        if self._pool is not None:
            self._pool.shutdown(wait=False, cancel_futures=True)


def _give_way() -> None:
    with suppress(OSError, AttributeError):
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), NICE)


def drive_all(build: Build, variant_id: str) -> Known | None:
    """Drive one car with every fault that it can have; None where its parts make no car.

    Raises
    ------
    MissingValues, UnknownVariant
    """
    resolved = resolve(build, variant_id)
    try:
        system = system_from(resolved)
        unknowns = [named.unknown for named in all_unknowns(system, resolved)]
        witness = witness_of(
            system, unknowns, float(kelvin(build.site.ambient_c)), float(build.site.altitude_m)
        )
    except DomainError:
        return None
    network, spoken = with_witness(table(), witness)
    return Known(network, spoken, witness)


class Inquiries:
    """Networks made ready to be asked, the ones used last; making one ready takes some tens of milliseconds."""

    def __init__(self) -> None:
        self._ready: OrderedDict[int, tuple[Network, Inquiry]] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, network: Network) -> Inquiry:
        """The network, ready; by which network it is, not by what it holds."""
        with self._lock:
            if id(network) not in self._ready:
                self._ready[id(network)] = (network, Inquiry(network))
                while len(self._ready) > MOST_KEPT:
                    self._ready.popitem(last=False)
            self._ready.move_to_end(id(network))
            return self._ready[id(network)][1]
