from django.apps import AppConfig


class RecordsConfig(AppConfig):
    name = "jackstaff.records"
    label = "records"
