shelf = []
score = 0
lives = 3
board("Buns", len(shelf))
board("Lives", lives)


@on(meets(hob, bun))
def put_on_shelf(which):
    global score
    if len(shelf) == 5 or lives == 0:
        return
    shelf.append(which.name)
    score = len(shelf)
    which.remove()
    board("Buns", len(shelf))
    if len(shelf) == 5:
        win("The shelf is full")


@on(meets(hob, soot))
def lose_a_life(which):
    global lives
    lives = max(0, lives - 1)
    board("Lives", lives)
    if lives == 0:
        lose("Too sooty")


@on(pressed("space"))
def ring():
    tell("Ding")
