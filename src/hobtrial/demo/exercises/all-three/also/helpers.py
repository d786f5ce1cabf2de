lit = False
swept = False
closed = False


def ready():
    return lit and swept and closed


def finish():
    if ready():
        win("Good night")


def lamp_on():
    global lit
    lit = True
    lamp.look = "lamp_lit"


@on(clicked(lamp))
def click():
    lamp_on()
    finish()


@on(pressed("s"))
def key():
    global swept
    swept = True
    finish()


@on(meets(hob, hatch))
def shut():
    global closed
    closed = True
    finish()
