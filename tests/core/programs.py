"""Small programs that must mean the same woven and plain; the name of each stands after ##."""

TEXT = r'''
## assignment 1
a = 1
## assignment 2
a = b = c = []
a.append(1)
## assignment 3
a, b = 1, 2
a, b = b, a
## assignment 4
(a, (b, c)) = (1, (2, 3))
## assignment 5
[a, b] = [1, 2]
## assignment 6
a = 1,
## assignment 7
a = ()
b = (1, 2) + (3,)
## assignment 8
x = [0, 0, 0]
x[0], x[1] = 5, 6
## assignment 9
x = {}
x['a'] = x['b'] = 1
## assignment 10
i = 0
x = [0, 0]
i, x[i] = 1, 7
## assignment 11
a: int = 3
b: str
c: list = []
## assignment 12
a = 1
a += 1
a -= 3
a *= -4
a //= 3
a **= 2
a %= 5
a <<= 2
a |= 1
a &= 7
a ^= 2
a >>= 1
## assignment 13
a = 7
a /= 2
## assignment 14
a = 'x'
a += 'y'
a *= 3
## assignment 15
a = [1]
b = a
a += (2, 3)
a *= 2
## assignment 16
a = [1]
b = a
a = a + [2]
## assignment 17
x = [[1], [2]]
x[0] += [5]
x[1][0] *= 3
## assignment 18
d = {'n': 1}
d['n'] += 1
d['m'] = d.get('m', 0) + 1
## assignment 19
x = [1, 2, 3, 4]
x[1:3] = [9]
x[0:1] = []
## assignment 20
_ = 3
b = _ + 1
## assignment 21
a = (b := 2) + b
## assignment 22
x = 5
x = x = 3
## assignment 23
a = [1, 2]
a[-1] = 9
## assignment 24
log = []
def f(n):
    log.append(n)
    return n
x = {}
x[f(1)] = f(2)
x[f(1)] += f(3)
## numbers 1
a = 7 // 2, -7 // 2, 7 % 3, -7 % 3, 7.5 // 2, 0
## numbers 2
a = 2 ** 10, 2 ** -1, (-2) ** 3, 2 ** 0.5
## numbers 3
a = 1 / 3, 10 / 2, 1e3, 1.5e-3
## numbers 4
a = 5 & 3, 5 | 3, 5 ^ 3, ~5, -~5, 1 << 10, 1024 >> 3
## numbers 5
a = abs(-3), abs(-2.5), abs(True)
## numbers 6
a = round(2.5), round(3.5), round(2.567, 2), round(1234, -2), round(-0.5)
## numbers 7
a = int('12'), int(3.9), int(-3.9), int('ff', 16), int(True)
## numbers 8
a = float('1.5'), float(3), float('inf'), float('-inf')
## numbers 9
a = max(1, 3, 2), min(4, 2), max([1, 5]), min('b', 'a'), max('abc')
## numbers 10
a = sum([1, 2, 3]), sum([], 5), sum([0.1] * 3), sum([[1], [2]], [])
## numbers 11
a = 0.1 + 0.2, 1e16 + 1, 3.0 == 3, 1 == True
## numbers 12
a = True + True, False * 5, True and 3, 0 or 'x'
## numbers 13
a = 10 ** 20, 2 ** 100 % 97, 123456789 * 987654321
## numbers 14
a = 1 < 2, 1 <= 1, 2 > 3, 2 >= 2, 1 == 1.0, 1 != 2
## numbers 15
a = -5, +5, --5, not 5, not 0
## numbers 16
a = 3 > 2 > 1, 3 > 2 < 1, 1 < 3 > 2, 1 == 1 == 1
## numbers 17
a = 17
b = a % 2 == 0
c = 'even' if b else 'odd'
## numbers 18
a = float('nan')
b = a == a, a != a, a < 1
## numbers 19
a = 255
b = f'{a:x} {a:b} {a:o} {a:08b} {a:,} {a:+d} {a:e}'
## numbers 20
a = bool(0), bool(''), bool([]), bool('0'), bool(None)
## numbers 21
n = 0
for i in range(10, 0, -3):
    n = n * 10 + i
## numbers 22
a = 5 if 3 > 2 else 6, 5 if 0 else 6
## numbers 23
a = 1_000_000, 0x1f, 0b101, 0o17
## numbers 24
a = max([3, 1, 2], key=lambda x: -x), min(['bb', 'a'], key=len), max([], default=0)
## texts 1
a = 'abc'[0], 'abc'[-1], 'abc'[1:], 'abc'[::-1], 'abc'[::2]
## texts 2
a = 'a' + 'b' * 3, 3 * 'ab'
## texts 3
a = 'a' in 'abc', 'ac' in 'abc', 'x' not in 'abc', '' in 'a'
## texts 4
a = 'Hob'.upper(), 'Hob'.lower(), 'the hob'.title(), 'hob'.capitalize()
## texts 5
a = ' x '.strip(), 'xxhxx'.strip('x'), ' x'.lstrip(), 'x '.rstrip()
## texts 6
a = 'hob'.startswith('h'), 'hob'.endswith(('b', 'x')), 'hob'.find('o'), 'hob'.find('z'), 'hob'.index('b'), 'hobo'.count('o')
## texts 7
a = 'a,b,,c'.split(','), 'a b  c'.split(), 'a-b-c'.split('-', 1)
## texts 8
a = '-'.join(['a', 'b']), ''.join('abc'), ', '.join([])
## texts 9
a = 'aXbX'.replace('X', '.'), 'aXbX'.replace('X', '.', 1), 'aa'.replace('', '-')
## texts 10
a = '12'.isdigit(), 'a1'.isdigit(), 'ab'.isalpha(), 'AB'.isupper(), 'ab'.islower()
## texts 11
a = '7'.zfill(3), 'ab'.center(6, '*'), 'ab'.ljust(4) + '|', 'ab'.rjust(4)
## texts 12
n = 3
a = f'{n} {n + 1} {n!r} {n:>4}|{n:<4}|{n:^5}|{n:04d}'
## texts 13
a = f"{'x'!r} {'y'!s} {[1, 'z']} {(1,)} {{}}"
## texts 14
p = 3.14159
a = f'{p:.2f} {p:8.3f}| {p:.0f} {p:e}'
## texts 15
a = '%d %s %5.1f %x %r %%' % (3, 'x', 2.55, 255, 'q')
## texts 16
a = '%(n)s' % {'n': 3}
## texts 17
a = str(3) + str(2.0) + str(None) + str([1, 'a']) + str((1,)) + str({'a': 1})
## texts 18
a = 'line\nnext\ttab \\ \' \u00e4'
## texts 19
a = """one
two"""
## texts 20
a = 'a' 'b' "c"
## texts 21
a = 'abc' < 'abd', 'B' < 'a', 'a' < 'aa', 'x' == 'x'
## texts 22
a = len('hob'), len(''), len('ä')
## texts 23
a = ''
for c in 'hob':
    a = c + a
## texts 24
a = 'no'
## texts 25
a = [c for c in 'hello' if c in 'aeiou']
## texts 26
a = list('hob'), tuple('ab'), sorted('hob'), ''.join(sorted('hob')), ''.join(reversed('hob'))
## texts 27
s = 'The Hob'
a = s.lower().replace(' ', '_').split('_')
## texts 28
a = f'{True} {None} {1.0} {1e20} {-0.0}'
## texts 29
name = 'hob'
width = 10
a = f'[{name:*^9}]'
## lists 1
a = [3, 1, 2]
a.sort()
b = a.copy()
b.reverse()
## lists 2
a = [3, 1, 2]
a.sort(reverse=True)
b = sorted(a, key=lambda x: x % 3)
## lists 3
a = []
a.append(1)
a.extend([2, 3])
a.insert(0, 0)
a.remove(2)
b = a.pop()
c = a.pop(0)
## lists 4
a = [1, 2, 2, 3]
b = a.index(2), a.count(2), 3 in a, 5 not in a
a.clear()
## lists 5
a = [[0] * 3 for _ in range(2)]
a[0][1] = 5
## lists 6
a = [i * i for i in range(5) if i % 2 == 0]
## lists 7
a = [(i, j) for i in range(3) for j in range(i)]
## lists 8
a = [[j for j in range(i)] for i in range(3)]
## lists 9
x = 9
a = [x for x in range(3)]
b = x
## lists 10
a = [y := 1, y + 1]
## lists 11
a = [n for n in range(10) if n > 2 if n < 6]
## lists 12
a = list(range(3)), list(range(2, 8, 3)), list(range(5, 0, -2)), list(range(0))
## lists 13
a = len(range(10)), 3 in range(5), range(5)[2], range(10)[2:4] == range(2, 4)
## lists 14
a = list(enumerate('ab')), list(enumerate('ab', 1)), list(zip([1, 2], 'ab')), list(reversed([1, 2]))
## lists 15
a = [1, 2, 3]
for i, v in enumerate(a):
    a[i] = v * 2
## lists 16
a = any([0, 1]), all([1, 0]), any([]), all([]), any(x > 2 for x in [1, 3]), all(x for x in [1])
## lists 17
a = [1, 2] == [1, 2], [1, 2] < [1, 3], [1] < [1, 0], [] == [], [1] != [2]
## lists 18
a = [1, [2, [3]]]
b = a
b[1][1][0] = 9
c = a.copy()
c[0] = 5
## lists 19
a = [1, 2, 3, 4, 5]
b = a[1:-1], a[::2], a[-2:], a[:], a[10:]
## lists 20
a = sum(x * x for x in [1, 2, 3]), max(len(w) for w in ['a', 'bcd']), sorted(-x for x in [1, 2])
## lists 21
a = list(x for x in 'ab'), set(x for x in [1, 1]), tuple(x for x in [1])
## lists 22
a = [None] * 3
a[1] = 'x'
## lists 23
a = []
for x in [1, 2, 3]:
    if x == 2:
        continue
    a.append(x)
## lists 24
a = [1, 2, 3]
while a:
    a.pop()
else:
    b = 'empty'
## lists 25
a = (1, 2, 3)
b = a[0], a[-1], a[1:], a.index(2), a.count(9), len(a), 2 in a
## lists 26
a = ((1, 2), (3, 4))
for x, y in a:
    b = x + y
## slices 1
a = [1, 2, 3]
a[1:2] += [9, 8]
## slices 2
a = [1, 2, 3]
a[::2] = [7, 8]
## slices 3
a = [1, 2]
a[:0] = 'ab'
## slices 4
a = [1]
a[:] = 5
## slices 5
a = [1, 2, 3]
a[::2] = [1]
## slices 6
a = [1, 2, 3]
b = a
a[0:2] *= 2
## slices 7
a = 'abc'
a[0:1] = 'x'
## slices 8
d = {}
d[1:2] = 3
## dicts 1
a = {'x': 1, 'y': 2}
b = a['x'], a.get('z'), a.get('z', 0), 'x' in a, len(a)
## dicts 2
a = {}
for w in 'the hob the bun'.split():
    a[w] = a.get(w, 0) + 1
## dicts 3
a = {'x': 1}
a.update({'y': 2})
a.setdefault('z', []).append(3)
b = a.pop('x'), a.pop('q', None)
## dicts 4
a = {'b': 1, 'a': 2}
b = list(a), list(a.keys()), list(a.values()), list(a.items()), sorted(a)
## dicts 5
a = {i: i * i for i in range(3)}
b = {v: k for k, v in a.items()}
## dicts 6
a = {(0, 1): 'x', None: 'y', True: 'z'}
b = a[1], a[(0, 1)]
## dicts 7
a = dict(x=1, y=2)
b = dict([('p', 1)])
c = dict()
## dicts 8
a = {'x': {'y': 1}}
a['x']['y'] += 4
a['x']['z'] = []
a['x']['z'].append(2)
## dicts 9
a = {'x': 1}
b = a.copy()
b['x'] = 2
a.clear()
## dicts 10
a = {'x': 1} == {'x': 1}, {} == {}, {'a': 1, 'b': 2} == {'b': 2, 'a': 1}
## dicts 11
a = {'x': 1}
for k in a:
    b = k
for k, v in a.items():
    c = (k, v)
## dicts 12
stock = {'bun': 3}
if 'bun' in stock and stock['bun'] > 2:
    a = 'enough'
## dicts 13
a = {1: 'one', 2: 'two'}
b = [a.get(n, '?') for n in range(4)]
## sets 1
a = len({1, 2, 2}), 1 in {1}, 3 in {1}, {1, 2} == {2, 1}
## sets 2
a = {1, 2}
a.add(3)
a.discard(9)
a.remove(1)
b = len(a), 3 in a
## sets 3
a = sorted({3, 1} | {2}), sorted({1, 2} & {2}), sorted({1, 2} - {2}), sorted({1} ^ {1, 2})
## sets 4
a = sorted({1, 2}.union([3])), sorted({1, 2}.intersection([2])), sorted({1, 2}.difference([1]))
## sets 5
a = sorted({x % 3 for x in range(10)})
## sets 6
seen = set()
twice = []
for x in [1, 2, 1]:
    if x in seen:
        twice.append(x)
    seen.add(x)
count = len(seen)
seen.clear()
## sets 7
a = {1, 2} <= {1, 2, 3}, {1} < {1}, {1, 2} >= {2}
## branches 1
x = 5
if x > 5:
    a = 1
elif x == 5:
    a = 2
else:
    a = 3
## branches 2
x = 0
if x:
    a = 1
elif not x:
    a = 2
## branches 3
a = []
if a and a[0]:
    b = 1
else:
    b = 2
## branches 4
x = 3
if 1 < x < 5 and x != 4 or x == 100:
    a = 'in'
## branches 5
a = None
if a is None:
    b = 'none'
if a is not None:
    b = 'some'
## branches 6
for n in range(1, 16):
    if n % 15 == 0:
        print('both')
    elif n % 5 == 0:
        print('five')
    elif n % 3 == 0:
        print('three')
    else:
        print(n)
## branches 7
x = 7
a = 'neg' if x < 0 else 'zero' if x == 0 else 'pos'
## branches 8
x = 2
match x:
    case 1:
        a = 'one'
    case 2 | 3:
        a = 'few'
    case _:
        a = 'many'
## branches 9
x = 'b'
match x:
    case 'a':
        r = 1
    case 'b' if False:
        r = 2
    case other:
        r = other + '!'
## branches 10
x = None
match x:
    case True:
        a = 1
    case None:
        a = 2
    case -1:
        a = 3
## branches 11
from enum import Enum
class S(Enum):
    A = 1
    B = 2
x = S.B
match x:
    case S.A:
        a = 'a'
    case S.B:
        a = 'b'
## branches 12
match 5:
    case 1:
        a = 1
b = 2
## branches 13
x = 4
if (n := x * 2) > 7 and (m := n + 1):
    a = n, m
## branches 14
if 1:
    pass
else:
    a = 1
b = 2
## branches 15
def sign(n):
    if n > 0:
        return 1
    if n < 0:
        return -1
    return 0
a = sign(5), sign(-2), sign(0)
## branches 16
if __name__ == '__main__':
    a = 1
else:
    a = 2
## loops 1
n = 10
while n > 0:
    n -= 3
## loops 2
a = 0
for i in range(100):
    if i % 2:
        continue
    if i > 10:
        break
    a += i
else:
    a = -1
## loops 3
for i in []:
    pass
else:
    a = 'none'
## loops 4
a = 0
for i in range(3):
    for j in range(3):
        if j == i:
            break
        a += 1
    else:
        a += 100
## loops 5
for i, (a, b) in [(1, (2, 3)), (4, (5, 6))]:
    c = i + a + b
## loops 6
x = [0]
for x[0] in range(4):
    pass
## loops 7
n = 0
while True:
    n += 1
    if n == 5:
        break
## loops 8
total = 0
for c in '12345':
    total += int(c)
## loops 9
a = [1, 2, 3]
for x in a:
    if x == 1:
        a.append(4)
## loops 10
i = 5
for i in range(2):
    pass
## loops 11
n = 27
steps = 0
while n != 1:
    n = n // 2 if n % 2 == 0 else 3 * n + 1
    steps += 1
## loops 12
a, b = 0, 1
fib = []
while len(fib) < 10:
    fib.append(a)
    a, b = b, a + b
## loops 13
primes = []
for n in range(2, 30):
    for p in primes:
        if n % p == 0:
            break
    else:
        primes.append(n)
## loops 14
x = 3
while x:
    x -= 1
    print(x, end=' ')
print()
## loops 15
for x in 'ab', 'cd':
    print(x)
## loops 16
i = 0
while (i := i + 1) < 5:
    pass
## loops 17
for _ in range(2):
    for _ in range(2):
        print('.', end='')
## functions 1
def f():
    pass
a = f()
## functions 2
def f(x):
    return x, x + 1
a, b = f(3)
## functions 3
def f(x, y=2, *, z=3):
    return x * 100 + y * 10 + z
a = f(1), f(1, 5), f(1, z=9), f(y=1, x=2)
## functions 4
def f(n):
    return 1 if n <= 1 else n * f(n - 1)
a = f(6)
## functions 5
def even(n):
    return n == 0 or odd(n - 1)
def odd(n):
    return n != 0 and even(n - 1)
a = even(10), odd(7)
## functions 6
x = 1
def f():
    x = 2
    return x
a = f(), x
## functions 7
x = 1
def f():
    global x
    x += 1
    return x
a = f(), f(), x
## functions 8
def outer():
    n = 0
    def inner():
        nonlocal n
        n += 1
        return n
    inner()
    return inner()
a = outer()
## functions 9
def make(k):
    def add(x):
        return x + k
    return add
a = make(3)(4)
## functions 10
f = lambda x, y=2: x + y
a = f(1), f(1, 5), (lambda: 7)()
## functions 11
def apply(g, x):
    return g(g(x))
a = apply(lambda n: n * 3, 2)
## functions 12
fs = [lambda: i for i in range(3)]
a = [f() for f in fs]
fs = 0
## functions 13
def f(a, b=[]):
    b.append(a)
    return b
x = f(1)
y = f(2)
## functions 14
def f():
    return
a = f() is None
## functions 15
def f(x):
    if x:
        return 'yes'
a = f(1), f(0)
## functions 16
def f():
    'a docstring'
    return 1
a = f()
## functions 17
def f(x: int, y: str = 'a') -> str:
    return y * x
a = f(3)
## functions 18
def f():
    for i in range(5):
        if i == 3:
            return i
a = f()
## functions 19
def f(n):
    total = 0
    while n:
        total += n % 10
        n //= 10
    return total
a = f(12345)
## functions 20
a = sorted(['bb', 'a', 'ccc'], key=len), sorted([3, 1], key=lambda x: -x)
## functions 21
def f():
    def g():
        return h()
    def h():
        return 5
    return g()
a = f()
## functions 22
def f(x):
    x.append(1)
l = []
f(l)
f(l)
## functions 23
def f(a, b):
    return a - b
a = f(b=1, a=5)
## functions 24
def counter():
    counts = {}
    def count(w):
        counts[w] = counts.get(w, 0) + 1
        return counts[w]
    return count
c = counter()
a = c('x'), c('x'), c('y')
## functions 25
def f():
    x = 1
    def g():
        x = 2
        return x
    return g() + x
a = f()
## functions 26
x = 5
def f(x=x):
    return x
x = 9
a = f()
## functions 27
f = max
a = f(1, 2)
g = 'abc'.upper
b = g()
## functions 28
def f(n):
    try:
        return n
    except ValueError:
        return 0
a = f(3)
## exceptions 1
try:
    a = 1 / 0
except ZeroDivisionError as e:
    a = str(e)
## exceptions 2
try:
    a = int('x')
except ValueError as e:
    a = f'{e}'
else:
    a = 'fine'
## exceptions 3
try:
    a = 1
except Exception:
    a = 2
else:
    b = 3
## exceptions 4
try:
    [][1]
except (KeyError, IndexError) as e:
    a = str(e)
## exceptions 5
try:
    {}['x']
except KeyError as e:
    a = str(e)
## exceptions 6
try:
    try:
        raise ValueError('inner')
    except KeyError:
        a = 1
except ValueError as e:
    a = str(e)
## exceptions 7
def f(n):
    if n < 0:
        raise ValueError('no less than nothing')
    return n
try:
    f(-1)
except ValueError as e:
    a = str(e)
## exceptions 8
try:
    raise TypeError
except TypeError as e:
    a = str(e) == ''
## exceptions 9
try:
    try:
        1 / 0
    except ZeroDivisionError:
        raise
except Exception as e:
    a = str(e)
## exceptions 10
try:
    assert 1 == 2, 'not so'
except Exception as e:
    a = str(e)
## exceptions 11
assert 1 == 1
a = 2
## exceptions 12
try:
    missing
except NameError as e:
    a = str(e)
## exceptions 13
try:
    'x'.nothing
except AttributeError as e:
    a = str(e)
## exceptions 14
a = []
for x in [1, 0, 2]:
    try:
        a.append(4 // x)
    except ZeroDivisionError:
        a.append(None)
        continue
## exceptions 15
def f():
    try:
        return 'try'
    except Exception:
        return 'except'
a = f()
## exceptions 16
e = 5
try:
    1 / 0
except ZeroDivisionError as e:
    pass
a = 1
## exceptions 17
try:
    1 + 'a'
except TypeError as e:
    print(e)
## exceptions 18
while True:
    try:
        n = int('7')
        break
    except ValueError:
        pass
## exceptions 19
try:
    raise ValueError('a' + 'b')
except Exception as e:
    print('caught', e)
## stops 1
a = 1
b = missing
## stops 2
def f():
    n += 1
n = 0
f()
## stops 3
1 / 0
## stops 4
a = 1 // 0
## stops 5
a = 5 % 0
## stops 6
a = 1.0 / 0
## stops 7
a = '1' + 1
## stops 8
a = 1 + '1'
## stops 9
a = [1] + (2,)
## stops 10
a = 'x' * 'y'
## stops 11
a = 'a' - 1
## stops 12
a = '5' > 3
## stops 13
a = None + 1
## stops 14
a = -'x'
## stops 15
a = [1][5]
## stops 16
a = {}['k']
## stops 17
a = 'abc'[9]
## stops 18
a = 'abc'.nothing
## stops 19
a = [1].nothing
## stops 20
a = (1, 2).append(3)
## stops 21
a, b = 1, 2, 3
## stops 22
a, b, c = 1, 2
## stops 23
a, b = 5
## stops 24
for x in 5:
    pass
## stops 25
a = 5
a()
## stops 26
'x'()
## stops 27
def f(a):
    pass
f()
## stops 28
def f(a):
    pass
f(1, 2)
## stops 29
def f(a):
    pass
f(b=1)
## stops 30
int('x')
## stops 31
int('1.5')
## stops 32
float('abc')
## stops 33
int([])
## stops 34
len(5)
## stops 35
max([])
## stops 36
sum(['a'])
## stops 37
sum([1], 'a')
## stops 38
[1, 2].remove(3)
## stops 39
[1].index(5)
## stops 40
'abc'.index('z')
## stops 41
{1}.remove(2)
## stops 42
[].pop()
## stops 43
raise ValueError('stop')
## stops 44
raise KeyError('k')
## stops 45
assert False, 'reason'
## stops 46
assert 0
## stops 47
a = [3, 'a']
a.sort()
## stops 48
sorted([1, 'a'])
## stops 49
a = {[]: 1}
## stops 50
a = {[1]}
## stops 51
a = (1, 2)
a[0] = 5
## stops 52
a = 'abc'
a[0] = 'x'
## stops 53
a = 1
a[0]
## stops 54
a = 1
a[0] = 2
## stops 55
a = 'x'
a -= 1
## stops 56
a = [1]
a += 5
## stops 57
a = [1]
a -= [1]
## stops 58
a = {'x': 1}
a['x'] += 'y'
## stops 59
x = 3 in 5
## stops 60
x = 1 < 'a' < 2
## stops 61
range('a')
## stops 62
range(1, 2, 0)
## stops 63
round('x')
## stops 64
abs('x')
## stops 65
'%d' % 'x'
## stops 66
'%s %s' % 1
## stops 67
f'{3:q}'
## stops 68
f'{[1]:>3}'
## stops 69
'a'.join([1])
## stops 70
'a'.center('x')
## stops 71
def f():
    return undefined_name
f()
## stops 72
def f():
    if False:
        x = 1
    return x
f()
## stops 73
x = [1, 2, 3]
for i in range(5):
    print(x[i])
## stops 74
match 1:
    case 1:
        raise IndexError('in a match')
## stops 75
lambda: missing
(lambda: missing)()
## stops 76
a = [1 / x for x in [1, 0]]
## stops 77
try:
    1 / 0
except ValueError:
    pass
## stops 78
try:
    1 / 0
except ZeroDivisionError:
    raise ValueError('again')
## stops 79
min()
## stops 80
list(5)
## stops 81
dict([1])
## stops 82
tuple(1)
## stops 83
int()
int('')
## stops 84
bool(1, 2)
## stops 85
zip(1)
## stops 86
enumerate()
## stops 87
isinstance(1)
## stops 88
isinstance(1, 2)
## stops 89
type()
## stops 90
print(sep=1)
## stops 91
print('a', end=3)
## stops 92
import math
math.sqrt(-1)
## stops 93
import math
math.log(0)
## stops 94
import math
math.factorial(-1)
## stops 95
from math import sqrt
sqrt('x')
## modules 1
import math
a = math.floor(2.7), math.ceil(2.1), math.sqrt(16), math.pi, math.gcd(12, 18), math.factorial(5)
## modules 2
import math as m
a = m.hypot(3, 4), round(m.sin(m.pi / 2), 9), m.degrees(m.pi), m.isclose(0.1 + 0.2, 0.3)
## modules 3
from math import floor, sqrt as root
a = floor(2.5), root(9)
## modules 4
import math
a = math.comb(5, 2), math.perm(5, 2), math.prod([1, 2, 3]), math.trunc(-2.5), math.fabs(-1), math.copysign(3, -1)
## modules 5
import math
a = math.inf > 10, math.isnan(math.nan), math.isqrt(17), math.lcm(4, 6), math.dist([0, 0], [3, 4])
## modules 6
from enum import Enum
class Stage(Enum):
    DOUGH = 1
    OVEN = 2
a = Stage.DOUGH.name, Stage.OVEN.value, Stage.DOUGH == Stage.DOUGH, Stage.DOUGH != Stage.OVEN
print(Stage.DOUGH, [Stage.OVEN])
## modules 7
import enum
class Level(enum.IntEnum):
    LOW = 1
    HIGH = 5
a = Level.HIGH > Level.LOW, Level.HIGH + 1
print(Level.LOW, f'{Level.HIGH}')
## modules 8
from enum import Enum, auto
class S(Enum):
    A = auto()
    B = auto()
a = S.A.value, S.B.value
state = S.A
if state == S.A:
    state = S.B
b = state.name
## modules 9
from enum import Enum
class C(Enum):
    RED = 'r'
    'a docstring'
a = {C.RED: 1}[C.RED], C.RED in [C.RED], isinstance(C.RED, C)
## modules 10
from enum import Enum
class S(Enum):
    A = 1
S.B
## modules 11
from enum import IntEnum
class N(IntEnum):
    ONE = 1
a = N.ONE == 1, N.ONE * 3, max(N.ONE, 0), str(N.ONE)
## modules 12
import random
a = 1 <= random.randint(1, 6) <= 6, 0 <= random.random() < 1, random.choice([5]) == 5
## modules 13
import random
x = [1, 2, 3]
random.shuffle(x)
a = sorted(x), len(random.sample(range(10), 3)), random.randrange(1, 2)
x = 0
## modules 14
import random
random.choice([])
## modules 15
import random
random.randint(5, 1)
## modules 16
import math
math.nothing
## modules 17
from enum import Enum
class T(Enum):
    A = 1
    A = 2
## printing 1
print()
## printing 2
print('a', 'b', 3, None, True, 2.5)
## printing 3
print('a', 'b', sep='')
print('c', end='')
print('d')
## printing 4
print([1, 'a', None], (1,), {'k': [2]}, {5})
## printing 5
print('a\nb')
## printing 6
for i in range(3):
    print(i, end=',')
print('done')
## printing 7
print('x' * 3, 1 + 1, 'y')
## printing 8
print(f'{1}{2}')
## printing 9
print(1, 2, sep=' and ', end='.\n')
## printing 10
print('last', end='')
## printing 11
print(1.0, 1e100, 0.1, -0.0, 10 ** 15)
## printing 12
print(print('in') is None)
## printing 13
print(set(), {}, [], ())
## printing 14
print(range(3), [range(2)])
## printing 15
print('ä', 'ß', '…')
## games 1
score = 0
lives = 3
def hit():
    global lives
    lives -= 1
    if lives <= 0:
        return 'over'
    return 'go on'
log = [hit() for _ in range(4)]
## games 2
inventory = []
def take(item):
    if item in inventory:
        return f'You have {item} already.'
    inventory.append(item)
    return f'You take {item}.'
print(take('bun'))
print(take('bun'))
## games 3
best = None
for score in [3, 9, 4]:
    if best is None or score > best:
        best = score
## games 4
secret = 7
tries = 0
for guess in [3, 9, 7]:
    tries += 1
    if guess == secret:
        print('right after', tries)
        break
    elif guess < secret:
        print('more')
    else:
        print('less')
## games 5
oven = {'heat': 0, 'on': False}
def tick():
    if oven['on']:
        oven['heat'] = min(oven['heat'] + 30, 100)
    else:
        oven['heat'] = max(oven['heat'] - 10, 0)
oven['on'] = True
for _ in range(5):
    tick()
oven['on'] = False
tick()
## games 6
grid = [['.'] * 3 for _ in range(3)]
grid[1][1] = 'H'
for row in grid:
    print(''.join(row))
## games 7
flags = [False, False, False]
flags[0] = flags[2] = True
if all(flags):
    r = 'all'
elif any(flags):
    r = 'some'
else:
    r = 'none'
## games 8
stage = 0
steps = ['mix', 'knead', 'bake']
done = []
for doing in ['knead', 'mix', 'knead', 'bake']:
    if stage < len(steps) and doing == steps[stage]:
        stage += 1
        done.append(doing)
    else:
        done.append('not yet')
## games 9
def grade(points):
    if points >= 90:
        return 'A'
    elif points >= 75:
        return 'B'
    return 'C'
a = [grade(p) for p in (95, 90, 89, 75, 74)]
## games 10
money = 10
prices = {'bun': 2, 'cake': 7}
bought = []
for want in ['cake', 'bun', 'bun']:
    if prices[want] <= money:
        money -= prices[want]
        bought.append(want)
## games 11
x, y = 0, 0
moves = {'n': (0, 1), 's': (0, -1), 'e': (1, 0), 'w': (-1, 0)}
for m in 'nneesw':
    dx, dy = moves[m]
    x += dx
    y += dy
## declared 1
def f():
    for i in range(2):
        global count
        count = i
f()
## declared 2
def outer():
    n = 0
    def inner():
        for i in range(3):
            if i:
                nonlocal n
                n += i
    inner()
    return n
a = outer()
## declared 3
for i in range(2):
    global count
    count = i
## declared 4
def f(x):
    while x:
        try:
            global last, other
            last = x
        except ValueError:
            nothing = 1
        x -= 1
        def g():
            global other
            other = last
            return other
        if g() == 1:
            return last
a = f(3)
## default 1
f = lambda x, store=[]: store.append(x) or store
a = f(1)
a = f(2)
## default 2
f = lambda x, *, store={}: store.update({x: 1})
f(1)
## inside 1
c = [ys.append(1) for ys in [[], []]]
xs = []
d = [xs.append(y) for y in (1, 2)]
e = {k: v.pop() for k, v in {1: [2]}.items()}
## never looked at
ready = False
ready and zs.append(1)
a = 1 if ready or True else qs.pop()
## local range
def g():
    range = 3
    return range
a = g()
b = list(range(3))
## local builtins
def h():
    reversed = zip = enumerate = len = max = isinstance = print = type = float = bool = 1
    return reversed
d = list(zip([1], [2])), list(enumerate([1])), len([1]), max(1, 2), isinstance(1, int), float(3), bool(0)
e = list(reversed(d)), type(1) is None
print(d)
## parameters called like builtins
def h(sum, any, all, sorted, min, abs, round, str, int, list, dict, set, tuple):
    return sum
a = sum([1]), any([1]), all([0]), sorted([2, 1]), min(1, 2), abs(-1), round(2.5), str(1), int('1')
b = list('ab'), dict(a=1), set([1]), tuple([1])
## views
d = {'a': 1}
print(d.keys(), d.values(), d.items())
print(f'{d.keys()} {d.items()!r:>30}')
## update
d = {}
d.update(x=1)
d.update({'y': 2}, z=3)
d.update([('w', 4)])
## in reversed
xs = [1, 2, 3, 4]
it = reversed(xs)
a = 3 in it
b = list(it)
c = 9 in zip(xs, xs)
it = None
## a set that grows
s = {1}
for x in s:
    s.add(x + 1)
## a set that shrinks and grows
s = {1, 2}
for x in s:
    s.discard(x)
    s.add(x)
## a set in an expression
s = {1}
a = [s.add(2) for x in s]
## a dict that grows
d = {1: 1}
for k in d:
    d[k + 1] = 1
## join what cannot be joined
''.join(5)
## join nothing
''.join()
## append with a name
xs = []
xs.append(1, a=2)
## setdefault with too much
{}.setdefault(1, 2, 3)
## pop of a set with too much
{1}.pop(2)
## replace with too little
'a'.replace('b')
## center with too little
'a'.center()
## functions as text
def f():
    def g():
        pass
    return g
print(f, f(), lambda: 0)
print(len, print, sum, max, round, [].append, ''.join, {}.update, 'a'.replace, set().add, ''.upper)
print(zip, enumerate, type, range, reversed, int, list)
print(reversed([1]), enumerate([1]), zip([1]), [f], {'a': len})
## members 1
from enum import Enum, IntEnum, auto
class C(Enum):
    RED = 1
    GREEN = 2
class N(IntEnum):
    A = auto()
    B = auto()
for c in C:
    print(c, c.name, c.value)
n = len(C)
xs = list(C)
print(xs, C(2), C['RED'], C(value=1), C, type(C.RED), {C.RED: 1})
print([c.name for c in C], sorted(N), max(N), sum(N), list(reversed(C)), list(enumerate(C)), list(zip(C, N)))
chosen = C.GREEN
a = chosen is C.GREEN, C.RED is not chosen, C['RED'] is C.RED, C(1) is C.GREEN, C.RED in C
## members 2
from enum import Enum
class C(Enum):
    RED = 1
C(7)
## members 3
from enum import Enum
class C(Enum):
    RED = 1
C['BLUE']
## members 4
from enum import Enum
class C(Enum):
    RED = 1
C()
'''
