"""Processor time of what a script may do, against the passes that are counted for it, over generated programs.

Each does a few things again and again in every frame. What is cheap to count and dear to do shows at the top: as many
times the time of a pass that does next to nothing.  python -m bench.burning
"""

from __future__ import annotations

import time
from random import Random

from bench import short
from hobtrial.core.judging import Prepared, open_exercise
from hobtrial.core.script import Script
from hobtrial.demo import exercise_folder

PROGRAMS = 5 if short() else 400
SEED = 3
PLAIN = "n += 1"
BEGIN = """
from enum import Enum
from random import choice, randint, random, sample, shuffle
import math
class E(Enum):
    A = 1
    B = 2
n = 0
text = "abc " * 2000
words = text.split()
many = list(range(5000))
mixed = [(i, str(i)) for i in range(2000)]
table = {i: str(i) for i in range(5000)}
names = {str(i): i for i in range(2000)}
some = set(range(5000))
deep = [[[[[[1]]]]]] * 500
big = 3 ** 2400
def twice(x):
    return x * 2
def nested(x):
    return [] if x < 1 else [nested(x - 1)]
def fail():
    raise ValueError("no" * 50)
"""
DOINGS = (
    "n += big % 7",
    "n += len(str(big))",
    "n += len(f'{big}')",
    "n += int('9' * 1000) % 5",
    "n += big * big % 11",
    "n += math.gcd(big, big + 1)",
    "n += pow(big, 3, 10007)",
    "n += len(text.replace('a', 'bb')[:100])",
    "n += text.count('ab')",
    "n += text.find('zz')",
    "n += 'zz' in text",
    "n += len(text.upper())",
    "n += len(text.split())",
    "n += len(' '.join(words))",
    "n += len(text[::-1])",
    "n += text == text + ''",
    "n += len(text * 1)",
    "n += len(text.strip().title())",
    "n += sum(many)",
    "n += len(sorted(many))",
    "n += len(many[::-1])",
    "n += many.index(4999)",
    "n += 9999 in many",
    "n += many.count(3)",
    "n += len(many + [1])",
    "n += max(many)",
    "n += len(list(reversed(many)))",
    "n += len([x for x in words if x == 'b'])",
    "n += sum(x[0] for x in mixed)",
    "n += len(dict(mixed))",
    "n += len({**table})",
    "n += len(list(table.items()))",
    "n += len(table | {1: 2})",
    "n += table == {}",
    "n += table == dict(table)",
    "n += len(some | {1})",
    "n += len(some & set(many))",
    "n += some == set(some)",
    "n += len(set(many))",
    "n += len(list(zip(many, words)))",
    "n += len(list(enumerate(words)))",
    "n += len(list(map(str, many)))",
    "n += len(list(filter(None, many)))",
    "n += any(x is None for x in many)",
    "n += len(str(mixed))",
    "n += len(f'{table}')",
    "n += deep == deep[:]",
    "n += len(nested(40))",
    "try:\n            fail()\n        except ValueError as e:\n            n += len(str(e))",
    "try:\n            n += {}[n]\n        except KeyError:\n            n += 1",
    "try:\n            n += int('x' * 500)\n        except ValueError:\n            n += 1",
    "try:\n            n += [][n]\n        except IndexError:\n            n += 1",
    "n += twice(n) % 3",
    "n += E.A == E.B",
    "n += E['A'].value",
    "n += len(list(E))",
    "n += randint(1, 6)",
    "n += choice(many)",
    "n += len(sample(many, 1000))",
    "shuffle(words)",
    "board('Buns', n)",
    "board('Buns', many)",
    "hob.x = n % 9",
    "hob.mood = many",
    "n += hob.overlaps(bun)",
    "n += len(bun)",
    "n += round(hob.distance(bun))",
    "sound('a') if n % 997 == 0 else None",
    "n += isinstance(many, list)",
    "many.sort(key=str)",
    "many.reverse()",
    "mixed.sort()",
    "words.extend(['a']); words.pop()",
    "table[n] = n; table.pop(n)",
    "names['k'] = 1; del names['k']",
    "some.add(n); some.discard(n)",
    "many[1:3] = [1, 2]",
    "many[:0] = [0]; del many[0]",
    "a, *b = many; n += len(b)",
    "match n:\n            case 1 | 2:\n                n += 2\n            case _:\n                n += 1",
    "while n % 3:\n            n += 1",
    "n += len('%s' % (text,)) if False else 1",
    "n += round(math.sqrt(n) + random())",
    "n += abs(-n) % 10 ** 6",
    "x = [many] * 50; n += len(x)",
    "x = (1,) * 5000; n += hash(1) if False else len(x)",
)


def program(doings: tuple[str, ...]) -> str:
    """A script that does some things again and again in every frame."""
    body = "\n        ".join(doings)
    return f"{BEGIN}\n@on(frame)\ndef burn():\n    global n\n    for turn in range(100000):\n        {body}\n"


def cost(prepared: Prepared, source: str) -> float | None:
    """Seconds of processor time for a counted pass; nothing where the script cannot be read or stops at once."""
    reading = prepared.read(source)
    if not isinstance(reading, Script):
        return None
    woven = prepared.weave(reading)
    woven.counting  # noqa: B018 - made before the clock runs
    begin = time.process_time()
    trace = prepared.play(woven, prepared.scenarios[0], passes=100_000)
    spent = time.process_time() - begin
    return spent / trace.passes if trace.passes > 50 else None


def main() -> None:
    """Every thing alone, then mixed ones; prints the dearest."""
    prepared = open_exercise(exercise_folder("bakehouse-rush"))
    plain = cost(prepared, program((PLAIN,)))
    assert plain is not None
    random = Random(SEED)
    alone = DOINGS[:: 20 if short() else 1]
    doings: list[tuple[str, ...]] = [(each,) for each in alone]
    doings += [tuple(random.sample(DOINGS, random.randint(2, 4))) for _ in range(PROGRAMS)]
    found: list[tuple[float, str]] = []
    for each in doings:
        dear = cost(prepared, program(each))
        if dear is not None:
            found.append((dear / plain, "; ".join(" ".join(one.split()) for one in each)))
    found.sort(reverse=True)
    middle = found[len(found) // 2][0]
    print(f"{len(found)} of {len(doings)} programs; half of them cost at most {middle:.1f} × a plain pass")
    for ratio, words in found[: 3 if short() else 25]:
        print(f"{ratio:6.1f} ×: {words[:100]}")


if __name__ == "__main__":
    main()
