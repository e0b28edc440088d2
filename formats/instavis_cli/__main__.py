"""`python -m instavis_cli VERB`: fly, read, cause, prove and simulate without a server."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator
from typing import IO, Any

from instavis_cli import simulation
from instavis_core.errors import InputError
from instavis_core.message import Message, plain
from instavis_io.documents import VERBS, answer_of
from instavis_report.catalog import english

BAD_INPUT = 2
LONGEST_LINE = 64 * 1024 * 1024


def main(arguments: list[str] | None = None) -> int:
    """Run a verb; return 0, or 2 if a line could not be answered."""
    options = _parser().parse_args(arguments)
    try:
        if options.verb == "simulate":
            return simulation.run(options)
        return answer_stream(options.verb, sys.stdin, sys.stdout)
    except BrokenPipeError:
        sys.stderr.close()
        return 0


def answer_stream(verb: str, source: IO[str], sink: IO[str]) -> int:
    """Answer every document of ``source`` with one line on ``sink``, in order."""
    status, answer_one = 0, answer_of(verb)
    for line, document in _documents(source):
        try:
            if isinstance(document, InputError):
                raise document
            if not isinstance(document, dict):
                raise InputError("document", document, Message("files-json-object"))
            answer = answer_one(document)
        except InputError as error:
            status = BAD_INPUT
            answer = {"error": {"line": line, "field": error.field, "message": english(error.message)}}
        sink.write(json.dumps(answer, ensure_ascii=False, allow_nan=False) + "\n")
        sink.flush()
    return status


def _documents(source: IO[str]) -> Iterator[tuple[int, Any]]:
    """Yield line number and document: one per line, or one document over many lines."""
    first = True
    for number, line in enumerate(source, start=1):
        if not line.strip():
            continue
        document = _parse(line)
        if first and isinstance(document, InputError):
            rest = source.read()
            parsed = _parse(line + rest) if rest.strip() else document
            if not isinstance(parsed, InputError):
                yield number, parsed
                return
            yield number, document
            for later, text in enumerate(rest.splitlines(), start=number + 1):
                if text.strip():
                    yield later, _parse(text)
            return
        first = False
        yield number, document


def _parse(text: str) -> Any:
    if len(text) > LONGEST_LINE:
        return InputError(
            "document", Message("found-text", n=len(text)), Message("files-most-characters", longest=LONGEST_LINE)
        )
    try:
        return json.loads(text, parse_constant=_refuse_constant)
    except InputError as error:
        return error
    except (json.JSONDecodeError, RecursionError) as error:
        return InputError("document", text.strip()[:40], Message("files-valid-json", problem=plain(str(error))))


def _refuse_constant(name: str) -> None:
    raise InputError("document", name, Message("common-finite-number"))


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="instavis", description="The core of Instavis on standard input and output.")
    verbs = parser.add_subparsers(dest="verb", required=True)
    for verb, result in VERBS.items():
        verbs.add_parser(verb, help=result, description=result)
    simulation.add_options(verbs.add_parser("simulate", help=simulation.NUMBERS, description=simulation.NUMBERS))
    return parser


if __name__ == "__main__":
    sys.exit(main())
