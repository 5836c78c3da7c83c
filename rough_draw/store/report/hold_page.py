"""The hold on paper: its curve with the causes beside it, what was made of it, what every standard says."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer

from rough_draw.core.charging.charge import empty_after, grams_per_year
from rough_draw.core.hold.wording import account_words, cause, charge_loss, disagreements, headline, reasons
from rough_draw.core.message import Figure, Message, message
from rough_draw.core.message import listed as all_listed
from rough_draw.core.message.figure import mass, rise, share, throughput
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet import criteria
from rough_draw.store.report.answer import SAYS
from rough_draw.store.report.charts import hold_chart
from rough_draw.store.report.record import Record
from rough_draw.store.report.style import SMALL, WIDTH, Heading, listed, text
from rough_draw.text import say

MOST_CAUSES, LEAST_SHARE = 3, 0.02


def ranged(of: Callable[[float], Figure], r: Range | Quantity) -> Message:
    """A figure with its range."""
    return message("figure-range", value=of(r.value), low=of(r.low), high=of(r.high))


def hold(r: Record) -> list[Flowable]:
    """The hold, where one was read."""
    v = r.verdict
    if v is None or r.hold_start is None or r.at is None or r.pa is None:
        return []
    criterion = criteria.chosen(r.job.criterion)
    keep = (r.at >= r.hold_start) & np.isfinite(r.pa)
    t, p = r.at[keep] - r.hold_start, r.pa[keep]
    within = t <= v.span + 1.0
    fits = [(say(account_words(v, fit)), fit) for fit, x in v.accounts()[:MOST_CAUSES] if x >= LEAST_SHARE]
    simulated = any(b > r.hold_start for _, b in r.simulated)
    chart = hold_chart(t[within], p[within], fits, criterion.limit, WIDTH, simulated)
    words: list[Message] = [*r.judged_on, *reasons(v)]
    odds = sorted(v.odds.items(), key=lambda x: x[1], reverse=True)
    if odds:
        named = [message("report-odds-of", cause=cause(k), odds=share(x)) for k, x in odds]
        words.append(message("report-odds", causes=all_listed(named)))
    if "leak" in v.verdict:
        rates = Range(v.rate.low * MICRON_PA, v.rate.value * MICRON_PA, v.rate.high * MICRON_PA)
        words.append(message("report-leak", rate=ranged(rise, rates), inflow=throughput(v.leak.value)))
    if "moisture" in v.verdict:
        m = v.moisture
        words.append(message("report-water", mass=ranged(mass, Range(1e-3 * m.low, 1e-3 * m.value, 1e-3 * m.high))))
    words += disagreements(v)
    words += charge_loss(v, r.volume, empty_after(grams_per_year(v.leak, r.job.scope), r.job.scope.nameplate_kg))
    parts: list[Flowable] = [KeepTogether([Heading(message("report-hold")), text(headline(v)), chart])]
    parts += [text(w) for w in words]
    rows = [[o.name, message(f"report-{SAYS[o.passed]}"), o.reason] for o in v.criteria]
    head = [message(f"report-{k}") for k in ("standard", "says", "because")]
    return [*parts, Spacer(1, 4), listed(head, rows, [38 * mm, 20 * mm, WIDTH - 58 * mm], SMALL)]
