stage = 0
board("Stage", stage)


def go_on():
    global stage
    stage += 1
    board("Stage", stage)


def try_step(number, place, message):
    if stage == number and hob.overlaps(place):
        go_on()
        send(message)
        return True
    return False


@on(pressed("space"))
def work():
    if try_step(0, bowl, "kneaded"):
        return
    if try_step(1, tray, "shaped"):
        return
    if try_step(2, hatch, "baked"):
        return
    try_step(3, shelf, "done")


@on(heard("baked"))
def bake():
    oven.look = "oven_lit"


@on(heard("done"))
def finish():
    win("The loaf is on the shelf")


@on(clicked(bell))
def hint():
    for number, words in enumerate(["Knead first", "Shape it", "Bake it"]):
        if stage == number:
            bell.tell(words)
            return
    bell.tell("To the shelf")
