"""Class lists of other systems. The files are made from the standard's own tables of columns."""

import csv
import io
import unittest

from hobtrial.core.oneroster import COLUMNS, LineItem, Result, names_for, read_lists, write_results
from hobtrial.core.words import UsageError

USERS = (
    "sourcedId", "status", "dateLastModified", "enabledUser", "username", "userIds", "givenName", "familyName",
    "middleName", "identifier", "email", "sms", "phone", "agentSourcedIds", "grades", "password",
    "userMasterIdentifier", "resourceSourcedIds", "preferredGivenName", "preferredMiddleName", "preferredFamilyName",
    "primaryOrgSourcedId", "pronouns",
)  # fmt: skip
CLASSES = (
    "sourcedId", "status", "dateLastModified", "title", "grades", "courseSourcedId", "classCode", "classType",
    "location", "schoolSourcedId", "termSourcedIds", "subjects", "subjectCodes", "periods",
)  # fmt: skip
ENROLLMENTS = (
    "sourcedId", "status", "dateLastModified", "classSourcedId", "schoolSourcedId", "userSourcedId", "role",
    "primary", "beginDate", "endDate",
)  # fmt: skip


def table(columns: tuple[str, ...], *rows: dict[str, str]) -> bytes:
    """A file with these columns; cells that a row does not name are empty."""
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, restval="")
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue().encode()


def user(number: str, given: str, family: str = "", **more: str) -> dict[str, str]:
    return {"sourcedId": number, "enabledUser": "true", "givenName": given, "familyName": family, **more}


def inside(number: str, class_: str = "c1", role: str = "student", **more: str) -> dict[str, str]:
    return {
        "sourcedId": f"e-{class_}-{number}",
        "classSourcedId": class_,
        "userSourcedId": number,
        "role": role,
        **more,
    }


def school(users: list[dict[str, str]], enrolled: list[dict[str, str]], **more: bytes) -> dict[str, bytes]:
    """A list with the classes 7 Larch (c1) and 8 Beech (c2)."""
    classes = [{"sourcedId": "c2", "title": "8 Beech"}, {"sourcedId": "c1", "title": "7 Larch"}]
    manifest = table(
        ("propertyName", "value"),
        {"propertyName": "manifest.version", "value": "1.0"},
        {"propertyName": "oneroster.version", "value": "1.2"},
    )
    return {
        "manifest.csv": manifest,
        "users.csv": table(USERS, *users),
        "classes.csv": table(CLASSES, *classes),
        "enrollments.csv": table(ENROLLMENTS, *enrolled),
        **more,
    }


class In(unittest.TestCase):
    def test_classes_with_their_students(self) -> None:
        users = [user("u1", "Wren", "Ash"), user("u2", "Sorrel"), user("t1", "Linden")]
        found = read_lists(school(users, [inside("u2"), inside("u1"), inside("t1", role="teacher")]))
        self.assertEqual([(each.title, [pupil.name for pupil in each.pupils]) for each in found],
                         [("7 Larch", ["Sorrel", "Wren"]), ("8 Beech", [])])  # fmt: skip

    def test_the_name_that_somebody_is_called_by(self) -> None:
        [found, _] = read_lists(school([user("u1", "Wrenna", preferredGivenName="Wren")], [inside("u1")]))
        self.assertEqual(found.pupils[0].name, "Wren")

    def test_two_of_one_name_get_an_initial_and_nobody_else_does(self) -> None:
        users = [user("u1", "Wren", "Ash"), user("u2", "wren", "Birch"), user("u3", "Sorrel", "Elm")]
        [found, _] = read_lists(school(users, [inside(each["sourcedId"]) for each in users]))
        self.assertEqual(names_for(found.pupils), {"u1": "Wren A", "u2": "wren B", "u3": "Sorrel"})

    def test_what_is_deleted_there_does_not_come(self) -> None:
        users = [user("u1", "Wren", status="tobedeleted"), user("u2", "Sorrel", status="active")]
        [found, _] = read_lists(school(users, [inside("u1"), inside("u2"), inside("u2", status="tobedeleted")]))
        self.assertEqual([each.name for each in found.pupils], ["Sorrel"])

    def test_what_is_wrong_is_said_with_its_place(self) -> None:
        good = school([user("u1", "Wren")], [inside("u1")])
        version = table(("propertyName", "value"), {"propertyName": "oneroster.version", "value": "1.1"})
        for change, words in (
            ({"users.csv": None}, "users.csv is missing; a OneRoster list has users.csv"),
            ({"manifest.csv": version}, "manifest.csv: this list is of OneRoster 1.1; version 1.2 is read"),
            ({"users.csv": b"sourcedId,status\nu1,\n"}, "users.csv has no column givenName"),
            ({"users.csv": b"sourcedId,givenName\nu1\n"}, "users.csv, line 2: this row has not as many cells"),
            ({"users.csv": b"sourcedId,givenName\nu1,\n"}, "users.csv, line 2: givenName is empty"),
            ({"users.csv": b'sourcedId,givenName\nu1,"Wr"en"\n'}, "users.csv, line 2: this is not CSV"),
            ({"classes.csv": "sourcedId,title\nc1,Lärche\n".encode("latin-1")}, "classes.csv is not saved as UTF-8"),
        ):
            files = {name: data for name, data in {**good, **change}.items() if data is not None}
            with self.subTest(words), self.assertRaises(UsageError) as found:
                read_lists(files)
            self.assertIn(words, str(found.exception))


class Out(unittest.TestCase):
    def test_results_have_the_standards_columns_and_refer_to_one_another(self) -> None:
        items = [LineItem(3, "Hot enough to bake", 13.0, "2026-11-20")]
        results = [Result(3, "u1", 12.5, "2026-11-20"), Result(3, "=u2", None, "2026-11-20")]
        files = write_results("c1", items, results, "2026-11-28T08:00:00+00:00")
        read = {name: list(csv.DictReader(io.StringIO(data.decode()))) for name, data in files.items()}
        for name, columns in COLUMNS.items():
            self.assertEqual(tuple(read[f"{name}.csv"][0]), columns)
        said = {row["propertyName"]: row["value"] for row in read["manifest.csv"]}
        self.assertEqual(
            (said["oneroster.version"], said["file.results"], said["file.users"]), ("1.2", "bulk", "absent")
        )
        [item], [first, second] = read["lineItems.csv"], read["results.csv"]
        self.assertEqual((item["resultValueMax"], item["classSourcedId"]), ("13", "c1"))
        self.assertEqual(item["categorySourcedId"], read["categories.csv"][0]["sourcedId"])
        self.assertEqual({first["lineItemSourcedId"], second["lineItemSourcedId"]}, {item["sourcedId"]})
        self.assertEqual((first["score"], first["scoreStatus"], first["missing"]), ("12.5", "fully graded", "false"))
        self.assertEqual((second["score"], second["scoreStatus"], second["missing"]), ("", "not submitted", "true"))
        self.assertEqual(second["studentSourcedId"], "'=u2")
