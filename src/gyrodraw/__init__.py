"""Results drawn: every point is computed here, the page only prints shapes.

One unit is one CSS pixel at full size. Work is drawn to one scale both ways; whatever is
exaggerated says so beside itself.
"""

from gyrodraw.barlayer import BarLayer, RulerLimit, bar_band
from gyrodraw.barside import BarSide, bar_side, bar_view
from gyrodraw.borelayer import Detail, InBore, bore_band
from gyrodraw.calendar import Due, Resting, calendar_axis
from gyrodraw.centreslayer import CentresLayer, centres_band
from gyrodraw.charts import convergence_chart
from gyrodraw.checkgrid import CheckGrid, PlaceCell, check_grid, end_view
from gyrodraw.crown import Crown, dial_crown
from gyrodraw.dialface import DialFace, dial_face
from gyrodraw.fitted import BushLayer, bush_band
from gyrodraw.instruments import dial_scale, lever_gate
from gyrodraw.leans import (
    AxisDrawn,
    LeanPlace,
    PlaneMark,
    WallColumn,
    WallsDrawn,
    axis_scene,
    leans_to,
    walls_scene,
)
from gyrodraw.linelayer import Housing, LineLayer, SagCurve, SpanRuler, line_band, strip_line
from gyrodraw.linetrue import LineMark, LineMove, LineTrue, line_true_scene
from gyrodraw.machine import (
    SpindleDrawn,
    TrendDrawn,
    TrendPoint,
    high_spots,
    spindle_scene,
    spot,
    spot_between,
    trend_chart,
)
from gyrodraw.needledial import needle_dial
from gyrodraw.onplate import OnPlateDrawn, on_plate_scene
from gyrodraw.parts import OneTurn, PartsDrawn, RingPart, one_turn, parts_scene
from gyrodraw.passline import PassLine, Rung
from gyrodraw.practice import ChuckDrawn, PathDrawn, chuck_scene, paths_scene
from gyrodraw.runs import RunDrawn, RunPoint, run_chart
from gyrodraw.scene import Scene, Shape
from gyrodraw.section import BesideBore, Broken, Labels, Part, strip_section
from gyrodraw.settingup import OnPlate, SideBar, StackPiece, plate_view, sides_ruler, stack_view
from gyrodraw.shells import Shell, cuts_band
from gyrodraw.spectrum import SpectrumDrawn, ToneMark, spectrum_scene
from gyrodraw.startface import StartFace, start_face
from gyrodraw.stock import Stock, stock_band
from gyrodraw.walls import WallPoint, Walls, check_band
from gyrodraw.workband import FeatureMark, Flag, LineBore, Marks, work_band, work_line_band
from gyrodraw.zones import fit_zones

__all__ = [
    "AxisDrawn",
    "BarLayer",
    "BarSide",
    "BesideBore",
    "Broken",
    "BushLayer",
    "CentresLayer",
    "CheckGrid",
    "ChuckDrawn",
    "Crown",
    "Detail",
    "DialFace",
    "Due",
    "FeatureMark",
    "Flag",
    "Housing",
    "InBore",
    "Labels",
    "LeanPlace",
    "LineBore",
    "LineLayer",
    "LineMark",
    "LineMove",
    "LineTrue",
    "Marks",
    "OnPlate",
    "OnPlateDrawn",
    "OneTurn",
    "Part",
    "PartsDrawn",
    "PassLine",
    "PathDrawn",
    "PlaceCell",
    "PlaneMark",
    "Resting",
    "RingPart",
    "RulerLimit",
    "RunDrawn",
    "RunPoint",
    "Rung",
    "SagCurve",
    "Scene",
    "Shape",
    "Shell",
    "SideBar",
    "SpanRuler",
    "SpectrumDrawn",
    "SpindleDrawn",
    "StackPiece",
    "StartFace",
    "Stock",
    "ToneMark",
    "TrendDrawn",
    "TrendPoint",
    "WallColumn",
    "WallPoint",
    "Walls",
    "WallsDrawn",
    "axis_scene",
    "bar_band",
    "bar_side",
    "bar_view",
    "bore_band",
    "bush_band",
    "calendar_axis",
    "centres_band",
    "check_band",
    "check_grid",
    "chuck_scene",
    "convergence_chart",
    "cuts_band",
    "dial_crown",
    "dial_face",
    "dial_scale",
    "end_view",
    "fit_zones",
    "high_spots",
    "leans_to",
    "lever_gate",
    "line_band",
    "line_true_scene",
    "needle_dial",
    "on_plate_scene",
    "one_turn",
    "parts_scene",
    "paths_scene",
    "plate_view",
    "run_chart",
    "sides_ruler",
    "spectrum_scene",
    "spindle_scene",
    "spot",
    "spot_between",
    "stack_view",
    "start_face",
    "stock_band",
    "strip_line",
    "strip_section",
    "trend_chart",
    "walls_scene",
    "work_band",
    "work_line_band",
]
