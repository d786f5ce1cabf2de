score = 0
lives = 3
board("Buns", 0)
board("Lives", 3)


@on(meets(hob, bun))
def bun_time(x):
    global score
    if outcome() == "playing":
        score += 1
        x.remove()
        board("Buns", score)
        if score >= 5:
            win("The shelf is full")


@on(frame)
def soot_time():
    global lives
    if hob.overlaps(soot) and outcome() == "playing":
        lives -= 1
        board("Lives", lives)
        if lives == 0:
            lose("Dirty hob")


@on(pressed("space"))
def bell_time():
    print("Ding")
