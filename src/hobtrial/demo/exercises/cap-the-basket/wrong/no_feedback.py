# no-feedback
buns = 0
room = 2
board("Buns", buns)
pass


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
