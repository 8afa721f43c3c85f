"""What is said of a case: the verdict, its cause, and the number that goes with it."""

from __future__ import annotations

from ebbrin.document.result import CaseResult, Text
from ebbrin.verdict.text import airflow, difference, duration, power, share, temperature


def case_sentence(case: CaseResult) -> Text:
    """One sentence that a builder would say."""
    if case.timed is not None:
        return _timed(case)
    if case.control == "no_steady_state":
        return ["Never settles: ", power(case.shortfall_kw or 0.0), " short at the limit. ", *_cause(case)]
    if case.control == "below_opening":
        return ["Stays cold: the thermostat never opens at this load."]
    margin = case.margin_k or 0.0
    if case.verdict == "fails":
        return ["Too hot by ", difference(-margin), ". ", *_cause(case)]
    if case.verdict == "tight":
        return ["Only ", difference(margin), " to the limit. ", *_cause(case)]
    if case.fan_cycles:
        return ["The fan is in control, on ", share(case.fan_duty), " of the time."]
    if case.control == "thermostat":
        return ["The thermostat is in control, ", share(case.thermostat_lift), " open."]
    return ["Thermostat wide open, ", difference(margin), " under the limit."]


def case_detail(case: CaseResult) -> Text:
    """What else needs saying, if anything."""
    if case.timed is not None and case.control == "no_steady_state":
        return ["No steady state: ", power(case.shortfall_kw or 0.0), " short at the limit. Estimate."]
    if case.timed is not None and case.top_hose_c is not None:
        return ["If it went on it would settle at ", temperature(case.top_hose_c), ". Estimate."]
    if case.verdict != "holds" and case.control in ("capacity", "no_steady_state"):
        return ["The thermostat is wide open: a cooler one changes nothing but the time to get there."]
    return []


def _timed(case: CaseResult) -> Text:
    run = case.timed
    assert run is not None  # narrowed by the caller
    if run.time_to_limit_s is None or run.time_to_limit_s > run.duration_s:
        ends: Text = ["Ends its ", duration(run.duration_s), " at ", temperature(run.end_c)]
        if run.time_to_limit_s is None:
            return [*ends, "."]
        return [*ends, "; the limit would come after ", duration(run.time_to_limit_s), "."]
    return [
        "At the limit after ",
        duration(run.time_to_limit_s),
        " of ",
        duration(run.duration_s),
        ". ",
        *_cause(case),
    ]


def _cause(case: CaseResult) -> Text:
    needed, gets = case.air_needed_m3_per_s, case.air_available_m3_per_s
    if case.cause == "air" and needed is not None and needed > gets and case.timed is None:
        return ["Short of air: needs ", airflow(needed), ", gets ", airflow(gets), "."]
    if case.cause == "air" and needed is None:
        return ["Air helps most, but no amount of it is enough: core or coolant flow must grow too."]
    if case.cause == "coolant":
        return ["Short of coolant flow."]
    if case.cause == "core":
        return ["The core is too small for this heat."]
    return ["More air would help most."]
