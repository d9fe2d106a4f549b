"""Mistakes and faults are said in words."""

import logging

from fastapi.testclient import TestClient

from tests.support import WebCase, elements, plain


class Errors(WebCase):
    def test_not_found_is_friendly(self) -> None:
        answer = self.client.get("/no/such/page")
        self.assertEqual(answer.status_code, 404)
        self.assertIn("There is no such page", plain(answer.text))
        self.assertEqual(self.client.get("/rounds").status_code, 405)

    def test_a_fault_of_ours_is_a_quiet_page_and_a_loud_log(self) -> None:
        client = TestClient(self.app, base_url="http://127.0.0.1", raise_server_exceptions=False)
        self.app.state.ctx.clock = lambda: 1 / 0
        with self.assertLogs("walkround", logging.ERROR) as log:
            answer = client.get("/")
        self.assertEqual(answer.status_code, 500)
        self.assertIn("Something went wrong on the server. What was shown as saved is saved.", plain(answer.text))
        for leak in ("ZeroDivisionError", "Traceback", "walkround/"):
            self.assertNotIn(leak, answer.text)
        self.assertIn("ZeroDivisionError", log.output[0])

    def test_fragments_get_a_notice(self) -> None:
        answer = self.client.get("/rounds/999", headers={"HX-Request": "true"})
        self.assertEqual((answer.status_code, answer.headers["HX-Retarget"]), (404, "#notices"))
        self.assertTrue(elements(answer.text, "[role=alert]"))
