"""By which rules one entry changes what is remembered of a bore, and what is said of it then."""

from __future__ import annotations

from dataclasses import replace

from gyrocore import Note, Pass, note
from gyrocore.checks import TOLERANCE
from gyroplan.loop.asked import first_plan
from gyroplan.loop.entries import Cut, Planned, Set, Size, Touched, TouchOff, Zero
from gyroplan.loop.judged import habit_after, judge_row, suspect_of, verdict_on
from gyroplan.loop.left import Done, Known, share_anew, thinner_than
from gyroplan.loop.memory import CutMade, LastCuts, Memory
from gyroplan.loop.plan import BoreWork
from gyroplan.loop.setting import AdvanceWay, DialWay, MicrometerWay, OverBarWay, StepWay, Told
from gyroplan.loop.state import BoreState
from gyroplan.refusal import Refused

Act = Set | Cut | Size | Touched | TouchOff | Zero | Planned


_ABSOLUTE = (OverBarWay, StepWay, MicrometerWay)


_RELATIVE = (DialWay, AdvanceWay)


class Loop:
    """The rules by which one entry changes what is remembered of a bore; itself it remembers nothing."""

    def __init__(self, work: BoreWork) -> None:
        self.work = work

    def begin(self) -> Memory:
        """Before the first entry: the tip touches the bore as found, the passes are as planned."""
        work = self.work
        return Memory(
            bore=work.bore,
            rules=work.rules,
            way=work.setting,
            tool=work.tool,
            passes=first_plan(work.bore, work.rules).passes,
            known_mm=work.bore.start_mm,
            dial=work.setting.at_division if isinstance(work.setting, DialWay) else 0.0,
        )

    def after(self, memory: Memory, entry: Act) -> Memory:
        """What is remembered after an entry; raises Refused where it does not fit."""
        if isinstance(entry, Set):
            return self._set(memory, entry)
        if isinstance(entry, Cut):
            return self._cut(memory, entry)
        if isinstance(entry, Size):
            return self._size(memory, entry)
        if isinstance(entry, Touched):
            return self._touched(memory)
        if isinstance(entry, TouchOff):
            return self._touch_off(memory, entry)
        return self._planned(memory, entry) if isinstance(entry, Planned) else self._zero(memory, entry)

    # what stands

    @staticmethod
    def phase(memory: Memory) -> str:
        """The first that holds: over, measure, done, touch-off, cut, set."""
        if memory.verdict == "over":
            return "over"
        if memory.owed:
            return "measure"
        if not memory.passes:
            return "done"
        if memory.needs_touch_off:
            return "touch-off"
        return "cut" if memory.is_set or memory.passes[0].kind == "spring" else "set"

    def state(self, memory: Memory) -> BoreState:
        """What is said of it."""
        phase = self.phase(memory)
        return BoreState(
            phase=phase,
            passes_left=memory.passes,
            in_hand=memory.passes[0].number if phase in ("set", "cut", "touch-off") else None,
            told=self.told(memory) if phase == "set" else None,
            stands_at=self.stands_at(memory),
            set_diameter_mm=self.set_diameter(memory),
            known_mm=memory.known_mm,
            known_from=memory.known_from,
            expanded_mm=memory.expanded_mm,
            agree=memory.agree,
            to_come_off_mm=memory.bore.bored_aim_mm - memory.known_mm,
            verdict=memory.verdict,
            suspect=memory.suspect,
        )

    def told(self, memory: Memory) -> Told:
        """The move, or the reading, of the pass in hand."""
        target = memory.passes[0].diameter_mm
        if isinstance(memory.way, _RELATIVE):
            return memory.way.told(target - memory.known_mm - memory.moved_mm, memory.dial)
        return Told(reading_mm=memory.way.reading_mm(target - memory.habit_mm))

    @staticmethod
    def stands_at(memory: Memory) -> float | None:
        """The number under the dial's mark, or the reading set last."""
        if isinstance(memory.way, DialWay):
            return memory.dial
        return memory.reading_mm

    def set_diameter(self, memory: Memory) -> float | None:
        """What the cutter is set to, from what is believed; None without a setting."""
        if not memory.has_setting:
            return None
        if isinstance(memory.way, _RELATIVE):
            return memory.known_mm + memory.moved_mm
        if memory.came_out_mm is not None:
            return memory.came_out_mm
        return memory.way.diameter_mm(memory.reading_mm or 0.0) + memory.habit_mm

    def notes(self, memory: Memory, state: BoreState) -> tuple[Note, ...]:
        """Remarks on the last state."""
        found, bore = [], memory.bore
        thin = thinner_than(memory.passes, memory.rules.min_depth_mm)
        if thin is not None:
            found.append(note("pass_may_rub", number=thin.number, depth_mm=thin.depth_mm,
                              least_mm=memory.rules.min_depth_mm))  # fmt: skip
        room = bore.bored_upper_mm - bore.bored_aim_mm
        if state.expanded_mm is not None and state.expanded_mm > room + TOLERANCE:
            found.append(note("measure_finer", expanded_mm=state.expanded_mm, room_mm=room))
        if memory.slip_kept_out:
            found.append(note("short_taken_for_slip"))
        return tuple(found)

    # the entries

    def _require_hand(self, memory: Memory, number: int) -> Pass:
        hand = memory.passes[0]
        if number != hand.number:
            raise Refused("pass", "other_pass", given=number, allowed=hand.number)
        return hand

    def _set(self, memory: Memory, entry: Set) -> Memory:
        phase = self.phase(memory)
        again = phase == "cut" and memory.is_set and entry.actual is not None
        if phase != "set" and not again:
            raise Refused("kind", "set_out_of_place", phase=phase)
        self._require_hand(memory, entry.number)
        return self.moved(memory, self.told(memory).amount if entry.actual is None else entry.actual)

    def moved(self, memory: Memory, amount: float) -> Memory:
        """The cutter moved by this amount, or to this reading; past the upper limit it is stored, not to be cut."""
        if isinstance(memory.way, _ABSOLUTE):
            if not memory.way.stands_out(amount):
                raise Refused("actual", "tip_not_out", given=amount)
            moved = replace(memory, reading_mm=amount, came_out_mm=None, setting_has_cut=False)
        else:
            dial = memory.way.turned(memory.dial, amount) if isinstance(memory.way, DialWay) else 0.0
            moved = replace(memory, moved_mm=memory.moved_mm + memory.way.moved_mm(amount), dial=dial)
        moved = replace(moved, has_setting=True, setting_stands=False, row=())
        stands = self.set_diameter(moved) or 0.0
        return replace(
            moved,
            is_set=stands <= memory.bore.bored_upper_mm + TOLERANCE,
            as_told=abs(stands - memory.passes[0].diameter_mm) <= TOLERANCE,
        )

    def _cut(self, memory: Memory, entry: Cut) -> Memory:
        phase = self.phase(memory)
        if phase != "cut" and not (phase == "set" and entry.through is not None):
            raise Refused("kind", "cut_out_of_place", phase=phase)
        self._require_hand(memory, entry.number)
        for cut in self._bundle(memory, entry):
            if cut.kind != "spring" and not memory.is_set:
                memory = self.moved(memory, self.told(memory).amount)
            memory = self.cut_one(memory)
        return memory

    @staticmethod
    def _bundle(memory: Memory, entry: Cut) -> tuple[Pass, ...]:
        """The passes an entry cuts; refuses one that runs over a measurement, or begins otherwise than told."""
        if entry.through is None:
            return memory.passes[:1]
        numbers = [cut.number for cut in memory.passes]
        if entry.through not in numbers:
            raise Refused("through", "no_such_pass", given=entry.through)
        bundle = memory.passes[: numbers.index(entry.through) + 1]
        stop = next((cut for cut in bundle[:-1] if cut.measure_after), None)
        if stop is not None:
            raise Refused("through", "measure_on_the_way", given=entry.through, allowed=stop.number)
        if memory.is_set and not memory.as_told:
            raise Refused("through", "not_set_as_told", given=entry.through)
        return bundle

    def cut_one(self, memory: Memory) -> Memory:
        """The pass in hand was cut: what it was set to is believed until the bore is measured."""
        hand, stands = memory.passes[0], self.set_diameter(memory)
        set_mm = memory.known_mm if stands is None else stands
        met = set_mm > memory.known_mm + TOLERANCE
        after = replace(
            memory,
            known_mm=max(memory.known_mm, set_mm), known_from="set", expanded_mm=None, agree=None, verdict=None,
            suspect=None, is_set=False, row=(), passes=memory.passes[1:], cut_after_touch=memory.after_touch,
            done=_one_more(memory, hand), last_cuts=_cuts_with(memory, set_mm if met else None),
        )  # fmt: skip
        if hand.kind == "spring":
            return replace(after, owed=hand.measure_after)
        if met:
            after = replace(after, moved_mm=0.0, setting_stands=True, setting_has_cut=True,
                            made=self._made(memory, hand))  # fmt: skip
        if not memory.as_told:
            after = replace(after, passes=self._shared(after))
        left = any(cut.kind != "spring" for cut in after.passes)
        return replace(after, owed=hand.measure_after or not left, as_told=True)

    def _made(self, memory: Memory, hand: Pass) -> CutMade:
        reads = None
        if isinstance(memory.way, _ABSOLUTE) and memory.reading_mm is not None:
            reads = memory.way.diameter_mm(memory.reading_mm)
        return CutMade(
            kind=hand.kind,
            reads_mm=reads,
            habit_before_mm=memory.habit_mm,
            earlier_came_mm=memory.came_over_mm,
            earlier_kind=memory.measured_kind,
            touched_since_earlier=memory.touched_since_measured,
        )

    def _size(self, memory: Memory, entry: Size) -> Memory:
        names = [gauge.name for gauge in self.work.gauges]
        if entry.gauge not in names:
            raise Refused("gauge", "no_such_gauge", given=entry.gauge, choices=", ".join(names))
        row = (*memory.row, entry.taken)
        judged = judge_row(row, self.work, memory.bore)
        suspect = suspect_of(judged, memory.last_cuts)
        measured_cut = memory.after_touch and memory.cut_after_touch
        after = replace(
            memory, row=row, known_mm=judged.value_mm, known_from="measured", expanded_mm=judged.expanded_mm,
            agree=judged.agree, verdict=judged.verdict, suspect=suspect, is_set=False, slip_kept_out=False,
            came_out_mm=judged.value_mm if memory.setting_has_cut else None,
            after_touch=memory.after_touch and not measured_cut,
        )  # fmt: skip
        after = _learned(after)
        after = replace(after, passes=self._shared(after))
        return replace(after, owed=not after.passes and judged.verdict not in ("in", "over"))

    def _touched(self, memory: Memory) -> Memory:
        cuts = None if memory.last_cuts is None else replace(memory.last_cuts, touched=True)
        after = replace(
            memory, row=(), is_set=False, as_told=True, has_setting=False, setting_stands=False, moved_mm=0.0,
            reading_mm=None, came_out_mm=None, setting_has_cut=False, needs_touch_off=isinstance(memory.way, _RELATIVE),
            after_touch=True, cut_after_touch=False, suspect=None, habit_mm=max(0.0, memory.habit_mm), made=None,
            touched_since_measured=True, last_cuts=cuts,
        )  # fmt: skip
        after = replace(after, passes=self._shared(after))
        return replace(after, owed=memory.owed or (not after.passes and memory.known_from == "set"))

    def _touch_off(self, memory: Memory, entry: TouchOff) -> Memory:
        phase = self.phase(memory)
        if not isinstance(memory.way, _RELATIVE) or phase not in ("touch-off", "set"):
            raise Refused("kind", "touch_off_out_of_place", phase=phase)
        dial = memory.dial if entry.at_division is None else self._on_dial(memory, entry.at_division)
        return replace(
            memory, row=(), dial=dial, moved_mm=0.0, needs_touch_off=False, has_setting=False, setting_stands=False,
            as_told=True,
        )  # fmt: skip

    def _planned(self, memory: Memory, entry: Planned) -> Memory:
        """Other limits, rules, or another bar: what is cut and measured stands, the rest is shared anew."""
        if entry.setting != memory.way or entry.tool != memory.tool:
            memory = self._swapped(memory, entry)
        after = replace(memory, bore=replace(entry.bore, start_mm=memory.bore.start_mm), rules=entry.rules)
        if memory.verdict is not None:
            word = verdict_on(after.bore, memory.known_mm, memory.expanded_mm or 0.0, memory.agree)
            after = replace(after, verdict=word)
        if memory.known_from == "found":
            after = replace(after, passes=first_plan(after.bore, after.rules).passes)
        else:
            after = replace(after, passes=self._shared(after))
        owed = memory.owed if after.passes else after.known_from == "set" or after.verdict not in (None, "in", "over")
        stands = self.set_diameter(after)
        still = memory.is_set and bool(after.passes) and stands is not None
        return replace(
            after,
            owed=owed,
            row=(),
            is_set=still and (stands or 0.0) <= after.bore.bored_upper_mm + TOLERANCE,
            as_told=not still or abs((stands or 0.0) - after.passes[0].diameter_mm) <= TOLERANCE,
        )

    def _swapped(self, memory: Memory, entry: Planned) -> Memory:
        """Another bar, bit, or way of setting: as a touched tip; before anything was set, simply the new one."""
        dial = memory.dial
        if isinstance(entry.setting, DialWay) and entry.setting != memory.way:
            dial = entry.setting.at_division
        fresh = memory.done.passes == 0 and not memory.has_setting and not memory.after_touch
        after = memory if fresh else self._touched(memory)
        return replace(
            after, way=entry.setting, tool=entry.tool, dial=dial, habit_mm=0.0, came_over_mm=None,
            needs_touch_off=not fresh and isinstance(entry.setting, _RELATIVE),
        )  # fmt: skip

    def _zero(self, memory: Memory, entry: Zero) -> Memory:
        if not isinstance(memory.way, DialWay):
            raise Refused("kind", "no_dial_to_zero")
        return replace(memory, row=(), dial=self._on_dial(memory, entry.at_division))

    @staticmethod
    def _on_dial(memory: Memory, number: float) -> float:
        if not isinstance(memory.way, DialWay):
            raise Refused("at_division", "no_dial_here", given=number)
        if number >= memory.way.divisions_per_turn - TOLERANCE:
            raise Refused("at_division", "off_the_dial", given=number, allowed=memory.way.divisions_per_turn)
        return number

    def _shared(self, memory: Memory) -> tuple[Pass, ...]:
        known = Known(
            aim_mm=memory.bore.bored_aim_mm,
            size_mm=memory.known_mm,
            is_measured=memory.known_from == "measured",
            verdict=memory.verdict,
            expanded_mm=memory.expanded_mm,
            setting_stands=memory.setting_stands,
            after_touch=memory.after_touch,
        )
        return share_anew(known, memory.done, memory.rules)


