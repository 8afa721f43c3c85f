"""Write the API's own description for the page: python -m ebbrin.app.describe [--check]."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from pydantic import BaseModel

from ebbrin.app.web import create_app
from ebbrin.build.build import Build
from ebbrin.build.problems import allowed_range
from ebbrin.features.fit.jobs import JobEntry
from ebbrin.features.fit.mixing import MixQuestion
from ebbrin.features.fit.proving import CapQuestion, GaugeReading, HoldQuestion
from ebbrin.features.fit.refractometer import RefractometerQuestion
from ebbrin.features.fit.waterless import WaterQuestion
from ebbrin.features.size.answers import Wishes
from ebbrin.ground.quantities import QUANTITIES, unit_of

FOLDER = Path(__file__).resolve().parents[3] / "web" / "src" / "model" / "api"

FORMS = (CapQuestion, GaugeReading, HoldQuestion, JobEntry, MixQuestion, RefractometerQuestion, WaterQuestion)
"""What the page has forms for that are no part of a build: it says in the reader's units what lies out of range."""


def _ranges(form: type[BaseModel]) -> dict[str, list[float]]:
    """Lowest and highest value of each number of a form."""
    found = {name: allowed_range(info) for name, info in form.model_fields.items()}
    return {name: list(ends) for name, ends in found.items() if ends is not None}


def files() -> dict[str, str]:
    """What the page's types and editors are made from."""
    openapi = create_app("postgresql+psycopg://nobody@127.0.0.1:1/none").openapi()
    made = {
        "openapi.json": openapi,
        "build.schema.json": Build.model_json_schema(),
        "wishes.schema.json": Wishes.model_json_schema(),
        "forms.json": {form.__name__: _ranges(form) for form in FORMS},
        "quantities.json": {name: unit_of(name).strip() for name in QUANTITIES if unit_of(name)},
    }
    return {
        name: json.dumps(content, indent=1, ensure_ascii=False, sort_keys=True) + "\n"
        for name, content in made.items()
    }


def main(check: bool) -> int:
    """Write the files, or compare them; 1 if any is stale."""
    stale = []
    for name, text in files().items():
        path = FOLDER / name
        if check:
            if not path.exists() or path.read_text(encoding="utf-8") != text:
                stale.append(name)
        else:
            path.write_text(text, encoding="utf-8")
    if stale:
        print(f"stale: {', '.join(stale)}; run scripts/generate", file=sys.stderr)
    return 1 if stale else 0


if __name__ == "__main__":
    sys.exit(main("--check" in sys.argv[1:]))
