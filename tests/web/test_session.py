"""The energy of the session on its page."""

from tests.support import WebCase, elements, plain


class Session(WebCase):
    def test_an_old_charge_is_not_today_s(self) -> None:
        text = plain(self.client.get("/session").text)
        self.assertIn("Transmitter: its charge is not known. Enter it below.", text)
        self.assertIn("may run out first", text)

    def test_charges_are_kept_and_counted(self) -> None:
        sent = {"charge_TRANSMITTER": "3/4", "charge_SCREEN": "96"}
        self.assertEqual(self.client.post("/session?flights=2", data=sent).status_code, 303)
        page = self.client.get("/session?flights=2").text
        self.assertIn("09:40: 50 to 75 %.", plain(page))
        self.assertNotIn("its charge is not known", plain(page))
        self.assertEqual(len(elements(page, ".session-drawn .flight")), 2)
        more = plain(self.client.get("/session?flights=20&between=60&bright=1").text)
        self.assertRegex(more, r"Phone or tablet: short by \d+ %")

    def test_mistakes_keep_what_was_typed(self) -> None:
        answer = self.client.post("/session", data={"charge_TRANSMITTER": "many", "charge_SCREEN": "90"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Enter a charge such as 80, or 3/4", plain(answer.text))
        self.assertTrue(elements(answer.text, 'input[name=charge_SCREEN][value="90"]'))
        self.assertIn("between", plain(self.client.get("/session?flights=99").text))
