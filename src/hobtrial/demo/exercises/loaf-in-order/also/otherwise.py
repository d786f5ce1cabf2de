PLACES = [bowl, tray, hatch, shelf]
MESSAGES = ["kneaded", "shaped", "baked", "done"]
HINTS = ["Knead first", "Shape it", "Bake it", "To the shelf", "To the shelf"]
game.stage = 0
board("Stage", 0)


@on(pressed("space"))
def step():
    if game.stage < 4 and PLACES[game.stage].overlaps(hob):
        send(MESSAGES[game.stage])
        game.stage += 1
        board("Stage", game.stage)


@on(heard("baked"))
def light():
    oven.look = "oven_lit"


@on(heard("done"))
def end():
    win("Well done. The loaf is on the shelf.")


@on(clicked(bell))
def ring(what):
    tell(HINTS[game.stage])
