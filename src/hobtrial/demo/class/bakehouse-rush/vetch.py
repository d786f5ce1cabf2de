score = 0
lives = 3
board("Buns", score)
board("Lives", lives)


@on(meets(hob, bun))
def pick_up(bread):
    global score
    if outcome() == "playing":
        score += 1
        bread.remove()
        board("Buns", score)
        if score > 4:
            win("The shelf is full")


@on(meets(hob, soot))
def hit():
    global lives
    if outcome() == "playing":
        lives =- 1
        board("Lives", lives)
        if lives <= 0:
            lose("Too sooty")


@on(pressed("space"))
def ring():
    tell("Ding")
