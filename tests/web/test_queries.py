"""How many questions each page asks the book: pinned, so that a loop of queries shows at once."""

from starlette.testclient import TestClient

from tests.support import HEADERS, WebCase, plain
from walkround.web.catalogue import PAGES

FILES = {"/logbook.csv": 2, "/rounds/1": 4}
"""Besides the pages: a file, and a signed walk."""


class Pinned(WebCase):
    def forgetful(self) -> TestClient:
        """A client whose every question comes from a connection that knows nothing yet."""
        return TestClient(self.app, base_url="http://127.0.0.1", headers=HEADERS, follow_redirects=False)

    def count(self, path: str) -> int:
        asked: list[str] = []
        real = self.book.database.execute_sql

        def counting(sql, *args, **kwargs):  # type: ignore[no-untyped-def]
            asked.append(sql)
            return real(sql, *args, **kwargs)

        self.app.state.ctx.book.database.execute_sql = counting
        try:
            answer = self.forgetful().get(path)
            self.assertLess(answer.status_code, 400, path)
            self.assertNotRegex(plain(answer.text), r"\{[a-z_]+\}", f"{path}: a number is missing in a sentence")
        finally:
            self.app.state.ctx.book.database.execute_sql = real
        self.assertGreater(len(asked), 0, path)
        return len(asked)

    def test_pages(self) -> None:
        number = self.start()
        pages = {p.examples[0].replace("{round}", f"/rounds/{number}"): p.queries for p in PAGES if p.queries}
        self.assertGreater(len(pages), 30)
        for path, most in (pages | FILES).items():
            with self.subTest(path):
                self.assertLessEqual(self.count(path), most)

    def test_every_page_is_counted(self) -> None:
        """Only what asks the book nothing, or has no example, is left out."""
        self.assertEqual(
            {p.template for p in PAGES if not p.queries}, {"tables/table.html", "sign_in/page.html", "error.html"}
        )

    def test_one_answer(self) -> None:
        number = self.start()
        asked: list[str] = []
        database = self.app.state.ctx.book.database
        real = database.execute_sql
        database.execute_sql = lambda sql, *a, **k: (asked.append(sql), real(sql, *a, **k))[1]
        self.answer(number, "airframe.shell", action="pass")
        self.assertLessEqual(len([s for s in asked if s.startswith("INSERT")]), 1)
        self.assertLessEqual(len(asked), 13)
