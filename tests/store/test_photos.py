"""Photos of snags: read, turned upright, made smaller, encoded anew; what is no photo is refused in words."""

import io
from unittest import mock

from PIL import Image

from tests.support import BookCase
from walkround.core.base.errors import InputError, MissingError
from walkround.core.checklist.history import SnagOn
from walkround.store import snags
from walkround.store.photos import LONGEST_SIDE, MAX_BYTES, _webp_size, read_photo


def photo(kind: str = "JPEG", size: tuple[int, int] = (640, 480), mode: str = "RGB", **options: object) -> bytes:
    kept = io.BytesIO()
    Image.new(mode, size, (200, 40, 40, 128)[: len(mode)]).save(kept, kind, **options)
    return kept.getvalue()


class Photos(BookCase):
    def test_three_formats_become_jpeg(self) -> None:
        for kind in ("JPEG", "PNG", "WEBP"):
            kept = read_photo(photo(kind))
            with Image.open(io.BytesIO(kept.jpeg)) as image:
                self.assertEqual((image.format, image.size), ("JPEG", (640, 480)), kind)

    def test_a_large_one_is_made_smaller(self) -> None:
        kept = read_photo(photo(size=(4000, 3000)))
        self.assertEqual((kept.width, kept.height), (LONGEST_SIDE, 1200))
        self.assertLess(len(kept.jpeg), 400_000)

    def test_the_camera_s_own_notes_are_dropped_and_it_stands_upright(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6  # orientation: turned by a quarter
        exif[0x010F] = "maker of the camera"
        kept = read_photo(photo(size=(640, 480), exif=exif))
        self.assertEqual((kept.width, kept.height), (480, 640))
        with Image.open(io.BytesIO(kept.jpeg)) as image:
            self.assertEqual(dict(image.getexif()), {})
        self.assertNotIn(b"maker of the camera", kept.jpeg)

    def test_a_comment_and_a_colour_profile_are_dropped_too(self) -> None:
        kept = read_photo(photo(comment=b"taken at home, 48.2 N", icc_profile=b"profile of a screen" * 9))
        for word in (b"taken at home", b"profile of a screen"):
            self.assertNotIn(word, kept.jpeg)
        with Image.open(io.BytesIO(kept.jpeg)) as image:
            self.assertFalse({"comment", "icc_profile", "exif"} & set(image.info))

    def test_a_small_file_of_many_pixels_takes_no_memory(self) -> None:
        """WebP of a kilobyte for 18 million pixels: refused from its head alone (RFC 9649), nothing is decoded."""
        for mode in ("RGB", "RGBA"):
            bomb = photo("WEBP", (4200, 4200), mode, method=0)
            with mock.patch("PIL.Image.open", side_effect=AssertionError("decoded")), self.assertRaises(InputError):
                read_photo(bomb)
        with self.assertRaisesRegex(InputError, "10 million pixels. Send a smaller one, or a JPEG of up to 24 million"):
            read_photo(photo("PNG", (4200, 2400), "L"))
        self.assertEqual(
            read_photo(photo(size=(6000, 4000))).width, LONGEST_SIDE, "a phone's JPEG of 24 million passes"
        )
        self.assertEqual(read_photo(photo("WEBP", size=(1000, 700))).width, 1000)
        for lossless in (False, True):
            self.assertEqual(_webp_size(photo("WEBP", (641, 483), lossless=lossless)), (641, 483))
        self.assertEqual(_webp_size(photo("WEBP", (641, 483), "RGBA")), (641, 483))

    def test_transparency_becomes_paper(self) -> None:
        with Image.open(io.BytesIO(read_photo(photo("PNG", mode="RGBA")).jpeg)) as image:
            self.assertGreater(image.getpixel((5, 5))[1], 120)

    def test_what_is_no_photo(self) -> None:
        whole = photo(size=(900, 900), quality=95)
        rows = (
            ("text", b"this is a diary", "is not a photo"),
            ("a drawing", b"<svg xmlns='http://www.w3.org/2000/svg'/>", "is not a photo"),
            ("another kind of picture", photo("GIF", mode="L"), "is not a photo"),
            ("empty", b"", "is not a photo"),
            ("cut off", whole[: len(whole) // 3], "That photo is broken"),
            ("sixteen megabytes", b"\xff\xd8" + bytes(MAX_BYTES), "larger than 15 MB"),
            ("a bomb of pixels", photo("PNG", size=(9000, 8000), mode="L"), "million pixels"),
        )  # fmt: skip
        for name, data, words in rows:
            with self.subTest(name), self.assertRaisesRegex(InputError, words):
                read_photo(data)

    def test_kept_with_its_snag(self) -> None:
        number = snags.open_one(
            SnagOn.AIRCRAFT, self.numbers["Sandpiper"], "crack", grounds=True, at=self.now, photo=read_photo(photo())
        )
        self.assertTrue(snags.photo_of(number).startswith(b"\xff\xd8"))
        self.assertEqual(snags.with_photo(), {number})
        with self.assertRaisesRegex(MissingError, "has no photo"):
            snags.photo_of(1)
