score = 0
lives = 3
full = False
board("Buns", score)
board("Lives", lives)


@on(overlaps(hob, bun))
def collect(one):
    global score, full
    if not full and lives > 0:
        one.remove()
        score += 1
        board("Buns", score)
        full = score >= 5
        if full:
            win("The shelf is full")


@on(overlaps(hob, soot))
def burn(one):
    if not full and lives > 0:
        one.remove()
        lives -= 1
        board("Lives", lives)
        if not lives > 0:
            lose("No lives left")


@on(pressed("space"))
def ring():
    tell("Ding")
