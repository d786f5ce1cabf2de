# wrong-amount
lives = 3
board("Lives", lives)


@on(meets(hob, soot))
def sweep(which):
    global lives
    which.remove()
    if lives > 0:
        lives -= 2
    board("Lives", lives)
    if lives == 0:
        lose("Too sooty")


@on(frame)
def watch():
    hob.look = "hob" if lives == 3 else "hob_sooty"
