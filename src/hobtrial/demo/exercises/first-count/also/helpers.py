sacks = 0


def show():
    board("Sacks", sacks)


def add(number):
    global sacks
    sacks += number
    show()


show()


@on(pressed("space"))
def key():
    add(1)
