# other-name
number = 0
board("Sacks", number)


@on(pressed("space"))
def count():
    global number
    number += 1
    board("Sacks", number)
