"""What is said of a case: the verdict, its cause, and the number that goes with it."""

from __future__ import annotations

from ebbrin.features.judge.answers import CaseResult, OtherThermostat, TimedRun
from ebbrin.ground.words import Text, airflow, chance, difference, duration, power, share, temperature, times

WIDE_OPEN, WORTH_SAYING, WORTH_TELLING, NEAR = 1.0, 0.1, 1.05, 0.5
WORTH_A_RANGE = 1.0  # K between two ends that are told apart
JUST_SHORT, LITTLE = (
    1.02,
    1.1,
)  # how many times what a case gets it must need to be told so, and to be told both figures
ALIKE = 0.002  # m³/s; figures so near to each other may be written alike
BARELY, LITTLE_POWER, ABOUT_NOW = (
    0.5,
    0.05,
    0.5,
)  # K, kW, s: less is written as nothing, or as the figure beside it


def case_sentence(case: CaseResult) -> Text:
    """One sentence that a builder would say."""
    if case.timed is not None:
        return _timed(case)
    if case.hunt is not None:
        return _hunting(case)
    if case.control == "no_steady_state":
        return ["Never settles: ", *_short_by(case), *_cause(case)]
    if boils(case) and case.judged_c is not None:
        return [*_boils(case.judged_c, case), *_cause(case)]
    if case.verdict == "fails":
        return [*_too_hot(case), *_cause(case)]
    if case.verdict == "tight":
        return [*_just(case), *_cause(case)]
    if case.control == "below_opening":
        return ["Stays cold: the thermostat never opens at this load."]
    if case.fan_cycles:
        return ["The fan is in control, on ", *_partly(case.fan_duty), " of the time."]
    if case.control == "thermostat":
        return ["The thermostat is in control, ", *_partly(case.thermostat_lift), " open."]
    return ["Thermostat wide open, ", *_room(case), "."]


def _partly(value: float) -> Text:
    """A share that is neither nothing nor all, and is not said to be."""
    return ["less than ", share(0.01)] if value < 0.01 else [share(min(value, 0.99))]


def case_detail(case: CaseResult) -> Text:
    """What else needs saying, if anything."""
    if case.timed is not None and case.control == "no_steady_state":
        return ["No steady state: ", *_short_by(case), "Estimate."]
    if case.timed is not None and case.top_hose_c is not None:
        return ["If it went on it would settle at ", temperature(case.top_hose_c), ". Estimate."]
    if case.hunt is not None:
        return ["Drive it shows the swing over time."]
    if case.fan_runs_on:
        return ["The fan need not start here; once it runs, it will not stop by itself."]
    if case.verdict != "holds" and case.thermostat_lift >= WIDE_OPEN:
        return ["The thermostat is wide open: a cooler one changes nothing but the time to get there."]
    return []


def _short_by(case: CaseResult) -> Text:
    short = case.shortfall_kw or 0.0
    if short <= LITTLE_POWER:
        return ["a little more than is shed comes in at the limit. "]
    return [power(short), " short at the limit. "]


def boils(case: CaseResult) -> bool:
    """Whether what counts in a case lies above boiling under its cap."""
    return case.boiling_margin_k is not None and case.boiling_margin_k < 0.0


def _boils(hot: float, case: CaseResult) -> Text:
    more = "more than " if case.timed is not None and case.timed.beyond else ""
    if not more and hot - case.boils_c < 1.0:  # nearer both may be written alike
        return ["Just boils, at ", temperature(case.boils_c), ". "]
    return [
        f"Boils: {more}",
        temperature(hot),
        " would be reached, boiling is at ",
        temperature(case.boils_c),
        ". ",
    ]


def _too_hot(case: CaseResult) -> Text:
    margin = case.margin_k or 0.0
    if margin < 0.0:
        seldom: Text = [", below its limit ", chance(case.chance)] if case.chance >= WORTH_SAYING else []
        much: Text = ["Too hot by ", difference(-margin)] if margin < -BARELY else ["Just over its limit"]
        return [*much, *seldom, ". "]
    if margin > NEAR:
        settles: Text = ["Can settle ", difference(margin), " below its limit, but not from there: "]
        return [*settles, "at the limit less is shed than comes in. "]
    return ["At its limit, below it ", chance(case.chance), ". "]


def _just(case: CaseResult) -> Text:
    return ["Stays below its limit ", chance(case.chance), ", ", *_room(case), ". "]


def _room(case: CaseResult) -> Text:
    """The margin in kelvins of outside air, or of the top hose where there is no such air."""
    ambient = case.ambient_margin_k
    if ambient is None:
        margin = case.margin_k or 0.0
        return [difference(margin), " under the limit"] if margin > BARELY else ["just under the limit"]
    if abs(ambient) <= BARELY:
        return ["with no hotter air to spare"]
    if ambient < 0.0:
        return ["at ", difference(-ambient), " too hot an air for even odds"]
    return ["with ", difference(ambient), " of hotter air to spare"]


