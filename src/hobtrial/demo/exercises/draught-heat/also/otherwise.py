from enum import IntEnum
import random as chance


class Flap(IntEnum):
    LOW = 50
    HIGH = 200


game.logs = game.specks = 0
game.heat = 100
board("Heat", game.heat)
offer("Go down")


@on(typed("More wood"))
def wood():
    game.logs = chance.choice([1, 2, 3, 4, 5, 6])
    for each in range(game.logs):
        game.heat = game.heat + 10 - draught
    board("Heat", game.heat)


@on(picked("Go down"))
def go_down():
    enter("cellar")
    question("How hot shall it be?")


@on(replied)
def answered(words):
    ways = {"low": Flap.LOW, "high": Flap.HIGH}
    if words in ways:
        game.heat = int(ways[words])
        board("Heat", game.heat)
        send("flap")


@on(heard("flap"))
def noise():
    sound("clank")


@on(meets(floor, soot))
def lie(under, speck):
    speck.freeze()
    game.specks += 1
