"""Games by worker: a process for each player, behind both walls, ended with its player."""

import unittest
from typing import Any

from hobtrial.crew import Crew, Players, TooManyPlayersError, WorkerGoneError
from hobtrial.demo import exercise_folder
from tests.support import BAKEHOUSE

START: dict[str, Any] = {"seed": 1, "luck": None, "scenario": None, "frame": -1, "again": False, "put": []}
SCRIPT = b"score = 0\n@on(pressed('a'))\ndef f():\n    game.x = 1"


class Processes(unittest.IsolatedAsyncioTestCase):
    async def test_each_player_has_a_process_of_their_own_that_ends_with_them(self) -> None:
        async with Crew(1) as crew, Players() as players:
            exercise = await crew.open(exercise_folder(BAKEHOUSE))
            async with players.game() as one, players.game() as two:
                first, second = one._hand.process, two._hand.process
                self.assertNotEqual(first.pid, second.pid)
                self.assertEqual(one._hand.missing, crew.missing)  # the same walls as any worker
                self.assertIn("news", await one.begin(exercise, SCRIPT, START))
                self.assertIn("problems", await two.begin(exercise, b"score =", START))
                self.assertEqual((await one.next([]))["frame"], 0)
            self.assertIsNotNone(first.returncode)
            self.assertIsNotNone(second.returncode)

    async def test_a_killed_game_is_one_players_loss(self) -> None:
        async with Crew(1) as crew, Players() as players:
            exercise = await crew.open(exercise_folder(BAKEHOUSE))
            async with players.game() as one, players.game() as two:
                await one.begin(exercise, SCRIPT, START)
                await two.begin(exercise, SCRIPT, START)
                one._hand.process.kill()
                with self.assertRaises(WorkerGoneError):
                    await one.next([])
                self.assertEqual((await two.next([]))["frame"], 0)

    async def test_more_players_than_the_machine_can_hold_are_told(self) -> None:
        async with Players(most=1) as players:
            async with players.game():
                with self.assertRaisesRegex(TooManyPlayersError, "1 games are being played already"):
                    async with players.game():
                        self.fail("a game too many")
            async with players.game():
                pass
