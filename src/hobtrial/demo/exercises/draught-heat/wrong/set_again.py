# set-again
import random
from enum import Enum


class Flap(Enum):
    LOW = 50
    HIGH = 200


heat = 100
logs = 0
specks = 0
fresh = 0
board("Heat", heat)


@on(start)
def begin():
    offer("Go down")


@on(typed("more wood"))
def burn():
    global heat, logs
    logs = random.randint(1, 6)
    heat += logs * (10 - draught)
    board("Heat", heat)


@on(picked("Go down"))
def down():
    enter("cellar")


@on(entered("cellar"))
def ask():
    question("How hot?")


@on(replied)
def turn(text):
    global heat
    if text == "low":
        heat = Flap.LOW.value
    elif text == "high":
        heat = Flap.HIGH.value
    else:
        return
    board("Heat", heat)
    send("flap")


@on(heard("flap"))
def clank():
    sound("clank")


@on(appeared(soot))
def fall(which):
    global fresh
    fresh += 1


@on(meets(soot, floor))
def settle(which, on_what):
    global specks
    specks = 0
    specks += 1
    which.freeze()


@on(after(0.1))
def tidy():
    if len(soot) > 20:
        chimney.freeze()
