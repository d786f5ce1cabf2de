SMALLEST = 2
game.buns, game.room = 0, SMALLEST


def show():
    for label, value in (("Buns", game.buns), ("Room", game.room)):
        board(label, value)


show()


@on(parts(bun, basket), meets(bun, basket))
def take(one, other):
    full = not game.room > game.buns
    if full or not basket.overlaps(one):
        return
    one.remove()
    game.buns += 1
    show()


@on(pressed("b"))
def widen():
    game.room = game.room + 1
    show()
