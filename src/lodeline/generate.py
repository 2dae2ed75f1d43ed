"""What is generated and committed: API contract, JSON Schema, TypeScript client and catalogue, table of figures."""

import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory

from lodeline.api.catalogue import as_typescript, fields_as_typescript
from lodeline.api.contract import contract
from lodeline.api.notation import cases, words_as_typescript
from lodeline.formats.logbook import json_schema
from lodeline.text.figures import as_markdown

ROOT = Path(__file__).resolve().parents[2]
_WEB = ROOT / "web"
_CONTRACT, _SHEETS = ROOT / "docs" / "openapi.json", ROOT / "docs" / "method" / "figures.md"
_CLIENT = _WEB / "src" / "api" / "schema.generated.ts"
_NOTATION = _WEB / "src" / "notation"
_FIGURES, _END_OF_FIGURES = "<!-- figures: written by ./lodeline generate -->", "<!-- end of figures -->"


def run(check: bool) -> int:
    """Write every generated file, or with ``check`` only say which are out of date."""
    files = _files()
    if not check:
        for path, text in files.items():
            path.parent.mkdir(exist_ok=True)
            path.write_text(text)
        return _client(_CLIENT)
    stale = [path for path, text in files.items() if not path.is_file() or path.read_text() != text]
    if _client_is_stale():
        stale.append(_CLIENT)
    for path in stale:
        print(f"{path.relative_to(ROOT)} is out of date: run ./lodeline generate", file=sys.stderr)
    return 1 if stale else 0


def _files() -> dict[Path, str]:
    before, _, rest = _SHEETS.read_text().partition(_FIGURES)
    after = rest.partition(_END_OF_FIGURES)[2]
    return {
        _CONTRACT: contract(),
        ROOT / "docs" / "logbook.schema.json": json_schema(),
        _WEB / "src" / "api" / "catalogue.generated.ts": as_typescript(),
        _WEB / "src" / "forms" / "fields.generated.ts": fields_as_typescript(),
        _NOTATION / "words.generated.ts": words_as_typescript(),
        _NOTATION / "cases.generated.json": cases(),
        _SHEETS: f"{before}{_FIGURES}\n{as_markdown()}\n{_END_OF_FIGURES}{after}",
    }


def _client(path: Path) -> int:
    command = ["npm", "run", "--silent", "client", "--", str(_CONTRACT), "-o", str(path)]
    return subprocess.call(command, cwd=_WEB, stdout=subprocess.DEVNULL)


def _client_is_stale() -> bool:
    with TemporaryDirectory() as folder:
        fresh = Path(folder) / "client.ts"
        return bool(_client(fresh)) or not _CLIENT.is_file() or fresh.read_text() != _CLIENT.read_text()
