START = 1
height = START


def show():
    board("Height", height)


def grow(fingers):
    global height
    height += fingers
    show()


show()


@on(every(1))
def rise():
    grow(1)


@on(pressed("w"))
def water():
    grow(2)


@on(pressed("space"))
def knock_back():
    global height
    height = START
    show()
