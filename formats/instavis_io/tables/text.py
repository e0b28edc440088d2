"""From bytes to rows: encoding, delimiter, rows, one at a time so that memory does not grow with the file."""

from __future__ import annotations

import codecs
import contextlib
import csv
import io
from collections.abc import Iterator
from typing import BinaryIO

from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_io.tables.problems import TableErrors

ENCODINGS = ("utf-8-sig", "utf-16", "cp1252")
DELIMITERS = (",", ";", "\t", "|")
SAMPLE_BYTES = 64 * 1024
LONGEST_CELL = 2000
MAX_COLUMNS = 200


def sniff_encoding(sample: bytes) -> str:
    """Guess the encoding of a sample: by its byte order mark, otherwise UTF-8 if valid, otherwise Western Windows."""
    if sample.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "utf-16"
    if b"\0" in sample:
        raise TableErrors(
            [InputError("file", Message("found-zero-byte"), Message("files-text-table-not-binary-file"), 1)]
        )
    try:
        # A sample may end in the middle of a character, which is not an error.
        codecs.getincrementaldecoder("utf-8-sig")().decode(sample, final=False)
    except UnicodeDecodeError:
        return "cp1252"
    return "utf-8-sig"


def sniff_delimiter(lines: list[str]) -> str:
    """Return the delimiter that splits most lines into the same, largest number of cells."""

    def score(delimiter: str) -> tuple[int, int]:
        try:
            counts = [len(row) for row in csv.reader(lines, delimiter=delimiter) if row]
        except csv.Error:  # the reader of the rows reports the error
            return 0, 0
        wide = [c for c in counts if c > 1]
        if not wide:
            return 0, 0
        usual = max(set(wide), key=wide.count)
        return wide.count(usual), usual

    return max(DELIMITERS, key=score)


def rows_of(file: BinaryIO, encoding: str, delimiter: str) -> Iterator[tuple[int, list[str]]]:
    """Yield line number (1-based) and stripped cells of every non-empty row.

    Raises
    ------
    TableErrors
        For bytes that are not the encoding, malformed CSV, or absurd sizes.
    """
    file.seek(0)
    text = io.TextIOWrapper(file, encoding=encoding, newline="")
    reader = csv.reader(text, delimiter=delimiter)
    try:
        for row in reader:
            if len(row) > MAX_COLUMNS:
                raise TableErrors(
                    [
                        InputError(
                            "row",
                            Message("found-cells", n=len(row)),
                            Message("common-most", most=MAX_COLUMNS),
                            reader.line_num,
                        )
                    ]
                )
            cells = [cell.strip() for cell in row]
            if cells and max(map(len, cells)) > LONGEST_CELL:
                raise TableErrors(
                    [
                        InputError(
                            "cell",
                            Message("found-longer-cell"),
                            Message("files-most-characters", longest=LONGEST_CELL),
                            reader.line_num,
                        )
                    ]
                )
            if any(cells):
                yield reader.line_num, cells
    except UnicodeError as error:
        raise TableErrors(
            [InputError("file", str(error), Message("files-text", encoding=encoding), reader.line_num + 1)]
        ) from None
    except csv.Error as error:
        raise TableErrors(
            [InputError("file", str(error), Message("common-well-formed-csv-table"), reader.line_num)]
        ) from None
    finally:
        with contextlib.suppress(ValueError):  # a reader that stopped early may have closed the file
            text.detach()
