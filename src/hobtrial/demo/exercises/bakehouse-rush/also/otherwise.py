game.score = 0
game.lives = 3


def show():
    board("Buns", game.score)
    board("Lives", game.lives)


show()


@on(meets(bun, hob), meets(soot, hob))
def meet(thing, who):
    if outcome() != "playing":
        return
    thing.remove()
    if thing in list_of_buns:
        game.score += 1
    else:
        game.lives -= 1
    show()
    if not game.score < 5:
        win("The shelf is full now")
    elif game.lives == 0:
        lose()


list_of_buns = [b for b in bun]


@on(pressed("space"))
def ring():
    print("ding")
