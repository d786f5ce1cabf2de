game.score = 0
game.lives = 3
board("Buns", game.score)
board("Lives", game.lives)


@on(meets(hob, bun))
def bun_found(found):
    if outcome() == "playing":
        found.remove()
        game.score += 1
        board("Buns", game.score)
        if game.score == 5:
            win("The shelf is full")


@on(meets(hob, soot))
def soot_falls(lump):
    game.lives -= 1
    board("Lives", game.lives)
    if game.lives == 0:
        lose()


@on(pressed("space"))
def bell():
    tell("Ding")
