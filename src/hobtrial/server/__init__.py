"""The web: one router a screen over the records and the crew."""

from .app import create_app, create_disk_app
from .demo_links import DemoLinks

__all__ = ["DemoLinks", "create_app", "create_disk_app"]