def _one_more(memory: Memory, hand: Pass) -> Done:
    done = memory.done
    return replace(
        done,
        passes=done.passes + 1,
        finish=done.finish + (hand.kind == "finish"),
        springs=done.springs + (hand.kind == "spring"),
        test_is_cut=done.test_is_cut or hand.kind == "test",
        last_kind=hand.kind,
    )


def _cuts_with(memory: Memory, set_mm: float | None) -> LastCuts:
    """The cuts since the size before them, with one more; a size in between begins them anew."""
    if memory.known_from == "measured":
        return LastCuts(before_mm=memory.known_mm, before_expanded_mm=memory.expanded_mm or 0.0, set_mm=set_mm)
    cuts = memory.last_cuts or LastCuts(before_mm=None, before_expanded_mm=0.0)
    return cuts if set_mm is None else replace(cuts, set_mm=set_mm)


def _learned(memory: Memory) -> Memory:
    """What the last pass came out over its reading; only absolute ways have a habit."""
    made = memory.made
    if made is None:
        return memory
    if made.reads_mm is None:
        return memory
    came = memory.known_mm - made.reads_mm
    habit, slip = habit_after(made, came, memory.suspect)
    return replace(
        memory, habit_mm=habit, slip_kept_out=slip, came_over_mm=came, measured_kind=made.kind,
        touched_since_measured=False,
    )  # fmt: skip
