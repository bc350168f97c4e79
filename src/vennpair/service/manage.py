"""Management commands of the service: python -m vennpair.service.manage COMMAND."""

import os
import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "vennpair.service.settings")
    execute_from_command_line(["vennpair-server", *sys.argv[1:]])
