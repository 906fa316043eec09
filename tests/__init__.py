"""Tests. What has to be set before anything of Qt or hypothesis is imported is set here."""

import os

from hypothesis import HealthCheck, settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

# How long an example takes says something about the machine, not about the law it checks.
# The same examples each time: a change is judged by itself alone. `make soak` looks for new ones.
settings.register_profile(
    "rimecrest",
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow],
    derandomize="RIMECREST_SOAK" not in os.environ,
)
settings.load_profile("rimecrest")
