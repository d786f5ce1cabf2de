game.sacks = 0


def show():
    board("Sacks", game.sacks)


show()


@on(pressed("space"))
def one_more():
    before = game.sacks
    game.sacks = 1 + game.sacks
    if before != game.sacks:
        show()
