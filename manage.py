#!/usr/bin/env python3
"""Django's command, with the profile of `./start` unless another is set."""

import os
import sys
from pathlib import Path

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).parent / "src"))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "gyrometra.settings.local")
    execute_from_command_line(sys.argv)
