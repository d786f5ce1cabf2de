buns = 0
room = 2


def show():
    board("Buns", buns)
    board("Room", room)


def fits():
    return buns < room


def put_in(thing):
    global buns
    buns += 1
    thing.remove()
    show()


show()


@on(meets(basket, bun))
def take(thing):
    if fits():
        put_in(thing)


@on(pressed("b"))
def larger():
    global room
    room += 1
    show()
