bun_count = 9
buns = 0
room = 2
board("Buns", buns)
board("Room", room)


@on(meets(basket, bun))
def take(which):
    global buns
    if buns < room:
        buns += 1
        which.remove()
        board("Buns", buns)


@on(pressed("b"))
def widen():
    global room
    room += 1
    board("Room", room)
