"""What is known of the machine before a start: what is over its limit or past its day, what a bore gets of it."""

from __future__ import annotations

from dataclasses import dataclass

from django.utils.timezone import localdate

from gyrometra.health.queries import CheckStanding, standing_of
from gyrometra.health.shown import Reach, effect_of, effect_words, state_words
from gyrometra.steps.page import JobPage
from gyroplan.assess import Shown

#: Checks that say nothing where the work is not held between centres.
_BETWEEN_CENTRES = ("tailstock", "centre")
#: A bore is told what it gets of the machine from this share of its tolerance on (chosen here).
_TOLD_FROM = 0.05


@dataclass(frozen=True, kw_only=True)
class MachineLine:
    """One line of the machine, with its mark and the check it is of."""

    mark: str
    words: str
    key: str


def machine_lines(page: JobPage) -> list[MachineLine]:
    """The lines of this machine: what asks for a look first, then what the bore gets, else when it was checked."""
    today = localdate()
    standing = standing_of(page.job.setup.machine, today)
    counted = [one for key, one in standing.items() if one.last is not None and _counts(key, page)]
    lines = [line for one in counted if (line := _asks(one, page)) is not None]
    lines += [line for one in counted if (line := _gets(one, page)) is not None]
    fine = [
        f"{one.kind.label.lower()} {one.health.last.day:%d %b %Y}" for one in counted if one.health.last is not None
    ]
    if not lines and fine:
        limited = all(one.limit_mm is not None for one in counted)
        words = f"{'Checked, in limits' if limited else 'Checked'}: {', '.join(fine)}"
        lines = [MachineLine(mark="in" if limited else "wait", words=words, key=counted[0].kind.key)]
    return lines


def _counts(key: str, page: JobPage) -> bool:
    return key not in _BETWEEN_CENTRES or page.record.setup.way.bar_in == "centres"


def reach_of_job(page: JobPage) -> Reach:
    """What a machine's figures are worked out for on this job."""
    found, row = page.bar.reach.value, page.job.setup.machine
    tool = found.reach_mm if found is not None else page.bore.length_mm
    return Reach(
        tool_mm=tool, bore_mm=page.bore.length_mm, bar_turns=page.record.setup.way.turns == "bar",
        centres_mm=None if row.centres_mm is None else float(row.centres_mm),
    )  # fmt: skip


def _asks(one: CheckStanding, page: JobPage) -> MachineLine | None:
    """A check that is over its limit, past its day, or of before a change."""
    mark = {"over": "over", "late": "near", "changed": "near", "soon": "advice"}.get(one.health.state)
    if mark is None:
        return None
    words = f"{one.kind.label}: {state_words(one, page.units, localdate())}."
    return MachineLine(mark=mark, words=words, key=one.kind.key)


def _gets(one: CheckStanding, page: JobPage) -> MachineLine | None:
    """What the bore gets of it, where that is more than a twentieth of its tolerance."""
    reach = reach_of_job(page)
    effect = effect_of(one, reach)
    tolerance = page.bore.upper_mm - page.bore.lower_mm
    if effect is None or effect.figure_mm is None or effect.figure_mm < _TOLD_FROM * tolerance:
        return None
    share = f" That is {100 * effect.figure_mm / tolerance:.0f} % of the tolerance." if tolerance > 0 else ""
    words = f"{one.kind.label}: {effect_words(one, reach, page.units)}{share}"
    return MachineLine(mark="advice", words=words, key=one.kind.key)


def shown_by_machine(page: JobPage) -> list[Shown]:
    """What each check of this machine makes of this bore, where nothing of the machine was changed since."""
    found, reach = [], reach_of_job(page)
    for key, one in standing_of(page.job.setup.machine, localdate()).items():
        effect = effect_of(one, reach) if _counts(key, page) and one.health.state != "changed" else None
        if effect is not None and effect.figure_mm is not None and one.health.last is not None:
            found.append(Shown(kind=key, figure_mm=effect.figure_mm, is_on=effect.is_on, day=one.health.last.day))
    return found
