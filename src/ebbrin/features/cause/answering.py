"""One answer being put together: chances, reasons, tests and words from what was seen of a car."""

from __future__ import annotations

import numpy as np

from ebbrin.bridge.units import celsius
from ebbrin.core.cause.belief import Belief, Explained, Inquiry
from ebbrin.core.cause.choice import costs, ordered
from ebbrin.core.cause.tables import CAUSES, OBSERVATIONS
from ebbrin.features.cause import facts, words
from ebbrin.features.cause.answers import (
    Answered,
    CauseChance,
    Clash,
    Diagnosis,
    DiagnosisQuestion,
    Pivot,
    RuledOut,
    Sets,
    Speaker,
    Speaks,
    Test,
    ValueWords,
)
from ebbrin.features.cause.car import Car
from ebbrin.features.cause.entries import (
    CAUSE,
    DANGER,
    DEFINING,
    MINUTES,
    MONEY,
    NUMBER,
    SEEN,
    WHY,
    answered,
    groups,
)
from ebbrin.ground.marked import marked
from ebbrin.ground.words import Text, capital

FROM_THE_SEAT = 4
FIRST_BY_ORDER = {"gauge": ("gauge_check",), "pressure": ("pressure_hold", "cap_test")}
LISTED_SETS, LISTED_REASONS, LISTED_TESTS = 6, 6, 6
LEAST_BITS_SAID = 0.3
"""A reason that moves the odds by less is not said."""
RULED_OUT = 0.01
AS_LIKELY = 0.02
"""Of the causes that may explain it, those above are worth telling apart."""
TELLS_APART = 0.3
WOULD_SHOW = 0.3
"""How likely a cause alone must make two values that seldom go together, to be named as what would show both."""


