import random
from enum import Enum


class Flap(Enum):
    LOW = 50
    HIGH = 200


heat = 100
logs = 0
specks = 0


def show():
    board("Heat", heat)


def warmth(count):
    return count * (10 - draught)


def set_flap(which):
    global heat
    heat = which.value
    show()
    send("flap")


show()
enter("yard")
offer("Go down")


@on(typed("more wood"))
def burn():
    global heat, logs
    logs = random.randint(1, 6)
    heat += warmth(logs)
    show()


@on(picked("Go down"))
def down():
    enter("cellar")
    question("How hot?")


@on(replied)
def turn(text):
    if text == "low":
        set_flap(Flap.LOW)
    elif text == "high":
        set_flap(Flap.HIGH)


@on(heard("flap"))
def clank():
    sound("clank")


@on(meets(soot, floor))
def settle(which):
    global specks
    specks += 1
    which.freeze()
