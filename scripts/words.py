"""Every sentence that the program can show, one a line with its place: ``make words``.

Templates give their text and the attributes that are read aloud, with ``…`` for what is filled in; Python gives its string
literals that read like a text, docstrings and what no pilot meets (queries, patterns, addresses, log lines) apart.
"""

import ast
import re
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from selectolax.lexbor import LexborHTMLParser

ROOT = Path(__file__).parent.parent
CODE = ROOT / "walkround"
GAP, BREAK = "…", "¦"
"""What stands for a value that is filled in, and where a condition parts a text."""
SPOKEN = ("alt", "aria-label", "title", "placeholder", "data-confirm")
SILENT_FOLDERS = ("store/migrations", "store/upgrade", "core/checklist/migrations")
SILENT_FILES = ("store/turns.py", "web/security.py", "__main__.py")
SILENT_CALLS = frozenset({"execute", "execute_sql", "compile", "debug", "info", "warning", "error", "exception", "SQL", "sql",
                          "fromisoformat", "strftime", "strptime", "isoformat", "getLogger", "add_middleware"})  # fmt: skip
NO_TEXT = re.compile(
    r"^(SELECT|INSERT|UPDATE|DELETE|CREATE|ALTER|DROP|PRAGMA|ATTACH|VACUUM|BEGIN|SAVEPOINT|r\.|\(|max-age|default-src|attachment)\b"
)
MARKUP = re.compile(r"[<>{}\\|^$]{2}|\(\?|\\[dswb]|//|[a-z]_[a-z]|text/|;base64|^#|\\n|^[MLHVCAZ]\s?-?\d")
PAIR = re.compile(r"[A-Za-z’']{2,}[,:;.…]?\s+[A-Za-z0-9{“(…]")


@dataclass(frozen=True, slots=True)
class Said:
    """A text that the program can show: its file, its line, whether it is a whole sentence or a label, its words."""

    path: str
    line: int
    text: str

    @property
    def place(self) -> str:
        """File and line."""
        return f"{self.path}:{self.line}"


def _plain(text: str) -> str:
    return re.sub(r"\s+", " ", text).strip()


