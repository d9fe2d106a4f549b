"""What the program says: every sentence that it can show, against the rules of plain words."""

import re
import unittest
from pathlib import Path

from scripts.words import GAP, Said, sentences, texts
from walkround.core.base.phrase import Phrase
from walkround.core.checklist.check import Check
from walkround.core.checklist.library import CHECKS

MOST_WORDS, MOST_IMPERATIVES, MOST_NUMBERS, MOST_TITLE = 25, 120, 30, 45

REFUSED = (
    (r"\b(bites?|biting)\b", "things do not bite: grips, limits, limiting factor", "the limit that bites first"),
    (r"\bheld (against|to)\b", "compared with; limit", "it is held against your limit"),
    (r"\b[Mm]ind (this|these|it)\b|\bto mind\b(?!\.)", "caution, hazard, watch", "Mind this."),
    (r"\b(stands?|lies?) (to|at|on|in(?! for)|inside|above|below|between|near|apart|over)\b", "is", "the sun stands in the box"),
    (r"(?<!there )(?<!There )(?<!file )\bis no (?!longer)\w+", "is not a …", "“x” is no number"),
    (r"\bcannot be[.;]", "is not plausible", "that wind cannot be."),
    (r"\b(nought|anew|wisp|nearer|farther|on the nose)\b", "archaic or poetic", "read it anew"),
    (r"\breckon(?!ing)", "calculate", "reckoned without wind"),
    (r"\b(wants|wanted|believes?|is told)\b", "things do not act: needs", "the board wants 4.8 V"),
    (r"\b[Tt]ak(e|en) (back|over|off the list|a table|these|this)\b", "undo, import, delete, save", "Take it over: take over"),
    (r"\bput right\b|\bmend(ed|s)?\b", "fix, repair", "until it is put right"),
    (r"\blook(ed|s)? over\b|\blooked at\b|\b[Ll]ook it over\b", "inspect, check", "Not looked at for 30 days"),
    (r"\bper cent\b", "%, percentage", "its per cent dropped"),
    (r"\bhis\b|\bbuddy\b|\branger\b", "people: helper, owner, their", "the neighbour's aircraft is his"),
    (r"\b\d+ paces\b|\b(ten|thirty) paces\b", "metres or feet", "thirty paces ahead"),
    (r"\b(dilution|stabiliser bar|square code|pencilled|inertial unit|speed at rest and)\b", "the field's term", "dilution below 2"),
    (r"\bNMEA sentences\b|\b[Pp]ositioning sentences\b|\b[Pp]aste sentences\b", "NMEA data", "Paste sentences"),
    (r"\b(is|be|and) frozen\b(?! or missing)|\bfreezes? the round\b", "locked", "it is frozen"),
    (r"\b(this|the|own) book\b", "your data, Walk Round", "as far as this book knows"),
    (r"\bthe box\b|\bpack box\b", "packs; flying box", "11 packs in the box"),
    (r"\b([Rr]eturn height|[Cc]om(es?|ing) home|[Ll]ost link|link is lost)\b", "RTH altitude, RTH, signal loss, failsafe", "coming home"),
    (r"\b([Ff]light board|[Tt]he board|board's)\b", "flight controller", "the board's page"),
    (r"\b(your|another) practice\b", "method", "your practice: every day"),
    (r"\bkeeps? it down\b|\bkept down\b", "grounds, grounded", "what keeps it down"),
    (r"\b(the|across the|flying) strip\b", "runway", "wind across the strip"),
    (r"\b[Aa]udit\b", "review", "Audit this station"),
    (r"\b[Ss]poils the day\b|\bcosts the day\b", "advisory; ends the session", "spoils the day"),
    (r"\b(other hand of|of the other hand|which hand)\b", "CW / CCW", "a propeller of the other hand"),
    (r"  ", "doubled space", "two  spaces"),
    (r"\w’\w", "apostrophes are straight", "today’s"),
    (r"\bplease\b", "no please in errors", "Type a number, please."),
)  # fmt: skip
"""Pattern, reason, and a text that it must find. Rules of the language guide, section 1."""

NOT_OURS = re.compile(r"^walkround/(demo|simulators)/|^walkround/core/weather/(groups|metar)\.py")
"""The demo's invented people speak as they like; reports are decoded in the words of their own."""
SOURCE = re.compile(r"no source|our choice|from memory|CFR|Regulation|NMEA 0183|guidance|ISO|ICAO|prevails?$")
"""What names a source rather than saying something."""
IS_NAME = re.compile(r"\d{6}|METAR|python -m|%\||_")

