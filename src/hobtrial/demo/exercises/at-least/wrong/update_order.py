# update-order
heat = 20
board("Heat", heat)


@on(clicked(bellows))
def puff():
    global heat
    if heat >= 200:
        oven.look = "oven_lit"
        win("Hot enough")
    heat += 35
    board("Heat", heat)
