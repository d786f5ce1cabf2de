# other-name
temperature = 20
board("Heat", temperature)


@on(clicked(bellows))
def puff():
    global temperature
    temperature += 35
    board("Heat", temperature)
    if temperature >= 200:
        oven.look = "oven_lit"
        win("Hot enough")
