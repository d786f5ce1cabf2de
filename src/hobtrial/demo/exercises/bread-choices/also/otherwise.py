PRICES = {"rye": 3, "wheat": 4}
coins = 10


def cost(what):
    if what in PRICES:
        return PRICES[what]
    elif what:
        tell("We have no " + what)
    else:
        tell("We have no bread of that name")
    return 0


tell("Good morning, " + input("Who are you?") + ".")
price = cost(input("What bread?").strip())
left = coins - price * int(input("How many loaves?"))
if left >= 0:
    coins = left
    tell(str(coins) + " coins left")
else:
    tell("That is too much for you")
