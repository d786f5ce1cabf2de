score = 0
best = 0
last = 0


@on(meets(hob, soot))
def end():
    lose()
