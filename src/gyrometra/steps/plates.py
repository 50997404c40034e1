"""Dial plates and rows of the steps: results as words in the reader's unit, each with its because."""

from gyrometra.steps.bar.head import hole_rows
from gyrometra.steps.bar.line import line_table
from gyrometra.steps.bar.plates import bar, bar_list, opening_line
from gyrometra.steps.bore.acts import NotRead, act_of, rests_on, size_act
from gyrometra.steps.bore.plates import bore, guards_due
from gyrometra.steps.check.plates import check, first_waiting
from gyrometra.steps.check.verdict import verdict_plate
from gyrometra.steps.cuts.plates import cut_totals, cuts, pass_rows
from gyrometra.steps.shared.plate import Because, Plate, ghost_rail, rail
from gyrometra.steps.shared.setting import dial_words
from gyrometra.steps.sheet import finished_bore, packing_words, sheet_facts, sheet_plates, signed_words, title_block
from gyrometra.steps.true.plates import round_initial, true
from gyrometra.steps.work.plates import work
from gyrometra.steps.work.ways import ways

__all__ = [
    "Because",
    "NotRead",
    "Plate",
    "act_of",
    "bar",
    "bar_list",
    "bore",
    "check",
    "cut_totals",
    "cuts",
    "dial_words",
    "finished_bore",
    "first_waiting",
    "ghost_rail",
    "guards_due",
    "hole_rows",
    "line_table",
    "opening_line",
    "packing_words",
    "pass_rows",
    "rail",
    "rests_on",
    "round_initial",
    "sheet_facts",
    "sheet_plates",
    "signed_words",
    "size_act",
    "title_block",
    "true",
    "verdict_plate",
    "ways",
    "work",
]
