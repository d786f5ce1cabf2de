"""What whoever looks after a school's server does: teachers, backups, forgetting, moving the folder."""

import io
import os
import tempfile
import unittest
from contextlib import ExitStack, redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any
from unittest import mock

from hobtrial.cli import backups, demo, forgetting, teachers
from hobtrial.cli.home import home
from hobtrial.core.words import UsageError
from hobtrial.server.settings import Settings, read_settings
from hobtrial.store import Classes, Cluster, Drafts, Store, Teachers, program_of
from hobtrial.store.cluster import ClusterError
from hobtrial.store.hashes import is_password
from tests.server.school import School
from tests.support import as_root, database


class Commands(unittest.TestCase):
    """Commands on a database that the environment names."""

    def setUp(self) -> None:
        self.dsn = database("commands")
        self.enterContext(mock.patch.dict("os.environ", {"HOB_DATABASE": self.dsn}))
        self.store = Store(self.dsn)
        self.addCleanup(self.store.close)

    def said(self, command: Any, *arguments: Any, typed: str = "", **more: Any) -> tuple[int, str]:
        """The status of a command and what it says."""
        out = io.StringIO()
        with redirect_stdout(out), redirect_stderr(out), mock.patch("sys.stdin", io.StringIO(typed)):
            status = command(*arguments, **more)
        return status, out.getvalue()

    def folder(self) -> Path:
        return Path(self.enterContext(tempfile.TemporaryDirectory()))


class TeacherCommands(Commands):
    def kept(self, name: str) -> dict[str, Any]:
        with self.store.transaction() as connection:
            row = Teachers.named(connection, name)
        assert row is not None
        return row

    def test_add_password_remove(self) -> None:
        self.assertEqual(self.said(teachers.add, "Alder", typed="under the alders\n"), (0, "Alder can sign in now.\n"))
        self.assertTrue(self.kept("alder")["owner"])
        self.assertEqual(self.said(teachers.add, "Hazel", typed="under the hazels\n")[0], 0)
        self.assertFalse(self.kept("Hazel")["owner"])
        self.assertEqual(self.said(teachers.password, "Alder", typed="a grove of alders\n")[0], 0)
        self.assertTrue(is_password(self.kept("Alder")["password"], "a grove of alders"))
        with self.store.transaction() as connection:
            alder = self.kept("Alder")["id"]
            class_id = Classes.named(connection, "7 Larch", alder)
            Drafts.begin(connection, alder, "", {"exercise.toml": b""}, "begun")
        self.assertEqual(self.said(teachers.remove, "Alder", "Hazel")[0], 0)
        with self.store.transaction() as connection:
            hazel = self.kept("Hazel")
            self.assertTrue(hazel["owner"])
            self.assertEqual([row["id"] for row in Classes.of(connection, hazel["id"])], [class_id])
            self.assertEqual(len(Drafts.all(connection, hazel["id"])), 1)

    def test_what_cannot_be_done_is_said(self) -> None:
        self.said(teachers.add, "Alder", typed="under the alders\n")
        for command, arguments, typed, words in (
            (teachers.add, ("Alder",), "under the alders\n", "there is a teacher called Alder already"),
            (teachers.add, ("Hazel",), "short\n", "a password has 10 to 200 characters"),
            (teachers.add, (" ",), "under the alders\n", "a teacher's name has 1 to 60 characters"),
            (teachers.password, ("Nobody",), "", "there is no teacher called Nobody"),
            (teachers.remove, ("Alder", "Alder"), "", "cannot go to the same teacher"),
        ):
            with self.subTest(words):
                status, said = self.said(command, *arguments, typed=typed)
                self.assertEqual((status, words in said), (1, True), said)


class Backups(Commands):
    def rows(self) -> dict[str, list[Any]]:
        """Everything that is kept, table by table."""
        with self.store.transaction() as connection:
            tables = connection.execute(
                "SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tablename NOT LIKE '%yoyo%'"
            ).fetchall()
            return {
                row["tablename"]: sorted(map(str, connection.execute(f"SELECT * FROM {row['tablename']}".encode())))
                for row in tables
            }

    def test_what_was_there_is_there_again(self) -> None:
        with ExitStack() as stack:
            things = School(self.dsn, stack).things["linden"]
        before = self.rows()
        file = self.folder() / "records.backup"
        status, said = self.said(backups.backup, file)
        self.assertEqual((status, file.stat().st_mode & 0o077, "All records are in" in said), (0, 0, True))
        with self.store.transaction() as connection:
            Classes.remove(connection, things.class_id)
        self.assertNotEqual(self.rows(), before)
        status, said = self.said(backups.restore, file, yes=False)
        self.assertEqual((status, "Say --yes if that is meant." in said), (1, True))
        self.assertEqual(self.said(backups.restore, file, yes=True)[0], 0)
        self.assertEqual(self.rows(), before)

    def test_what_is_no_backup_changes_nothing(self) -> None:
        before = self.rows()
        broken = self.folder() / "broken"
        for content, words in ((b"PGDMP and nothing else", "pg_restore failed"), (b"zip", "is not a backup")):
            broken.write_bytes(content)
            status, said = self.said(backups.restore, broken, yes=True)
            self.assertEqual((status, words in said), (1, True), said)
        self.assertEqual(self.said(backups.restore, broken.with_name("none"), yes=True)[0], 1)
        self.assertEqual(self.rows(), before)

    def test_a_backup_that_fails_leaves_no_half_file(self) -> None:
        folder = self.folder()
        with (
            mock.patch.dict("os.environ", {"HOB_DATABASE": self.dsn}),
            mock.patch.object(backups, "program_of", return_value=Path("/bin/false")),
        ):
            self.assertEqual(self.said(backups.backup, folder / "records.backup")[0], 1)
        self.assertEqual(os.listdir(folder), [])