def _hunting(case: CaseResult) -> Text:
    assert case.hunt is not None  # narrowed by the caller
    coldest, hottest = temperature(case.hunt.coldest_c), temperature(case.hunt.hottest_c)
    narrow = case.hunt.hottest_c - case.hunt.coldest_c < WORTH_A_RANGE
    where: Text = ["Hunts about ", hottest] if narrow else ["Hunts between ", coldest, " and ", hottest]
    found: Text = [*where, ": the thermostat opens and the bypass shuts past each other."]
    return [*found, " That is above the limit."] if case.hunt.hottest_c > case.limit_c else found


def _timed(case: CaseResult) -> Text:
    run = case.timed
    assert run is not None  # narrowed by the caller
    if run.start_c >= case.limit_c:
        return _begins_over(run, case)
    if run.end_c > case.boils_c:
        return [*_boils(run.end_c, case), *_cause(case)]
    late = run.time_to_limit_s is None or run.time_to_limit_s > run.duration_s
    if late:
        said: Text = ["Ends its ", duration(run.duration_s), " at ", temperature(run.end_c)]
        if run.time_to_limit_s is not None and run.time_to_limit_s - run.duration_s >= ABOUT_NOW:
            said += ["; the limit would come after ", duration(run.time_to_limit_s)]
        if case.verdict == "holds":
            return [*said, "."]
        return [*said, ". Stays below it ", chance(case.chance), ". ", *_cause(case)]
    if run.duration_s - (run.time_to_limit_s or 0.0) < ABOUT_NOW:
        return ["At the limit as its ", duration(run.duration_s), " end. ", *_cause(case)]
    return [
        "At the limit after ",
        duration(run.time_to_limit_s or 0.0),
        " of ",
        duration(run.duration_s),
        ". ",
        *_cause(case),
    ]


def _begins_over(run: TimedRun, case: CaseResult) -> Text:
    """A timed case that is over its limit before it begins: nothing that sheds heat is what it lacks."""
    found: Text = _boils(run.end_c, case) if run.end_c > case.boils_c else []
    if run.start_c - case.limit_c < BARELY:  # both may be written alike
        found += ["Begins at its limit of ", temperature(case.limit_c)]
    else:
        found += ["Begins at ", temperature(run.start_c), ", above its limit of ", temperature(case.limit_c)]
    # A higher cap may move a limit that boiling sets; whatever sheds heat comes too late.
    return [*found, ": nothing that sheds more heat changes that. Let it begin cooler."]


def _cause(case: CaseResult) -> Text:
    """What would help, with how much of it would be enough."""
    if case.verdict == "holds":
        return []
    if case.cause == "fan_switch":
        return [
            "The fan does not run fully at the limit of ",
            temperature(case.limit_c),
            ": a switch that comes on sooner is wanted.",
        ]
    if case.other_thermostat is not None:
        return _thermostat(case, case.other_thermostat)
    if case.cause == "inlet_air":
        warm = "The air that enters the core is hotter than the limit: what stands ahead warms it too much."
        needed, gets = case.air_needed_m3_per_s, case.air_available_m3_per_s
        if needed is None:
            return [warm]
        return [warm, " More air is warmed less: needs ", airflow(needed), ", gets ", airflow(gets), "."]
    if case.cause == "no_single":
        return ["No single change is enough: air, core and coolant flow must grow together."]
    if case.cause == "air":
        return _short_of_air(case)
    factor = case.wanted.core if case.cause == "core" else case.wanted.coolant
    what = "The core is too small" if case.cause == "core" else "Short of coolant flow"
    if factor is None or factor < WORTH_TELLING:
        return [what, "."]
    does = "bring it to its limit" if case.wanted.to_limit else "do"
    return [what, ": ", times(factor), f" as much would {does}."]


def _thermostat(case: CaseResult, other: OtherThermostat) -> Text:
    limit = temperature(case.limit_c)
    if other.unsettled:
        found: Text = [
            "The thermostat at the pump's inlet may not let it settle below the limit of ",
            limit,
            ". ",
        ]
    elif other.at_outlet:
        found = [
            "The thermostat is not wide open at the limit of ",
            limit,
            ": at the pump's inlet its bulb is too cold. ",
        ]
    else:
        found = ["The thermostat is not wide open at the limit of ", limit, ": one that opens sooner"]
    if other.at_outlet:
        found += ["One at the engine's outlet", " that is wide open by the limit" if other.sooner else ""]
    return [*found, " is wanted", ", and a fan that runs fully by then." if other.fan_too else "."]


def _short_of_air(case: CaseResult) -> Text:
    needed, gets = case.air_needed_m3_per_s, case.air_available_m3_per_s
    if needed is None:
        factor = case.wanted.air
        if factor is not None and not case.wanted.to_limit:
            return [times(factor), " the air would do, which is more than any fan moves."]
        much: Text = ["More air" if factor is None else "A little more air"]
        if factor is not None and factor >= WORTH_TELLING:
            much = [times(factor), " the air"]
        return [*much, " would bring it to its limit; none alone makes it hold."]
    if needed <= JUST_SHORT * gets:
        return ["A little more air would help most."]
    if needed <= LITTLE * gets or needed - gets < ALIKE:
        return ["Short of air: ", share(needed / gets - 1.0), " more would do."]
    return ["Short of air: needs ", airflow(needed), ", gets ", airflow(gets), "."]
