"""The sample world: exercises in a bakehouse and a class of 24 made-up students."""

from .sample import CLASS_NAME, STUDENT, TEACHER, exercise_folder, exercises, hand_ins, load_demo
from .tries import Try, solution_of, tries

__all__ = [
    "CLASS_NAME",
    "STUDENT",
    "TEACHER",
    "Try",
    "exercise_folder",
    "exercises",
    "hand_ins",
    "load_demo",
    "solution_of",
    "tries",
]
