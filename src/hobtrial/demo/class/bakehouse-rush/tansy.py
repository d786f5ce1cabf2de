score = 0
lives = 3
shelf_size = 5
board("Buns", score)
board("Lives", lives)


def shelf_full():
    return score > shelf_size


@on(meets(hob, bun))
def get(b):
    global score
    if outcome() == "playing":
        score += 1
        board("Buns", score)
        b.remove()
        if shelf_full():
            win("The shelf is full")


@on(meets(hob, soot))
def dirty(s):
    global lives
    if outcome() == "playing":
        lives -= 1
        board("Lives", lives)
        if lives == 0:
            lose()


@on(pressed("space"))
def ring():
    tell("Ding")