NUMBER = re.compile(
    rf"\d[\d.,]*[\s\u202f]?(?:m|km|ft|feet|mm|cm|V|A|W|mW|mAh|mΩ|°C|°F|%|min|s|g|kg|MB|kB|GB|hPa|kt|mph|m/s|km/h|degrees|"
    rf"minutes?|seconds?|metres?|hours?|days?|miles?|microseconds)(?![\w/{GAP}])"
)
TYPED_NUMBERS = {
    "walkround/core/checklist/library": "distances of the trade that are said, not measured; thresholds of a maker's page",
    "walkround/core/pilot/methods.py": "a method is its number: 4.13 V a cell, 12.4 V on three",
    "walkround/core/pilot/regions.py": "numbers of the law, in the law's own unit",
    "walkround/core/pilot/accident.py": "deadlines of the law, in its own unit",
    "walkround/core/field/site.py": "both units are given",
    "walkround/core/round/weather_rules.py": "thirty minutes after the last thunder, everywhere",
    "walkround/web/templates/brief/page.html": "the grid of the drawing is metric",
}
"""Where a number with its unit may stand in a text, and why."""


def ours() -> list[Said]:
    """Texts of ours: no sources, no reports, nothing of the demo."""
    return [
        said
        for said in texts()
        if not NOT_OURS.match(said.path) and not SOURCE.search(said.text) and not IS_NAME.search(said.text)
    ]


def hows(check: Check) -> list[str]:
    """How a check is done, in each of its wordings."""
    return [check.how, *(wording.how for wording in check.wordings if wording.how)]


class Sentences(unittest.TestCase):
    said: list[Said]

    @classmethod
    def setUpClass(cls) -> None:
        cls.said = ours()

    def test_there_are_many(self) -> None:
        """All of them are looked at: the guide counted some four thousand."""
        self.assertGreater(sum(len(sentences(said.text)) for said in self.said), 3_000)

    def test_each_pattern_finds_its_example(self) -> None:
        for pattern, reason, example in REFUSED:
            self.assertRegex(example, pattern, reason)

    def test_nothing_is_said_that_no_pilot_would_say(self) -> None:
        for pattern, reason, _ in REFUSED:
            found = [f"{said.place} {said.text}" for said in self.said if re.search(pattern, said.text)]
            self.assertEqual(found, [], reason)

    def test_no_sentence_is_long(self) -> None:
        for said in self.said:
            for sentence in sentences(said.text):
                self.assertLessEqual(len(sentence.split()), MOST_WORDS, f"{said.place} {sentence}")

    def test_sentences_end(self) -> None:
        """A text of several sentences ends as they do; one that ends in a form, a list or a link does not count."""
        for said in self.said:
            if said.path.endswith(".py") and re.search(r"[a-z]\. [A-Z]", said.text):
                self.assertRegex(said.text, rf"[.…:?”){GAP}]$|passphrase$", said.place)

    def test_numbers_carry_their_unit_as_a_value(self) -> None:
        typed = [said for said in self.said if NUMBER.search(said.text)]
        for said in typed:
            self.assertTrue(said.path.startswith(tuple(TYPED_NUMBERS)), f"{said.place} {said.text}")
        self.assertLessEqual(len(typed), MOST_NUMBERS)


class Checks(unittest.TestCase):
    def test_titles_are_short_and_one_of_a_kind(self) -> None:
        titles = [check.title for check in CHECKS]
        self.assertEqual(len(set(titles)), len(titles))
        for check in CHECKS:
            for title in (check.title, *(wording.title for wording in check.wordings if wording.title)):
                self.assertLessEqual(len(title), MOST_TITLE, title)

    def test_how_is_at_most_two_orders(self) -> None:
        begun = set()
        for check in CHECKS:
            for how in hows(check):
                self.assertLessEqual(len(sentences(how)), 2, check.id)
                begun |= {sentence.split()[0].rstrip(",:") for sentence in sentences(how)}
        self.assertEqual(begun, IMPERATIVES)
        self.assertLessEqual(len(IMPERATIVES), MOST_IMPERATIVES)

    def test_why_is_one_sentence(self) -> None:
        for check in CHECKS:
            self.assertEqual(len(sentences(check.why)), 1, check.id)

    def test_a_remedy_of_what_grounds_lets_nobody_fly_without(self) -> None:
        for check in CHECKS:
            if check.grounds:
                self.assertNotRegex(check.remedy, r"or fly (without|as if)|set a timer short", check.id)

    def test_titles_fit_a_phrase(self) -> None:
        """No braces are left over: what is filled in is named where it is said."""
        for check in CHECKS:
            for text in (check.title, check.why, check.fault, check.remedy, check.caution, *hows(check)):
                self.assertEqual(Phrase(text=text).text.count("{"), 0, check.id)


IMPERATIVES = frozenset((Path(__file__).parent / "imperatives.txt").read_text().split())
"""How a sentence of *how* may begin."""
