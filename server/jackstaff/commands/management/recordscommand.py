"""What the commands on the records share."""

from django.core.checks import Tags
from django.core.management.base import BaseCommand


class RecordsCommand(BaseCommand):
    """A command on what is kept.

    It looks its models over, and reads no address of the server in, which would take longer than its work.
    """

    requires_system_checks = [Tags.models]
