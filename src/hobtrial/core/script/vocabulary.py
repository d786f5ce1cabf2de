"""The names that the language gives a meaning of its own: exceptions, modules, narrowable constructs."""

from __future__ import annotations

import ast
from typing import Final

EXCEPTIONS: Final = frozenset(
    ("ValueError TypeError ZeroDivisionError IndexError KeyError NameError AttributeError Exception GameError").split()
)
"""What a script can raise and catch."""

MODULES: Final[dict[str, frozenset[str]]] = {
    "random": frozenset("random randint choice uniform randrange shuffle sample".split()),
    "math": frozenset(
        (
            "acos asin atan atan2 ceil comb copysign cos degrees dist e exp fabs factorial floor fmod gcd "
            "hypot inf isclose isfinite isinf isnan isqrt lcm log log10 log2 nan perm pi pow prod radians sin "
            "sqrt tan tau trunc"
        ).split()
    ),
    "time": frozenset({"sleep"}),
    "enum": frozenset({"Enum", "IntEnum", "auto"}),
}
"""What can be imported, and what each of it holds."""

METHODS: Final[dict[type, frozenset[str]]] = {
    kind: frozenset(names.split())
    for kind, names in {
        str: "upper lower title capitalize strip lstrip rstrip startswith endswith replace split join count find "
        "index isdigit isalpha isupper islower zfill center ljust rjust",
        list: "append insert extend remove pop index count sort reverse copy clear",
        dict: "get keys values items pop update setdefault copy clear",
        set: "add remove discard union intersection difference pop copy clear",
        tuple: "index count",
    }.items()
}
"""The methods that values have, by their type."""

ENUM_BASES: Final = frozenset({"Enum", "IntEnum"})
TAKES_GENERATOR: Final = frozenset("any all sum min max sorted list set tuple".split())
"""Calls in which a loop may stand as the one argument."""
RESERVED: Final = EXCEPTIONS | {"on", "Enum", "auto"}
"""Names that a script cannot give to something of its own."""

CONSTRUCTS: Final[dict[str, tuple[type[ast.AST], ...]]] = {
    "if": (ast.If,),
    "while": (ast.While,),
    "for": (ast.For,),
    "def": (ast.FunctionDef,),
    "lambda": (ast.Lambda,),
    "match": (ast.Match,),
    "try": (ast.Try,),
    "class": (ast.ClassDef,),
    "import": (ast.Import, ast.ImportFrom),
    "global": (ast.Global,),
    "list": (ast.List, ast.ListComp),
    "dict": (ast.Dict, ast.DictComp),
    "set": (ast.Set, ast.SetComp),
    "tuple": (ast.Tuple,),
    "comprehension": (ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp),
    "conditional expression": (ast.IfExp,),
    "and": (ast.And,),
    "or": (ast.Or,),
    "not": (ast.Not,),
    "f-string": (ast.JoinedStr,),
    ":=": (ast.NamedExpr,),
}
"""What an exercise can leave out of the language (`narrow`)."""
