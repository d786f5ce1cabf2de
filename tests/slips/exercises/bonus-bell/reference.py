score = 0
lives = 2
bonus_given = False
board("Buns", score)
board("Lives", lives)


def look():
    if lives <= 0:
        lose("Too sooty")
    elif score >= 14:
        win("Enough")


@on(meets(hob, bun))
def take(which):
    global score, bonus_given
    if outcome() != "playing":
        return
    score += 1
    which.remove()
    if score >= 3 and not bonus_given:
        bonus_given = True
        score += 2
        tell("Three buns")
    board("Buns", score)
    look()


@on(meets(hob, soot))
def dirty(which):
    global lives
    if outcome() != "playing":
        return
    lives -= 1
    which.remove()
    board("Lives", lives)
    look()


@on(clicked(bell))
def ring():
    global score
    if outcome() == "playing":
        score += 3
        board("Buns", score)
        sound("ding")
        look()


@on(pressed("space"))
def more():
    global score
    if outcome() == "playing":
        score += 2
        board("Buns", score)
        look()


@on(pressed("x"))
def sooty_bun():
    global score, lives
    if outcome() != "playing":
        return
    score += 1
    lives -= 1
    board("Buns", score)
    board("Lives", lives)
    look()
