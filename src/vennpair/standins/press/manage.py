"""Management commands of the press stand-in: python -m vennpair.standins.press.manage COMMAND."""

import os
import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "vennpair.standins.press.settings")
    execute_from_command_line(sys.argv)
