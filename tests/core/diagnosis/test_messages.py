"""What a flight controller says: trouble is never clear, what is not known is never clear, and nothing is lost."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.checklist.history import EventKind
from walkround.core.diagnosis.messages import (  # fmt: skip
    GOOD,
    MOST_LINES,
    Subject,
    message_findings,
    read_messages,
    said_level,
    understood,
)
from walkround.simulators.controller import STORIES

# Written by hand before the code, from how controllers word such things: common practice, no source.
ROWS = (
    ("Compass not calibrated", Subject.COMPASS, Level.GROUNDED),
    ("Compass calibrated", Subject.COMPASS, Level.CLEAR),
    ("Compass calibration requested", Subject.COMPASS, Level.GROUNDED),
    ("Mag field strength high", Subject.COMPASS, Level.GROUNDED),
    ("Accels inconsistent", Subject.LEVEL, Level.GROUNDED),
    ("Gyros still moving", Subject.GYRO, Level.GROUNDED),
    ("Gyro calibration complete", Subject.GYRO, Level.CLEAR),
    ("No GPS fix", Subject.SATELLITES, Level.GROUNDED),
    ("Waiting for satellites", Subject.SATELLITES, Level.GROUNDED),
    ("3D fix acquired", Subject.SATELLITES, Level.CLEAR),
    ("HDOP high", Subject.SATELLITES, Level.GROUNDED),
    ("Home point set", Subject.HOME, Level.CLEAR),
    ("Battery low", Subject.POWER, Level.GROUNDED),
    ("Throttle not at idle", Subject.STICKS, Level.GROUNDED),
    ("RC signal lost", Subject.SIGNAL, Level.GROUNDED),
    ("Failsafe", Subject.FAILSAFE, Level.GROUNDED),
    ("Throttle failsafe active", Subject.FAILSAFE, Level.GROUNDED),
    ("Failsafe cleared", Subject.FAILSAFE, Level.CLEAR),
    ("Outside geofence", Subject.FENCE, Level.GROUNDED),
    ("Mode not armable", Subject.MODE, Level.GROUNDED),
    ("Compass 1", Subject.COMPASS, Level.CAUTION),
    ("Blorp 17", None, Level.CAUTION),
)
KNOWN = [text for text, _, level in ROWS if level is Level.CLEAR]


class Words(unittest.TestCase):
    def test_rows(self) -> None:
        for text, subject, level in ROWS:
            found = understood(text)
            self.assertEqual((found.subject, found.level), (subject, level), text)
            self.assertEqual(bool(found.remedy), level is not Level.CLEAR, text)

    def test_every_complaint_of_the_stand_in_is_trouble(self) -> None:
        for name, story in STORIES.items():
            for line in story.says:
                self.assertIs(understood(line).level, Level.GROUNDED, (name, line))

    def test_what_asks_for_a_calibration_is_an_event(self) -> None:
        self.assertIs(understood("Compass offsets too large").event, EventKind.COMPASS_ASKED)
        self.assertIs(understood("Accels inconsistent").event, EventKind.UNSTEADY)
        self.assertIsNone(understood("Compass calibrated").event)

    @given(st.text(max_size=80))
    def test_what_is_not_known_is_never_clear(self, text: str) -> None:
        found = understood(text)
        if found.subject is None or not GOOD.search(text):
            self.assertGreater(found.level, Level.CLEAR)

    @given(
        st.sampled_from(KNOWN),
        st.sampled_from(["not", "no", "error", "failed", "low", "inconsistent", "waiting", "lost", "bad"]),
        st.booleans(),
    )
    def test_a_word_of_trouble_never_makes_it_better(self, text: str, word: str, before: bool) -> None:
        self.assertIs(understood(f"{word} {text}" if before else f"{text} {word}").level, Level.GROUNDED)


class Lists(unittest.TestCase):
    @given(st.lists(st.sampled_from([text for text, _, _ in ROWS]), min_size=1, max_size=12))
    def test_nothing_is_lost_and_the_worst_counts(self, lines: list[str]) -> None:
        found = read_messages("\n".join(f"[12:03:{i:02}] {line}" for i, line in enumerate(lines)))
        self.assertEqual([one.text for one in found], list(dict.fromkeys(lines)))
        self.assertIs(said_level(found), max(understood(line).level for line in lines))
        levels = [finding.level for finding in message_findings(found)]
        self.assertEqual(levels, sorted(levels, reverse=True))

    def test_times_before_them(self) -> None:
        for stamp in ("12:01:04", "12:01:04.250:", "[00:12]", "(3.25 s) -", "1764313341,"):
            self.assertEqual(read_messages(f"{stamp} No GPS fix")[0].text, "No GPS fix", stamp)
        for line in ("3D fix acquired", "14 satellites", "4.1 V board voltage low"):
            self.assertEqual(read_messages(line)[0].text, line)

    def test_silence_is_not_clear_and_too_much_is_refused(self) -> None:
        self.assertIs(said_level(()), Level.CAUTION)
        for text in (
            "",
            "  \n ",
            "\n".join(f"line {chr(97 + i % 26) * (i // 26 + 1)}" for i in range(MOST_LINES + 60)),
        ):
            with self.assertRaises(InputError):
                read_messages(text)
