# wrong-amount
heat = 20
board("Heat", heat)


@on(clicked(bellows))
def puff():
    global heat
    heat += 25
    board("Heat", heat)
    if heat >= 200:
        oven.look = "oven_lit"
        win("Hot enough")
