"""A run is begun, acted in, and finished."""

from __future__ import annotations

from secrets import randbelow

from django.db import transaction
from django.utils import timezone

from gyrometra.accounts.models import User
from gyrometra.practice.models import PracticeRun
from gyroplan.practice import LEVELS, Act, Refusal, Run, act, replayed
from gyroplan.practice.run import MOST_ACTS

_SEEDS = 1_000_000


def run_of(user: User, level: str) -> PracticeRun:
    """The piece in hand: the last one of this level, a new one where there is none."""
    found = PracticeRun.objects.filter(user=user, level=level).first()
    return found or new_run(user, level)


def new_run(user: User, level: str, seed: int | None = None) -> PracticeRun:
    """A new piece; one that was not touched is given up for it."""
    PracticeRun.objects.filter(user=user, level=level, finished_at__isnull=True, acts=[]).delete()
    return PracticeRun.objects.create(user=user, level=level, seed=randbelow(_SEEDS) if seed is None else seed)


@transaction.atomic
def do(user: User, level: str, pk: int, count: int, one: Act) -> PracticeRun:
    """Do one more thing; what was done since the page was shown is not done twice. Raises Refusal."""
    row = PracticeRun.objects.select_for_update().filter(user=user, level=level, pk=pk).first()
    if row is None:
        raise Refusal("This piece is not in hand any more.")
    if len(row.acts) != count:
        return row  # a double tap, or another tab: the page shows how it stands
    if len(row.acts) >= MOST_ACTS:
        raise Refusal("That was a long piece: take a new one.")
    run = act(replayed(LEVELS[level], row.seed, row.acts), one)
    row.acts = [*row.acts, one]
    if run.finished:
        _finish(row, run)
    row.save()
    return row


def _finish(row: PracticeRun, run: Run) -> None:
    row.finished_at, row.moves, row.rounds = timezone.now(), len(run.moves), len(run.rounds)
    row.left_mm = run.left_mm
    row.is_true = run.left_mm <= run.level.centre_limit_mm + 1e-9


def best_of(user: User) -> dict[str, int]:
    """The fewest moves by which each level was made true."""
    found: dict[str, int] = {}
    rows = PracticeRun.objects.filter(user=user, is_true=True).values_list("level", "moves")
    for level, moves in rows:
        if moves is not None:
            found[level] = min(found.get(level, moves), moves)
    return found
