# extra-condition
lit = False
swept = False
closed = False


def look():
    if lit and swept and closed:
        win("Good night")


@on(clicked(lamp))
def light():
    global lit
    lit = True
    lamp.look = "lamp_lit"
    look()


@on(pressed("s"))
def sweep():
    global swept
    if lit:
        swept = True
    look()


@on(meets(hob, hatch))
def close():
    global closed
    closed = True
    look()
