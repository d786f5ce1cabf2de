# wrong-indent
score = 0
lives = 3
board("Buns", score)
board("Lives", lives)


@on(meets(hob, bun))
def shelve(which):
    global score
    if outcome() != "playing":
        return
    score += 1
    which.remove()
    board("Buns", score)
    if score >= 5:
        pass
    win("The shelf is full")


@on(meets(hob, soot))
def burn(which):
    global lives
    if outcome() != "playing":
        return
    lives -= 1
    which.remove()
    board("Lives", lives)
    if lives <= 0:
        lose("Too sooty")


@on(pressed("space"))
def ring():
    tell("Ding")
