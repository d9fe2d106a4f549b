"""Accident or near miss on the pages: act first, then the record, then who has to be told."""

import io

from PIL import Image

from tests.support import WebCase, elements, plain
from walkround.store import settings as store_settings
from walkround.store import snags


class Reported(WebCase):
    def send(self, **form: str):  # type: ignore[no-untyped-def]
        given = {
            "kind": "crash, nobody hurt", "aircraft": str(self.numbers["Sandpiper"]), "site": str(self.numbers["Teasel Common"]),
            "at": "2026-05-16T09:30", "what": "Hit the pear tree.", "witnesses": "Wren",
        }  # fmt: skip
        return self.client.post("/accident", data=given | form)

    def test_what_to_do_stands_before_what_to_write(self) -> None:
        page = self.client.get("/accident").text
        order = [node.text() for node in elements(page, "h1, h2")]
        self.assertEqual(order[0], "Accident or near miss: act first")
        self.assertLess(order.index("Words for the call from Teasel Common"), order.index("Then write it down"))
        self.assertEqual([b.text() for b in elements(page, ".act b")][:2], ["Stop it.", "The person first."])

    def test_one_tap_from_today_and_from_the_flight(self) -> None:
        self.assertTrue(elements(self.client.get("/").text, 'a[href="/accident"]'))
        number = self.signed()
        self.assertTrue(elements(self.client.get(f"/rounds/{number}/flight").text, 'a[href^="/accident"]'))

    def test_written_down_it_grounds_the_aircraft_and_says_whom_to_tell(self) -> None:
        store_settings.save(region="eu-open")
        answer = self.send(kind="somebody was hurt")
        self.assertEqual(answer.status_code, 303)
        page = plain(self.client.get(answer.headers["location"]).text)
        for words in (
            "Somebody was hurt",
            "Sandpiper",
            "Hit the pear tree.",
            "Wren",
            "Emergency services",
            "Within 72 hours",
            "from memory",
        ):
            self.assertIn(words.casefold(), page.casefold())
        self.assertTrue(
            any(s.title == "Somebody was hurt: Hit the pear tree." for s in snags.open_ones(self.numbers["Sandpiper"]))
        )
        self.assertIn("Hit the pear tree.", plain(self.client.get("/accident").text))

    def test_mistakes_keep_what_was_typed(self) -> None:
        rows = (
            ({"what": ""}, "What happened: enter a few words"), ({"at": "soon"}, "Enter day and time"),
            ({"at": "2027-05-16T09:30"}, "has not come yet"), ({"kind": "frogs"}, "choose one"), ({"aircraft": "999"}, "There is no"),
        )  # fmt: skip
        for form, words in rows:
            with self.subTest(form):
                answer = self.send(**form)
                self.assertIn(answer.status_code, (404, 422))
                self.assertIn(words, plain(answer.text))
                if "witnesses" not in form and answer.status_code == 422:
                    self.assertTrue(elements(answer.text, 'input[name=witnesses][value="Wren"]'))
        self.assertEqual(self.client.get("/accident/999").status_code, 404)

    def test_photos_come_along_and_later(self) -> None:
        kept = io.BytesIO()
        Image.new("RGB", (40, 30), "green").save(kept, "JPEG")
        form = {
            "kind": "near miss", "aircraft": str(self.numbers["Sandpiper"]), "site": str(self.numbers["Teasel Common"]),
            "at": "2026-05-16T09:30", "what": "Close to a kite.",
        }  # fmt: skip
        two = [("photo", (f"{n}.jpg", io.BytesIO(kept.getvalue()))) for n in range(2)]
        answer = self.client.post("/accident", data=form, files=two)
        where = answer.headers["location"]
        self.assertEqual(len(elements(self.client.get(where).text, ".report-photos img")), 2)
        more = self.client.post(f"{where}/photos", files={"photo": ("c.jpg", io.BytesIO(kept.getvalue()))})
        self.assertEqual(more.status_code, 303)
        shown = elements(self.client.get(where).text, ".report-photos img")
        self.assertEqual(len(shown), 3)
        picture = self.client.get(str(shown[2].attributes["src"]))
        self.assertEqual((picture.status_code, picture.headers["content-type"]), (200, "image/jpeg"))
        bad = self.client.post(f"{where}/photos", files={"photo": ("c.jpg", io.BytesIO(b"no photo"))})
        self.assertIn("That file is not a photo", plain(bad.text))
        self.assertIn("Choose a photo.", plain(self.client.post(f"{where}/photos").text))
