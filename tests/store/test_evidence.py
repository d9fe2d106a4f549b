"""An open round follows what is known by now, whoever changed it; what is made once is made anew when it must be."""

import sqlite3
from datetime import timedelta

from tests.support import NOW, BookCase
from walkround.core.answers.choice import Chosen
from walkround.core.answers.tick import Passed
from walkround.core.checklist.history import SnagOn
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import After, Reading
from walkround.core.round.evidence import Evidence
from walkround.store import evidence, hangar, packs, rounds, snags
from walkround.store import settings as store_settings
from walkround.store.book import FILE_NAME
from walkround.store.models import RoundRow, database
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.store.situation import gather, home_zone
from walkround.store.statements import moment_text


class AsOfNow(BookCase):
    def setUp(self) -> None:
        super().setUp()
        names = ("Sandpiper", "S1", "Teasel Common")
        situation = gather(*(self.numbers[name] for name in names), now=NOW, settings=self.settings)
        with self.book.write():
            self.round_id = rounds.start(situation, NOW)
        self.first = self.load()

    def load(self, settings: Settings | None = None) -> OpenRound:
        return rounds.load(self.round_id, settings or store_settings.load(), self.now)

    def test_nothing_changed_nothing_is_made_anew(self) -> None:
        again = self.load()
        self.assertIs(again.walk.situation, self.first.walk.situation)
        self.assertIs(again.walk.plan, self.first.walk.plan)

    def test_an_answer_kept_is_the_answer_read(self) -> None:
        with self.book.write():
            piece = Evidence(id=0, check_id="airframe.shell", at=NOW, answer=Passed())
            kept = evidence.keep(self.round_id, piece, self.first.row.situation)
        self.assertIs(self.load().evidence[-1], kept)
        self.assertEqual(kept.model_copy(update={"id": 0}), piece)

    def test_whether_anything_follows_is_asked_of_every_table_that_refers_to_evidence(self) -> None:
        """All but what closed a snag, which is opened again for its own answer."""
        book, at = database.connection(), moment_text(NOW)
        for rule, usual, here in (("foreign_keys", "ON", "OFF"), ("ignore_check_constraints", "OFF", "ON")):
            self.addCleanup(book.execute, f"PRAGMA {rule} = {usual}")
            book.execute(
                f"PRAGMA {rule} = {here}"
            )  # rows that refer to evidence 901, and to nothing else that there is
        tables = [name for (name,) in book.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        asked = 0
        for table in tables:
            for _, _, referred, column, *_ in list(book.execute(f"PRAGMA foreign_key_list({table})")):
                if referred != "evidence" or column == "closed_by":
                    continue
                needed = [
                    (name, 3 if kind == "INTEGER" else at)
                    for _, name, kind, must, default, key in book.execute(f"PRAGMA table_info({table})")
                    if must and default is None and not key
                ]
                names = ", ".join((column, *(name for name, _ in needed)))
                with self.subTest(f"{table}.{column}"), self.book.write():
                    self.assertFalse(evidence.has_followed([900, 901]))
                    values = (901, *(value for _, value in needed))
                    row = book.execute(f"INSERT INTO {table} ({names}) VALUES ({', '.join('?' * len(values))})", values)
                    self.assertTrue(evidence.has_followed([900, 901]))
                    self.assertFalse(evidence.has_followed([900]))
                    book.execute(f"DELETE FROM {table} WHERE id = ?", (row.lastrowid,))
                asked += 1
        self.assertEqual(asked, 4)

    def test_settings(self) -> None:
        with self.book.write():
            store_settings.save(limits=self.settings.limits.model_copy(update={"people_m": 71.5}))
        self.assertEqual(self.load().walk.situation.limits.people_m, 71.5)

    def test_the_field_and_its_zones(self) -> None:
        site = hangar.get(Site, self.numbers["Teasel Common"])
        with self.book.write():
            hangar.save(site.model_copy(update={"marks": (*site.marks, mark_at(MarkKind.TREE, 10, 20, 44))}), NOW)
        self.assertIn(44, [mark.height_m for mark in self.load().walk.situation.site.marks])

    def test_the_pack_its_readings_and_a_snag(self) -> None:
        pack_id = self.numbers["S1"]
        with self.book.write():
            packs.add_reading(pack_id, Reading(at=NOW, cells_v=(3.5, 3.5, 3.5), after=After.REST), NOW)
            snags.open_one(SnagOn.PACK, pack_id, "Dented", grounds=True, at=NOW)
        now = self.load().walk
        self.assertEqual(now.situation.history.pack_summary, packs.in_short(pack_id, NOW))
        self.assertNotEqual(now.situation.history.pack_summary, self.first.walk.situation.history.pack_summary)
        self.assertEqual([s.planned.snag.title for s in now.states if s.planned.snag], ["Dented"])
        with self.book.write():
            hangar.save(hangar.get(Pack, pack_id).model_copy(update={"capacity_mah": 1234}), NOW)
        self.assertEqual(self.load().walk.situation.pack.capacity_mah, 1234)

    def test_another_process_writes(self) -> None:
        other = sqlite3.connect(self.folder / FILE_NAME)
        self.addCleanup(other.close)
        text = evidence.json.dumps(Chosen(option="still").model_dump(mode="json"))
        other.execute(
            "INSERT INTO snag (aircraft_id, title, grounds, check_id, parts, opened_at, closed_how) VALUES (?, 'Loose arm', 1, '', '', ?, '')",
            (self.numbers["Sandpiper"], NOW.strftime("%Y-%m-%dT%H:%M:%S.%f+00:00")),
        )  # fmt: skip
        other.execute(
            "UPDATE site SET spec = json_set(spec, '$.flight_height_m', 31) WHERE id = ?",
            (self.numbers["Teasel Common"],),
        )
        other.execute(
            "UPDATE pack SET spec = json_set(spec, '$.capacity_mah', 999) WHERE id = ?", (self.numbers["S1"],)
        )
        other.commit()
        now = self.load().walk
        self.assertIn("Open snag: Loose arm", [s.planned.check.title for s in now.states])
        self.assertEqual((now.situation.site.flight_height_m, now.situation.pack.capacity_mah), (31, 999))
        snag = next(s.planned.check.id for s in now.states if s.planned.snag)
        other.execute(
            "INSERT INTO evidence (round_id, check_id, at, by, answer) VALUES (?, ?, ?, 'pilot', ?)",
            (self.round_id, snag, NOW.strftime("%Y-%m-%dT%H:%M:%S.%f+00:00"), text),
        )
        other.commit()
        self.assertEqual(self.load().walk.state(snag).evidence.answer, Chosen(option="still"))

    def test_the_situation_itself(self) -> None:
        with self.book.write():
            text = RoundRow.get_by_id(self.round_id).situation.replace('"planned_min": ', '"planned_min": 1')
            RoundRow.update(situation=text).where(RoundRow.id == self.round_id).execute()
        self.assertEqual(self.load().walk.situation.planned_min, float(f"1{self.first.walk.situation.planned_min:g}"))

    def test_the_clock_passes_midnight(self) -> None:
        """A round begun the day before keeps its day; one begun after midnight has the new one."""
        late = NOW.replace(hour=21, minute=59)  # 23:59 at the field
        names = ("Sandpiper", "S1", "Teasel Common")
        for now, wanted in ((late, 16), (late + timedelta(minutes=2), 17)):
            day = gather(*(self.numbers[name] for name in names), now=now, settings=self.settings)
            self.assertEqual(day.today().day, wanted)
        self.now = late + timedelta(days=1)
        self.assertEqual(self.load().walk.situation.today().day, 16)
        self.assertEqual(home_zone(), "Europe/Vienna")
