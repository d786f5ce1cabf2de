heat = 20
ENOUGH = 200


def show():
    board("Heat", heat)


def finish():
    if heat >= ENOUGH:
        oven.look = "oven_lit"
        win("Hot enough")


def warm(by):
    global heat
    heat += by
    show()
    finish()


show()


@on(clicked(bellows))
def puff():
    warm(35)
