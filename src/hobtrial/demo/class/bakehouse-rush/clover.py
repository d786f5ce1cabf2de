score = 0
lives = 3
board("Lives", lives)
board("Buns", score)


@on(pressed("space"))
def bell():
    tell("Ding")


@on(meets(hob, soot))
def soot_hit():
    global lives
    if outcome() == "playing":
        lives = lives - 1
        board("Lives", lives)
        if lives == 0:
            lose("Soot everywhere")


@on(meets(hob, bun))
def bun_hit(a_bun):
    global score
    if outcome() == "playing":
        score = score + 1
        board("Buns", score)
        a_bun.remove()
        if 5 < score:
            win("The shelf is full")
