"""Everything leaves in open formats."""

import csv
import io
import json

from tests.support import BookCase
from walkround.store import export
from walkround.store.models import RecordRow


class Export(BookCase):
    def test_everything_in_open_formats(self) -> None:
        target = self.folder / "out"
        self.assertEqual(export.write_everything(target), 1)
        number = RecordRow.select().first().round_id
        record = json.loads((target / f"walk-round-{number}.json").read_text())
        self.assertEqual(record["format"], "walk-round-record/4")
        rows = list(csv.DictReader(io.StringIO((target / "logbook.csv").read_text())))
        self.assertEqual(len(rows), 10)
        self.assertEqual(tuple(rows[0]), export.COLUMNS)
        self.assertEqual(
            (rows[0]["aircraft"], rows[0]["minutes"], rows[0]["left_percent"]), ("Sandpiper", "10.1", "53")
        )

    def test_texts_a_spreadsheet_would_run(self) -> None:
        self.assertEqual(export.safe("=1+1"), "'=1+1")
        self.assertEqual(export.safe("plain"), "plain")
