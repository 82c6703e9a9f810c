#!/usr/bin/env python3
"""Django's command line for Jackstaff."""

import os
import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    # What is written holds people's records, however the command was started.
    os.umask(0o077)
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jackstaff.site.settings")
    execute_from_command_line(sys.argv)