class Forgetting(Commands):
    def test_what_is_older_goes_and_the_rest_stays(self) -> None:
        with ExitStack() as stack:
            school = School(self.dsn, stack)
        mine, theirs = school.things["linden"], school.things["hazel"]
        with self.store.transaction() as connection:
            old = "UPDATE submission SET handed_in_at = now() - interval '13 months' WHERE id = %s"
            connection.execute(old, [mine.submission_id])
            away = "UPDATE class SET put_away_at = now() - interval '13 months' WHERE id = %s"
            connection.execute(away, [theirs.class_id])
        self.assertEqual(self.said(forgetting.forget, None)[0], 1)  # nobody said how many months
        self.assertEqual(self.said(forgetting.forget, 24)[1][:8], "0 texts ")
        with mock.patch.dict("os.environ", {"HOB_RETENTION_MONTHS": "12"}):
            status, said = self.said(forgetting.forget, None)
        self.assertEqual((status, said[:7]), (0, "1 text "))
        with self.store.transaction() as connection:
            left = connection.execute("SELECT id FROM submission").fetchall()
            classes = connection.execute("SELECT id FROM class").fetchall()
        self.assertEqual((left, [row["id"] for row in classes]), ([], [mine.class_id]))


class SettingsOfTheEnvironment(unittest.TestCase):
    def test_lists_and_numbers(self) -> None:
        environment = {"HOB_HOSTS": "hob.school.example, hob", "HOB_TRUSTED_PROXY": "10.0.0.1", "HOB_WORKERS": "4"}
        with mock.patch.dict("os.environ", environment):
            found = read_settings()
        self.assertEqual((found.hosts, found.trusted_proxy, found.workers),
                         (("hob.school.example", "hob"), ("10.0.0.1",), 4))  # fmt: skip

    def test_what_cannot_be_is_said_with_its_name(self) -> None:
        for name, value in (
            ("HOB_WORKERS", "many"),
            ("HOB_PORT", "99999"),
            ("HOB_LOG", "loud"),
            ("HOB_RETENTION_MONTHS", "0"),
        ):
            with (
                self.subTest(name),
                mock.patch.dict("os.environ", {name: value}),
                self.assertRaises(UsageError) as found,
            ):
                read_settings()
            self.assertIn(f"{name} is '{value}', and that cannot be used", str(found.exception))

    def test_every_setting_stands_in_the_page(self) -> None:
        page = Path(__file__).resolve().parents[2].joinpath("docs", "running.md").read_text(encoding="utf-8")
        for name in Settings.model_fields:
            self.assertIn(f"`HOB_{name.upper()}`", page)


class Home(unittest.TestCase):
    @unittest.skipUnless(as_root(), "elsewhere the records are in the checkout itself")
    def test_a_folder_that_is_moved_keeps_its_records(self) -> None:
        with tempfile.TemporaryDirectory() as folder, mock.patch.dict("os.environ"):
            os.environ.pop("HOB_HOME", None)
            records = Path(folder, "records")
            first = Path(folder, "first")
            first.mkdir()
            before = home(first, records)
            self.assertEqual((home(first, records), before.parent), (before, records))
            moved = first.rename(Path(folder, "moved"))
            self.assertEqual(home(moved, records), before)
            other = Path(folder, "first")
            other.mkdir()
            self.assertNotEqual(home(other, records), before)

    def test_data_of_another_postgresql_says_what_to_do(self) -> None:
        newest = program_of("initdb")
        self.assertEqual(program_of("initdb", newest.parts[-3]), newest)
        with self.assertRaises(ClusterError) as found:
            program_of("initdb", "9")
        self.assertIn("made by PostgreSQL 9, which is not installed any more", str(found.exception))
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "data").mkdir()
            Path(folder, "data", "PG_VERSION").write_text("9\n")
            with self.assertRaises(ClusterError):
                Cluster(Path(folder)).start()

    def test_beginning_again_asks_first(self) -> None:
        with tempfile.TemporaryDirectory() as folder, mock.patch.dict("os.environ", {"HOB_HOME": folder}):
            out = io.StringIO()
            with redirect_stdout(out), mock.patch("sys.stdin", io.StringIO("")):
                self.assertEqual(demo.run(reset=True, yes=False, port=8765), 1)
            self.assertIn("--reset forgets everything that was kept here. Say --yes, too", out.getvalue())
            self.assertEqual(os.listdir(folder), ["lock"])