class Answering:
    """One answer being put together."""

    def __init__(
        self,
        question: DiagnosisQuestion,
        seen: dict[str, str],
        skipped: frozenset[str],
        car: Car,
        inquiry: Inquiry,
    ) -> None:
        self.question, self.seen, self.skipped, self.car = question, seen, skipped, car
        self.inquiry = inquiry
        self.lacking, self.belief = self._believed(seen)
        self.impossible = facts.impossible(self.lacking)
        complaint = seen.get("complaint")
        can = [complaint is None or complaint in cause.explains for cause in CAUSES.values()]
        self.explained: Explained = self.belief.explained(np.array(can))
        self.present, self.explains = self.belief.present, self.explained.by
        self.moved = self.belief.for_and_against()
        self.order = sorted(CAUSE.values(), key=lambda c: (-self.present[c], c))

    def _believed(self, seen: dict[str, str]) -> tuple[frozenset[str], Belief]:
        """The facts that do not hold of a car of which this was seen, and what to believe of it."""
        lacking = set(self.car.lacking)
        for name, value in seen.items():
            if value in OBSERVATIONS[name].denies:
                lacking.add(OBSERVATIONS[name].denies[value])
            else:
                lacking |= facts.excluded_by(OBSERVATIONS[name].needs) - OBSERVATIONS[name].needs
        prior = self.inquiry.network.prior.copy()
        for name, factor in self.car.factors.items():
            prior[CAUSE[name]] = min(prior[CAUSE[name]] * factor, 0.9)
        for name in facts.impossible(frozenset(lacking)):
            prior[CAUSE[name]] = 0.0
        evidence = {
            NUMBER[name]: OBSERVATIONS[name].telling.index(value)
            for name, value in seen.items()
            if value in OBSERVATIONS[name].telling
        }
        return frozenset(lacking), self.inquiry.after(evidence, prior)

    def diagnosis(self) -> Diagnosis:
        stop = words.stop(self.seen)
        bits = {o: self.explained.bits(o) for o in self._open()}
        tests = self._tests(bits, stop is not None)
        questions = self._questions(bits)
        first = tests[:LISTED_TESTS]
        shown = {*first, *questions}
        others = sorted((o for o in bits if o not in shown), key=lambda o: (-bits[o], o))
        return Diagnosis(
            seen=[*self._seen(), *self._left()],
            causes=[self._cause(c) for c in self.order if self._name(c) not in self.impossible],
            nothing=self.belief.nothing,
            sets=self._sets(),
            questions=[self._test(o, bits[o]) for o in questions],
            next=[self._test(o, bits[o]) for o in first],
            groups=groups(first),
            others=[self._test(o, bits[o], why=False) for o in others],
            stop=stop,
            enough=self._enough(),
            pivot=self._pivot([o for o in bits if stop is None or SEEN[o].state != "running"]),
            clashes=self._clashes(),
            ruled_out=self._ruled_out(),
            lead=self._lead(),
            spoken_by=self.car.spoken_by,
        )

    def _seen(self) -> list[Answered]:
        names = [name for name in NUMBER if name in self.seen]
        return [answered(name, self.seen[name]) for name in names]

    def _left(self) -> list[Answered]:
        return [answered(name, None) for name in NUMBER if name in self.skipped]

    def _name(self, cause: int) -> str:
        return self.belief.of.network.causes[cause]

    def _open(self) -> list[int]:
        """Observations that were not made and can be."""
        useless = facts.useless(self.lacking)
        done = {*self.seen, *self.skipped, *useless}
        return [
            number for name, number in NUMBER.items() if name not in done and SEEN[number].kind != "model"
        ]

    def _tests(self, bits: dict[int, float], stopped: bool) -> list[int]:
        """Tests worth making, the next one first; none for which the engine must run where it must not."""
        worth = np.zeros(len(SEEN))
        for o, told in bits.items():
            if not SEEN[o].story and not (stopped and SEEN[o].state == "running"):
                worth[o] = told
        cost = costs(MINUTES, MONEY, DANGER, self.question.hourly_rate)
        first = np.isin(list(NUMBER), FIRST_BY_ORDER.get(self.question.order, ()))
        return ordered(worth, cost, DANGER, self.question.order, first)

    def _questions(self, bits: dict[int, float]) -> list[int]:
        """What can be told from the seat: what is wrong first, then what tells most, four at most with those that
        were answered or left."""
        stories = [o for o in range(len(SEEN)) if SEEN[o].kind == "story"]
        asked = sum(SEEN[o].name in self.seen or SEEN[o].name in self.skipped for o in stories)
        left = sorted(
            (o for o in stories if o in bits), key=lambda o: (SEEN[o].name != "complaint", -bits[o], o)
        )
        return left[: max(0, FROM_THE_SEAT - asked)]

    def _cause(self, c: int) -> CauseChance:
        name = self._name(c)
        cause = CAUSES[name]
        reasons = sorted(
            (self._speaks(name, o, float(moved[c])) for o, moved in self.moved.items()),
            key=lambda reason: -abs(reason.bits),
        )
        reasons = [reason for reason in reasons if abs(reason.bits) >= LEAST_BITS_SAID]
        return CauseChance(
            cause=name,
            title=marked(cause.title),
            place=cause.place,
            chance=float(self.present[c]),
            words=words.of_ten(float(self.present[c])),
            explains=float(self.explains[c]),
            **{"for": [r for r in reasons if r.bits > 0.0][:LISTED_REASONS]},
            against=[r for r in reasons if r.bits < 0.0][:LISTED_REASONS],
            model=self._by_drives(cause.drive_fault),
            mend=cause.mend,
            proof=marked(cause.proof),
            suggests=[
                marked(CAUSES[other].title) for other in cause.suggests if other not in self.impossible
            ],
            suggests_why=cause.suggests_why,
        )

    def _speaks(self, cause: str, o: int, bits: float) -> Speaks:
        seen = SEEN[o]
        value = self.seen[seen.name]
        by: Speaker = "table"
        if seen.kind == "model":
            by = "build"
        elif self.car.known is not None and (cause, seen.name) in self.car.known.spoken:
            by = "model"
        return Speaks(
            observation=seen.name,
            value=value,
            said=marked(seen.said(value)),
            why=WHY.get((cause, seen.name, value), ""),
            bits=bits,
            times=2.0 ** abs(bits),
            by=by,
        )

    def _by_drives(self, fault: str) -> Text | None:
        known = self.car.known
        said = known.witness.said.get(fault) if known is not None and fault else None
        if known is None or said is None:
            return None
        return words.by_drives(
            said.passed_in,
            said.passed_after,
            said.back_after,
            celsius(known.witness.limit),
            celsius(said.hottest),
        )

    def _sets(self) -> list[Sets]:
        found = []
        for names, chance in self.belief.likeliest(LISTED_SETS):
            causes = [self._name(c) for c in names]
            found.append(Sets(causes=causes, titles=[marked(CAUSES[c].title) for c in causes], chance=chance))
        return found

    def _test(self, o: int, bits: float, why: bool = True) -> Test:
        seen = SEEN[o]
        chances = dict(zip(seen.telling, self.explained.together_with(o).sum(0), strict=True))
        return Test(
            observation=seen.name,
            question=seen.question,
            says=seen.says,
            kind=seen.kind,
            bits=bits,
            minutes=seen.minutes,
            money=seen.money,
            danger=seen.danger,
            state=seen.state,
            tools=seen.tools,
            why=self._why(o) if why else capital(f"{words.effort(seen)}."),
            values=[
                ValueWords(
                    value=value,
                    words=marked(said),
                    chance=float(chances[value]) if value in chances else None,
                )
                for value, said in zip(seen.values, seen.words, strict=True)
            ],
        )

    def _why(self, o: int) -> str:
        """Which two likely reasons an observation tells apart best, or which one from all else."""
        both = self.explained.together_with(o)
        by = both.sum(1)
        likely = [int(c) for c in np.argsort(-by[:-1])[:10] if by[c] >= AS_LIKELY]
        shares = both / np.maximum(by[:, None], 1e-12)
        apart = {
            (i, j): float(by[i] * by[j]) * 0.5 * float(np.abs(shares[i] - shares[j]).sum())
            for n, i in enumerate(likely)
            for j in likely[n + 1 :]
        }
        if apart:
            i, j = max(apart, key=lambda pair: apart[pair])
            if 0.5 * np.abs(shares[i] - shares[j]).sum() >= TELLS_APART:
                # The one that an unhealthy value points to is named first.
                i, j = (i, j) if shares[i, 0] <= shares[j, 0] else (j, i)
                return words.parts(CAUSES[self._name(i)].noun, CAUSES[self._name(j)].noun, SEEN[o])
        bears = [c for c in likely if self.belief.of.network.shows[o][c].any()]
        if not bears:
            return capital(f"{words.effort(SEEN[o])}.")
        rest = (both.sum(0) - both) / np.maximum(1.0 - by[:, None], 1e-12)
        best = max(bears, key=lambda c: float(by[c]) * float(np.abs(shares[c] - rest[c]).sum()))
        return words.settles(CAUSES[self._name(best)].noun, SEEN[o])

    def _enough(self) -> Text | None:
        """Whether the reason is as good as certain, so that it can be mended."""
        if "complaint" not in self.seen:
            return None
        best = int(np.argmax(self.explains))
        likely = [c for c in self.order if self.present[c] >= words.CERTAIN_FROM]
        if best not in likely and self.explains[best] < words.CERTAIN_FROM:
            return None
        cause = CAUSES[self._name(best)]
        more = [CAUSES[self._name(c)].title for c in likely if c != best]
        text = f"{cause.title}: as good as certain. {cause.mend}."
        if more:
            text += f" As good as certain besides: {'; '.join(more)}."
        return marked(text)

    def _pivot(self, could: list[int]) -> Pivot | None:
        """The one value that would move the likeliest cause most."""
        top = next(c for c in self.order if self._name(c) not in self.impossible)
        now, best = float(self.present[top]), None
        for o in could:
            total = self.explained.together_with(o).sum(0)
            after = self.belief.together_with(o, top) / np.maximum(total, 1e-12)
            for v, value in enumerate(SEEN[o].telling):
                moved = abs(float(after[v]) - now)
                if total[v] >= AS_LIKELY and (best is None or moved > best[0]):
                    best = (moved, o, value)
        if best is None:
            return None
        _, o, value = best
        # A value may tell besides what the car has, which a table of shares does not.
        chance = float(self._believed({**self.seen, SEEN[o].name: value})[1].present[top])
        name = self._name(top)
        told = words.moved(now, chance)
        if told is None:
            return None
        return Pivot(
            observation=SEEN[o].name,
            value=value,
            said=marked(SEEN[o].said(value)),
            cause=name,
            title=marked(CAUSES[name].title),
            chance=chance,
            now=now,
            text=words.pivots(SEEN[o].said(value), CAUSES[name].noun, *told),
        )

    def _clashes(self) -> list[Clash]:
        def said(o: int) -> str:
            return SEEN[o].said(self.seen[SEEN[o].name])

        odd = [
            Clash(
                observations=[SEEN[i].name, SEEN[j].name],
                text=words.clash(said(i), said(j), self._would_show((i, j))),
            )
            for i, j, _ in self.belief.at_odds()
            if "model" not in (SEEN[i].kind, SEEN[j].kind) and "complaint" not in (SEEN[i].name, SEEN[j].name)
        ]
        return [*self._cannot(), *odd]

    def _cannot(self) -> list[Clash]:
        """What was seen though it cannot be, by what is known of the car."""
        said = {
            OBSERVATIONS[name].denies[value]
            for name, value in self.seen.items()
            if value in OBSERVATIONS[name].denies
        }
        found = []
        for name, value in self.seen.items():
            missing = sorted(OBSERVATIONS[name].needs & self.lacking)
            if missing and value not in OBSERVATIONS[name].denies:
                fact = missing[0]
                by: words.Source = "build" if fact in self.car.lacking else "said" if fact in said else "seen"
                text = words.cannot(OBSERVATIONS[name].said(value), facts.WORDS[fact], by)
                found.append(Clash(observations=[name], text=text))
        return found

    def _would_show(self, observations: tuple[int, ...]) -> str | None:
        """The one cause that alone would most likely show all of these values, if any would."""
        shown = self.belief.alone(observations)
        best = max(
            (c for c in self.order if self._name(c) not in self.impossible), key=lambda c: float(shown[c])
        )
        return CAUSES[self._name(best)].noun if shown[best] >= WOULD_SHOW else None

    def _ruled_out(self) -> list[RuledOut]:
        found = [
            RuledOut(cause=name, title=marked(CAUSES[name].title), by=[facts.WORDS[fact]])
            for name, fact in self.impossible.items()
        ]
        for c in self.order:
            name = self._name(c)
            if name in self.impossible or self.present[c] >= RULED_OUT:
                continue
            against = [o for o in self.moved if (name, SEEN[o].name) in DEFINING and self.moved[o][c] < -1.0]
            if against:
                o = min(against, key=lambda o: float(self.moved[o][c]))
                said = marked(SEEN[o].said(self.seen[SEEN[o].name]))
                found.append(RuledOut(cause=name, title=marked(CAUSES[name].title), by=said))
        return found

    def _lead(self) -> Text:
        """Why the likeliest cause leads."""
        if not self.moved:
            return ["Nothing was told yet: causes stand by how common they are."]
        top = self.order[0]
        cause = self._cause(top)
        noun = capital(CAUSES[cause.cause].noun)
        if not cause.for_:
            return [f"{noun} leads because it is common; nothing that was seen speaks for it yet."]
        strongest = cause.for_[0]
        why = f", because {strongest.why}" if strongest.why else ""
        text: Text = [f"{noun} leads: “", *strongest.said, f"” speaks for it most{why}."]
        return text if cause.model is None else [*text, " ", *cause.model]
