score = 0
lives = 3
board("Buns", score)
board("Lives", lives)


@on(frame)
def every_frame():
    global score, lives
    if outcome() != "playing":
        return
    for b in bun:
        if hob.overlaps(b):
            b.remove()
            score += 1
            board("Buns", score)
    for s in soot:
        if hob.overlaps(s):
            s.remove()
            lives -= 1
            board("Lives", lives)
    if score >= 5:
        win("The shelf is full")
    elif lives <= 0:
        lose("Out of lives")


@on(pressed("space"))
def ring():
    tell("Ding")
