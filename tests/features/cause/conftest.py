"""What nobody waits for is not driven on when the tests are over."""

from collections.abc import Iterator

import pytest

from tests.features.cause.driven import SERVICE


@pytest.fixture(autouse=True, scope="session")
def given_up() -> Iterator[None]:
    yield
    SERVICE.close()
