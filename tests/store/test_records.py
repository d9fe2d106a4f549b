"""Records as they were frozen: one reading is kept, and a change from outside is noticed all the same."""

from tests.store.test_rounds import RoundCase
from walkround.core.base.errors import InputError, MissingError
from walkround.store import records, rounds
from walkround.store.models import RecordRow


class Records(RoundCase):
    def setUp(self) -> None:
        super().setUp()
        self.walk()
        self.signed = self.sign()

    def test_read_once_and_the_same_as_signed(self) -> None:
        first = records.record_of(self.round)
        self.assertEqual(first, self.signed)
        self.assertIs(records.record_of(self.round), first)
        self.assertEqual(records.record_text(self.round)[0], first.canonical())

    def test_a_change_from_outside_is_noticed_after_it_was_read(self) -> None:
        text, _ = records.record_text(self.round)
        records.record_of(self.round)
        self.assertIn("Tamsin", text)
        self.book.database.execute_sql("DROP TRIGGER record_is_frozen")
        RecordRow.update(text=text.replace("Tamsin", "Thomas")).where(RecordRow.round == self.round).execute()
        with self.assertRaises(InputError):
            records.record_of(self.round)

    def test_what_is_not_signed_has_none(self) -> None:
        later = self.begin()
        for reader in (records.record_of, records.record_text):
            with self.assertRaises(MissingError):
                reader(later)
        self.assertFalse(rounds.load(later, self.settings, self.now).signed)
