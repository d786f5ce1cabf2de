# never-set
board("Height", 1)


@on(every(1))
def rise():
    global height
    height += 1
    board("Height", height)


@on(pressed("w"))
def water():
    global height
    height += 2
    board("Height", height)


@on(pressed("space"))
def knock_back():
    global height
    height = 1
    board("Height", height)
