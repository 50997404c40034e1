"""What was heard of a bar while it cut in this set-up: passes that chattered, and passes that ran quiet and clean."""

from __future__ import annotations

from gyroplan.assess.at import AtBore
from gyroplan.plan import Heard
from gyroplan.record import BarRecord, CutterRecord, RemarkRecord


def heard_of(at: AtBore, bar: BarRecord, *, bore: int | None = None) -> list[Heard]:
    """Return the passes that say something of a bar with the cutter that is picked, in all bores or in one.

    A pass that only hummed, or was torn, says nothing of chatter.
    """
    cutter = at.cutter
    if cutter is None:
        return []
    return [
        heard
        for log in at.record.cuts if bore is None or log.bore == bore
        for remark in log.remarks if remark.bar == bar.name and remark.cutter == cutter.key
        for heard in _heard(at, remark, cutter)
    ]  # fmt: skip


def _heard(at: AtBore, remark: RemarkRecord, cutter: CutterRecord) -> list[Heard]:
    chattered = remark.sound == "squeal" or remark.look == "waves"
    quiet = remark.sound == "quiet" and remark.look == "clean"
    depth, feed = remark.depth_mm, remark.feed_mm_rev
    if not (chattered or quiet) or depth is None or feed is None or depth <= 0:
        return []
    cut = at.cut_as(cutter, depth_mm=depth, feed_mm_rev=feed, diameter_mm=remark.diameter_mm)
    return [Heard(number=remark.number, cut=cut, chattered=chattered)]
