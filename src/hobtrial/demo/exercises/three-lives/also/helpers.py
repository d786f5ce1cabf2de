lives = 3
FLOOR = 0


def show():
    board("Lives", lives)


def finish():
    if lives == FLOOR:
        lose("Too sooty")


def pay(cost):
    global lives
    if lives > FLOOR:
        lives -= cost
    show()
    finish()


show()


@on(meets(hob, soot))
def dirty(lump):
    lump.remove()
    pay(1)
