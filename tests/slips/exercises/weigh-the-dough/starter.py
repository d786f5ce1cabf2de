total = 0
number = int(input("How many lumps?"))
print("Today: a roll")
