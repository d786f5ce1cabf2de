"""Deny by default: every node and field of Python's tree was decided about."""

import ast
import unittest

from hobtrial.core.script.allow_list import FIELDS, MARKS, WHY_NOT

UNDECIDED_GROUPS = (ast.mod, ast.stmt, ast.expr)
LEFT_OUT = {
    "Interactive", "Expression", "FunctionType",  # other kinds of module than a file
    "AsyncFor", "AsyncWith", "TryStar", "Num", "Str", "Bytes", "NameConstant", "Ellipsis", "Suite",
}  # fmt: skip


class AllowList(unittest.TestCase):
    def test_every_statement_and_expression_of_this_python_is_decided(self) -> None:
        known = {node.__name__ for node in (*FIELDS, *WHY_NOT)} | LEFT_OUT
        there = {
            name for name, node in vars(ast).items() if isinstance(node, type) and issubclass(node, UNDECIDED_GROUPS)
        }
        self.assertEqual(there - known - {"mod", "stmt", "expr"}, set())

    def test_every_field_of_an_accepted_node_exists(self) -> None:
        for node, fields in FIELDS.items():
            self.assertLessEqual(fields, set(node._fields), node.__name__)

    def test_marks_have_no_fields(self) -> None:
        for group in MARKS:
            for mark in group.__subclasses__():
                self.assertEqual(mark._fields, (), mark.__name__)
