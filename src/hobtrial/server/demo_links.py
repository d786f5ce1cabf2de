"""The two links with which somebody looks at the demo. They live as long as the program runs; `hob serve` has none."""

from __future__ import annotations

import secrets
from dataclasses import dataclass, field

from ..store.hashes import new_token


@dataclass(frozen=True)
class DemoLinks:
    """As whom the links let somebody in, and their ends."""

    teacher: str
    class_name: str
    student: str
    teacher_token: str = field(default_factory=new_token, repr=False)
    student_token: str = field(default_factory=new_token, repr=False)

    def role_of(self, token: str) -> str | None:
        """Whether an end of a link is the teacher's or the student's; nothing where it is neither."""
        given = token.encode()
        if secrets.compare_digest(self.teacher_token.encode(), given):
            return "teacher"
        return "student" if secrets.compare_digest(self.student_token.encode(), given) else None
