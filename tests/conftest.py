"""House rules for tests: no display, no user folders, no clock; a warning is an error."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import HealthCheck, settings

from wired_union.catalogue.demo import demo
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Project
from wired_union.subjects import assess

settings.register_profile("house", deadline=None, max_examples=40, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("house")


@pytest.fixture(scope="session")
def mudlark() -> Project:
    """The demo; a frozen value, so that tests may share it."""
    return demo()


@pytest.fixture(scope="session")
def mudlark_assessed(mudlark: Project) -> Assessment:
    return assess(mudlark)
