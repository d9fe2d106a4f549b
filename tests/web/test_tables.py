"""Tables: named once and remembered, all or nothing, with progress, and every file that is none."""

import time

from tests.support import WebCase, elements, plain
from walkround.store import packs
from walkround.store import settings as store_settings

GOOD = "Pack;Date;Cell 1;Cell 2;Cell 3\nH1;03.04.2026 18:20;3,84;3,83;3,85\nH3;03.04.2026 18:25;3,80;3,80;3,81\n"


class Tables(WebCase):
    def send(self, text: str | bytes = GOOD, name: str = "log.csv"):  # type: ignore[no-untyped-def]
        data = text.encode() if isinstance(text, str) else text
        return self.client.post("/packs/table", files={"file": (name, data, "text/csv")})

    def token(self, text: str | bytes = GOOD) -> str:
        answer = self.send(text)
        self.assertEqual(answer.status_code, 303, plain(answer.text)[:400])
        return str(answer.headers["location"]).rsplit("/", 1)[1]

    def columns(self, *fields: str, **more: str) -> dict[str, str]:
        return {**{f"column-{i}": f for i, f in enumerate(fields)}, "dates": "day", "after": "rest", **more}

    def taken(self, token: str, form: dict[str, str]) -> str:
        answer = self.client.post(f"/packs/table/{token}", data=form)
        self.assertEqual(answer.status_code, 303, plain(answer.text)[:400])
        for _ in range(200):
            text = plain(self.client.get(f"/packs/table/{token}", headers={"HX-Request": "true"}).text)
            if "rows." not in text or "rows cannot be imported, so nothing was saved" in text:
                return text
            time.sleep(0.02)
        raise AssertionError("it never ended")

    NAMED = ("pack", "at", "cell_1", "cell_2", "cell_3")

    def test_taken(self) -> None:
        token = self.token()
        page = self.client.get(f"/packs/table/{token}").text
        self.assertIn("3,84", page)
        self.assertEqual(page.count(" selected"), 5 + 2, "the columns are guessed, and dates and rest")
        self.assertIn("2 new readings for 2 packs", self.taken(token, self.columns(*self.NAMED)))
        self.assertIn((3.84, 3.83, 3.85), [r.cells_v for r in packs.readings(self.numbers["H1"])])
        self.assertIn("0 new readings", self.taken(self.token(), self.columns(*self.NAMED)))

    def test_named_once_and_remembered(self) -> None:
        odd = "A;B;C\nH1;03.04.2026 18:20;55\n"
        self.taken(self.token(odd), self.columns("pack", "at", "percent"))
        self.assertEqual([c.fields for c in store_settings.load().columns.values()], [("pack", "at", "percent")])
        page = self.client.get(f"/packs/table/{self.token(odd)}").text
        self.assertTrue(elements(page, "option[value=percent][selected]"))

    def test_all_or_nothing(self) -> None:
        before = len(packs.readings(self.numbers["H1"]))
        bad = GOOD + "ZZ;03.04.2026 18:30;3,8;3,8;3,8\nH1;03.04.2029 18:30;3,8;3,8;3,8\n"
        token = self.token(bad)
        text = self.taken(token, self.columns(*self.NAMED))
        for words in (
            "2 of 4 rows cannot be imported, so nothing was saved",
            "Line 4",
            "no pack “ZZ”",
            "Line 5",
            "future",
        ):
            self.assertIn(words, text)
        self.assertEqual(len(packs.readings(self.numbers["H1"])), before)
        text = self.taken(token, {"again": "1", "skip_bad": "1"})
        self.assertIn("2 new readings for 2 packs; 2 rows left out", text)

    def test_one_pack(self) -> None:
        text = "Date;Percent\n03.04.2026;50\n04.04.2026;40\n"
        self.taken(self.token(text), self.columns("at", "percent", one_pack=str(self.numbers["S2"])))
        self.assertIn(40, [r.percent for r in packs.readings(self.numbers["S2"])])

    def test_pasted(self) -> None:
        answer = self.client.post("/packs/table", data={"text": GOOD})
        self.assertEqual(answer.status_code, 303)

    def test_files_that_are_none(self) -> None:
        rows = (
            (b"", "first line is empty"),
            (b"\x89PNG\x00\x00", "not text"),
            (b"words\nmore\n", "The first line must hold column names separated by commas, semicolons"),
            (b"a;b\n", "There is a header but no rows"),
        )
        for data, words in rows:
            with self.subTest(words):
                answer = self.send(data)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))
        self.assertEqual(self.client.post("/packs/table", data={}).status_code, 422)

    def test_columns_that_lack(self) -> None:
        token = self.token()
        rows = ((("pack", "", "cell_1", "", ""), "No column is marked as the date"), (("", "at", "cell_1", "", ""), "as the pack label"),
                (("pack", "at", "cell_1", "cell_1", ""), "Two columns"), (("pack", "at", "weight", "", ""), "choose one from the list"))  # fmt: skip
        for fields, words in rows:
            with self.subTest(fields):
                answer = self.client.post(f"/packs/table/{token}", data=self.columns(*fields))
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))

    def test_a_table_that_is_gone(self) -> None:
        first = self.token()
        for _ in range(4):
            self.token()
        self.assertEqual(self.client.get(f"/packs/table/{first}").status_code, 404)
        self.assertEqual(self.client.get("/packs/table/nonsense").status_code, 404)

    def test_many_rows_and_their_progress(self) -> None:
        rows = "".join(
            f"H1;{1 + i % 28:02d}.{1 + i // 28 % 12:02d}.2025 {i // 336 % 24:02d}:{i // 8064:02d};3,8;3,8;3,8\n"
            for i in range(12_000)
        )
        text = self.taken(self.token(GOOD.splitlines()[0] + "\n" + rows), self.columns(*self.NAMED))
        self.assertIn("12,000 new readings for 1 pack", text)
        self.assertEqual(packs.in_short(self.numbers["H1"], self.now).readings, packs.MOST_READINGS)
