score = 0
lives = 3


@on(meets(hob, bun))
def eat(b):
    global score
    if score < 5 and lives > 0:
        score += 1
        b.remove()


@on(meets(hob, soot))
def hit():
    global lives
    if score < 5 and lives > 0:
        lives -= 1


@on(frame)
def look():
    board("Buns", score)
    board("Lives", lives)
    if outcome() == "playing":
        if score == 5:
            win("The shelf is full")
        if lives == 0:
            lose("No lives left")


@on(pressed("space"))
def bell():
    tell("ding")
