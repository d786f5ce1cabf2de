"""The ledger as a table of other programs: CSV, and sheets of two open formats through libraries."""

from __future__ import annotations

import csv
import io
from typing import Final

from odfdo import Document, Row, Table
from openpyxl import Workbook
from openpyxl.styles import Font

from ..core.judging import tidy
from ..core.words import safe_cell
from .lesson_views import LedgerCell, LedgerView

Cell = str | int | float | None
EXCUSED: Final = "excused"


def rows_of(view: LedgerView) -> list[list[Cell]]:
    """The head and a row for each student: marks by exercise, then the share of each concept in per cent.

    The teacher's own marks count; the computed ones stand beside them. Names are safe in any program of sheets.
    """
    concepts = [each.concept for each in view.concepts]
    head: list[Cell] = ["Student"]
    for each in view.rounds:
        head += [safe_cell(f"{each.title} (of {tidy(each.out_of)})"), safe_cell(f"{each.title}, computed")]
    head += [safe_cell(f"{name}, %") for name in concepts]
    table = [head]
    for student in view.students:
        row: list[Cell] = [safe_cell(student.name)]
        for cell, of in zip(student.cells, view.rounds, strict=True):
            row += [
                _at(_counts(cell), cell, of.out_of),
                _at(tidy(cell.marks), cell, of.out_of) if cell.marks is not None else None,
            ]
        table.append([*row, *(_percent(student.cells, name) for name in concepts)])
    return table


def _at(counts: Cell, cell: LedgerCell, out_of: float) -> Cell:
    """Marks; where the student's level has other marks in all, with those."""
    if isinstance(counts, str) or counts is None or cell.out_of in (None, out_of):
        return counts
    return f"{counts:g} of {tidy(cell.out_of or 0):g}"


def _counts(cell: LedgerCell) -> Cell:
    marks = cell.own_marks if cell.own_marks is not None else cell.marks
    if marks is None:
        return EXCUSED if cell.excused else None
    return tidy(marks)


def _percent(cells: list[LedgerCell], concept: str) -> Cell:
    parts = [cell.by_concept[concept] for cell in cells if concept in cell.by_concept]
    out_of = sum(float(part.out_of) for part in parts)
    return round(100 * sum(float(part.marks) for part in parts) / out_of) if out_of else None


def as_csv(view: LedgerView) -> bytes:
    """The table as CSV, with a mark at its head that tells programs of sheets that it is UTF-8."""
    text = io.StringIO()
    csv.writer(text).writerows(rows_of(view))
    return text.getvalue().encode("utf-8-sig")


def as_xlsx(view: LedgerView) -> bytes:
    """The table as an XLSX file."""
    book = Workbook()
    sheet = book.active
    assert sheet is not None  # a new book has one
    sheet.title = "Ledger"
    for row in rows_of(view):
        sheet.append(row)
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    sheet.freeze_panes = "B2"
    packed = io.BytesIO()
    book.save(packed)
    return packed.getvalue()


def as_ods(view: LedgerView) -> bytes:
    """The table as an ODS file."""
    document = Document("spreadsheet")
    document.body.clear()
    table = Table("Ledger")
    for values in rows_of(view):
        row = Row()
        row.set_values(["" if value is None else value for value in values])
        table.append_row(row)
    document.body.append(table)
    packed = io.BytesIO()
    document.save(packed)
    return packed.getvalue()
