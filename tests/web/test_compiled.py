"""How templates are compiled, held against the template library as it comes."""

import tempfile
import unittest
from enum import StrEnum
from pathlib import Path
from typing import Any

from hypothesis import given
from hypothesis import strategies as st
from jinja2 import DictLoader, Environment, StrictUndefined, UndefinedError
from markupsafe import Markup, escape

from walkround import VERSION
from walkround.web.compiled import escaped, set_up


class Level(StrEnum):
    """A word that is a text of its own kind."""

    HIGH = "<high>"


class Told(str):
    """A text that says what it is in a page."""

    def __html__(self) -> str:
        return f"<b>{self}</b>"


TEXTS = st.text(st.sampled_from("ab <>&\"'\n{é"), max_size=6)
VALUES = st.one_of(
    TEXTS, TEXTS.map(Markup), TEXTS.map(Told), st.integers(), st.floats(), st.none(), st.just(Level.HIGH)
)
PIECES = st.recursive(
    st.sampled_from([
        "{{ a }}", "{{ b }}", "{{ a ~ b }}", "<p>", " plain & text ", "\n", "{{ a|upper }}", "{{ 'x<' }}", "{{ a|safe }}",
        "{{ twice(b) }}", "{% set c = a %}{{ c }}", "{{ missing_name }}", "{% include 'part' %}", "{{ a if b else 1 }}",
    ]),
    lambda inner: st.one_of(
        st.lists(inner, max_size=4).map("".join),
        inner.map(lambda text: f"{{% if a %}}{text}{{% else %}}-{{% endif %}}"),
        inner.map(lambda text: f"{{% for i in rows %}}{{{{ i }}}}{text}{{{{ loop.index }}}}{{% endfor %}}"),
        inner.map(lambda text: f"{{% set d %}}{text}{{% endset %}}{{{{ d }}}}"),
        inner.map(lambda text: f"{{% call around(b) %}}{text}{{% endcall %}}"),
        inner.map(lambda text: f"{{% filter upper %}}{text}{{% endfilter %}}"),
    ),
    max_leaves=8,
)  # fmt: skip
"""Templates of everything that ours are made of."""
SHARED = {
    "page": "<html>{% block body %}{% endblock %}{{ b }}</html>",
    "part": "[{{ a }}|{{ b }}]{% if b %}{{ a }}{% endif %}",
    "macros": "{% macro twice(x) %}{{ x }}-{{ x }}{% endmacro %}{% macro around(x) %}({{ x }}{{ caller() }}){% endmacro %}",
}


def both(template: str) -> tuple[Environment, Environment]:
    """An environment as it comes, and one that compiles as ours, with the same templates."""
    loader = DictLoader(SHARED | {"it": "{% from 'macros' import twice, around %}" + template})
    plain, ours = (Environment(loader=loader, autoescape=True, trim_blocks=True, lstrip_blocks=True) for _ in range(2))
    set_up(ours)
    return plain, ours


class Compiled(unittest.TestCase):
    @given(PIECES, VALUES, VALUES, st.lists(VALUES, max_size=3))
    def test_says_what_the_library_says(self, template: str, a: object, b: object, rows: list[object]) -> None:
        for text in (template, f"{{% extends 'page' %}}{{% block body %}}{template}{{% endblock %}}"):
            plain, ours = both(text)
            told: dict[str, Any] = {"a": a, "b": b, "rows": rows}
            self.assertEqual(ours.get_template("it").render(told), plain.get_template("it").render(told), text)

    @given(VALUES)
    def test_escapes_as_the_library_does(self, value: object) -> None:
        self.assertEqual(str(escaped(value)), str(escape(value)))

    def test_a_macro_of_markup_is_escaped_once(self) -> None:
        _, ours = both("{{ twice('<') }}{{ twice('<'|safe) }}")
        self.assertEqual(ours.get_template("it").render(), "&lt;-&lt;<-<")

    def test_an_attribute_that_is_not_there_is_a_mistake_and_a_name_is_not(self) -> None:
        _, ours = both("{{ nobody }}{{ a.real }}")
        self.assertEqual(ours.get_template("it").render(a=3), "3")
        for template, told in (("{{ a.wrong }}", 3), ("{{ a.wrong.more }}", Level.HIGH)):
            _, ours = both(template)
            with self.subTest(template), self.assertRaises(UndefinedError):
                ours.get_template("it").render(a=told)
        _, ours = both("{{ a.left_out }}")
        self.assertEqual(ours.get_template("it").render(a={}), "", "a dictionary may leave out")

    def test_a_missing_name_stays_strict_where_it_is_asked_for(self) -> None:
        _, ours = both("{{ nobody }}")
        ours.undefined = StrictUndefined
        with self.assertRaises(UndefinedError):
            ours.get_template("it").render()

    def test_compiled_once_for_all_who_come_after(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            kept = Path(folder) / "kept"
            for _ in range(2):
                _, ours = both("{{ a }} and {{ b }}")
                set_up(ours, kept)
                self.assertEqual(ours.get_template("it").render(a="<", b=1), "&lt; and 1")
                names = sorted(kept.iterdir())
                self.assertEqual(len(names), 2, "the template and the macros")

    def test_what_another_version_compiled_goes(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            kept = Path(folder)
            for name in ("abc.0.3.1", f"abc.{VERSION}", f"abc.{VERSION}x7.tmp"):
                (kept / name).touch()
            (kept / "a folder").mkdir()
            set_up(both("{{ a }}")[1], kept)
            self.assertEqual(
                sorted(one.name for one in kept.iterdir()), ["a folder", f"abc.{VERSION}", f"abc.{VERSION}x7.tmp"]
            )
