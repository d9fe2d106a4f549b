"""Labels of packs that are alike: "12 like this one"."""

import re
from collections.abc import Collection

from walkround.core.base.errors import InputError

MOST_ALIKE, LABEL_CHARS = 30, 20


def labels_on(label: str, many: int, taken: Collection[str]) -> tuple[str, ...]:
    """So many labels that go on from this one and are free: S1 gives S1, S2, S3; one without a number is counted from 1.

    Source: counting. Raises InputError for a number that cannot be, and for labels that grow too long.
    """
    if not 1 <= many <= MOST_ALIKE:
        raise InputError(f"Add 1 to {MOST_ALIKE} packs at a time.", "many")
    found = re.fullmatch(r"(.*?)(\d*)", label.strip())
    assert found is not None
    stem, digits = found.groups()
    number, width, labels = int(digits or 1), len(digits), list[str]()
    while len(labels) < many:
        text = f"{stem}{number:0{width}d}"
        if len(text) > LABEL_CHARS:
            raise InputError(f"“{text}” is longer than {LABEL_CHARS} characters.", "label")
        if text not in taken:
            labels.append(text)
        number += 1
    return tuple(labels)
