score = 0
lives = 3
playing = True
board("Buns", 0)
board("Lives", 3)


@on(pressed("space"))
def ring_the_bell():
    print("Ding")


@on(meets(bun, hob))
def one_more(what, who):
    global score, playing
    if not playing:
        return
    score = score + 1
    board("Buns", score)
    what.remove()
    if score > 4:
        playing = False
        win("The shelf is full")


@on(meets(soot, hob))
def ouch():
    global lives, playing
    if playing:
        lives = lives - 1
        board("Lives", lives)
        if lives < 1:
            playing = False
            lose("Soot everywhere")
