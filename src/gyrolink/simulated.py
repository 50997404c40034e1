"""A simulated indicator on simulated work: it turns slowly, its needle follows damped, with a foot switch beside it."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import exp
from random import Random

from gyroplan.simulated import JAWS, SimulatedWork

#: The needle follows with this time constant [s]; the work turns so fast [deg/s].
DAMPING_S, TURNS_DEG_S = 0.12, 60.0
#: It is let stand so long at a place before the foot switch is pressed [s].
DWELL_S = 1.2
#: Where the needle rests that has fallen into a port [mm].
_FALLEN_MM = -0.8


@dataclass
class SimulatedIndicator:
    """The work, where it is turned to, and the needle."""

    work: SimulatedWork
    noise_mm: float = 0.0004
    seed: int = 1
    z_mm: float = 0.0
    at_deg: float = 0.0
    to_deg: float = 0.0
    needle_mm: float = 0.0
    rng: Random = field(init=False)

    def __post_init__(self) -> None:
        self.rng = Random(self.seed)
        self.needle_mm = self._under()

    @property
    def turns(self) -> bool:
        """Whether the work has not come to its place yet."""
        return self.at_deg != self.to_deg

    def step(self, seconds: float) -> float:
        """Let time pass; what the indicator shows then [mm]."""
        far = self.to_deg - self.at_deg
        self.at_deg += max(-TURNS_DEG_S * seconds, min(TURNS_DEG_S * seconds, far))
        self.needle_mm += (self._under() - self.needle_mm) * (1 - exp(-seconds / DAMPING_S))
        return self.needle_mm + self.rng.gauss(0, self.noise_mm)

    def obey(self, text: str) -> bool:
        """`turn 45`, `to 90`, `jaw 2 0.03` (toward jaw 2), `plane 40`; False for words that are none of these."""
        words = text.lower().split()
        try:
            if words[0] == "turn":
                self.to_deg += float(words[1])
            elif words[0] == "to":
                self.to_deg = float(words[1])
            elif words[0] == "plane":
                self.z_mm = float(words[1])
            elif words[0] == "jaw" and words[1] in JAWS:
                self.work = self.work.toward(words[1], float(words[2]))
            else:
                return False
        except (IndexError, ValueError):
            return False
        return True

    def _under(self) -> float:
        value = self.work.reading_mm(self.at_deg % 360, self.z_mm)
        return _FALLEN_MM if value is None else value


def made_work(seed: int, *, inside: bool = True) -> SimulatedWork:
    """Work to try it on: off centre up to 0.2, leaning a little, slightly oval."""
    rng = Random(seed)
    return SimulatedWork(
        off_mm=(rng.uniform(-0.2, 0.2), rng.uniform(-0.2, 0.2)),
        lean=(rng.uniform(-4e-4, 4e-4), rng.uniform(-4e-4, 4e-4)),
        oval_mm=rng.uniform(0, 0.006), oval_deg=rng.uniform(0, 180), inside=inside,
    )  # fmt: skip
