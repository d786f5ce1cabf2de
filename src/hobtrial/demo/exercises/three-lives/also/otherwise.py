hob.lives = 3
game.lives = hob.lives
board("Lives", 3)


@on(meets(soot, hob))
def dirty(speck, who):
    speck.remove()
    send("dirty")


@on(heard("dirty"))
def count():
    if outcome() != "playing":
        return
    game.lives = max(game.lives - 1, 0)
    board("Lives", str(game.lives))
    if not game.lives > 0:
        lose("too sooty")
