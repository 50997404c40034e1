"""A job as it is recorded: frozen, floats in millimetres, to and from JSON; nothing is worked out here."""

from gyroplan.record.crib import BarRecord, CutterRecord, FixtureRecord, HeadRecord, MachineRecord, SpeedRecord
from gyroplan.record.features import FeatureKind, FeatureReadingRecord, FeatureRecord, Quantity, ReadOver
from gyroplan.record.job import (
    BoreRecord,
    BoreSummary,
    BreakRecord,
    HeavyRecord,
    JobRecord,
    PieceSummary,
    PlanRecord,
    SetUpRecord,
    SetUpSummary,
    ThereRecord,
    letter_of,
)
from gyroplan.record.logs import (
    BetweenRecord,
    CutLogRecord,
    DamperTryRecord,
    DepthRecord,
    GaugeCard,
    PlugRecord,
    ReadingRecord,
    RemarkRecord,
    RoundRecord,
    SizeRecord,
)
from gyroplan.record.written import record_from_json, record_to_json

__all__ = [
    "BarRecord", "BetweenRecord", "BoreRecord", "BoreSummary", "BreakRecord", "CutLogRecord", "CutterRecord",
    "DamperTryRecord", "DepthRecord", "FeatureKind", "FeatureReadingRecord", "FeatureRecord", "FixtureRecord",
    "GaugeCard", "HeadRecord", "HeavyRecord", "JobRecord", "MachineRecord",
    "PieceSummary", "PlanRecord", "PlugRecord", "Quantity", "ReadOver", "ReadingRecord", "RemarkRecord", "RoundRecord",
    "SetUpRecord", "SetUpSummary", "SizeRecord", "SpeedRecord", "ThereRecord",
    "letter_of", "record_from_json", "record_to_json",
]  # fmt: skip
