"""Files to touch for each recipe in docs/contributing, as its page lists them; a file that is not there fails."""

import re

from bench.server import ROOT

PAGES = ROOT / "docs" / "contributing"
_LISTED = re.compile(r"^- `([^`]+)`$", re.MULTILINE)


class NotThere(RuntimeError):
    """A page names a file that there is not."""


def files_of(page: str) -> list[str]:
    """The files that a page lists under its head *Files*.

    Raises
    ------
    NotThere
        One of them does not exist, or there are none.
    """
    part = page.partition("## Files")[2].partition("\n## ")[0]
    files = _LISTED.findall(part)
    missing = [name for name in files if not (ROOT / name).exists()]
    if missing or not files:
        raise NotThere(f"{', '.join(missing) or 'no files'}")
    return files


def main() -> None:
    for path in sorted(PAGES.glob("*.md")):
        text = path.read_text()
        files = files_of(text)
        title = text.splitlines()[0].removeprefix("# ")
        print(f"{title:32}{len(files):3d} files: {', '.join(files)}")