def _of_node(node: ast.AST) -> str | None:
    """The text of a literal, an f-string or literals added up; None for other things."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return node.value
    if isinstance(node, ast.JoinedStr):
        return "".join(str(v.value) if isinstance(v, ast.Constant) else GAP for v in node.values)
    return None


def _silent(tree: ast.Module) -> set[int]:
    """Nodes that no pilot meets: docstrings, queries, patterns, log lines, annotations, keys and what is compared."""
    found: set[int] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
            for statement in node.body:
                if isinstance(statement, ast.Expr) and isinstance(statement.value, ast.Constant):
                    found.add(id(statement.value))
        if isinstance(node, ast.Call):
            name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
            if name in SILENT_CALLS:
                found |= {id(inner) for argument in node.args for inner in ast.walk(argument)}
        if isinstance(node, ast.Assert):
            found |= {id(inner) for inner in ast.walk(node)}
        if isinstance(node, ast.AnnAssign):
            found |= {id(inner) for inner in ast.walk(node.annotation)}
        if isinstance(node, ast.JoinedStr):
            found |= {id(inner) for value in node.values for inner in ast.walk(value)}
    return found


def python_texts(path: Path) -> Iterator[Said]:
    """Texts of a module."""
    tree = ast.parse(path.read_text())
    silent = _silent(tree)
    name = path.relative_to(ROOT).as_posix()
    for node in ast.walk(tree):
        text = _of_node(node)
        if text is None or id(node) in silent or NO_TEXT.match(text.strip()) or MARKUP.search(text):
            continue
        text = _plain(re.sub(r"\{\w+\}", GAP, text))
        if PAIR.search(text):
            yield Said(name, node.lineno, text)


def template_texts(path: Path) -> Iterator[Said]:
    """Texts of a template: what stands between its tags, and what is read aloud."""
    name = path.relative_to(ROOT).as_posix()
    source = re.sub(r"\{#.*?#\}", "", path.read_text(), flags=re.DOTALL)
    literals = re.findall(r"\{[{%].*?[%}]\}", source, flags=re.DOTALL)
    for block in literals:
        for literal in re.findall(r"'([^'{}]*)'|\"([^\"{}]*)\"", block):
            text = _plain("".join(literal))
            if PAIR.search(text) and not MARKUP.search(text):
                yield Said(name, _line(source, text), text)
    bare = re.sub(r"\{%-?\s*(?:if|else|elif|endif|for|endfor|macro)\b.*?%\}", BREAK, source, flags=re.DOTALL)
    bare = re.sub(r"\{\{.*?\}\}", GAP, re.sub(r"\{%.*?%\}", "", bare, flags=re.DOTALL), flags=re.DOTALL)
    tree = LexborHTMLParser(f"<body>{bare}</body>")
    for node in tree.css("script, style"):
        node.decompose()
    for node in tree.css("*"):
        for attribute in SPOKEN:
            text = _plain((node.attributes.get(attribute) or "").replace(BREAK, " "))
            if text and PAIR.search(text):
                yield Said(name, _line(source, text), text)
        if node.tag in (
            "p",
            "h1",
            "h2",
            "h3",
            "h4",
            "li",
            "td",
            "th",
            "button",
            "label",
            "legend",
            "a",
            "summary",
            "dt",
            "dd",
            "span",
            "div",
            "b",
            "strong",
            "figcaption",
            "option",
            "text",
            "small",
            "em",
            "caption",
        ):
            yield from _own_texts(node, name, source)


INLINE = {"b", "strong", "em", "i", "a", "small", "code", "span", "br", "time"}


def _own_texts(node: object, name: str, source: str) -> Iterator[Said]:
    """What an element says itself, with the inline elements in it."""
    if (
        node.tag in INLINE
        and node.parent is not None
        and node.parent.tag not in ("body", "div", "nav", "td", "section", "form")
    ):  # type: ignore[attr-defined]
        return
    parts = [""]
    child = node.child  # type: ignore[attr-defined]
    while child is not None:
        if child.tag == "-text":
            parts[-1] += child.text(deep=False)
        elif child.tag in INLINE:
            parts[-1] += child.text()
        else:
            parts.append("")
        child = child.next
    for part in parts:
        for branch in part.split(BREAK):
            text = _plain(branch)
            if re.search(r"[A-Za-z]{3}", text):
                yield Said(name, _line(source, text), text)


def _line(source: str, text: str) -> int:
    """The line where a text begins, by its longest run of words."""
    longest = max(re.split(rf"[{GAP}\"]", text), key=len).strip()
    at = re.search(r"\s+".join(map(re.escape, longest.split()[:4])), source) if longest else None
    return source.count("\n", 0, at.start()) + 1 if at else 1


def texts() -> list[Said]:
    """Every text that the program can show, each once a file."""
    found: dict[tuple[str, str], Said] = {}
    for path in sorted(CODE.rglob("*")):
        inside = path.relative_to(CODE).as_posix()
        if "vendor" in path.parts or inside.startswith(SILENT_FOLDERS) or inside in SILENT_FILES:
            continue
        kinds = {".py": python_texts, ".html": template_texts}
        for said in kinds[path.suffix](path) if path.suffix in kinds else ():
            found.setdefault((said.path, said.text), said)
    return sorted(found.values(), key=lambda said: (said.path, said.line))


def sentences(text: str) -> list[str]:
    """The sentences of a text."""
    return [part for part in re.split(r"(?<=[.!?])\s+(?=[A-Z“…])", text) if part]


def main() -> None:
    """Print them, or so many chosen at random: ``make words ARGS="60 7"`` (how many, seed)."""
    import random  # noqa: PLC0415

    all_of_it = [(said.place, sentence) for said in texts() for sentence in sentences(said.text)]
    if len(sys.argv) > 1:
        seed = int(sys.argv[2]) if len(sys.argv) > 2 else None
        all_of_it = random.Random(seed).sample(all_of_it, int(sys.argv[1]))
    for place, sentence in all_of_it:
        print(f"{place}\t{sentence}")
    print(f"{len(all_of_it)} sentences", file=sys.stderr)


if __name__ == "__main__":
    main()
