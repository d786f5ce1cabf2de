ROOM = 5
score = 0
lives = 3


def show():
    board("Buns", score)
    board("Lives", lives)


def over():
    return outcome() != "playing"


def check_the_end():
    if score >= ROOM:
        win("The shelf is full")
    elif lives <= 0:
        lose("Too much soot")


show()


@on(meets(hob, bun))
def take(b):
    global score
    if over():
        return
    score += 1
    b.remove()
    show()
    check_the_end()


@on(meets(hob, soot))
def get_dirty():
    global lives
    if over():
        return
    lives -= 1
    show()
    check_the_end()


@on(pressed("space"))
def ring():
    tell("Ding, ding")
