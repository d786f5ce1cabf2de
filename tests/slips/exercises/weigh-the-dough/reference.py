total = 0
heaviest = 0
number = int(input("How many lumps?"))
count = 0
while count < number:
    weight = int(input("What does it weigh?"))
    total += weight
    if weight > heaviest:
        heaviest = weight
    count += 1
if total >= 1000:
    print("a large loaf")
elif total >= 400:
    print("a loaf")
elif total > 0:
    print("a roll")
else:
    print("nothing to bake")
print(f"{total // number} on average")
