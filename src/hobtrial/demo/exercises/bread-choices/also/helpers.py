coins = 10


def price_of(kind):
    if kind == "rye":
        return 3
    elif kind == "wheat":
        return 4
    else:
        print(f"We have no {kind}")
        return 0


def pay(cost):
    global coins
    if cost > coins:
        print("That is too much")
    else:
        coins -= cost
        print(f"{coins} coins left")


guest = input("Your name?")
print(f"Good morning, {guest}")
bread = input("Rye or wheat?")
price = price_of(bread)
count = int(input("How many?"))
pay(count * price)
