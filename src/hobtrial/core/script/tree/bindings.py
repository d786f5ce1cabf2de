"""Which names a script binds, and where: read off the tree, as Python's own scoping does it.

Trees are never changed once they are read, so what was read off one is kept for a while.
"""

from __future__ import annotations

import ast
import functools
from collections.abc import Iterable, Iterator, Mapping

from .nodes import children, walk

Function = ast.FunctionDef | ast.Lambda
COMPREHENSIONS = (ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp)


def bound_by(node: ast.AST) -> Iterator[str]:
    """The names that one node binds by itself."""
    match node:
        case ast.Name(id=name, ctx=ast.Store()):
            yield name
        case ast.FunctionDef(name=name) | ast.ClassDef(name=name):
            yield name
        case ast.arg(arg=name):
            yield name
        case ast.ExceptHandler(name=str(name)) | ast.MatchAs(name=str(name)):
            yield name
        case ast.Import(names=aliases) | ast.ImportFrom(names=aliases):
            yield from (alias.asname or alias.name for alias in aliases)


@functools.lru_cache(maxsize=8)
def names_bound_anywhere(tree: ast.Module) -> frozenset[str]:
    """All names that are bound in a script, in whichever scope; imported ones from `enum` do not count."""
    parts = [_bound_in(statement) for statement in tree.body]
    enums = {name for _, imported, _ in parts for name, (module, _) in imported.items() if module == "enum"}
    return frozenset().union(*(names for names, _, _ in parts)) - enums


@functools.lru_cache(maxsize=1024)
def _bound_in(statement: ast.stmt) -> tuple[frozenset[str], dict[str, tuple[str, str]], frozenset[str]]:
    """The names that a statement binds in whichever scope, those that it imports, those declared `global` in it."""
    nodes = list(walk(statement))
    outside = {name for node in nodes if isinstance(node, ast.Global) for name in node.names}
    return frozenset(name for node in nodes for name in bound_by(node)), _imported(nodes), frozenset(outside)


def bound_names(scope: ast.AST) -> frozenset[str]:
    """The names that a module, function or lambda binds in its own scope."""
    return _names_in(scope)[0]


@functools.lru_cache(maxsize=1024)
def _names_in(scope: ast.AST) -> tuple[frozenset[str], frozenset[str], frozenset[str]]:
    """The names that a scope binds itself, those that it declares `global`, and those that it declares `nonlocal`."""
    names: set[str] = set()
    outside: set[str] = set()
    around: set[str] = set()
    for node in own_nodes(scope):
        names.update(bound_by(node))
        if isinstance(node, ast.Global):
            outside.update(node.names)
        elif isinstance(node, ast.Nonlocal):
            around.update(node.names)
    return frozenset(names), frozenset(outside), frozenset(around)


def own_nodes(scope: ast.AST) -> Iterator[ast.AST]:
    """The nodes of a scope without those of scopes inside it; their names and defaults belong to it.

    A loop inside an expression has a scope of its own, but `:=` in it binds outside.
    """
    if isinstance(scope, (ast.FunctionDef, ast.Lambda)):
        yield from (*scope.args.args, *scope.args.kwonlyargs)
    body = (
        scope.body
        if isinstance(scope, (ast.Module, ast.FunctionDef, ast.ClassDef))
        else [getattr(scope, "body", scope)]
    )
    stack: list[ast.AST] = list(reversed(body))
    while stack:
        node = stack.pop()
        if isinstance(node, COMPREHENSIONS):
            stack.extend(named.target for named in walk(node) if isinstance(named, ast.NamedExpr))
            stack.append(node.generators[0].iter)
            continue
        yield node
        if isinstance(node, (ast.FunctionDef, ast.Lambda)):
            stack.extend((*node.args.defaults, *(each for each in node.args.kw_defaults if each is not None)))
            if isinstance(node, ast.FunctionDef):
                stack.extend(node.decorator_list)
        elif not isinstance(node, ast.ClassDef):
            stack.extend(reversed(children(node)))


def declared(scope: ast.AST, kind: type[ast.Global] | type[ast.Nonlocal]) -> frozenset[str]:
    """The names that a function declares `global` or `nonlocal`."""
    return _names_in(scope)[1 if kind is ast.Global else 2]


def declared_global(function: ast.AST) -> frozenset[str]:
    """The names that a function declares `global`."""
    return declared(function, ast.Global)


def functions(tree: ast.AST) -> list[ast.FunctionDef]:
    """The functions of a script, in file order."""
    return [node for node in walk(tree) if isinstance(node, ast.FunctionDef)]


def called_by(function: ast.FunctionDef, named: Mapping[str, ast.FunctionDef]) -> list[ast.FunctionDef]:
    """The functions among some, by name, that a function speaks of, one through another."""
    found: list[ast.FunctionDef] = []
    waiting = [function]
    while waiting:
        for node in walk(waiting.pop()):
            if isinstance(node, ast.Name) and node.id in named and named[node.id] not in found:
                found.append(named[node.id])
                waiting.append(named[node.id])
    return found


def global_names(tree: ast.Module) -> frozenset[str]:
    """Names bound at top level or declared `global` in a function."""
    found: set[str] = set()
    for statement in tree.body:
        found |= _bound_at_top(statement) | _bound_in(statement)[2]
    return frozenset(found)


@functools.lru_cache(maxsize=1024)
def _bound_at_top(statement: ast.stmt) -> frozenset[str]:
    """The names that a statement of the top level binds there."""
    return bound_names(ast.Module([statement], []))


@functools.lru_cache(maxsize=8)
def imported_names(tree: ast.AST) -> dict[str, tuple[str, str]]:
    """For each imported name its module and what of it; "" for the module itself."""
    return _imported(walk(tree))


def _imported(nodes: Iterable[ast.AST]) -> dict[str, tuple[str, str]]:
    found: dict[str, tuple[str, str]] = {}
    for node in nodes:
        if isinstance(node, ast.Import):
            found.update({alias.asname or alias.name: (alias.name, "") for alias in node.names})
        elif isinstance(node, ast.ImportFrom):
            found.update({alias.asname or alias.name: (node.module or "", alias.name) for alias in node.names})
    return found


def with_locals(scope: ast.AST, local: frozenset[str]) -> Iterator[tuple[ast.AST, frozenset[str]]]:
    """Every node with the names that are local where it stands."""
    for child in children(scope):
        inside = local | own_locals(child) if isinstance(child, (ast.FunctionDef, ast.Lambda)) else local
        yield child, inside
        yield from with_locals(child, inside)


def own_locals(function: ast.AST) -> frozenset[str]:
    """The names that are local to a function or lambda."""
    return frozenset(bound_names(function) - declared(function, ast.Global) - declared(function, ast.Nonlocal))


def constants(tree: ast.Module) -> dict[str, ast.expr]:
    """Names that the top level gives a value once, with that value."""
    found: dict[str, list[ast.expr]] = {}
    for node in tree.body:
        if isinstance(node, ast.Assign) and len(node.targets) == 1 and isinstance(node.targets[0], ast.Name):
            found.setdefault(node.targets[0].id, []).append(node.value)
    return {name: values[0] for name, values in found.items() if len(values) == 1}
