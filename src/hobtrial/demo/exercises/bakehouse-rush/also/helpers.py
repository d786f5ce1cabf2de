FULL = 5
score = 0
lives = 3


def show():
    board("Buns", score)
    board("Lives", lives)


def over():
    return outcome() != "playing"


def gain(how_many):
    global score
    score += how_many
    show()
    if score >= FULL:
        win("The shelf is full")


def hurt():
    global lives
    lives -= 1
    show()
    if lives <= 0:
        lose("Too much soot")


show()


@on(meets(hob, bun))
def take(what):
    if over():
        return
    what.remove()
    gain(1)


@on(meets(hob, soot))
def dirty(what):
    if over():
        return
    what.remove()
    hurt()


@on(pressed("space"))
def ring():
    tell("Ding, ding")
