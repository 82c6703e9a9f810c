from typing import Any

from django.core.management.base import BaseCommand

from jackstaff.records import demo


class Command(BaseCommand):
    help = "Make the demo account and its frames from Vardsund."

    def handle(self, *args: Any, **options: Any) -> None:
        demo.load()
        self.stdout.write(f"Demo account '{demo.ACCOUNT}', password '{demo.PASSWORD}'.")
