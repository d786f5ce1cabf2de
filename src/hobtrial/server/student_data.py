"""All of a student's data as one zip: every try as the file that it was, and what was said of it as JSON."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

from ..core.words import clean
from ..store import Everything
from ..store.store import Row


def student_zip(student: Row, all_: Everything) -> bytes:
    """The zip of all that is kept of a student."""
    guesses: dict[int, list[dict[str, Any]]] = {}
    for each in all_.predictions:
        guesses.setdefault(each["submission_id"], []).append(
            {"scenario": each["scenario"], "guesses": each["guesses"], "made_at": each["made_at"].isoformat()}
        )
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        told = []
        for row in all_.tries:
            file = f"tries/{row['id']}.py"
            archive.writestr(file, bytes(row["source"]))
            told.append(
                {
                    "exercise": row["title"],
                    "version": row["version"],
                    "class": row["class"],
                    "number": row["number"],
                    "handed_in_as": row["file_name"],
                    "handed_in_at": row["handed_in_at"].isoformat(),
                    "file": file,
                    "marks": row["marks"],
                    "out_of": row["out_of"],
                    "teacher": {"marks": row["own_marks"], "comment": row["comment"], "by": row["marked_by"]},
                    "predictions": guesses.get(row["id"], []),
                    "report": row["report"],
                }
            )
        desks = []
        for number, row in enumerate(all_.desks, 1):
            file = f"desk/{number}.py"
            archive.writestr(file, bytes(row["source"]))
            told_of = {"exercise": row["title"], "class": row["class"], "what": row["what"]}
            desks.append({**told_of, "at": row["at"].isoformat(), "file": file, "report": row["report"]})
        asked = [{**row, "at": row["at"].isoformat()} for row in all_.asked]
        levels = {"level": student["level"], "levels_in_rounds": student["levels_in_rounds"]}
        whole = {"name": student["name"], "class": student["class"], **levels, "tries": told, "desk": desks}
        whole["asked"] = asked
        archive.writestr("student.json", json.dumps(clean(whole), indent=1, ensure_ascii=False, default=float))
    return packed.getvalue()
