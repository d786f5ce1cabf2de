BAKING = 200
PUFF = 35
heat = 20


def hot():
    return not heat < BAKING


def warm(by):
    global heat
    heat = heat + by
    board("Heat", heat)


warm(0)


@on(clicked(bellows))
def puff(what):
    warm(PUFF)


@on(frame)
def look():
    if hot() and outcome() == "playing":
        oven.look = "oven_lit"
        win("It is hot enough now")
