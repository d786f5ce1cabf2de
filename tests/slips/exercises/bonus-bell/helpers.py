score = 0
lives = 2
told_already = False
ENOUGH = 14


def show():
    board("Buns", score)
    board("Lives", lives)


def finish():
    show()
    if lives < 1:
        lose("Too sooty")
    elif score >= ENOUGH:
        win("Enough")


def gain(amount):
    global score
    score = score + amount


def hurt():
    global lives
    lives = lives - 1


def announce():
    global told_already
    if score > 2 and not told_already:
        told_already = True
        gain(2)
        tell("Three buns")


def playing():
    return outcome() == "playing"


show()


@on(meets(hob, bun))
def on_bun(thing):
    if playing():
        thing.remove()
        gain(1)
        announce()
        finish()


@on(meets(hob, soot))
def on_soot(thing):
    if playing():
        thing.remove()
        hurt()
        finish()


@on(clicked(bell))
def on_bell():
    if playing():
        gain(3)
        sound("ding")
        finish()


@on(pressed("space"))
def on_space():
    if playing():
        gain(2)
        finish()


@on(pressed("x"))
def on_x():
    if playing():
        gain(1)
        hurt()
        finish()
