@on(start)
def set_up():
    global score, lives
    score = 0
    lives = 3
    board("Buns", score)
    board("Lives", lives)


@on(meets(hob, bun), meets(hob, soot))
def touch(thing):
    if outcome() != "playing":
        return
    if thing.kind == "bun":
        score += 1
        board("Buns", f"{score}")
        thing.remove()
    else:
        lives -= 1
        board("Lives", f"{lives}")
    if score == 5:
        win("The shelf is full")
    if lives == 0:
        lose("Black as the chimney")


@on(pressed("space"))
def ding():
    print("Ding", end="")
    print("!")
