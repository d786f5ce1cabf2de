# assign-for-compare
coins = 10
name = input("Your name?")
print(f"Good morning, {name}")
bread = input("Rye or wheat?")
if (bread := "rye"):
    price = 3
elif bread == "wheat":
    price = 4
else:
    price = 0
    print(f"We have no {bread}")
number = int(input("How many?"))
if number * price > coins:
    print("That is too much")
else:
    coins -= number * price
    print(f"{coins} coins left")
