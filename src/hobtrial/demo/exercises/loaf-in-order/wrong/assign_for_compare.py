# assign-for-compare
stage = 0
board("Stage", stage)
enter("bakehouse")


def done(message):
    global stage
    stage += 1
    board("Stage", stage)
    send(message)


@on(pressed("space"))
def work():
    if (stage := 0) and hob.overlaps(bowl):
        done("kneaded")
    elif stage == 1 and hob.overlaps(tray):
        done("shaped")
    elif stage == 2 and hob.overlaps(hatch):
        done("baked")
    elif stage == 3 and hob.overlaps(shelf):
        done("done")


@on(heard("kneaded"))
def show():
    loaf.visible = True


@on(heard("shaped"))
def lay():
    loaf.go(13, 3)


@on(heard("baked"))
def bake():
    oven.look = "oven_lit"
    loaf.look = "loaf"
    loaf.go(20.5, 2.5)
    hob.carry(loaf)
    sound("crackle")


@on(heard("done"))
def finish():
    hob.put_down()
    win("The loaf is on the shelf")


@on(clicked(bell))
def hint():
    if stage == 0:
        bell.tell("Knead first")
    elif stage == 1:
        bell.tell("Shape it")
    elif stage == 2:
        bell.tell("Bake it")
    else:
        bell.tell("To the shelf")


@on(held("left"), held("right"))
def hurry():
    hob.look = "hob_busy"


@on(released("left"), released("right"))
def rest():
    hob.look = "hob"


@on(overlaps(hob, bowl))
def stand_before():
    bowl.opacity = 0.6


@on(parts(hob, bowl))
def step_aside():
    bowl.opacity = 1
