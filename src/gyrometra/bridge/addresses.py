"""Job numbers as shops write them, as one part of an address: `P 31/2` is `P~2031~2F2`."""

from __future__ import annotations

import re
from urllib.parse import quote, unquote

from django.urls import register_converter

#: What a job number is made of: letters and figures of any script, and what shops put between them.
JOB_NUMBER = re.compile(r"[\w .\-/#+()&:,]*\w[\w .\-/#+()&:,]*")
MOST_CHARACTERS = 30


class JobNumber:
    """Percent-encoding with `~` for `%`: a server takes no `%2F` inside a part, and no number has a `~`."""

    regex = r"[^/]{1,200}"

    def to_python(self, value: str) -> str:
        """The number of an address; raises ValueError, which is 404, for what is none."""
        number = unquote(value.replace("~", "%"), errors="strict")
        if not JOB_NUMBER.fullmatch(number):
            raise ValueError
        return number

    def to_url(self, value: str) -> str:
        """The address of a number."""
        return quote(value, safe="").replace("%", "~")


register_converter(JobNumber, "job")
