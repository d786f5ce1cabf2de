score = 0
best = 0
last = 0


def show():
    board("Buns", score)
    board("Best", best)
    board("Last", last)


def keep_best():
    global best
    if score > best:
        best = score


def put_back():
    hob.restore()
    bun_1.restore()
    bun_2.restore()


def fresh():
    global score, last
    last = score
    score = 0
    put_back()
    again()
    show()


show()


@on(meets(hob, bun))
def take(one):
    global score
    if outcome() == "playing":
        score += 1
        one.remove()
        show()


@on(meets(hob, soot))
def end():
    keep_best()
    show()
    lose("Too sooty")


@on(pressed("r"))
def key():
    if outcome() != "playing":
        fresh()
