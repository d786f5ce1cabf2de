# wrong-variable
score = 0
best = 0
last = 0


def show():
    board("Buns", score)
    board("Best", best)
    board("Last", last)


show()


@on(meets(hob, bun))
def take(which):
    global score
    score += 1
    which.remove()
    show()


@on(gone(bun))
def pop():
    sound("pop")


@on(meets(hob, soot))
def end():
    lose("Too sooty")


@on(finished)
def remember():
    global best
    if score > best:
        best = score
    show()


@on(pressed("r"))
def begin_again():
    global score, last
    if outcome() == "playing":
        return
    last = best
    score = 0
    hob.restore()
    bun_1.restore()
    bun_2.restore()
    again()
    show()
