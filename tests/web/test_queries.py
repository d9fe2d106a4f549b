"""How many questions each page asks the book: pinned, so that a loop of queries shows at once."""

from tests.support import WebCase, plain

MOST = {
    "/": 25, "/hangar": 7, "/hangar/aircraft/1": 7, "/hangar/aircraft/new": 2, "/hangar/aircraft/1/bag": 3,
    "/hangar/aircraft/1/parts": 4, "/hangar/aircraft/1/card": 3, "/checks": 24, "/checks/airframe.shell": 24, "/methods": 24,
    "/rounds/1/card": 4, "/rounds/1/entry": 4, "/packs": 9,
    "/packs/1": 12, "/packs/1/read": 3, "/packs/charging": 7, "/endurance": 34, "/fields/1": 31, "/fields/1/airspace": 31, "/fields/1/brief": 26, "/fields/1/details": 3, "/snags": 7, "/logbook": 5, "/settings": 2,
    "/devices": 2, "/logbook.csv": 2, "/rounds/1": 4, "/rounds/1/verdict": 7, "/rounds/1/flight": 6,
}  # fmt: skip


class Pinned(WebCase):
    def count(self, path: str) -> int:
        asked: list[str] = []
        real = self.book.database.execute_sql

        def counting(sql, *args, **kwargs):  # type: ignore[no-untyped-def]
            asked.append(sql)
            return real(sql, *args, **kwargs)

        self.app.state.ctx.book.database.execute_sql = counting
        try:
            answer = self.client.get(path)
            self.assertLess(answer.status_code, 400, path)
            self.assertNotRegex(plain(answer.text), r"\{[a-z_]+\}", f"{path}: a number is missing in a sentence")
        finally:
            self.app.state.ctx.book.database.execute_sql = real
        self.assertGreater(len(asked), 0, path)
        return len(asked)

    def test_pages(self) -> None:
        for path, most in MOST.items():
            with self.subTest(path):
                self.assertLessEqual(self.count(path), most)

    def test_one_answer(self) -> None:
        number = self.start()
        asked: list[str] = []
        database = self.app.state.ctx.book.database
        real = database.execute_sql
        database.execute_sql = lambda sql, *a, **k: (asked.append(sql), real(sql, *a, **k))[1]
        self.answer(number, "airframe.shell", action="pass")
        self.assertLessEqual(len([s for s in asked if s.startswith("INSERT")]), 1)
        self.assertLessEqual(len(asked), 12)
