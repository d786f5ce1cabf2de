"""The web: one router a screen over the records and the crew."""

from .app import create_app, create_disk_app

__all__ = ["create_app", "create_disk_app"]
