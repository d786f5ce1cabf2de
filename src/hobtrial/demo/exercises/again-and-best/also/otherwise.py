score, best, last = 0, 0, 0
LABELS = ["Buns", "Best", "Last"]


def put(new_score, new_best, new_last):
    global score, best, last
    score, best, last = new_score, new_best, new_last
    for label, value in zip(LABELS, (score, best, last)):
        board(label, value)


put(0, 0, 0)


@on(meets(bun, hob))
def take(what, by):
    what.remove()
    put(score + 1, best, last)


@on(meets(soot, hob))
def end():
    put(score, score if score >= best else best, last)
    lose()


@on(pressed("r"))
def anew():
    if outcome() == "lost":
        again()
        put(0, best, score)
        hob.go(4, 2)
        for one in (bun_1, bun_2):
            one.restore()
