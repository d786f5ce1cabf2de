"""Programs from CPython 3.11's own tests (test_grammar, test_scope, test_patma, …) that fall inside the language.

Each is the body of one test method, with its assertions written as `assert`; the name says which. Copyright ©
2001-2023 Python Software Foundation; all rights reserved. Used and changed under the PSF License Agreement, version 2
(https://docs.python.org/3.11/license.html).
"""

TEXT = r"""
## test_grammar.test_backslash
x = 1 + 1
assert x == 2
x = 0
assert x == 0
## test_grammar.test_long_integers
x = 0
x = 18446744073709551615
x = 18446744073709551615
x = 2251799813685247
x = 2251799813685247
x = 123456789012345678901234567890
x = 295147905179352825856
x = 590295810358705651711
## test_grammar.test_floats
x = 3.14
x = 314.0
x = 0.314
x = 0.314
x = 300000000000000.0
x = 300000000000000.0
x = 3e-14
x = 300000000000000.0
x = 300000000000000.0
x = 30000000000000.0
x = 31000.0
## test_grammar.test_global
global a
global a, b
global one, two, three, four, five, six, seven, eight, nine, ten
## test_grammar.test_if
if 1:
    pass
if 1:
    pass
else:
    pass
if 0:
    pass
elif 0:
    pass
if 0:
    pass
elif 0:
    pass
elif 0:
    pass
elif 0:
    pass
else:
    pass
## test_grammar.test_while
while 0:
    pass
while 0:
    pass
else:
    pass
x = 0
while 0:
    x = 1
else:
    x = 2
assert x == 2
## test_grammar.test_suite
if 1:
    pass
if 1:
    pass
if 1:
    pass
    pass
    pass
## test_grammar.test_test
if not 1:
    pass
if 1 and 1:
    pass
if 1 or 1:
    pass
if not not not 1:
    pass
if not 1 and 1 and 1:
    pass
if 1 and 1 or (1 and 1 and 1) or (not 1 and 1):
    pass
## test_grammar.test_binary_mask_ops
x = 1 & 1
x = 1 ^ 1
x = 1 | 1
## test_grammar.test_shift_ops
x = 1 << 1
x = 1 >> 1
x = 1 << 1 >> 1
## test_grammar.test_additive_ops
x = 1
x = 1 + 1
x = 1 - 1 - 1
x = 1 - 1 + 1 - 1 + 1
## test_grammar.test_multiplicative_ops
x = 1 * 1
x = 1 / 1
x = 1 % 1
x = 1 / 1 * 1 % 1
## test_grammar.test_unary_ops
x = +1
x = -1
x = ~1
x = ~1 ^ 1 & 1 | 1 & 1 ^ -1
x = -1 * 1 / 1 + 1 * 1 - ---1 * 1
## test_grammar.test_atoms
x = 1
x = 1 or 2 or 3
x = (1 or 2 or 3, 2, 3)
x = []
x = [1]
x = [1 or 2 or 3]
x = [1 or 2 or 3, 2, 3]
x = []
x = {}
x = {'one': 1}
x = {'one': 1}
x = {'one' or 'two': 1 or 2}
x = {'one': 1, 'two': 2}
x = {'one': 1, 'two': 2}
x = {'one': 1, 'two': 2, 'three': 3, 'four': 4, 'five': 5, 'six': 6}
x = {'one'}
x = {'one', 1}
x = {'one', 'two', 'three'}
x = {2, 3, 4}
x = x
x = 'x'
x = 123
## test_grammar.test_dictcomps
nums = [1, 2, 3]
assert {i: i + 1 for i in nums} == {1: 2, 2: 3, 3: 4}
## test_augassign.testBasic
x = 2
x += 1
x *= 2
x **= 2
x -= 8
x //= 5
x %= 3
x &= 2
x |= 5
x ^= 1
x /= 2
assert x == 3.0
## test_augassign.testInList
x = [2]
x[0] += 1
x[0] *= 2
x[0] **= 2
x[0] -= 8
x[0] //= 5
x[0] %= 3
x[0] &= 2
x[0] |= 5
x[0] ^= 1
x[0] /= 2
assert x[0] == 3.0
## test_augassign.testInDict
x = {0: 2}
x[0] += 1
x[0] *= 2
x[0] **= 2
x[0] -= 8
x[0] //= 5
x[0] %= 3
x[0] &= 2
x[0] |= 5
x[0] ^= 1
x[0] /= 2
assert x[0] == 3.0
## test_scope.testSimpleNesting
def make_adder(x):

    def adder(y):
        return x + y
    return adder
inc = make_adder(1)
plus10 = make_adder(10)
assert inc(1) == 2
assert plus10(-2) == 8
## test_scope.testExtraNesting
def make_adder2(x):

    def extra():

        def adder(y):
            return x + y
        return adder
    return extra()
inc = make_adder2(1)
plus10 = make_adder2(10)
assert inc(1) == 2
assert plus10(-2) == 8
## test_scope.testSimpleAndRebinding
def make_adder3(x):

    def adder(y):
        return x + y
    x = x + 1
    return adder
inc = make_adder3(0)
plus10 = make_adder3(9)
assert inc(1) == 2
assert plus10(-2) == 8
## test_scope.testNestingGlobalNoFree
def make_adder4():

    def nest():

        def nest():

            def adder(y):
                return global_x + y
            return adder
        return nest()
    return nest()
global_x = 1
adder = make_adder4()
assert adder(1) == 2
global_x = 10
assert adder(-2) == 8
## test_scope.testNestingPlusFreeRefToGlobal
def make_adder6(x):
    global global_nest_x

    def adder(y):
        return global_nest_x + y
    global_nest_x = x
    return adder
inc = make_adder6(1)
plus10 = make_adder6(10)
assert inc(1) == 11
assert plus10(-2) == 8
## test_scope.testNearestEnclosingScope
def f(x):

    def g(y):
        x = 42

        def h(z):
            return x + z
        return h
    return g(2)
test_func = f(10)
assert test_func(5) == 47
## test_scope.testMixedFreevarsAndCellvars
def identity(x):
    return x

def f(x, y, z):

    def g(a, b, c):
        a = a + x

        def h():
            return identity(z * (b + y))
        y = c + z
        return h
    return g
g = f(1, 2, 3)
h = g(2, 4, 6)
assert h() == 39
## test_scope.testCellIsKwonlyArg
def foo(*, a=17):

    def bar():
        return a + 5
    return bar() + 3
assert foo(a=42) == 50
assert foo() == 25
## test_scope.testRecursion
def f(x):

    def fact(n):
        if n == 0:
            return 1
        else:
            return n * fact(n - 1)
    if x >= 0:
        return fact(x)
    else:
        raise ValueError('x must be >= 0')
assert f(6) == 720
## test_scope.testLambdas
f1 = lambda x: lambda y: x + y
inc = f1(1)
plus10 = f1(10)
assert inc(1) == 2
assert plus10(5) == 15
f2 = lambda x: (lambda: lambda y: x + y)()
inc = f2(1)
plus10 = f2(10)
assert inc(1) == 2
assert plus10(5) == 15
f3 = lambda x: lambda y: global_x + y
global_x = 1
inc = f3(None)
assert inc(2) == 3
f8 = lambda x, y, z: lambda a, b, c: lambda: z * (b + y)
g = f8(1, 2, 3)
h = g(2, 4, 6)
assert h() == 18
## test_scope.testListCompLocalVars
try:
    print(bad)
except NameError:
    pass
else:
    print('bad should not be defined')

def x():
    [bad for s in 'a b' for bad in s.split()]
x()
try:
    print(bad)
except NameError:
    pass
## test_scope.testNonLocalFunction
def f(x):

    def inc():
        nonlocal x
        x += 1
        return x

    def dec():
        nonlocal x
        x -= 1
        return x
    return (inc, dec)
inc, dec = f(0)
assert inc() == 1
assert inc() == 2
assert dec() == 1
assert dec() == 0
## test_scope.testNestedNonLocal
def f(x):

    def g():
        nonlocal x
        x -= 2

        def h():
            nonlocal x
            x += 4
            return x
        return h
    return g
g = f(1)
h = g()
assert h() == 3
## test_scope.testTopIsNotSignificant
def top(a):
    pass

def b():
    global a
## test_dict.test_len
d = {}
assert len(d) == 0
d = {'a': 1, 'b': 2}
assert len(d) == 2
## test_dict.test_dictview_set_operations_on_keys
k1 = {1: 1, 2: 2}.keys()
k2 = {1: 1, 2: 2, 3: 3}.keys()
k3 = {4: 4}.keys()
assert k1 - k2 == set()
assert k1 - k3 == {1, 2}
assert k2 - k1 == {3}
assert k3 - k1 == {4}
assert k1 & k2 == {1, 2}
assert k1 & k3 == set()
assert k1 | k2 == {1, 2, 3}
assert k1 ^ k2 == {3}
assert k1 ^ k3 == {1, 2, 4}
## test_dict.test_dictview_set_operations_on_items
k1 = {1: 1, 2: 2}.items()
k2 = {1: 1, 2: 2, 3: 3}.items()
k3 = {4: 4}.items()
assert k1 - k2 == set()
assert k1 - k3 == {(1, 1), (2, 2)}
assert k2 - k1 == {(3, 3)}
assert k3 - k1 == {(4, 4)}
assert k1 & k2 == {(1, 1), (2, 2)}
assert k1 & k3 == set()
assert k1 | k2 == {(1, 1), (2, 2), (3, 3)}
assert k1 ^ k2 == {(3, 3)}
assert k1 ^ k3 == {(1, 1), (2, 2), (4, 4)}
## test_dict.test_dictview_mixed_set_operations
assert {1: 1}.keys() == {1}
assert {1} == {1: 1}.keys()
assert {1: 1}.keys() | {2} == {1, 2}
assert {2} | {1: 1}.keys() == {1, 2}
assert {1: 1}.items() == {(1, 1)}
assert {(1, 1)} == {1: 1}.items()
assert {1: 1}.items() | {2} == {(1, 1), 2}
assert {2} | {1: 1}.items() == {(1, 1), 2}
## test_dict.test_string_keys_can_track_values
for i in range(10):
    d = {}
    for j in range(10):
        d[str(j)] = j
    d['foo'] = d
## test_dict.test_reverse_iterator_for_empty_dict
assert list(reversed({})) == []
assert list(reversed({}.items())) == []
assert list(reversed({}.values())) == []
assert list(reversed({}.keys())) == []
assert list(reversed(dict())) == []
assert list(reversed(dict().items())) == []
assert list(reversed(dict().values())) == []
assert list(reversed(dict().keys())) == []
## test_set.test_set_literal
s = set([1, 2, 3])
t = {1, 2, 3}
assert s == t
## test_set.test_set_literal_insertion_order
s = {1, 1.0, True}
assert len(s) == 1
stored_value = s.pop()
assert type(stored_value) == int
## test_set.test_set_literal_evaluation_order
events = []

def record(obj):
    events.append(obj)
s = {record(1), record(2), record(3)}
assert events == [1, 2, 3]
## test_bool.test_str
assert str(False) == 'False'
assert str(True) == 'True'
## test_bool.test_format
assert '%d' % False == '0'
assert '%d' % True == '1'
assert '%x' % False == '0'
assert '%x' % True == '1'
## test_int.test_unicode
assert int('१२३४५६७८९०1234567890') == 12345678901234567890
assert int('١٢٣٤٥٦٧٨٩٠') == 1234567890
assert int('१२३४५६७८९०1234567890', 0) == 12345678901234567890
assert int('١٢٣٤٥٦٧٨٩٠', 0) == 1234567890
## test_int.test_issue31619
assert int('1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1_0_1', 2) == 1431655765
assert int('1_2_3_4_5_6_7_0_1_2_3', 8) == 1402433619
assert int('1_2_3_4_5_6_7_8_9', 16) == 4886718345
assert int('1_2_3_4_5_6_7', 32) == 1144132807
## test_named_expressions.test_named_expression_assignment_02
a = 20
(a := a)
assert a == 20
## test_named_expressions.test_named_expression_assignment_03
(total := (1 + 2))
assert total == 3
## test_named_expressions.test_named_expression_assignment_04
(info := (1, 2, 3))
assert info == (1, 2, 3)
## test_named_expressions.test_named_expression_assignment_05
((x := 1), 2)
assert x == 1
## test_named_expressions.test_named_expression_assignment_06
(z := (y := (x := 0)))
assert x == 0
assert y == 0
assert z == 0
## test_named_expressions.test_named_expression_assignment_07
(loc := (1, 2))
assert loc == (1, 2)
## test_named_expressions.test_named_expression_assignment_08
if (spam := 'eggs'):
    assert spam == 'eggs'
else:
    assert False
## test_named_expressions.test_named_expression_assignment_09
if True and (spam := True):
    assert spam
else:
    assert False
## test_named_expressions.test_named_expression_assignment_10
if (match := 10) == 10:
    pass
else:
    assert False
## test_named_expressions.test_named_expression_assignment_11
def spam(a):
    return a
input_data = [1, 2, 3]
res = [(x, y, x / y) for x in input_data if (y := spam(x)) > 0]
assert res == [(1, 1, 1.0), (2, 2, 1.0), (3, 3, 1.0)]
## test_named_expressions.test_named_expression_assignment_12
def spam(a):
    return a
res = [[(y := spam(x)), x / y] for x in range(1, 5)]
assert res == [[1, 1.0], [2, 1.0], [3, 1.0], [4, 1.0]]
## test_named_expressions.test_named_expression_assignment_13
length = len((lines := [1, 2]))
assert length == 2
assert lines == [1, 2]
## test_named_expressions.test_named_expression_assignment_15
while (a := False):
    pass
assert a == False
## test_named_expressions.test_named_expression_assignment_17
a = [1]
element = a[(b := 0)]
assert b == 0
assert element == a[0]
## test_named_expressions.test_named_expression_scope_02
total = 0
partial_sums = [(total := (total + v)) for v in range(5)]
assert partial_sums == [0, 1, 3, 6, 10]
assert total == 10
## test_named_expressions.test_named_expression_scope_03
containsOne = any(((lastNum := num) == 1 for num in [1, 2, 3]))
assert containsOne
assert lastNum == 1
## test_named_expressions.test_named_expression_scope_04
def spam(a):
    return a
res = [[(y := spam(x)), x / y] for x in range(1, 5)]
assert y == 4
## test_named_expressions.test_named_expression_scope_05
def spam(a):
    return a
input_data = [1, 2, 3]
res = [(x, y, x / y) for x in input_data if (y := spam(x)) > 0]
assert res == [(1, 1, 1.0), (2, 2, 1.0), (3, 3, 1.0)]
assert y == 3
## test_named_expressions.test_named_expression_scope_06
res = [[(spam := i) for i in range(3)] for j in range(2)]
assert res == [[0, 1, 2], [0, 1, 2]]
assert spam == 2
## test_named_expressions.test_named_expression_scope_07
len((lines := [1, 2]))
assert lines == [1, 2]
## test_named_expressions.test_named_expression_scope_08
def spam(a):
    return a

def eggs(b):
    return b * 2
res = [spam((a := eggs((b := h)))) for h in range(2)]
assert res == [0, 2]
assert a == 2
assert b == 1
## test_named_expressions.test_named_expression_scope_09
def spam(a):
    return a

def eggs(b):
    return b * 2
res = [spam((a := eggs((a := h)))) for h in range(2)]
assert res == [0, 2]
assert a == 2
## test_named_expressions.test_named_expression_scope_10
res = [(b := [(a := 1) for i in range(2)]) for j in range(2)]
assert res == [[1, 1], [1, 1]]
assert a == 1
assert b == [1, 1]
## test_named_expressions.test_named_expression_scope_11
res = [(j := i) for i in range(5)]
assert res == [0, 1, 2, 3, 4]
assert j == 4
## test_named_expressions.test_named_expression_scope_17
b = 0
res = [(b := (i + b)) for i in range(5)]
assert res == [0, 1, 3, 6, 10]
assert b == 10
## test_named_expressions.test_named_expression_scope_18
def spam(a):
    return a
res = spam((b := 2))
assert res == 2
assert b == 2
## test_named_expressions.test_named_expression_scope_19
def spam(a):
    return a
res = spam((b := 2))
assert res == 2
assert b == 2
## test_named_expressions.test_named_expression_scope_20
def spam(a):
    return a
res = spam(a=(b := 2))
assert res == 2
assert b == 2
## test_named_expressions.test_named_expression_scope_21
def spam(a, b):
    return a + b
res = spam((c := 2), b=1)
assert res == 3
assert c == 2
## test_named_expressions.test_named_expression_scope_22
def spam(a, b):
    return a + b
res = spam((c := 2), b=1)
assert res == 3
assert c == 2
## test_named_expressions.test_named_expression_scope_23
def spam(a, b):
    return a + b
res = spam(b=(c := 2), a=1)
assert res == 3
assert c == 2
## test_fstring.test_literal
assert f'' == ''
assert f'a' == 'a'
assert f' ' == ' '
## test_fstring.test_newlines_in_expressions
assert f'{0}' == '0'
assert f'{3 + 4}' == '7'
## test_fstring.test_multiple_vars
x = 98
y = 'abc'
assert f'{x}{y}' == '98abc'
assert f'X{x}{y}' == 'X98abc'
assert f'{x}X{y}' == '98Xabc'
assert f'{x}{y}X' == '98abcX'
assert f'X{x}Y{y}' == 'X98Yabc'
assert f'X{x}{y}Y' == 'X98abcY'
assert f'{x}X{y}Y' == '98XabcY'
assert f'X{x}Y{y}Z' == 'X98YabcZ'
## test_fstring.test_closure
def outer(x):

    def inner():
        return f'x:{x}'
    return inner
assert outer('987')() == 'x:987'
assert outer(7)() == 'x:7'
## test_fstring.test_locals
value = 123
assert f'v:{value}' == 'v:123'
## test_fstring.test_shadowed_global
a_global = 'really a local'
assert f'g:{a_global}' == 'g:really a local'
assert f'g:{a_global!r}' == "g:'really a local'"
a_local = 'local variable'
assert f'g:{a_global} l:{a_local}' == 'g:really a local l:local variable'
assert f'g:{a_global!r}' == "g:'really a local'"
assert f'g:{a_global} l:{a_local!r}' == "g:really a local l:'local variable'"
## test_fstring.test_call
def foo(x):
    return 'x=' + str(x)
assert f'{foo(10)}' == 'x=10'
## test_fstring.test_nested_fstrings
y = 5
assert f"{f'{0}' * 3}" == '000'
assert f"{f'{y}' * 3}" == '555'
## test_fstring.test_leading_trailing_spaces
assert f'{3}' == '3'
assert f'{3}' == '3'
assert f'{3}' == '3'
assert f'{3}' == '3'
assert f'expr={ {x: y for x, y in [(1, 2)]}}' == 'expr={1: 2}'
assert f'expr={ {x: y for x, y in [(1, 2)]}}' == 'expr={1: 2}'
## test_fstring.test_not_equal
assert f'{3 != 4}' == 'True'
assert f'{3 != 4:}' == 'True'
assert f'{3 != 4!s}' == 'True'
assert f'{3 != 4!s:.3}' == 'Tru'
## test_fstring.test_equal_equal
assert f'{0 == 1}' == 'False'
## test_fstring.test_if_conditional
def test_fstring(x, expected):
    flag = 0
    if f'{x}':
        flag = 1
    else:
        flag = 2
    assert flag == expected

def test_concat_empty(x, expected):
    flag = 0
    if f'{x}':
        flag = 1
    else:
        flag = 2
    assert flag == expected

def test_concat_non_empty(x, expected):
    flag = 0
    if f' {x}':
        flag = 1
    else:
        flag = 2
    assert flag == expected
test_fstring('', 2)
test_fstring(' ', 1)
test_concat_empty('', 2)
test_concat_empty(' ', 1)
test_concat_non_empty('', 1)
test_concat_non_empty(' ', 1)
## test_fstring.test_empty_format_specifier
x = 'test'
assert f'{x}' == 'test'
assert f'{x:}' == 'test'
assert f'{x!s:}' == 'test'
assert f'{x!r:}' == "'test'"
## test_fstring.test_loop
for i in range(1000):
    assert f'i:{i}' == 'i:' + str(i)
## test_fstring.test_walrus
x = 20
assert f'{x:=10}' == '        20'
assert f'{(x := 10)}' == '10'
assert x == 10
## test_patma.test_patma_036
x = 0
match x:
    case 0 | 1 | 2:
        y = 0
assert x == 0
assert y == 0
## test_patma.test_patma_037
x = 1
match x:
    case 0 | 1 | 2:
        y = 0
assert x == 1
assert y == 0
## test_patma.test_patma_038
x = 2
match x:
    case 0 | 1 | 2:
        y = 0
assert x == 2
assert y == 0
## test_patma.test_patma_058
x = 0
match x:
    case 0:
        y = 0
assert x == 0
assert y == 0
## test_patma.test_patma_059
x = 0
y = None
match x:
    case False:
        y = 0
assert x == 0
assert y == None
## test_patma.test_patma_062
x = 0
match x:
    case 0:
        y = 0
    case 0:
        y = 1
assert x == 0
assert y == 0
## test_patma.test_patma_064
x = 'x'
match x:
    case 'x':
        y = 0
    case 'y':
        y = 1
assert x == 'x'
assert y == 0
## test_patma.test_patma_065
x = 'x'
match x:
    case 'y':
        y = 0
    case 'x':
        y = 1
assert x == 'x'
assert y == 1
## test_patma.test_patma_066
x = 'x'
match x:
    case '':
        y = 0
    case 'x':
        y = 1
assert x == 'x'
assert y == 1
## test_patma.test_patma_068
x = 0
match x:
    case 0 if False:
        y = 0
    case 0:
        y = 1
assert x == 0
assert y == 1
## test_patma.test_patma_070
x = 0
match x:
    case 0 if True:
        y = 0
    case 0 if True:
        y = 1
assert x == 0
assert y == 0
## test_patma.test_patma_071
x = 0
match x:
    case 0 if 1:
        y = 0
    case 0 if 1:
        y = 1
assert x == 0
assert y == 0
## test_patma.test_patma_072
x = 0
match x:
    case 0 if True:
        y = 0
    case 0 if True:
        y = 1
y = 2
assert x == 0
assert y == 2
## test_patma.test_patma_073
x = 0
match x:
    case 0 if 0:
        y = 0
    case 0 if 1:
        y = 1
y = 2
assert x == 0
assert y == 2
## test_patma.test_patma_087
x = 0
match x:
    case (0 | 1) | 2:
        y = 0
assert x == 0
assert y == 0
## test_patma.test_patma_088
x = 1
match x:
    case (0 | 1) | 2:
        y = 0
assert x == 1
assert y == 0
## test_patma.test_patma_089
x = 2
match x:
    case (0 | 1) | 2:
        y = 0
assert x == 2
assert y == 0
## test_patma.test_patma_091
x = 0
match x:
    case 0 | (1 | 2):
        y = 0
assert x == 0
assert y == 0
## test_patma.test_patma_092
x = 1
match x:
    case 0 | (1 | 2):
        y = 0
assert x == 1
assert y == 0
## test_patma.test_patma_093
x = 2
match x:
    case 0 | (1 | 2):
        y = 0
assert x == 2
assert y == 0
## test_patma.test_patma_095
x = 0
match x:
    case -0:
        y = 0
assert x == 0
assert y == 0
## test_patma.test_patma_096
x = 0
match x:
    case -0.0:
        y = 0
assert x == 0
assert y == 0
## test_patma.test_patma_099
x = -1
match x:
    case -1:
        y = 0
assert x == -1
assert y == 0
## test_patma.test_patma_100
x = -1.5
match x:
    case -1.5:
        y = 0
assert x == -1.5
assert y == 0
## test_patma.test_patma_116
match = case = 0
match match:
    case case:
        x = 0
assert match == 0
assert case == 0
assert x == 0
## test_patma.test_patma_117
match = case = 0
match case:
    case match:
        x = 0
assert match == 0
assert case == 0
assert x == 0
## test_patma.test_patma_158
x = 0
match x:
    case -1e309:
        y = 0
    case 0:
        y = 1
assert x == 0
assert y == 1
## test_patma.test_patma_159
x = 0
match x:
    case 0 if not x:
        y = 0
    case 1:
        y = 1
assert x == 0
assert y == 0
## test_patma.test_patma_161
x = 0
match x:
    case 0:
        y = 0
    case _:
        y = 1
assert x == 0
assert y == 0
## test_patma.test_patma_162
x = 0
match x:
    case 1 if x:
        y = 0
    case 0:
        y = 1
assert x == 0
assert y == 1
## test_patma.test_patma_165
x = 0
match x:
    case 1 if x:
        y = 0
    case _:
        y = 1
assert x == 0
assert y == 1
## test_patma.test_patma_170
x = 0
match x:
    case _ if not x:
        y = 0
    case 0:
        y = 1
assert x == 0
assert y == 0
## test_patma.test_patma_173
x = 0
match x:
    case _ if not x:
        y = 0
    case _:
        y = 1
assert x == 0
assert y == 0
## test_patma.test_patma_174
def http_error(status):
    match status:
        case 400:
            return 'Bad request'
        case 401:
            return 'Unauthorized'
        case 403:
            return 'Forbidden'
        case 404:
            return 'Not found'
        case 418:
            return "I'm a teapot"
        case _:
            return 'Something else'
assert http_error(400) == 'Bad request'
assert http_error(401) == 'Unauthorized'
assert http_error(403) == 'Forbidden'
assert http_error(404) == 'Not found'
assert http_error(418) == "I'm a teapot"
assert http_error(123) == 'Something else'
assert http_error('400') == 'Something else'
assert http_error(401 | 403 | 404) == 'Something else'
## test_patma.test_patma_222
def f(x):
    match x:
        case _:
            return 0
assert f(0) == 0
assert f(1) == 0
assert f(2) == 0
assert f(3) == 0
## test_patma.test_patma_224
def f(x):
    match x:
        case 0:
            return 0
        case _:
            return 1
assert f(0) == 0
assert f(1) == 1
assert f(2) == 1
assert f(3) == 1
## test_patma.test_patma_226
def f(x):
    match x:
        case 0:
            return 0
        case 1:
            return 1
        case _:
            return 2
assert f(0) == 0
assert f(1) == 1
assert f(2) == 2
assert f(3) == 2
## test_patma.test_patma_229
x = 0
match x:
    case x:
        y = 0
assert x == 0
assert y == 0
## test_patma.test_patma_230
x = 0
match x:
    case False:
        y = 0
    case 0:
        y = 1
assert x == 0
assert y == 1
## test_patma.test_patma_231
x = 1
match x:
    case True:
        y = 0
    case 1:
        y = 1
assert x == 1
assert y == 1
## test_exceptions.test_exception_target_in_nested_scope
def print_error():
    e
try:
    something
except Exception as e:
    print_error()
## test_long.test_small_rshift
assert 42 >> 1 == 21
assert -42 >> 1 == -21
assert 43 >> 1 == 21
assert -43 >> 1 == -22
assert 1122 >> 1 == 561
assert -1122 >> 1 == -561
assert 1123 >> 1 == 561
assert -1123 >> 1 == -562
assert 2 ** 128 >> 1 == 2 ** 127
assert -2 ** 128 >> 1 == -2 ** 127
assert 2 ** 128 + 1 >> 1 == 2 ** 127
assert -(2 ** 128 + 1) >> 1 == -2 ** 127 - 1
## test_long.test_big_rshift
assert 42 >> 32 == 0
assert -42 >> 32 == -1
assert 1122 >> 32 == 0
assert -1122 >> 32 == -1
assert 2 ** 128 >> 32 == 2 ** 96
assert -2 ** 128 >> 32 == -2 ** 96
## test_long.test_small_lshift
assert 42 << 1 == 84
assert -42 << 1 == -84
assert 561 << 1 == 1122
assert -561 << 1 == -1122
assert 2 ** 127 << 1 == 2 ** 128
assert -2 ** 127 << 1 == -2 ** 128
## test_long.test_medium_lshift
assert 42 << 9 == 21504
assert -42 << 9 == -21504
assert 1122 << 9 == 574464
assert -1122 << 9 == -574464
## test_long.test_big_lshift
assert 42 << 32 == 42 * 2 ** 32
assert -42 << 32 == -42 * 2 ** 32
assert 1122 << 32 == 1122 * 2 ** 32
assert -1122 << 32 == -1122 * 2 ** 32
assert 2 ** 128 << 32 == 2 ** 160
assert -2 ** 128 << 32 == -2 ** 160
## test_long.test_shift_bool
for value in (True, False):
    for shift in (0, 2):
        assert type(value << shift) == int
        assert type(value >> shift) == int
## test_dictcomps.test_basics
expected = {0: 10, 1: 11, 2: 12, 3: 13, 4: 14, 5: 15, 6: 16, 7: 17, 8: 18, 9: 19}
actual = {k: k + 10 for k in range(10)}
assert actual == expected
expected = {0: 0, 1: 1, 2: 2, 3: 3, 4: 4, 5: 5, 6: 6, 7: 7, 8: 8, 9: 9}
actual = {k: v for k in range(10) for v in range(10) if k == v}
assert actual == expected
## test_dictcomps.test_local_visibility
v = 'Local variable'
expected = {0: 'Local variable', 1: 'Local variable', 2: 'Local variable', 3: 'Local variable', 4: 'Local variable', 5: 'Local variable', 6: 'Local variable', 7: 'Local variable', 8: 'Local variable', 9: 'Local variable'}
actual = {k: v for k in range(10)}
assert actual == expected
assert v == 'Local variable'
## test_dictcomps.test_evaluation_order
expected = {'H': 'W', 'e': 'o', 'l': 'l', 'o': 'd'}
expected_calls = [('key', 'H'), ('value', 'W'), ('key', 'e'), ('value', 'o'), ('key', 'l'), ('value', 'r'), ('key', 'l'), ('value', 'l'), ('key', 'o'), ('value', 'd')]
actual_calls = []

def add_call(pos, value):
    actual_calls.append((pos, value))
    return value
actual = {add_call('key', k): add_call('value', v) for k, v in zip('Hello', 'World')}
assert actual == expected
assert actual_calls == expected_calls
## test_dictcomps.test_assignment_idiom_in_comprehensions
expected = {1: 1, 2: 4, 3: 9, 4: 16}
actual = {j: j * j for i in range(4) for j in [i + 1]}
assert actual == expected
expected = {3: 2, 5: 6, 7: 12, 9: 20}
actual = {j + k: j * k for i in range(4) for j in [i + 1] for k in [j + 1]}
assert actual == expected
expected = {3: 2, 5: 6, 7: 12, 9: 20}
actual = {j + k: j * k for i in range(4) for j, k in [(i + 1, i + 2)]}
assert actual == expected
## test_sort.test_none_in_tuples
expected = [(None, 1), (None, 2)]
actual = sorted([(None, 2), (None, 1)])
assert actual == expected
## test_call.test_frames_are_popped_after_failed_calls
def f():
    pass
for _ in range(1000):
    try:
        f(None)
    except TypeError:
        pass
## test_unary.test_invert
assert -2 == 0 - 2
assert -0 == 0
assert --2 == 2
assert -2 == 0 - 2
## test_unary.test_negation_of_exponentiation
assert -2 ** 3 == -8
assert (-2) ** 3 == -8
assert -2 ** 4 == -16
assert (-2) ** 4 == 16
"""
