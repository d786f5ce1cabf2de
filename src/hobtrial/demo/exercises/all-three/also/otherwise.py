game.lit = game.swept = game.closed = False


@on(clicked(lamp))
def light(what):
    game.lit = True
    what.look = "lamp_lit"


@on(released("s"))
def sweep():
    game.swept = True


@on(overlaps(hatch, hob))
def close():
    game.closed = True


@on(frame)
def ready():
    if game.lit and (game.closed and game.swept):
        win("good night")
