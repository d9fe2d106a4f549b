"""The bare page: what the same machine, server, middleware and templates cost when a page has nothing to ask and to judge.

``python -m scripts.bench.bare PORT`` serves ``/bare/{elements}/{bytes}``: a synchronous route, one Jinja loop over rows that
stand in memory, about so many elements and bytes.
"""

import gc
import random
import sys
from functools import lru_cache

import uvicorn
from fastapi import FastAPI, Request
from jinja2 import DictLoader, Environment, select_autoescape
from starlette.middleware import Middleware
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import Response
from starlette.templating import Jinja2Templates

from walkround.serving import share_fairly
from walkround.web.security import SecurityMiddleware

TEMPLATE = '<!doctype html><html lang="en"><body>{% for row in rows %}<p class="{{ row.kind }}">{{ row.text }}</p>{% endfor %}</body></html>'
WORDS = [
    "wind",
    "pack",
    "cell",
    "motor",
    "field",
    "check",
    "clear",
    "limit",
    "left",
    "height",
    "before",
    "after",
    "minutes",
    "arm",
    "charge",
    "fold",
    "screw",
    "signal",
]
_ROW_BYTES = len('<p class="even"></p>')

templates = Jinja2Templates(env=Environment(loader=DictLoader({"bare.html": TEMPLATE}), autoescape=select_autoescape()))
app = FastAPI(
    openapi_url=None, docs_url=None, redoc_url=None,
    middleware=[Middleware(GZipMiddleware, minimum_size=700, compresslevel=3), Middleware(SecurityMiddleware, None)],
)  # fmt: skip


@lru_cache(maxsize=256)
def _rows(elements: int, size: int) -> list[dict[str, str]]:
    dice, each = random.Random(elements), max(0, size // max(1, elements) - _ROW_BYTES)
    rows = []
    for i in range(elements):
        text = ""
        while len(text) < each:
            text += f"{dice.choice(WORDS)} {dice.randint(0, 99)} "
        rows.append({"kind": ("even", "odd")[i % 2], "text": text[:each]})
    return rows


@app.get("/bare/{elements}/{size}")
def bare(request: Request, elements: int, size: int) -> Response:
    """So many elements of so many bytes in all."""
    return templates.TemplateResponse(request, "bare.html", {"rows": _rows(elements, size)})


if __name__ == "__main__":
    gc.collect()
    gc.freeze()
    share_fairly()
    uvicorn.run(app, host="127.0.0.1", port=int(sys.argv[1]), log_level="warning", server_header=False)
