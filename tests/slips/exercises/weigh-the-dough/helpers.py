total = 0
heaviest = 0


def add(lump):
    global total, heaviest
    total = total + lump
    if lump > heaviest:
        heaviest = lump


def say(weight):
    if weight >= 1000:
        print("It is a large loaf")
    elif weight >= 400:
        print("It is a loaf")
    elif weight >= 1:
        print("It is a roll")
    else:
        print("There is nothing to bake")


def average(all_of_it, how_many):
    return all_of_it // how_many


lumps = int(input("Number of lumps?"))
for each in range(lumps):
    add(int(input("Weight?")))
say(total)
print(average(total, lumps), "on average")
