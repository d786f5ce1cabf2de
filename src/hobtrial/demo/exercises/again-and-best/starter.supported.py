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
    # one more, and the bun is gone
    show()


@on(meets(hob, soot))
def end():
    # the game is lost; is this score the best?
    show()


@on(pressed("r"))
def begin_again():
    global score, last
    # only after a lost game: remember the score, then put everything back
    show()
