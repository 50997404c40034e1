"""The general materials that every crib begins with; each can be changed, and own ones put beside them."""

from __future__ import annotations

from typing import Any

from gyrocore import materials


def general_rows() -> list[dict[str, Any]]:
    """One row a class of the core's catalogue, as the crib keeps it."""
    return [
        {
            "name": entry.label, "family": entry.key, "kc11_mpa": entry.kc11_mpa, "mc": entry.mc,
            "thrust_ratio": entry.thrust_ratio, "expansion_um_m_k": entry.expansion_um_m_k,
            **{
                f"{made_of}_{stage}_m_min": getattr(pair, stage)
                for made_of, pair in entry.speed_m_min.items()
                for stage in ("rough", "finish")
            },
            "source": entry.source,
        }
        for entry in materials().values()
    ]  # fmt: skip


def put_in_missing(model: Any) -> None:
    """A row for each class that the crib has none of."""
    there = set(model.objects.values_list("family", flat=True))
    model.objects.bulk_create(model(**row) for row in general_rows() if row["family"] not in there)
